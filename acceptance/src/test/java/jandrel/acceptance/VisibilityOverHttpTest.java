package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.PolicyApi.CoverageInfo;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Every role, every way out, one table of what each may get. The policy shows items in full to those on them alone. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class VisibilityOverHttpTest {
    private static final String SECRET = "Quietwater";
    private Harbour h;
    private final Map<String, String> passwords = new HashMap<>();
    private final Map<String, Service> services = new HashMap<>();
    private UUID account;
    private String activity;
    private String decision;

    @BeforeAll
    void fill() throws Exception {
        h = Harbour.open("acceptance_visibility");
        String onit = h.person("onit", "rep");
        h.person("offit", "rep");
        h.person("lead", "manager");
        h.admin.addSignIn("outside", "Auditor", Providers.PASSWORD, "auditor", null);
        account = h.account("quiet");
        Instant at = Instant.now().minus(1, ChronoUnit.DAYS);
        h.providers.mail(
                onit,
                "",
                at,
                letter(
                                "quiet-1",
                                at,
                                "bram@quiet.example",
                                onit,
                                SECRET + " tender",
                                "--b\r\nContent-Type: text/plain\r\n\r\n" + SECRET
                                        + " in the text\r\n--b\r\nContent-Type: application/pdf; name=plan.pdf\r\n\r\n"
                                        + SECRET + " plan\r\n--b--\r\n")
                        .replace("Subject:", "Content-Type: multipart/mixed; boundary=b\r\nSubject:"));
        h.providers.mail(
                onit, "", at, letter("quiet-2", at, "stranger@quietstranger.example", onit, SECRET + " waiting", "x"));
        h.connectMail("onit");
        h.sharing("those-on-it");
        h.settle();
        h.indexed();
        h.process.prepareReaders();
        reads("onit", "--as", "rep", "--person", "onit");
        reads("offit", "--as", "rep", "--person", "offit");
        reads("lead", "--as", "manager", "--person", "lead");
        reads("outside", "--as", "auditor");
        reads("admin", "--as", "administrator");
        activity = h.timeline(account).get(0).id().toString();
        decision = h.decisions("item=" + activity).get(0).id().toString();
    }

    @AfterAll
    void close() {
        h.close();
    }

    private void reads(String login, String... as) throws Exception {
        List<String> words = new ArrayList<>(List.of("readers", "add", "seen_by_" + login));
        words.addAll(List.of(as));
        String said = Client.of(h).run(words.toArray(String[]::new));
        assertThat(said).contains("Password");
        passwords.put(login, said.replaceAll("(?s).*Password +([^\\n]+)\\n.*", "$1"));
    }

    /** All that PostgreSQL lets out, and what its errors say of it. */
    private String sql(String login) throws Exception {
        StringBuilder all = new StringBuilder();
        try (Connection c = h.process.reader("seen_by_" + login, passwords.get(login));
                Statement s = c.createStatement()) {
            List<String> views = new ArrayList<>();
            try (ResultSet found = c.getMetaData().getTables(null, "jandrel_1", "%", new String[] {"VIEW"})) {
                while (found.next()) {
                    views.add(found.getString("TABLE_NAME"));
                }
            }
            assertThat(views).contains("activities", "participants", "texts", "decisions");
            // the directory is everybody's, its addresses too
            views.remove("contacts");
            for (String view : views) {
                try (ResultSet rows = s.executeQuery("SELECT v::text FROM jandrel_1." + view + " v")) {
                    while (rows.next()) {
                        all.append(rows.getString(1)).append('\n');
                    }
                }
            }
            for (String attack : List.of(
                    "SELECT subject::int FROM jandrel_1.activities",
                    "SELECT id FROM jandrel_1.activities WHERE subject::int = 1",
                    "SELECT activity FROM jandrel_1.participants WHERE address::int = 1",
                    "SELECT text::int FROM jandrel_1.texts",
                    "SELECT subject FROM jandrel_1.decisions WHERE subject::int = 1")) {
                try (ResultSet none = s.executeQuery(attack)) {
                    all.append(none.next() ? "a row\n" : "");
                } catch (SQLException says) {
                    all.append(says.getMessage()).append('\n');
                }
            }
        }
        return all.toString();
    }

    /** Once each: to sign in costs more than most answers. */
    private Service signedIn(String login) throws Exception {
        Service known = services.get(login);
        if (known == null) {
            known = h.process.signedIn(login, Providers.PASSWORD);
            services.put(login, known);
        }
        return known;
    }

    private String body(String login, String way) throws Exception {
        if (way.equals("sql")) {
            return sql(login);
        }
        Service service = login.equals("admin") ? h.admin : signedIn(login);
        String path = switch (way) {
            case "list" -> "/api/records/" + account + "/timeline";
            case "open" -> "/api/activities/" + activity;
            case "search" -> "/api/search?words=" + SECRET;
            case "export" -> "/api/records/" + account + "/timeline.csv";
            case "export-all" -> "/api/export/activities.ndjson?text=true";
            case "all-decisions" -> "/api/export/decisions.ndjson";
            case "figures" -> "/api/measures/capture/rows?column=seen";
            case "everything" -> "/api/export/everything";
            case "mailbox" -> "/api/records/" + account + "/mail.mbox";
            case "message" -> "/api/activities/" + activity + "/message.eml";
            case "decisions" -> "/api/decisions";
            case "decision" -> "/api/decisions/" + decision;
            case "decisions-export" -> "/api/decisions.csv";
            case "by-address" -> "/api/decisions?address=bram@quiet.example";
            case "attachment" -> "/api/activities/" + activity + "/attachments/0";
            case "by-waiting-address" -> "/api/decisions?address=quietstranger.example";
            default -> throw new IllegalArgumentException(way);
        };
        return service.ask("GET", path, "").body();
    }

    /** Lists follow the teams that somebody looks after; what may be read does not. */
    @ParameterizedTest(name = "{0} of {1}")
    @CsvSource({
        "/api/coverage, North, true",
        "/api/coverage, South, false",
        "/api/connections, North, true",
        "/api/connections, South, false",
        "/api/decisions, North, true",
        "/api/decisions, South, false",
        "/api/decisions.csv, North, true",
        "/api/decisions.csv, South, false",
        "/api/export/decisions.ndjson, North, true",
        "/api/export/decisions.ndjson, South, false",
        "/api/calendar/free, North, true",
        "/api/calendar/free, South, false"
    })
    void whoLooksAfterSomeTeamsGetsTheirListsAlone(String path, String team, boolean listed) throws Exception {
        h.csv("people", "key,name,addresses,team\nonit,Person onit,onit@corvane.example,North");
        h.csv("people", "key,name,addresses,team\noffit,Person offit,offit@corvane.example,South");
        for (String login : List.of("outside", "lead")) {
            String role = login.equals("lead") ? "manager" : "auditor";
            assertThat(Client.of(h).run("set-role", login, role, "--team", team))
                    .contains("their lists hold " + team);
            services.clear();
            Service service = signedIn(login);
            String query = path.endsWith("free")
                    ? "?from=2026-11-02T00:00:00Z&until=2026-11-03T00:00:00Z&people=" + person("onit")
                    : "";
            String body = service.ask("GET", path + query, "").body();
            if (listed) {
                assertThat(body).contains("Person onit");
            } else {
                assertThat(body).doesNotContain("Person onit");
            }
            assertThat(body("lead", "open")).doesNotContain(SECRET);
            Client.of(h).run("set-role", login, role);
            services.clear();
        }
    }

    private String person(String key) throws Exception {
        return Arrays.stream(h.admin.get("/api/coverage", CoverageInfo[].class))
                .filter(c -> c.key().equals(key))
                .findFirst()
                .orElseThrow()
                .id()
                .toString();
    }

    @Test
    void onlyManagersAndAuditorsAreLimitedAndOnlyToTeamsThatThereAre() throws Exception {
        assertThat(Client.of(h).run("set-role", "offit", "rep", "--team", "North"))
                .contains("Only managers and auditors can be limited to teams");
        assertThat(Client.of(h).run("set-role", "lead", "manager", "--team", "Nowhere"))
                .contains("There is no team “Nowhere”");
    }

    @ParameterizedTest(name = "{0} by {1}")
    @CsvSource({
        "everything, onit, false",
        "everything, offit, false",
        "everything, lead, false",
        "everything, outside, false",
        "everything, admin, false",
        "list, onit, true",
        "list, offit, false",
        "list, lead, false",
        "list, outside, false",
        "list, admin, false",
        "open, onit, true",
        "open, offit, false",
        "open, lead, false",
        "open, outside, false",
        "open, admin, false",
        "search, onit, true",
        "search, offit, false",
        "search, lead, false",
        "search, outside, false",
        "search, admin, false",
        "export, onit, true",
        "export, offit, false",
        "export, lead, false",
        "export, outside, false",
        "export, admin, false",
        "decisions, onit, true",
        "decisions, offit, false",
        "decisions, lead, false",
        "decisions, outside, false",
        "decisions, admin, false",
        "decision, onit, true",
        "decision, offit, false",
        "decision, lead, false",
        "decision, outside, false",
        "decision, admin, false",
        "decisions-export, onit, true",
        "decisions-export, offit, false",
        "decisions-export, lead, false",
        "decisions-export, outside, false",
        "decisions-export, admin, false",
        "attachment, onit, true",
        "attachment, offit, false",
        "attachment, lead, false",
        "attachment, outside, false",
        "attachment, admin, false",
        "by-address, onit, true",
        "by-address, offit, false",
        "by-address, lead, false",
        "by-address, outside, false",
        "by-address, admin, false",
        "mailbox, onit, true",
        "mailbox, offit, false",
        "mailbox, lead, false",
        "mailbox, outside, false",
        "mailbox, admin, false",
        "message, onit, true",
        "message, offit, false",
        "message, lead, false",
        "message, outside, false",
        "message, admin, false",
        "export-all, onit, true",
        "export-all, offit, false",
        "export-all, lead, false",
        "export-all, outside, false",
        "export-all, admin, false",
        "all-decisions, onit, true",
        "all-decisions, offit, false",
        "all-decisions, lead, false",
        "all-decisions, outside, false",
        "all-decisions, admin, false",
        "figures, onit, true",
        "figures, offit, false",
        "figures, lead, false",
        "figures, outside, false",
        "figures, admin, false",
        "sql, onit, true",
        "sql, offit, false",
        "sql, lead, false",
        "sql, outside, false",
        "sql, admin, false",
        "by-waiting-address, onit, true",
        "by-waiting-address, lead, false",
        "by-waiting-address, outside, false",
        "by-waiting-address, admin, false"
    })
    void whatIsReadInFullIsForThoseOnIt(String way, String login, boolean full) throws Exception {
        String body = body(login, way);
        if (full) {
            assertThat(body).contains(SECRET);
        } else {
            assertThat(body)
                    .doesNotContain(SECRET)
                    .doesNotContain("bram@quiet.example")
                    .doesNotContain("stranger@");
        }
    }

    @ParameterizedTest
    @CsvSource({"onit, true", "offit, false", "lead, false", "outside, false", "admin, false"})
    void strangersAreThoseOfItemsThatOneReads(String login, boolean seen) throws Exception {
        Service service = login.equals("admin") ? h.admin : signedIn(login);
        String body = service.ask("GET", "/api/triage", "").body();
        assertThat(body.contains("stranger@quietstranger.example")).isEqualTo(seen);
        assertThat(service.ask("GET", "/api/triage?find=quietstranger", "")
                        .body()
                        .contains("\"total\":1"))
                .isEqualTo(seen);
    }

    @ParameterizedTest
    @CsvSource({"offit", "lead", "outside", "admin"})
    void theOutlineSaysThatThereIsOneAndWhose(String login) throws Exception {
        assertThat(body(login, "list")).contains("outline", "Person onit", "\"total\":1");
    }

    @ParameterizedTest
    @CsvSource({"search, 0", "by-address, 0", "by-waiting-address, 0"})
    void aCountTellsNothingEither(String way, int total) throws Exception {
        for (String login : new String[] {"offit", "lead", "outside", "admin"}) {
            assertThat(body(login, way)).as(login).contains("\"total\":" + total);
        }
    }

    @ParameterizedTest
    @CsvSource({
        "offit, POST, /api/exclusions",
        "lead, POST, /api/exclusions",
        "outside, POST, /api/policies",
        "lead, PUT, /api/policies/order",
        "offit, GET, /api/policies",
        "offit, GET, /api/journal",
        "lead, GET, /api/journal.ndjson",
        "lead, POST, /api/rehearsals",
        "offit, POST, /api/connections/everyone",
        "lead, POST, /api/allowed-hosts",
        "lead, DELETE, /api/allowed-hosts/127.0.0.1",
        "lead, POST, /api/servers",
        "outside, POST, /api/sign-ins",
        "offit, GET, /api/sign-ins",
        "lead, GET, /api/sign-ins/00000000-0000-0000-0000-000000000001/tokens",
        "lead, POST, /api/sign-ins/invite",
        "lead, POST, /api/sign-ins/00000000-0000-0000-0000-000000000001/end",
        "offit, POST, /api/sign-ins/00000000-0000-0000-0000-000000000001/tokens",
        "lead, PUT, /api/sign-ins/00000000-0000-0000-0000-000000000001/role",
        "lead, POST, /api/people/00000000-0000-0000-0000-000000000001/left",
        "lead, DELETE, /api/servers/00000000-0000-0000-0000-000000000001",
        "offit, POST, /api/triage/settle",
        "lead, POST, /api/triage/merge",
        "lead, POST, /api/triage/apart",
        "offit, GET, /api/triage/deeds",
        "outside, GET, /api/triage/twins",
        "offit, POST, /api/directory/people"
    })
    void whatIsTheAdministratorsIsRefusedToOthers(String login, String method, String path) throws Exception {
        assertThat(h.process
                        .signedIn(login, Providers.PASSWORD)
                        .ask(method, path, method.equals("GET") ? "" : "{}")
                        .statusCode())
                .isEqualTo(403);
    }

    @Test
    void withoutASignInThereIsNothing() throws Exception {
        Service nobody = new Service(h.process.url());
        for (String path : new String[] {
            "/api/summary", "/api/decisions", "/api/activities/" + activity, "/api/records", "/api/ops/env"
        }) {
            assertThat(nobody.ask("GET", path, "").statusCode()).as(path).isEqualTo(401);
        }
        assertThat(nobody.ask("POST", "/api/session", "{\"login\":\"admin\",\"password\":\"x\"}")
                        .statusCode())
                .as("without the CSRF token")
                .isEqualTo(403);
    }

    @Test
    void wrongPasswordsShutTheDoorForAWhile() throws Exception {
        h.admin.addSignIn("forgetful", "F", Providers.PASSWORD, "rep", null);
        Service nobody = new Service(h.process.url());
        String wrong = "{\"login\":\"forgetful\",\"password\":\"wrong-one\"}";
        for (int i = 0; i < 5; i++) {
            assertThat(nobody.ask("POST", "/api/tokens", wrong).statusCode()).isEqualTo(401);
        }
        assertThat(nobody.ask("POST", "/api/tokens", wrong.replace("wrong-one", Providers.PASSWORD))
                        .statusCode())
                .isEqualTo(429);
    }
}
