package jandrel.client;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Every command against a service that answers what the test says: what it asks for, what it prints, how it ends. */
class CommandsTest {
    private static final String ID = "6b910af4-1f3c-4e0a-9d0e-5c2f7a1b8e21";
    private static final String PORT =
            "{\"kind\":\"account\",\"id\":\"" + ID + "\",\"key\":\"port\",\"name\":\"Port of Skarvik\","
                    + "\"detail\":\"\",\"accountName\":\"\",\"owner\":\"Tobias Renn\",\"stage\":\"\",\"state\":\"\",\"currency\":\"\","
                    + "\"addresses\":[],\"phones\":[],\"archived\":false,\"activities\":3}";
    private static final String ACTIVITY =
            "{\"id\":\"" + ID + "\",\"kind\":\"mail\",\"sort\":\"\",\"at\":\"2026-05-04T08:00:00Z\","
                    + "\"allDay\":false,\"subject\":\"Mooring plan\",\"people\":[{\"part\":\"from\",\"address\":\"bram@skarvik.example\","
                    + "\"name\":\"Bram Holm\"}],\"place\":\"\",\"visibility\":\"full\",\"owners\":[],\"mark\":\"\",\"direction\":\"in\",\"snippet\":\"\",\"attachments\":0,\"conversation\":0}";

    @TempDir
    Path folder;

    private HttpServer server;
    private final Map<String, String> answers = new HashMap<>();
    private final List<String> asked = new ArrayList<>();
    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();

