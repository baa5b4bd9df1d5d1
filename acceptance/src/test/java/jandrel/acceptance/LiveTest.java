package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.soon;
import static jandrel.acceptance.Harbour.until;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.ConnectionApi.ChosenSources;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.SourceInfo;
import jandrel.api.DecisionApi.DecisionInfo;
import jandrel.api.PolicyApi.FolderRules;
import jandrel.demo.MailProgram;
import jandrel.demo.Stand;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Mail as it happens, and as its owner tidies it: the rhythm is a day, so whatever is seen sooner was heard of. */
@Tag("alone")
class LiveTest {
    private static final Instant DAY =
            Instant.now().truncatedTo(ChronoUnit.HOURS).minus(3, ChronoUnit.DAYS);
    private static Harbour h;

    @BeforeAll
    static void open() throws Exception {
        Stand shared = Stand.fromEnvironment();
        int port = shared.port("POSTGRES") + 10;
        run("../bin/stand", "second", shared.dir().toString(), String.valueOf(port));
        h = Harbour.open("acceptance_live", Map.of("JANDREL_LOOK_EVERY", "1d"), shared.withSecond(port));
    }

    @AfterAll
    static void close() throws Exception {
        h.close();
        dovecot("stop");
    }

    private static ConnectionInfo connection(String key) throws Exception {
        return Arrays.stream(h.admin.get("/api/connections", ConnectionInfo[].class))
                .filter(c -> c.account().equals(key + "@corvane.example"))
                .findFirst()
                .orElseThrow();
    }

    private static UUID live(String key) throws Exception {
        UUID account = h.account(key);
        h.connectMail(key);
        until(() -> connection(key).live(), true);
        return account;
    }

    /** While the server is away, too. */
    private static void isThere(String key, String id) throws IOException {
        h.providers.mail(key + "@corvane.example", "", Instant.now(), about(key, id));
    }

    private static void arrives(String key, String id) throws IOException {
        h.providers.arrives(key + "@corvane.example", about(key, id));
    }

    private static String about(String key, String id) {
        return letter(id, DAY, "bram@" + key + ".example", key + "@corvane.example", "About " + id, "x");
    }

    private static void look(String key) throws Exception {
        h.admin.add("/api/connections/" + connection(key).id() + "/look", Map.of());
    }

    @Test
    void whatArrivesIsOnTheTimelineAMomentLater() throws Exception {
        h.person("liv", "rep");
        UUID account = live("liv");
        for (int i = 0; i < 3; i++) {
            arrives("liv", "liv-" + i);
            int expected = i + 1;
            org.awaitility.Awaitility.await()
                    .atMost(Duration.ofSeconds(6))
                    .pollInterval(Duration.ofMillis(20))
                    .until(() -> h.timeline(account).size() == expected);
        }
        try (MailProgram program = MailProgram.open(h.stand, "liv@corvane.example")) {
            program.does("SELECT INBOX");
            program.does("COPY 1 Sent");
        }
        until(() -> h.decisions("address=bram@liv.example").size(), 4);
        assertThat(h.timeline(account)).hasSize(3);
    }

    @Test
    void whatCameWhileTheServerWasAwayIsFoundWhenItIsBack() throws Exception {
        h.person("gap", "rep");
        UUID account = live("gap");
        dovecot("stop");
        soon().until(() -> !connection("gap").live());
        isThere("gap", "gap-1");
        isThere("gap", "gap-2");
        dovecot("");
        until(() -> h.timeline(account).size(), 2);
        until(() -> connection("gap").live(), true);
        until(() -> connection("gap").state(), "capturing");
    }

    private static void dovecot(String what) throws Exception {
        String config = h.stand.mailDir().resolve("dovecot/dovecot.conf").toString();
        if (what.isEmpty()) {
            run("/usr/sbin/dovecot", "-c", config);
        } else {
            run("/usr/bin/doveadm", "-c", config, what);
        }
    }

    private static void run(String... command) throws Exception {
        Process process = new ProcessBuilder(command)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        assertThat(process.waitFor()).isZero();
    }

    @Test
    void aFolderNumberedAnewIsTheSameMail() throws Exception {
        h.person("anew", "rep");
        UUID account = live("anew");
        for (int i = 0; i < 3; i++) {
            arrives("anew", "anew-" + i);
        }
        until(() -> h.timeline(account).size(), 3);
        h.providers.numberAnew("anew@corvane.example");
        look("anew");
        arrives("anew", "anew-3");
        look("anew");
        until(() -> h.timeline(account).size(), 4);
        until(() -> h.decisions("address=bram@anew.example").size(), 4);
        assertThat(h.decisions("address=bram@anew.example"))
                .extracting(DecisionInfo::verdict)
                .containsOnly("logged");
    }

