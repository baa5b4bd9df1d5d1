package jandrel.acceptance;

import static jandrel.acceptance.ExportedLines.cursor;
import static jandrel.acceptance.ExportedLines.of;
import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.until;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What leaves as a file: whole, as the asker may read it, and later only what changed. */
class ExportTest {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final Instant DAY =
            Instant.now().truncatedTo(ChronoUnit.HOURS).minus(2, ChronoUnit.DAYS);
    private static Harbour h;

    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("acceptance_export", Map.of("JANDREL_LOOK_EVERY", "1s"));
    }

    @AfterAll
    static void close() {
        h.close();
    }

    private static List<JsonNode> lines(Service asker, String query) throws Exception {
        return ExportedLines.all(asker, "activities", query);
    }

    private static List<String> subjects(List<JsonNode> lines) {
        return of(lines, "activity").stream()
                .map(l -> l.path("subject").asString(""))
                .toList();
    }

    @Test
    void allLeavesAsTheAskerMayReadItAndLaterOnlyWhatChanged(@TempDir Path folder) throws Exception {
        String ina = h.person("exp-ina", "rep");
        h.person("exp-ole", "rep");
        UUID account = h.account("exp-ina");
        h.providers.mail(ina, "", DAY, letter("exp-1", DAY, "bram@exp-ina.example", ina, "Open talk", "Forty buoys"));
        h.providers.mail(ina, "", DAY, letter("exp-2", DAY, "bram@exp-ina.example", ina, "Hush talk", "A secret sum"));
        h.connectMail("exp-ina");
        until(() -> h.timeline(account).size(), 2);
        UUID hush = h.timeline(account).stream()
                .filter(a -> a.subject().equals("Hush talk"))
                .findFirst()
                .orElseThrow()
                .id();
        Service owner = h.process.signedIn("exp-ina", Providers.PASSWORD);
        Service other = h.process.signedIn("exp-ole", Providers.PASSWORD);
        assertThat(owner.ask(
                                "PUT",
                                "/api/activities/" + hush + "/readers",
                                "{\"opens\":false,\"people\":[],\"teams\":[]}")
                        .statusCode())
                .isBetween(200, 204);

        List<JsonNode> mine = lines(owner, "?text=true");
        assertThat(subjects(mine)).containsExactlyInAnyOrder("Open talk", "Hush talk");
        assertThat(mine.toString()).contains("Forty buoys", "A secret sum", "Account exp-ina");
        assertThat(mine.get(mine.size() - 1).path("count").asInt(0)).isEqualTo(2);
        // everybody else gets of the other one that it is there, and not a word of it
        List<JsonNode> theirs = lines(other, "?text=true");
        assertThat(subjects(theirs)).containsExactlyInAnyOrder("Open talk", "");
        assertThat(theirs.toString()).doesNotContain("Hush", "secret");
        assertThat(of(theirs, "activity").stream()
                        .filter(l -> l.path("visibility").asString("").equals("outline"))
                        .findFirst()
                        .orElseThrow()
                        .path("links"))
                .isEmpty();

        // nothing has changed, then one came, then one went
        String cursor = cursor(theirs);
        assertThat(subjects(lines(other, "?since=" + cursor))).isEmpty();
        h.providers.mail(ina, "", DAY, letter("exp-3", DAY, "bram@exp-ina.example", ina, "Third talk", "x"));
        until(() -> h.timeline(account).size(), 3);
        List<JsonNode> third = lines(other, "?since=" + cursor);
        assertThat(subjects(third)).containsExactly("Third talk");
        // the same while somebody else is in the middle of something, and much has been going on since
        try (Connection busy = h.process.database();
                Connection others = h.process.database();
                Statement each = others.createStatement()) {
            busy.setAutoCommit(false);
            busy.createStatement().execute("SELECT pg_current_xact_id()");
            for (int i = 0; i < 2_000; i++) {
                each.execute("SELECT pg_current_xact_id()");
            }
            assertThat(subjects(lines(other, "?since=" + cursor))).containsExactly("Third talk");
        }
        Client client = Client.of(h);
        client.run("exclude", "bram@exp-ina.example");
        until(() -> h.timeline(account).size(), 0);
        List<JsonNode> gone = lines(other, "?since=" + cursor(third));
        assertThat(subjects(gone)).isEmpty();
        assertThat(of(gone, "removed")).hasSize(3);
        client.run("include", "bram@exp-ina.example");
        until(() -> h.timeline(account).size(), 3);
        List<JsonNode> back = lines(other, "?since=" + cursor(gone));
        assertThat(of(back, "removed")).isEmpty();
        assertThat(of(back, "activity")).hasSize(3);

        // one that broke off goes on where it stopped
        Path file = folder.resolve("all.ndjson");
        assertThat(client.run("export", "--file", file.toString())).contains("--since ");
        List<String> whole = Files.readAllLines(file);
        Files.writeString(file, String.join("\n", whole.subList(0, 3)) + "\n{\"type\":\"activ");
        assertThat(client.run("export", "--file", file.toString())).contains("is there already");
        assertThat(client.run("export", "--file", file.toString(), "--resume")).contains("Written to");
        List<JsonNode> resumed =
                Files.readAllLines(file).stream().map(JSON::readTree).toList();
        assertThat(of(resumed, "activity").stream().map(l -> l.path("id").asString("")))
                .containsExactlyElementsOf(whole.stream()
                        .map(JSON::readTree)
                        .filter(l -> l.path("type").asString("").equals("activity"))
                        .map(l -> l.path("id").asString(""))
                        .toList());
        assertThat(client.run("export", "--file", file.toString(), "--resume")).contains("is whole already");
    }

    /** Each as it leaves, but for how it came: the order, and the cursor. */
    private static List<String> told(Service asker) throws Exception {
        return of(lines(asker, "?text=true"), "activity").stream()
                .map(JsonNode::toString)
                .sorted()
                .toList();
    }

    private static List<String> decided(Service asker) throws Exception {
        return asker.ask("GET", "/api/decisions.csv", "")
                .body()
                .lines()
                .sorted()
                .toList();
    }

    @Test
    void everythingLeavesSealedAndComesBackInAnEmptyInstallation(@TempDir Path folder) throws Exception {
        String who = h.person("exp-all", "rep");
        UUID account = h.account("exp-all");
        h.providers.mail(who, "", DAY, letter("all-1", DAY, "bram@exp-all.example", who, "Søndag", "Ten buoys"));
        h.connectMail("exp-all");
        until(() -> h.timeline(account).size(), 1);
        h.settle();
        Path file = folder.resolve("all.jandrel");
        assertThat(Client.as(h, "exp-all").run("export", "everything", "--file", file.toString()))
                .contains("Your role does not allow this");
        assertThat(file).doesNotExist();
        Client client = Client.of(h);
        assertThat(client.run("export", "everything", "--file", file.toString()))
                .contains("Written to " + file);
        assertThat(client.run("export", "everything", "--file", file.toString()))
                .contains("is there already");
        assertThat(new String(Files.readAllBytes(file), java.nio.charset.StandardCharsets.ISO_8859_1))
                .doesNotContain("exp-all", "about.json");
        assertThat(client.run("journal")).contains("exported");

        try (Running back = h.process.takenIn("acceptance_export_back", file)) {
            Service admin = back.service.administrator();
            assertThat(told(admin)).isEqualTo(told(h.admin));
            assertThat(told(back.signedIn("exp-all", Providers.PASSWORD)))
                    .isEqualTo(told(h.process.signedIn("exp-all", Providers.PASSWORD)));
            assertThat(decided(admin)).isEqualTo(decided(h.admin));
            assertThat(admin.ask("GET", "/api/journal/verify", "").body()).contains("\"broken\":0");
            assertThat(admin.ask("GET", "/api/journal", "").body()).contains("taken in");
            // its connections rest, as the first installation is still at work; resumed, they go on where it stood
            JsonNode connection = connection(admin, "exp-all");
            assertThat(connection.path("state").asString("")).isEqualTo("paused");
            h.providers.mail(who, "", DAY, letter("all-2", DAY, "bram@exp-all.example", who, "Later", "Two more"));
            admin.ask("POST", "/api/connections/" + connection.path("id").asString("") + "/resume", "");
            until(() -> told(admin).size(), told(h.admin).size());
            until(() -> told(admin).equals(told(h.admin)), true);
            assertThat(back.count("SELECT count(*) FROM sighting"))
                    .isEqualTo(h.process.count("SELECT count(*) FROM sighting"));
        }
    }

    private static JsonNode connection(Service admin, String key) throws Exception {
        for (JsonNode c : JSON.readTree(admin.ask("GET", "/api/connections", "").body())) {
            if (c.path("account").asString("").startsWith(key + "@")) {
                return c;
            }
        }
        throw new AssertionError("no connection of " + key);
    }

    @Test
    void aCursorThatIsNoneIsRefused() throws Exception {
        for (String since : List.of("-1", "99999999999999", "x")) {
            assertThat(h.admin
                            .ask("GET", "/api/export/activities.ndjson?since=" + since, "")
                            .statusCode())
                    .isEqualTo(400);
        }
    }
}
