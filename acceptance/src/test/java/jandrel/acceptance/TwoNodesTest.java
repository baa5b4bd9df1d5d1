package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.Map;
import java.util.UUID;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Two nodes share the mailboxes; when one is killed the other takes over what it did. */
@Tag("alone")
class TwoNodesTest {
    private static final Instant DAY =
            Instant.now().truncatedTo(ChronoUnit.HOURS).minus(3, ChronoUnit.DAYS);
    private static final int MAILBOXES = 6;
    private Harbour h;
    private UUID account;
    private int each;

    private void mailToAll() throws Exception {
        each++;
        for (int i = 0; i < MAILBOXES; i++) {
            String id = "nodes-" + i + "-" + each;
            h.providers.arrives(
                    "nodes" + i + "@corvane.example",
                    letter(id, DAY, "bram@nodes.example", "nodes" + i + "@corvane.example", "About " + id, "x"));
        }
    }

    private void isThereWithin(int seconds) {
        Awaitility.await()
                .atMost(Duration.ofSeconds(seconds))
                .pollInterval(Duration.ofMillis(100))
                .until(() -> h.timeline(account).size() == MAILBOXES * each);
    }

    private long mostOfOneNode() throws Exception {
        return h.process.count(
                "SELECT coalesce(max(n), 0) FROM (SELECT count(*) AS n FROM connection WHERE live GROUP BY watched_by) x");
    }

    @Test
    void mailboxesAreSharedEvenlyAndAKilledNodesWorkGoesOn() throws Exception {
        // a look by itself comes once a day: all else is by listening
        h = Harbour.open("two_nodes", Map.of("JANDREL_LOOK_EVERY", "1d"));
        try (Harbour first = h) {
            for (int i = 0; i < MAILBOXES; i++) {
                first.person("nodes" + i, "rep");
                first.connectMail("nodes" + i);
            }
            account = first.account("nodes");
            soon().until(() -> Arrays.stream(first.admin.get("/api/connections", ConnectionInfo[].class))
                    .allMatch(ConnectionInfo::live));
            assertThat(mostOfOneNode()).isEqualTo(MAILBOXES);
            ServiceProcess second = first.process.node();
            soon().until(() -> mostOfOneNode() == MAILBOXES / 2
                    && first.process.count("SELECT count(*) FROM connection WHERE live") == MAILBOXES);
            mailToAll();
            isThereWithin(8);
            second.kill();
            mailToAll();
            isThereWithin(15);
            soon().until(() -> mostOfOneNode() == MAILBOXES);
            mailToAll();
            isThereWithin(8);
            assertThat(first.process.count(
                            "SELECT count(*) FROM (SELECT 1 FROM sighting GROUP BY item HAVING count(*) > 1) x"))
                    .isZero();
        }
    }

    /** Whatever somebody asks of one node, the other knows. */
    @Test
    void signInsNewsAndSyncNowCountAtBoth() throws Exception {
        try (Harbour first = Harbour.open("two_nodes_ask", Map.of("JANDREL_LOOK_EVERY", "1d"))) {
            String who = first.person("both", "rep");
            UUID both = first.account("both");
            first.connectCalendar("both");
            first.settle();
            ServiceProcess second = first.process.node();
            Service at = new Service(second.url());
            at.signIn("admin", ServiceProcess.ADMIN_PASSWORD);
            Service elsewhere = new Service(first.process.url()).as(at.token());
            assertThat(elsewhere.ask("GET", "/api/summary", "").statusCode()).isEqualTo(200);
            String calendar = Arrays.stream(at.get("/api/connections", ConnectionInfo[].class))
                    .map(c -> c.id().toString())
                    .findFirst()
                    .orElseThrow();
            try (ListeningPage page = new ListeningPage(second.url(), at.token())) {
                // a calendar tells of nothing: each node is asked to look, again and again, whoever is looking
                for (int n = 1; n <= 6; n++) {
                    first.providers.file(who, "n" + n + ".ics", meeting(n, who));
                    (n % 2 == 0 ? first.admin : at).ask("POST", "/api/connections/" + calendar + "/look", "");
                    int expected = n;
                    Awaitility.await()
                            .atMost(Duration.ofSeconds(10))
                            .until(() -> first.timeline(both).size() == expected);
                }
                soon().until(() -> page.hasHeard(both));
            }
            at.delete("/api/tokens/current");
            assertThat(elsewhere.ask("GET", "/api/summary", "").statusCode()).isEqualTo(401);
            second.stop();
        }
    }

    private static String meeting(int n, String who) {
        String day = java.time.format.DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss'Z'")
                .withZone(java.time.ZoneOffset.UTC)
                .format(DAY.plus(n, ChronoUnit.HOURS));
        return String.join(
                "\r\n",
                "BEGIN:VCALENDAR",
                "VERSION:2.0",
                "PRODID:-//test//EN",
                "BEGIN:VEVENT",
                "UID:both-" + n,
                "DTSTAMP:" + day,
                "DTSTART:" + day,
                "DURATION:PT1H",
                "SUMMARY:About " + n,
                "ORGANIZER:mailto:" + who,
                "ATTENDEE:mailto:bram@both.example",
                "END:VEVENT",
                "END:VCALENDAR",
                "");
    }
}