    @Test
    void movedRenamedAndDeletedMailIsNeitherDoubledNorLost() throws Exception {
        h.person("tidier", "rep");
        tidies("tidier", live("tidier"), true);
    }

    @Test
    void aServerWithoutAnyExtensionIsReadAllTheSame() throws Exception {
        h.person("plain", "rep");
        h.providers.addPlainUser("plain@corvane.example");
        UUID account = h.account("plain");
        h.connectMail("plain");
        h.settle();
        tidies("plain", account, false);
        assertThat(connection("plain").live()).isFalse();
    }

    private void tidies(String key, UUID account, boolean live) throws Exception {
        for (int i = 1; i <= 4; i++) {
            arrives(key, key + "-" + i);
        }
        heard(key, live);
        until(() -> h.timeline(account).size(), 4);
        try (MailProgram program = MailProgram.open(h.stand, key + "@corvane.example")) {
            program.does("CREATE Deals");
            look(key);
            soon().until(() ->
                    connection(key).sources().stream().anyMatch(s -> s.label().equals("Deals")));
            captureAll(key);
            program.does("SELECT INBOX");
            program.does("COPY 1 Deals");
            program.does("STORE 1:2 +FLAGS (\\Deleted)");
            program.does("EXPUNGE");
            heard(key, live);
            until(() -> logged(key, "Deals"), 1L);
            // one is in another folder now, one is gone; by the policy what was captured stays
            until(
                    () -> h.decisions("address=bram@" + key + ".example").stream()
                            .filter(d ->
                                    d.trail().stream().anyMatch(t -> t.startsWith("It is no longer at its source")))
                            .count(),
                    2L);
            assertThat(h.timeline(account)).hasSize(4);
            program.does("RENAME Deals Won");
            look(key);
            soon().until(() ->
                    connection(key).sources().stream().anyMatch(s -> s.label().equals("Won")));
            assertThat(logged(key, "Won")).isEqualTo(1);
            assertThat(connection(key).sources()).extracting(SourceInfo::label).doesNotContain("Deals");
            assertThat(h.timeline(account)).hasSize(4);
        }
    }

    private static void heard(String key, boolean live) throws Exception {
        if (!live) {
            Thread.sleep(300);
            look(key);
        }
    }

    private static void captureAll(String key) throws Exception {
        ConnectionInfo c = connection(key);
        choose(key, new ChosenSources(c.sources().stream().map(SourceInfo::id).toList(), null, null, null, null));
    }

    private static void choose(String key, ChosenSources wanted) throws Exception {
        h.admin.put("/api/connections/" + connection(key).id() + "/sources", wanted, ConnectionInfo.class);
    }

    private static long logged(String key, String label) throws Exception {
        return connection(key).sources().stream()
                .filter(s -> s.label().equals(label))
                .mapToLong(SourceInfo::logged)
                .sum();
    }

    @Test
    void keywordsMakeAMessageCountAndKeepOneOut() throws Exception {
        h.person("hand", "rep");
        UUID account = live("hand");
        choose("hand", new ChosenSources(null, null, "crm", "mine", null));
        String who = "hand@corvane.example";
        // the server numbers them in this order
        h.providers.arrives(
                who,
                "Precedence: bulk\r\n" + letter("hand-bulk", DAY, "bram@hand.example", who, "Our newsletter", "x"));
        arrives("hand", "hand-2");
        until(() -> h.timeline(account).size(), 1);
        try (MailProgram program = MailProgram.open(h.stand, who)) {
            program.does("SELECT INBOX");
            program.does("UID STORE 1 +FLAGS (crm)");
            program.does("UID STORE 2 +FLAGS (mine)");
            until(() -> h.timeline(account).stream().map(a -> a.subject()).toList(), List.of("Our newsletter"));
            DecisionInfo counted =
                    h.decisions("verdict=logged&address=bram@hand.example").get(0);
            assertThat(counted.trail().get(0))
                    .isEqualTo(
                            "By itself it would have been left out (sent in bulk), but its owner made it count by hand"
                                    + " (keyword “crm”).");
            assertThat(h.decisions("rule=KEPT_OUT_BY_HAND"))
                    .singleElement()
                    .satisfies(d -> assertThat(d.trail())
                            .containsExactly("Left out: its owner keeps it out by hand (keyword “mine”)."));
            program.does("UID STORE 1 -FLAGS (crm)");
            program.does("UID STORE 2 -FLAGS (mine)");
            until(() -> h.timeline(account).stream().map(a -> a.subject()).toList(), List.of("About hand-2"));
        }
    }

