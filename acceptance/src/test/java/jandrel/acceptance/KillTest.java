package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.DecisionApi.Summary;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.UUID;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** The service dies in the middle of its first reading, twice, and comes back. */
@Tag("alone")
class KillTest {
    private static final int MESSAGES = 6_000;

    @Test
    void nothingIsLostAndNothingIsDoubled() throws Exception {
        try (Harbour h = Harbour.open("acceptance_kill")) {
            String who = h.person("victim", "rep");
            UUID account = h.account("steady");
            Instant begin = Instant.now().truncatedTo(ChronoUnit.SECONDS).minus(20, ChronoUnit.DAYS);
            for (int i = 0; i < MESSAGES; i++) {
                Instant at = begin.plusSeconds(60L * i);
                h.providers.mail(
                        who,
                        "",
                        at,
                        letter(
                                "kill-" + i,
                                at,
                                i % 3 == 0 ? "bram@steady.example" : "other" + i + "@nowhere.example",
                                who,
                                "No. " + i,
                                "text " + i));
            }
            h.connectMail("victim");
            killWhen(h, 500);
            killWhen(h, 2_500);
            Harbour.soon().atMost(Duration.ofSeconds(90)).until(() -> seen(h) == MESSAGES);
            h.settle();
            assertThat(h.process.count("SELECT count(*) FROM sighting")).isEqualTo(MESSAGES);
            assertThat(h.process.count("SELECT count(DISTINCT item) FROM sighting"))
                    .isEqualTo(MESSAGES);
            assertThat(h.process.count("SELECT count(*) FROM activity")).isEqualTo(MESSAGES / 3);
            assertThat(h.process.count("SELECT count(*) FROM link WHERE record = '" + account + "'"))
                    .isEqualTo(MESSAGES / 3);
            assertThat(h.process.count("SELECT count(*) FROM body WHERE text LIKE 'text %'"))
                    .isEqualTo(MESSAGES / 3);
            h.process.service.stop();
        }
    }

    private static void killWhen(Harbour h, int atLeast) throws Exception {
        Harbour.soon()
                .pollInterval(Duration.ofMillis(20))
                .until(() -> h.process.count("SELECT count(*) FROM sighting") >= atLeast);
        h.process.service.kill();
        long left = h.process.count("SELECT count(*) FROM sighting");
        assertThat(left).as("killed in the middle").isBetween((long) atLeast, MESSAGES - 1L);
        h.process.service.start();
    }

    private static long seen(Harbour h) throws Exception {
        return h.admin.get("/api/summary", Summary.class).decisions();
    }
}
