package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.Connections.ConnectionInfo;
import jandrel.demo.ServiceProcess;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.Map;
import java.util.UUID;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;

/** Two nodes share the mailboxes; when one is killed the other takes over what it did. */
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
}
