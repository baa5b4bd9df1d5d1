package jandrel.sources;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.sources.Discovery.Found;
import java.net.URI;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Static answers in place of the name service. */
class DiscoveryTest {
    private static Discovery answering(Map<String, List<String>> records, Optional<URI> wellKnown) {
        return new Discovery(
                (name, type) -> records.getOrDefault(name + " " + type, List.of()), (service, host) -> wellKnown);
    }

    @Test
    void theFirstByPriorityThenByWeightIsTakenAndThePathBesideIt() {
        Discovery discovery = answering(
                Map.of(
                        "_imaps._tcp.corvane.example SRV",
                        List.of(
                                "20 1 993 spare.corvane.example.",
                                "10 1 993 light.corvane.example.",
                                "10 9 1993 mail.corvane.example."),
                        "_caldavs._tcp.corvane.example SRV",
                        List.of("0 0 8443 days.corvane.example."),
                        "_caldavs._tcp.corvane.example TXT",
                        List.of("\"path=/calendars/\""),
                        "_carddavs._tcp.corvane.example SRV",
                        List.of("0 0 8444 people.corvane.example.")),
                Optional.empty());
        assertThat(discovery.of("corvane.example"))
                .containsExactly(
                        new Found("imap", "mail.corvane.example", 1993, "/", "srv"),
                        new Found("caldav", "days.corvane.example", 8443, "/calendars/", "srv"),
                        new Found("carddav", "people.corvane.example", 8444, "/.well-known/carddav", "srv"));
    }

    @Test
    void aLoneDotSaysThatThereIsNoSuchServiceAndGarbageIsPassedOver() {
        Discovery discovery = answering(
                Map.of(
                        "_imaps._tcp.corvane.example SRV",
                        List.of("0 0 0 .", "x y z w", "1 1"),
                        "_caldavs._tcp.corvane.example SRV",
                        List.of("0 0 0 .")),
                Optional.of(URI.create("https://days.corvane.example/dav/")));
        assertThat(discovery.of("corvane.example"))
                .containsExactly(
                        new Found("imap", "imap.corvane.example", 993, "/", "guess"),
                        new Found("caldav", "days.corvane.example", 443, "/dav/", "well-known"),
                        new Found("carddav", "days.corvane.example", 443, "/dav/", "well-known"));
    }
}