    @Test
    void whatIsPutIntoAFolderForItCountsHoweverOldItIs() throws Exception {
        h.person("box", "rep");
        UUID account = live("box");
        String who = "box@corvane.example";
        Instant old = DAY.minus(900, ChronoUnit.DAYS);
        try (MailProgram program = MailProgram.open(h.stand, who)) {
            program.does("CREATE Customers");
            look("box");
            soon().until(() ->
                    connection("box").sources().stream().anyMatch(s -> s.label().equals("Customers")));
            captureAll("box");
            int folder = connection("box").sources().stream()
                    .filter(s -> s.label().equals("Customers"))
                    .findFirst()
                    .orElseThrow()
                    .id();
            h.providers.mail(
                    who,
                    "",
                    old,
                    "Auto-Submitted: auto-generated\r\n"
                            + letter("box-1", old, "bram@box.example", who, "Delivery note", "x"));
            choose("box", new ChosenSources(null, List.of(folder), null, null, null));
            program.does("SELECT INBOX");
            program.does("COPY 1 Customers");
            until(() -> h.timeline(account).stream().map(a -> a.subject()).toList(), List.of("Delivery note"));
        }
        choose("box", new ChosenSources(null, List.of(), null, null, null));
        until(() -> h.timeline(account).size(), 0);
    }

    @Test
    void aMailboxIsToldWhatIsLogged() throws Exception {
        h.person("told", "rep");
        h.everyone(Map.of("loggedKeyword", "on-file"));
        UUID account = live("told");
        arrives("told", "told-1");
        h.providers.mail(
                "told@corvane.example",
                "",
                DAY,
                letter("told-2", DAY, "x@nowhere.example", "told@corvane.example", "Nothing", "x"));
        until(() -> h.timeline(account).size(), 1);
        try (MailProgram program = MailProgram.open(h.stand, "told@corvane.example")) {
            program.does("SELECT INBOX");
            soon().until(() -> carries(program, "on-file"));
            // another name for it, and none at all: what was said before is taken off
            h.everyone(Map.of("loggedKeyword", "kept"));
            look("told");
            soon().until(() -> carries(program, "kept") && !carries(program, "on-file"));
            h.everyone(Map.of("loggedKeyword", ""));
            look("told");
            soon().until(() -> !carries(program, "kept"));
        }
    }

    private static boolean carries(MailProgram program, String keyword) throws Exception {
        return program.does("UID SEARCH KEYWORD " + keyword).stream().anyMatch(line -> line.matches("\\* SEARCH \\d+"));
    }

    @Test
    void aPolicySaysWhichFoldersAreLookedAtUntilSomebodyChooses() throws Exception {
        h.person("filer", "rep");
        UUID account = live("filer");
        String who = "filer@corvane.example";
        try (MailProgram program = MailProgram.open(h.stand, who)) {
            program.does("CREATE Customers");
            program.does("CREATE Customers/North");
            program.does("CREATE Customers/Old");
            look("filer");
            soon().until(() -> connection("filer").sources().size() >= 4);
            assertThat(chosen("filer")).contains("inbox").noneMatch(l -> l.startsWith("Customers"));
            h.everyone(Map.of("folders", new FolderRules(List.of("inbox", "sent", "Customers*"), List.of("*/old"))));
            h.providers.mail(who, "", DAY, letter("filed-1", DAY, "bram@filer.example", who, "Filed by a rule", "x"));
            program.does("SELECT INBOX");
            program.does("UID COPY 1 Customers/North");
            program.does("STORE 1 +FLAGS (\\Deleted)");
            program.does("EXPUNGE");
            look("filer");
            soon().until(() -> chosen("filer").contains("Customers/North"));
            assertThat(chosen("filer")).contains("Customers").doesNotContain("Customers/Old");
            until(() -> h.timeline(account).stream().map(a -> a.subject()).toList(), List.of("Filed by a rule"));
            // what somebody chooses stands, whatever the policy says afterwards
            List<Integer> all =
                    connection("filer").sources().stream().map(s -> s.id()).toList();
            choose("filer", new ChosenSources(all, null, null, null, null));
            h.everyone(Map.of("folders", new FolderRules(List.of("inbox", "sent", "archive"), List.of())));
            look("filer");
            soon().until(() -> !chosen("filer").contains("Customers"));
            assertThat(chosen("filer")).contains("Customers/Old", "inbox");
        }
    }

    private static List<String> chosen(String key) throws Exception {
        return connection(key).sources().stream()
                .filter(s -> s.chosen())
                .map(s -> s.label())
                .toList();
    }
}