    @BeforeEach
    void open() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", this::answer);
        server.start();
    }

    @AfterEach
    void close() {
        server.stop(0);
    }

    private void answer(HttpExchange exchange) throws IOException {
        String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        String query = exchange.getRequestURI().getRawQuery();
        String path =
                exchange.getRequestMethod() + " " + exchange.getRequestURI().getPath();
        String decoded = query == null
                ? ""
                : "?"
                        + String.join(
                                "&",
                                new TreeSet<>(List.of(URLDecoder.decode(query, StandardCharsets.UTF_8)
                                        .split("&", 0))));
        asked.add(path + decoded + (body.isEmpty() ? "" : " " + body));
        String answer = answers.getOrDefault(
                path, "404 {\"status\":400,\"title\":\"There is no such thing\",\"detail\":\"Look again.\"}");
        int status = answer.matches("(?s)\\d{3} .*") ? Integer.parseInt(answer.substring(0, 3)) : 200;
        byte[] bytes = (status == 200 ? answer : answer.substring(4)).getBytes(StandardCharsets.UTF_8);
        exchange.getResponseHeaders().add("Content-Type", "application/json");
        exchange.sendResponseHeaders(status, bytes.length == 0 ? -1 : bytes.length);
        exchange.getResponseBody().write(bytes);
        exchange.close();
    }

    private int run(String... arguments) {
        Map<String, String> environment = new HashMap<>(Map.of(
                "JANDREL_URL", "http://127.0.0.1:" + server.getAddress().getPort(), "JANDREL_TOKEN", "t", "TZ", "UTC"));
        environment.put("XDG_CONFIG_HOME", folder.toString());
        return run(environment, arguments);
    }

    private int run(Map<String, String> environment, String... arguments) {
        return JandrelClient.run(environment, new PrintStream(out, true), new PrintStream(err, true), arguments);
    }

    private String printed() {
        return out.toString(StandardCharsets.UTF_8);
    }

    private String complained() {
        return err.toString(StandardCharsets.UTF_8);
    }

    @Test
    void whoIsNotSignedInIsToldHow() {
        assertThat(run(Map.of("XDG_CONFIG_HOME", folder.toString()), "status")).isEqualTo(Trouble.REACH);
        assertThat(complained()).contains("jandrel sign-in --url");
    }

    @Test
    void aServiceThatIsAwayIsSaidToBe() {
        server.stop(0);
        assertThat(run("status")).isEqualTo(Trouble.REACH);
        assertThat(complained()).contains("cannot be reached");
    }

    @ParameterizedTest
    @CsvSource({"400,2", "401,3", "403,3", "404,1", "409,1", "500,3", "503,3"})
    void aRefusalIsPrintedAndItsStatusBecomesTheExitCode(String status, int code) {
        answers.put(
                "GET /api/summary", status + " {\"status\":400,\"title\":\"It is refused\",\"detail\":\"Do this.\"}");
        assertThat(run("status")).isEqualTo(code);
        assertThat(complained()).contains("It is refused. Do this.");
    }

    @Test
    void whatARefusalSaysMovesNoCursor() {
        answers.put(
                "GET /api/summary", "404 {\"status\":400,\"title\":\"\\u001b[2JGone\",\"detail\":\"\\u202eBack.\"}");
        run("status");
        assertThat(complained())
                .doesNotContain("\u001b")
                .doesNotContain("\u202e")
                .contains("Gone");
    }

    @Test
    void anAnswerOfAnotherVersionIsSaidToBe() {
        answers.put("GET /api/summary", "[]");
        assertThat(run("status")).isEqualTo(Trouble.REACH);
        assertThat(complained()).contains("of the same version?");
    }

    @Test
    void signingInKeepsTheTokenForTheUserAlone() throws IOException {
        answers.put(
                "POST /api/tokens",
                "{\"token\":\"secret\",\"login\":\"ina\",\"role\":\"administrator\",\"expiresAt\":\"2027-01-01T00:00:00Z\"}");
        Map<String, String> environment =
                Map.of("XDG_CONFIG_HOME", folder.toString(), "JANDREL_PASSWORD", "p", "TZ", "UTC");
        String url = "http://127.0.0.1:" + server.getAddress().getPort();
        assertThat(run(environment, "sign-in", "--url", url, "--login", "ina"))
                .as(complained())
                .isZero();
        Path kept = folder.resolve("jandrel/sign-in");
        assertThat(Files.readString(kept)).isEqualTo(url + "\nsecret\n");
        assertThat(Files.getPosixFilePermissions(kept)).hasSize(2);
        answers.put("DELETE /api/tokens/current", "");
        assertThat(run(environment, "sign-out")).isZero();
        assertThat(kept).doesNotExist();
    }

    @Test
    void recordsAreFoundByAPartOfTheirName() {
        answers.put("GET /api/records", "{\"total\":1,\"records\":[" + PORT + "]}");
        assertThat(run("records", "skarvik", "--kind", "account"))
                .as(complained())
                .isZero();
        assertThat(asked).containsExactly("GET /api/records?kind=account&limit=50&name=skarvik&sort=name");
        assertThat(printed()).contains("Port of Skarvik", "1 record");
    }

    private static final String NOTICE =
            "{\"key\":\"reminder:1\",\"kind\":\"reminder\",\"title\":\"Sound the channel\",\"detail\":\"Port\","
                    + "\"at\":\"2026-05-04T08:00:00Z\",\"allDay\":false,\"path\":\"/\",\"read\":false,\"snoozedUntil\":null,\"rings\":true}";

    @Test
    void anExportOfEverythingIsThereWholeOrNotAtAll() throws IOException {
        answers.put("GET /api/export/everything", "sealed");
        Path file = folder.resolve("all.jandrel");
        assertThat(run("export", "everything", "--file", file.toString()))
                .as(complained())
                .isZero();
        assertThat(file).hasContent("sealed");
        assertThat(out.toString(StandardCharsets.UTF_8)).contains("the same key file", "JANDREL_TAKE_IN=" + file);
        assertThat(run("export", "everything", "--file", file.toString())).isEqualTo(Trouble.USE);
        answers.put("GET /api/export/everything", "403 {\"status\":403,\"title\":\"You may not\",\"detail\":\"\"}");
        Path other = folder.resolve("other.jandrel");
        assertThat(run("export", "everything", "--file", other.toString())).isEqualTo(Trouble.REACH);
        assertThat(other).doesNotExist();
        assertThat(folder.resolve("other.jandrel.part")).doesNotExist();
        assertThat(run("export", "everything", "--file", other.toString(), "--resume"))
                .isEqualTo(Trouble.USE);
        assertThat(run("export", "nothing", "--file", other.toString())).isEqualTo(Trouble.USE);
    }

    @Test
    void noticesAreShownReadByTheirNumberAndPutOff() {
        answers.put("GET /api/notices", "{\"notices\":[" + NOTICE + "],\"unread\":1,\"next\":null}");
        answers.put("POST /api/notices/read", "");
        answers.put("POST /api/notices/snooze", "");
        assertThat(run("notices")).as(complained()).isZero();
        assertThat(printed()).contains("Sound the channel", "2026-05-04 08:00", "unread");
        assertThat(run("notices", "read", "1")).as(complained()).isZero();
        assertThat(run("notices", "read", "2")).isEqualTo(Trouble.NO);
        assertThat(run("notices", "read")).isEqualTo(Trouble.USE);
        assertThat(run("notices", "snooze", "1", "--for", "10m"))
                .as(complained())
                .isZero();
        assertThat(run("notices", "snooze", "1", "--for", "40d")).isEqualTo(Trouble.USE);
        answers.put("GET /api/notices", "{\"notices\":[],\"unread\":0,\"next\":null}");
        assertThat(run("notices")).isEqualTo(Trouble.NO);
        assertThat(printed()).contains("Nothing is unread.");
    }

    private static final String ROW =
            "{\"id\":\"" + ID + "\",\"key\":\"con-1\",\"version\":7,\"archived\":false,\"byHand\":[\"title\"],"
                    + "\"values\":{\"key\":\"con-1\",\"name\":\"Ida Moe\",\"title\":\"Diver\",\"account\":\"acc-1\",\"account_name\":\"Port\"}}";
    private static final String TABLE =
            "{\"total\":1,\"columns\":[{\"name\":\"name\",\"type\":\"text\",\"required\":true},"
                    + "{\"name\":\"account\",\"type\":\"account\",\"required\":false}],\"rows\":[" + ROW + "]}";

    @Test
    void whatOneSideRemovedIsListedAndAnswered() {
        String id = "5b0c0f6e-6f0a-4b7e-9a51-0d6a4f3f0001";
        answers.put(
                "GET /api/cards/removed",
                "[{\"id\":\"" + id
                        + "\",\"name\":\"Ida Moe\",\"contact\":null,\"removed\":\"here\",\"personName\":\"Bo Lind\","
                        + "\"book\":\"People\",\"since\":\"2026-11-30T10:00:00Z\",\"elsewhere\":1}]");
        answers.put("POST /api/cards/removed", "{\"answered\":1}");
        assertThat(run("contacts", "removed")).as(complained()).isZero();
        assertThat(printed()).contains("Ida Moe", "the directory", "“People” of Bo Lind", "1 open removal");
        assertThat(run("contacts", "answer", id, "--keep")).as(complained()).isZero();
        assertThat(printed()).contains("1 removal answered.");
        assertThat(run("contacts", "answer", id)).isEqualTo(Trouble.USE);
        assertThat(run("contacts", "answer", id, "--keep", "--remove")).isEqualTo(Trouble.USE);
        assertThat(run("contacts", "answer", "nobody", "--keep")).isEqualTo(Trouble.USE);
    }

    @Test
    void whatIsKnownOfAContactIsSaidAndChanged() {
        String record = "00000000-0000-0000-0000-000000000007";
        String card = """
                {"books":[{"label":"People","personName":"Bo Lind","state":"in step","putThere":false}],"facts":[{"field":"tags","words":"berths"}],"details":{
                "name":{"family":"Moe","given":"Ida","additional":"","prefix":"","suffix":""},"unit":"","role":"%s",
                "mails":[{"value":"ida@port.example","kind":"%s"}],"phones":[],"places":[],"urls":[],"birthday":"","note":"",
                "tags":["berths"]}}""";
        answers.put("GET /api/records/" + record + "/address-books", card.formatted("", ""));
        answers.put("PUT /api/records/" + record + "/details", card.formatted("Pilot", "work"));
        assertThat(run("contacts", "details", record)).as(complained()).isZero();
        assertThat(printed())
                .contains(
                        "last name",
                        "Moe",
                        "ida@port.example",
                        "tags",
                        "berths",
                        "In address books: Bo Lind, People (in step).")
                .doesNotContain("Changed", "birthday");
        assertThat(asked).noneMatch(a -> a.startsWith("PUT"));
        assertThat(run(
                        "contacts",
                        "details",
                        record,
                        "--role",
                        "Pilot",
                        "--tag",
                        "",
                        "--kind",
                        "ida@port.example=work",
                        "--place",
                        "Quay 1; 4001; Skarvik"))
                .as(complained())
                .isZero();
        assertThat(printed()).contains("Changed.", "ida@port.example (work)");
        assertThat(asked.get(2)).startsWith("PUT").contains("\"tags\":[]", "\"code\":\"4001\"", "\"town\":\"Skarvik\"");
        assertThat(run("contacts", "details", record, "--kind", "nobody@port.example=work"))
                .isEqualTo(Trouble.USE);
        assertThat(run("contacts", "details", record, "--place", "a;b;c;d;e;f")).isEqualTo(Trouble.USE);
        answers.put("GET /api/records/" + record + "/address-books", "{\"books\":[],\"facts\":[]}");
        assertThat(run("contacts", "details", record)).isEqualTo(Trouble.NO);
    }

    @Test
    void aTableOfTheDirectoryIsNarrowedAndARowChanged() {
        answers.put("GET /api/directory/contacts", TABLE);
        answers.put("PUT /api/directory/contacts", "{\"changed\":1,\"reconsidering\":2,\"books\":2,\"undo\":[]}");
        assertThat(run("directory", "contacts", "--where", "account==acc-1", "--sort", "-name"))
                .as(complained())
                .isZero();
        assertThat(asked.get(0)).contains("where.account==acc-1", "sort=-name");
        assertThat(printed()).contains("con-1", "Ida Moe", "Port", "1 contact");
        assertThat(run("directory", "contacts", "--where", "account")).isEqualTo(Trouble.USE);
        assertThat(run("directory", "contacts", "--to", "table.pdf")).isEqualTo(Trouble.USE);
        assertThat(run("change", "contacts", "con-1", "title=Pilot"))
                .as(complained())
                .isZero();
        assertThat(printed())
                .contains(
                        "Changed 1 contact; 2 decisions are being made again.",
                        "What was archived stands in 2 address books");
        assertThat(run("change", "contacts", "nobody", "title=Pilot")).isEqualTo(Trouble.NO);
        assertThat(run("change", "contacts", "con-1", "--archive", "--bring-back"))
                .isEqualTo(Trouble.USE);
        assertThat(run("change", "contacts", "con-1", "title")).isEqualTo(Trouble.USE);
    }

    @Test
    void nothingFoundIsANo() {
        answers.put("GET /api/records", "{\"total\":0,\"records\":[]}");
        assertThat(run("records", "nobody")).isEqualTo(Trouble.NO);
        assertThat(printed()).contains("No records.");
    }

    @Test
    void aTimelineIsAskedForByNameAndPagesFollowEachOther() {
        answers.put("GET /api/records", "{\"total\":1,\"records\":[" + PORT + "]}");
        answers.put(
                "GET /api/records/" + ID + "/timeline",
                "{\"activities\":[" + ACTIVITY + "],\"next\":\"\",\"total\":1}");
        assertThat(run("timeline", "port of skarvik")).as(complained() + asked).isZero();
        assertThat(asked.get(1)).startsWith("GET /api/records/" + ID + "/timeline?");
        assertThat(printed()).contains("2026-05-04 08:00", "Mooring plan", "Bram Holm");
    }

    @Test
    void aTimelineIsFilteredByWhatIsAskedFor() {
        answers.put("GET /api/records", "{\"total\":1,\"records\":[" + PORT + "]}");
        answers.put(
                "GET /api/records/" + ID + "/timeline",
                "{\"activities\":[" + ACTIVITY + "],\"next\":\"\",\"total\":1}");
        assertThat(run("timeline", "port", "--kind", "mail", "--direction", "in", "--with", "bram", "--attached"))
                .as(complained() + asked)
                .isZero();
        assertThat(asked.get(1)).contains("kind=mail", "direction=in", "who=bram", "attached=true");
        assertThat(run("timeline", "port", "--csv", "--kind", "mail")).isEqualTo(Trouble.USE);
        assertThat(complained()).contains("--csv gives the whole timeline");
        assertThat(run("timeline", "port", "--from", "someday")).isEqualTo(Trouble.USE);
    }

    @Test
    void aNameThatSeveralHaveAsksForAnId() {
        answers.put("GET /api/records", "{\"total\":2,\"records\":[" + PORT + "," + PORT + "]}");
        assertThat(run("timeline", "port of skarvik")).isEqualTo(Trouble.NO);
        assertThat(complained()).contains("give the id of one", ID);
    }

    @Test
    void forProgramsEachObjectIsALine() {
        answers.put("GET /api/records", "{\"total\":2,\"records\":[" + PORT + "," + PORT + "]}");
        assertThat(run("records", "--json")).isZero();
        assertThat(printed().lines()).hasSize(2).allMatch(l -> l.startsWith("{") && l.endsWith("}"));
    }

    @Test
    void theOutboxSaysHowMuchWaits() {
        answers.put(
                "GET /api/outbox",
                "[{\"kind\":\"calendar\",\"waiting\":2,\"failing\":1,\"oldest\":\"2026-05-04T08:00:00Z\"},"
                        + "{\"kind\":\"notice\",\"waiting\":0,\"failing\":0}]");
        assertThat(run("outbox")).isZero();
        assertThat(printed().lines().map(l -> l.strip().replaceAll(" +", " ")))
                .contains("calendar 2 1 2026-05-04 08:00", "notice 0 0");
    }

    /** What is sent, command by command. */
    static Stream<Map.Entry<String, String>> requests() {
        Map<String, String> all = new LinkedHashMap<>();
        for (String act : List.of("look", "pause", "resume", "remind")) {
            String what = act.equals("look") ? "sync" : act;
            all.put(
                    act + " " + ID + " " + ID,
                    "POST /api/connections/acts {\"connections\":[\"" + ID + "\",\"" + ID + "\"],\"act\":\"" + what
                            + "\"}");
        }
        all.put("accept " + ID, "POST /api/connections/" + ID + "/accept {}");
        all.put("disconnect " + ID, "DELETE /api/connections/" + ID + "?forGood=false");
        all.put("disconnect --for-good " + ID, "DELETE /api/connections/" + ID + "?forGood=true");
        all.put("went " + ID + " missed", "PUT /api/meetings/" + ID + "/outcome {\"state\":\"missed\"}");
        all.put("went " + ID + " as-planned", "PUT /api/meetings/" + ID + "/outcome {\"state\":\"\"}");
        all.put("cancel --delete " + ID, "DELETE /api/meetings/" + ID + " {}");
        all.put("bring-back " + ID, "POST /api/conflicts/" + ID + "/bring-back {}");
        all.put("unsubscribe " + ID, "DELETE /api/feeds/" + ID);
        all.put("apply " + ID, "POST /api/rehearsals/" + ID + "/apply {}");
        all.put("undo " + ID, "POST /api/rehearsals/" + ID + "/undo {}");
        all.put("background pause", "POST /api/background/pause {}");
        all.put("background resume", "POST /api/background/resume {}");
        all.put("background", "GET /api/background");
        all.put("whoami", "GET /api/session");
        all.put("servers", "GET /api/servers");
        all.put("connections", "GET /api/connections");
        all.put("coverage", "GET /api/coverage");
        all.put("exclusions", "GET /api/exclusions");
        all.put("exclusions --suggest", "GET /api/exclusions/suggestions");
        all.put("journal verify", "GET /api/journal/verify");
        all.put("policy list", "GET /api/policies");
        all.put("strangers --find holm", "GET /api/triage?find=holm&limit=50");
        all.put("settled", "GET /api/triage/deeds");
        all.put("twins", "GET /api/triage/twins");
        all.put("conflicts", "GET /api/conflicts");
        all.put("subscriptions", "GET /api/feeds");
        all.put("followed", "GET /api/followed");
        all.put("in-step", "GET /api/in-step");
        return all.entrySet().stream();
    }

    @ParameterizedTest
    @MethodSource("requests")
    void aCommandAsksForWhatItSays(Map.Entry<String, String> request) {
        run(Arrays.asList(request.getKey().split(" ", 0)).toArray(String[]::new));
        assertThat(asked).as(complained()).first().isEqualTo(request.getValue());
    }

    @ParameterizedTest
    @CsvSource({
        "show nonsense,is not an id",
        "went " + ID + ",HOW",
        "meet port --title x,say when",
        "decisions --from yesterday,is not a day",
        "connect --person p,--server",
        "pause --team Harbours,give ids",
        "pause --all " + ID + ",give ids",
        "let-pass twelve,twelve"
    })
    void whatIsMissingOrMalformedIsNamedAndNothingIsSent(String line, String said) {
        assertThat(run(line.split(" ", 0))).isEqualTo(Trouble.USE);
        assertThat(complained()).contains(said);
        assertThat(asked).isEmpty();
    }
}
