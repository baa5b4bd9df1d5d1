package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.demo.Providers;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Servers that hang, stall, cut and refuse, with many accounts each: the others' mail comes as before, and all say what is true. */
@Tag("alone")
class DeadServerTest {
    private static final Instant DAY =
            Instant.now().truncatedTo(ChronoUnit.HOURS).minus(3, ChronoUnit.DAYS);
    private static final int ACCOUNTS = 8;
    private static Harbour h;
    private static Wire mail;
    private static Wire calendars;
    private static UUID account;
    private static int arrived;

    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("dead_servers", Map.of("JANDREL_LOOK_EVERY", "1s", "JANDREL_ANSWERS_WITHIN", "2s"));
        mail = new Wire(h.stand.port("IMAPS"));
        calendars = new Wire(h.stand.port("CALDAV"));
        h.admin.post("/api/servers", new NewServer("sick mail", "imap", "127.0.0.1", mail.port(), null), Object.class);
        h.admin.post(
                "/api/servers",
                new NewServer("sick calendars", "caldav", "127.0.0.1", calendars.port(), "/"),
                Object.class);
        for (int i = 0; i < ACCOUNTS; i++) {
            h.person("sick" + i, "rep");
            connect("sick" + i, "sick calendars");
            connect("sick" + i, "sick mail");
        }
        h.person("well", "rep");
        account = h.account("well");
        h.connectMail("well");
        soon().until(() -> states().equals(List.of("capturing")) && healthy().live());
    }

    @AfterAll
    static void itEndsWithinSecondsThoughItsServersHang() throws Exception {
        mail.is(Wire.Mode.HANGS);
        calendars.is(Wire.Mode.STALLS);
        Thread.sleep(1_000);
        long began = System.nanoTime();
        h.process.service.stop();
        assertThat(Duration.ofNanos(System.nanoTime() - began)).isLessThan(Duration.ofSeconds(12));
        mail.close();
        calendars.close();
    }

    private static void connect(String key, String server) throws Exception {
        h.admin.post(
                "/api/connections",
                new NewConnection(key, server, key + "@corvane.example", Providers.PASSWORD),
                Object.class);
    }

    private static ConnectionInfo[] connections() throws Exception {
        return h.admin.get("/api/connections", ConnectionInfo[].class);
    }

    private static ConnectionInfo healthy() throws Exception {
        return Arrays.stream(connections())
                .filter(c -> c.account().startsWith("well"))
                .findFirst()
                .orElseThrow();
    }

    /** Of all accounts at servers that can be sick. */
    private static List<String> states() throws Exception {
        return Arrays.stream(connections())
                .filter(c -> c.account().startsWith("sick"))
                .map(ConnectionInfo::state)
                .distinct()
                .toList();
    }

    private static void mailComesAsBefore() throws Exception {
        String id = "well-" + ++arrived;
        h.providers.arrives(
                "well@corvane.example",
                letter(id, DAY, "bram@well.example", "well@corvane.example", "About " + id, "x"));
        // twice what is promised, as the machine that runs the tests is busy
        Awaitility.await()
                .atMost(Duration.ofSeconds(4))
                .pollInterval(Duration.ofMillis(50))
                .until(() -> h.timeline(account).size() == arrived);
    }

    @ParameterizedTest
    @CsvSource({"HANGS, STALLS", "CUTS, HANGS", "CLOSES, REFUSES"})
    void theOthersGoOnAndAllIsWellSoonAfter(Wire.Mode mailIs, Wire.Mode calendarsAre) throws Exception {
        mail.is(mailIs);
        calendars.is(calendarsAre);
        for (int i = 0; i < 5; i++) {
            mailComesAsBefore();
            Thread.sleep(500);
        }
        soon().until(() -> states().stream().anyMatch(s -> s.equals("unreachable")));
        mailComesAsBefore();
        assertThat(healthy().state()).isEqualTo("capturing");
        mail.is(Wire.Mode.PASSES);
        calendars.is(Wire.Mode.PASSES);
        Awaitility.await().atMost(Duration.ofSeconds(15)).until(() -> states().equals(List.of("capturing")));
    }
}
