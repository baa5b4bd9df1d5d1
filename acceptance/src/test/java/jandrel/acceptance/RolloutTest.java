package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewPassword;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.ExclusionApi.CheckedLines;
import jandrel.api.ExclusionApi.NewExclusions;
import jandrel.api.PolicyApi.CoverEnd;
import jandrel.api.PolicyApi.CoverageInfo;
import jandrel.api.PolicyApi.PolicyInfo;
import jandrel.api.PolicyApi.PolicyOrder;
import jandrel.api.RehearsalApi.Change;
import jandrel.api.RehearsalApi.RehearsalInfo;
import jandrel.demo.DemoPolicy;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;

/** A sales floor of 300 people: connected at once, covered by rules that fit each group, changed only after a rehearsal. */
@Tag("alone")
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class RolloutTest {
    private static final int PEOPLE = 300;
    private static final String ACCOUNTS = "key,name,domains\nfloor,Account floor,floor.example\n";
    private static final String CONTACTS =
            "key,name,addresses,account\nfloor-bram,Bram of floor,bram@floor.example,floor\n";
    private Harbour h;
    /** The people, as a file. */
    private String file = "";

    @BeforeAll
    void fill() throws Exception {
        h = Harbour.empty("acceptance_rollout", Map.of("JANDREL_LOOK_EVERY", "15s"));
        StringBuilder people = new StringBuilder("key,name,addresses,team,role\n");
        for (int i = 0; i < PEOPLE; i++) {
            String address = "floor" + i + "@corvane.example";
            people.append("floor")
                    .append(i)
                    .append(",Person ")
                    .append(i)
                    .append(',')
                    .append(address);
            people.append(i % 3 == 0 ? ",North," : ",South,").append(i % 50 == 0 ? "lead\n" : "rep\n");
            h.providers.addUser(address);
            Instant at = Instant.now().minus(1 + i % 20, ChronoUnit.DAYS);
            h.providers.mail(
                    address, "", at, letter("floor-" + i, at, "bram@floor.example", address, "Buoy " + i, "text"));
        }
        file = people.toString();
    }

    @AfterAll
    void close() {
        h.close();
    }

    private Map<String, CoverageInfo> coverage() throws Exception {
        return Arrays.stream(h.admin.get("/api/coverage", CoverageInfo[].class))
                .collect(Collectors.toMap(CoverageInfo::key, c -> c));
    }

    private PolicyInfo policy(String name) throws Exception {
        return Arrays.stream(h.admin.get("/api/policies", PolicyInfo[].class))
                .filter(p -> p.rules().name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private String client(String... arguments) throws Exception {
        return Client.of(h).run(arguments);
    }

    @Test
    @Order(1)
    void fromTheFirstPasswordTheConsoleAloneCapturesEverybody() throws Exception {
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            new SetUpWalk(h, page).all(file, ACCOUNTS, CONTACTS);
            page.navigate(h.process.url() + "/coverage");
            assertThat(page.getByText("capturing 300"))
                    .isVisible(new LocatorAssertions.IsVisibleOptions().setTimeout(150_000));
        }
        Awaitility.await()
                .atMost(Duration.ofSeconds(150))
                .pollInterval(Duration.ofSeconds(1))
                .until(() ->
                        coverage().values().stream().allMatch(c -> c.state().equals("capturing")));
        assertThat(coverage()).hasSize(PEOPLE).allSatisfy((key, c) -> {
            assertThat(c.policyName()).isEqualTo("Everyone");
            assertThat(c.why()).isEqualTo("everyone");
            assertThat(c.lastItem()).isNotNull();
        });
        h.settle();
        assertThat(h.timeline(h.record("Account floor"))).hasSize(200);
        assertThat(client("connect-everyone", "--server", "all mail")).contains("0 connected, 300 were already");
        assertThat(client("coverage")).contains("300 capturing");
    }

    @Test
    @Order(2)
    void newJoinersFallUnderTheRightPolicyByTeamOrRole() throws Exception {
        PolicyInfo north = h.admin.post(
                "/api/policies",
                DemoPolicy.of("North").teams("North").sharing("team").rules(),
                PolicyInfo.class);
        assertThat(north.enabled()).isFalse();
        h.admin.post("/api/policies/" + north.id() + "/on", Map.of(), PolicyInfo.class);
        assertThat(coverage().get("floor0").policyName()).isEqualTo("North");
        assertThat(coverage().get("floor0").why()).isEqualTo("team North");
        assertThat(coverage().get("floor1").policyName()).isEqualTo("Everyone");
        h.csv("people", "key,name,addresses,team,role\njoiner,New Joiner,joiner@corvane.example,North,rep");
        assertThat(coverage().get("joiner").policyName()).isEqualTo("North");
        assertThat(coverage().get("joiner").state()).isEqualTo("not-connected");
        h.admin.put(
                "/api/policies/order",
                new PolicyOrder(List.of(policy("Everyone").id(), north.id())),
                PolicyInfo[].class);
        assertThat(coverage().get("joiner").policyName()).isEqualTo("Everyone");
        h.admin.put(
                "/api/policies/order",
                new PolicyOrder(List.of(north.id(), policy("Everyone").id())),
                PolicyInfo[].class);
        h.settle();
    }

    @Test
    @Order(3)
    void coverEndsOnADate() throws Exception {
        CoverageInfo leaver = coverage().get("floor1");
        h.admin.put(
                "/api/people/" + leaver.id() + "/cover",
                new CoverEnd(LocalDate.now().toString()),
                CoverageInfo.class);
        assertThat(coverage().get("floor1").state()).isEqualTo("ended");
        Instant at = Instant.now();
        h.providers.mail(
                "floor1@corvane.example",
                "",
                at,
                letter("late", at, "bram@floor.example", "floor1@corvane.example", "Late", "x"));
        h.settle();
        long before = h.decisions("person=" + leaver.id()).size();
        assertThat(before).isEqualTo(1);
        assertThat(client("cover-until", "floor1")).contains("cover has no end");
        soon().until(() -> h.decisions("person=" + leaver.id()).size() == 2);
    }

    @Test
    @Order(4)
    void whatIsRehearsedIsWhatComes() throws Exception {
        PolicyInfo all = policy("Everyone");
        RehearsalInfo told = rehearsed(new Change(
                all.id(),
                all.version(),
                DemoPolicy.of("Everyone").everyone().sharing("owner").rules(),
                null,
                new NewExclusions("floor2@corvane.example", "test", null, null, null),
                null,
                null,
                null));
        assertThat(told.report().activities().readers()).isEqualTo(200);
        assertThat(told.report().activities().vanish()).isEqualTo(1);
        assertThat(told.report().examples()).isNotEmpty();
        assertThat(h.process.count("SELECT count(*) FROM activity WHERE readers IS NULL"))
                .isEqualTo(201);
        RehearsalInfo applied = h.admin.post("/api/rehearsals/" + told.id() + "/apply", Map.of(), RehearsalInfo.class);
        assertThat(applied.state()).isEqualTo("applied");
        h.settle();
        assertThat(h.process.count("SELECT count(*) FROM activity WHERE readers IS NULL"))
                .isZero();
        assertThat(h.process.count("SELECT count(*) FROM activity")).isEqualTo(300);
        assertThat(applied.report().examples())
                .as("what tells of single items goes when it has served")
                .isEmpty();
        h.admin.post("/api/rehearsals/" + told.id() + "/undo", Map.of(), RehearsalInfo.class);
        h.settle();
        assertThat(h.process.count("SELECT count(*) FROM activity")).isEqualTo(301);
        assertThat(h.process.count("SELECT count(*) FROM activity WHERE readers IS NULL"))
                .isEqualTo(201);
    }

    private RehearsalInfo rehearsed(Change change) throws Exception {
        RehearsalInfo asked = h.admin.post("/api/rehearsals", change, RehearsalInfo.class);
        String path = "/api/rehearsals/" + asked.id();
        soon().until(() -> !h.admin.get(path, RehearsalInfo.class).state().equals("running"));
        RehearsalInfo done = h.admin.get(path, RehearsalInfo.class);
        assertThat(done.state()).as(done.detail()).isEqualTo("done");
        return done;
    }

    @Test
    @Order(5)
    void aRehearsalIsForWhoeverAskedAndCannotBeAppliedWhenItHasGrownOld() throws Exception {
        RehearsalInfo told = rehearsed(new Change(
                null, null, null, null, new NewExclusions("old.example", "", null, null, null), null, null, null));
        h.admin.post("/api/exclusions", new NewExclusions("other.example", "", null, null, null), Object.class);
        assertThat(h.admin
                        .ask("POST", "/api/rehearsals/" + told.id() + "/apply", "{}")
                        .statusCode())
                .isEqualTo(409);
        assertThat(h.admin
                        .get("/api/rehearsals/" + told.id(), RehearsalInfo.class)
                        .old())
                .isTrue();
        h.admin.addSignIn("second", "Second", Providers.PASSWORD, "administrator", null);
        Service second = h.process.signedIn("second", Providers.PASSWORD);
        assertThat(second.ask("GET", "/api/rehearsals/" + told.id(), "").statusCode())
                .as("another administrator does not get to see its examples")
                .isEqualTo(404);
    }

    @Test
    @Order(6)
    void fiveHundredExclusionsWithSevenBadLines() throws Exception {
        StringBuilder text = new StringBuilder();
        String[] bad = {"no at sign", "@@", "com", "corvane.example", "class: secret", "*@*", "x@"};
        for (int i = 0; i < 500; i++) {
            text.append(
                            i % 71 == 0 && i / 71 < bad.length
                                    ? bad[i / 71]
                                    : i % 2 == 0
                                            ? "Supplier " + i + " <s" + i + "@many" + i + ".example>"
                                            : "many" + i + ".example")
                    .append('\n');
        }
        NewExclusions pasted = new NewExclusions(text.toString(), "suppliers", null, null, null);
        CheckedLines checked = h.admin.post("/api/exclusions/check", pasted, CheckedLines.class);
        assertThat(checked.problems()).isEqualTo(7);
        assertThat(checked.fits()).isEqualTo(493);
        assertThat(checked.lines().stream().filter(l -> !l.problem().isEmpty()).map(l -> l.line()))
                .containsExactly(1, 72, 143, 214, 285, 356, 427);
        String refused =
                h.admin.ask("POST", "/api/exclusions", Client.json(pasted)).body();
        assertThat(refused).contains("Nothing was added: 7 lines do not fit");
        String mended =
                text.toString().lines().filter(l -> !List.of(bad).contains(l)).collect(Collectors.joining("\n"));
        assertThat(h.admin
                        .post(
                                "/api/exclusions",
                                new NewExclusions(mended, "suppliers", null, null, null),
                                jandrel.api.ExclusionApi.AddedExclusions.class)
                        .added())
                .hasSize(493);
    }

    @Test
    @Order(7)
    void pausingDisconnectingAndRemovingForGood() throws Exception {
        ConnectionInfo one = connection("floor5@corvane.example");
        String path = "/api/connections/" + one.id();
        assertThat(h.admin.post(path + "/pause", Map.of(), ConnectionInfo.class).state())
                .isEqualTo("paused");
        Instant at = Instant.now();
        h.providers.mail(
                "floor5@corvane.example",
                "",
                at,
                letter("gap", at, "bram@floor.example", "floor5@corvane.example", "Gap", "x"));
        h.admin.post(path + "/resume", Map.of(), ConnectionInfo.class);
        assertThat(client("sources", one.id().toString(), "--only", "sent")).containsPattern("inbox +folder +no");
        assertThat(client("sources", one.id().toString(), "--only", "inbox,sent"))
                .containsPattern("inbox +folder +yes");
        soon().until(() -> h.decisions("person=" + one.person()).size() == 2);
        assertThat(h.admin.ask("DELETE", path, "").statusCode()).isEqualTo(204);
        assertThat(connection("floor5@corvane.example").state()).isEqualTo("disconnected");
        assertThat(h.decisions("person=" + one.person())).hasSize(2);
        assertThat(h.admin.ask("DELETE", path + "?forGood=true", "").statusCode())
                .isEqualTo(204);
        assertThat(h.decisions("person=" + one.person())).isEmpty();
    }

    private ConnectionInfo connection(String account) throws Exception {
        return Arrays.stream(h.admin.get("/api/connections", ConnectionInfo[].class))
                .filter(c -> c.account().equals(account))
                .findFirst()
                .orElseThrow();
    }

    @Test
    @Order(8)
    void anAccountThatIsNoneOfThePersonsAddressesWaitsForAnAdministrator() throws Exception {
        h.providers.addUser("shared@corvane.example");
        h.admin.post(
                "/api/servers", new NewServer("mail", "imap", "127.0.0.1", h.stand.port("IMAPS"), null), Object.class);
        ConnectionInfo made = h.admin.post(
                "/api/connections",
                new NewConnection("joiner", "mail", "shared@corvane.example", Providers.PASSWORD),
                ConnectionInfo.class);
        assertThat(made.state()).isEqualTo("refused");
        assertThat(made.detail()).contains("none of the person’s known addresses");
        h.admin.addSignIn("joiner", "Joiner", Providers.PASSWORD, "rep", "joiner");
        Service joiner = h.process.signedIn("joiner", Providers.PASSWORD);
        String path = "/api/connections/" + made.id();
        String password = Client.json(new NewPassword(Providers.PASSWORD));
        for (String way : List.of("/resume", "/pause", "/consent", "/password")) {
            assertThat(joiner.ask("POST", path + way, password).statusCode())
                    .as("what is refused is not opened by " + way)
                    .isEqualTo(409);
        }
        assertThat(joiner.ask("POST", path + "/accept", "{}").statusCode()).isEqualTo(403);
        assertThat(joiner.ask("DELETE", path, "").statusCode()).isEqualTo(204);
        for (String way : List.of("/resume", "/consent", "/password")) {
            assertThat(joiner.ask("POST", path + way, password).statusCode())
                    .as("nor by ending it first and then " + way)
                    .isEqualTo(403);
        }
        assertThat(connection("shared@corvane.example").state()).isEqualTo("disconnected");
        assertThat(h.admin.ask("POST", path + "/password", password).statusCode())
                .as("an administrator who signs it in has accepted it")
                .isEqualTo(202);
        soon().until(() -> connection("shared@corvane.example").state().equals("capturing"));
        assertThat(joiner.ask("POST", path + "/pause", "{}").statusCode()).isEqualTo(200);
        assertThat(joiner.ask("POST", path + "/resume", "{}").statusCode()).isEqualTo(200);
        soon().until(() -> connection("shared@corvane.example").state().equals("capturing"));
    }

    @Test
    @Order(9)
    void serversThatLeadInwardAreRefusedUntilTheyAreAllowed() throws Exception {
        for (String host :
                new String[] {"10.1.2.3", "192.168.0.9", "169.254.169.254", "localhost", "::1", "100.64.0.1"}) {
            String server = Client.json(new NewServer("in " + host, "imap", host, 993, null));
            assertThat(h.admin.ask("POST", "/api/servers", server).statusCode())
                    .as(host)
                    .isEqualTo(403);
        }
        assertThat(client("check-server", "--kind", "imap", "--host", "10.1.2.3"))
                .contains("FAILED", "own network");
        assertThat(client(
                        "check-server",
                        "--kind",
                        "imap",
                        "--host",
                        "127.0.0.1",
                        "--port",
                        String.valueOf(h.stand.port("IMAPS")),
                        "--account",
                        "floor9@corvane.example"))
                .contains("passed  connection", "passed  sign-in", "passed  abilities", "found inbox, sent");
    }

    @Test
    @Order(10)
    void theJournalIsVerifiedAndATamperedRowIsFound() throws Exception {
        assertThat(client("journal", "verify")).contains("All ").contains(" entries fit");
        java.nio.file.Path file = java.nio.file.Files.createTempFile("journal", ".ndjson");
        client("journal", "export", "--file", file.toString());
        assertThat(Client.check(file)).contains("entries fit");
        String whole = java.nio.file.Files.readString(file);
        java.nio.file.Files.writeString(file, whole.replaceFirst("\"who\":\"admin\"", "\"who\":\"nobody\""));
        assertThat(Client.check(file)).contains("does not fit: what it says is not what was written");
        h.process.run("UPDATE journal SET who = 'somebody' WHERE number = 3");
        assertThat(client("journal", "verify")).contains("Entry 3 does not fit");
        h.process.run("UPDATE journal SET who = 'admin' WHERE number = 3");
    }

    @Test
    @Order(11)
    void policiesAsAFileAreAppliedAsAWhole() throws Exception {
        java.nio.file.Path file = java.nio.file.Files.createTempFile("policies", ".yaml");
        client("policy", "export", "--file", file.toString());
        assertThat(client("policy", "apply", file.toString())).contains("are what the file says already");
        String text = java.nio.file.Files.readString(file);
        java.nio.file.Files.writeString(file, text.replaceFirst("backDays: 90", "backDays: 91"));
        assertThat(client("policy", "apply", file.toString()))
                .contains("It looks 90 days back. → It looks 91 days back.", "Nothing was changed");
        java.nio.file.Files.writeString(file, text.replaceFirst("sharing: team", "sharing: team\n    colour: red"));
        assertThat(client("policy", "apply", file.toString())).contains("nothing was changed: line ", "colour");
        java.nio.file.Files.writeString(file, text.replaceFirst("sharing: team", "sharing: teem"));
        assertThat(client("policy", "apply", "--yes", file.toString())).contains("“sharing” is “teem”");
        java.nio.file.Files.writeString(file, text.replaceFirst("contacts: none", "contacts: sideways"));
        assertThat(client("policy", "apply", "--yes", file.toString())).contains("“contacts” is “sideways”");
        java.nio.file.Files.writeString(file, text.replaceFirst("outward: \\[]", "outward: [call]"));
        assertThat(client("policy", "apply", "--yes", file.toString())).contains("cannot be switched on as it is");
    }
}
