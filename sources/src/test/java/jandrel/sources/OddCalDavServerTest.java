package jandrel.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpsConfigurator;
import com.sun.net.httpserver.HttpsServer;
import jandrel.demo.Stand;
import jandrel.demo.StandTls;
import jandrel.sources.CalendarServer.Calendar;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Servers that answer otherwise than the one at hand does, and some that lie. */
class OddCalDavServerTest {
    private static final Stand STAND = Stand.fromEnvironment();
    private static final String HOME = "/home/";
    private static HttpsServer server;
    private static Function<String, Answer> answers = body -> new Answer(500, "");
    private static final List<String> ASKED = new CopyOnWriteArrayList<>();

    private record Answer(int status, String body) {
        static Answer multistatus(String... responses) {
            return new Answer(
                    207,
                    "<d:multistatus xmlns:d='DAV:' xmlns:c='urn:ietf:params:xml:ns:caldav'>"
                            + String.join("", responses) + "</d:multistatus>");
        }
    }

    @BeforeAll
    static void open() throws Exception {
        server = HttpsServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.setHttpsConfigurator(new HttpsConfigurator(StandTls.context(STAND)));
        server.createContext("/", OddCalDavServerTest::answer);
        server.start();
    }

    private static void answer(HttpExchange exchange) throws IOException {
        try (exchange) {
            String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
            ASKED.add(exchange.getRequestMethod() + " " + exchange.getRequestURI() + " " + body);
            Answer answer = answers.apply(exchange.getRequestMethod() + " " + exchange.getRequestURI() + " " + body);
            byte[] bytes = answer.body().getBytes(StandardCharsets.UTF_8);
            exchange.sendResponseHeaders(answer.status(), bytes.length == 0 ? -1 : bytes.length);
            exchange.getResponseBody().write(bytes);
        } catch (IOException gone) {
            // the client had enough
        }
    }

    @AfterAll
    static void close() {
        server.stop(0);
    }

    @BeforeEach
    void forget() {
        ASKED.clear();
    }

    private static CalendarServer client(String path) {
        return CalDavServer.open(
                new Endpoint("127.0.0.1", server.getAddress().getPort(), path),
                new ServerAccount("ann", "buoy-and-tide"),
                Trust.with(STAND.dir().resolve("tls/ca.pem")),
                new Inward(List.of("127.0.0.1")));
    }

    private static String object(String href, String tag) {
        return "<d:response><d:href>" + href + "</d:href><d:propstat><d:prop><d:getetag>" + tag
                + "</d:getetag></d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat></d:response>";
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"https://evil.example/dav/", "//evil.example/dav/", "http://127.0.0.1/", "/a b", "@evil.example/"
            })
    void aPathThatLeadsElsewhereTakesThePasswordNowhere(String path) {
        assertThatThrownBy(() -> client(path).calendars())
                .isInstanceOfSatisfying(
                        SourceTrouble.class,
                        t -> assertThat(t.kind()).isIn(SourceTrouble.Kind.REFUSED, SourceTrouble.Kind.BROKEN));
        assertThat(ASKED).allMatch(asked -> asked.contains("evil.example") || asked.isEmpty());
    }

    @Test
    void whatIsNotAllowedIsNotAskedHoweverItIsNamed() {
        CalendarServer elsewhere = CalDavServer.open(
                new Endpoint("localhost", server.getAddress().getPort(), "/"),
                new ServerAccount("ann", "buoy-and-tide"),
                Trust.with(STAND.dir().resolve("tls/ca.pem")),
                new Inward(List.of("127.0.0.1")));
        assertThatThrownBy(() -> elsewhere.put("/home/x.ics", new byte[0], null))
                .isInstanceOf(SourceTrouble.class);
        assertThatThrownBy(elsewhere::calendars).isInstanceOf(SourceTrouble.class);
        assertThat(ASKED).isEmpty();
    }

    @Test
    void aServerThatListsReportsWithoutTheirWrapperIsReadByItsTags() {
        answers = asked -> asked.startsWith("PROPFIND") && asked.contains("calendar-home-set")
                ? Answer.multistatus("<d:response><d:href>/</d:href><d:propstat><d:prop><c:calendar-home-set><d:href>"
                        + HOME + "</d:href></c:calendar-home-set></d:prop></d:propstat></d:response>")
                : asked.contains("current-user-principal")
                        ? Answer.multistatus()
                        : asked.contains("resourcetype") && asked.startsWith("PROPFIND " + HOME + " ")
                                ? Answer.multistatus(
                                        "<d:response><d:href>/home/work/</d:href><d:propstat><d:prop><d:resourcetype>"
                                                + "<d:collection/><c:calendar/></d:resourcetype><d:supported-report-set><d:supported-report>"
                                                + "<d:sync-collection/></d:supported-report></d:supported-report-set></d:prop></d:propstat></d:response>")
                                : Answer.multistatus(object("/home/work/1.ics", "\"a\""));
        CalendarServer client = client("/");
        Calendar calendar = client.calendars().get(0);
        DavChanges first = client.changes(calendar, "");
        assertThat(first.changed()).containsExactly("/home/work/1.ics");
        assertThat(client.changes(calendar, first.token()).changed()).isEmpty();
    }

    @Test
    void aListInPagesIsReadToItsEnd() {
        answers = asked -> {
            int page = asked.contains("page-2") ? 3 : asked.contains("page-1") ? 2 : 1;
            String more = page < 3
                    ? "<d:response><d:href>/home/work/</d:href><d:status>HTTP/1.1 507 Insufficient Storage</d:status></d:response>"
                    : "";
            return Answer.multistatus(
                    object("/home/work/" + page + ".ics", "\"a\""),
                    more,
                    "<d:sync-token>page-" + page + "</d:sync-token>");
        };
        DavChanges all = client("/").changes(new Calendar("/home/work/", "Work", "", true, true), "");
        assertThat(all.changed()).containsExactly("/home/work/1.ics", "/home/work/2.ics", "/home/work/3.ics");
        assertThat(all.token()).isEqualTo("page-3");
        assertThat(all.whole()).isTrue();
    }

    @Test
    void aListWithoutAnEndIsNotFollowed() {
        answers = asked -> Answer.multistatus(
                "<d:response><d:href>/home/work/</d:href><d:status>HTTP/1.1 507 Insufficient Storage</d:status></d:response>",
                "<d:sync-token>same</d:sync-token>");
        assertThatThrownBy(() -> client("/").changes(new Calendar("/home/work/", "Work", "", true, true), ""))
                .isInstanceOf(SourceTrouble.class);
        assertThat(ASKED).hasSizeLessThan(5);
    }

    @Test
    void aServerThatForgetsEachPageIsNotAskedForEver() {
        answers = asked -> asked.contains("page-1")
                ? new Answer(403, "")
                : Answer.multistatus(
                        "<d:response><d:href>/home/work/</d:href><d:status>HTTP/1.1 507 Insufficient Storage</d:status></d:response>",
                        "<d:sync-token>page-1</d:sync-token>");
        assertThatThrownBy(() -> client("/").changes(new Calendar("/home/work/", "Work", "", true, true), ""))
                .isInstanceOf(SourceTrouble.class);
        assertThat(ASKED).hasSizeLessThan(5);
    }

    @ParameterizedTest
    @ValueSource(ints = {412, 409, 403, 500})
    void whatBecameOfAWriteMayStandInsideTheAnswer(int inner) {
        answers = asked -> Answer.multistatus("<d:response><d:href>/home/work/1.ics</d:href><d:status>HTTP/1.1 " + inner
                + " No</d:status><d:error><c:no-uid-conflict/></d:error></d:response>");
        CalendarServer client = client("/");
        if (inner == 412) {
            assertThat(client.put("/home/work/1.ics", new byte[0], null)).isFalse();
        } else {
            assertThatThrownBy(() -> client.put("/home/work/1.ics", new byte[0], null))
                    .isInstanceOf(SourceTrouble.class);
        }
    }

    @Test
    void objectsThatAreTooLargeTogetherAreReadApartAndOneThatIsTooLargeIsNamed() {
        String large = "x".repeat(7_000_000);
        answers = asked -> Answer.multistatus(IntStream.range(0, 4)
                .filter(i -> asked.contains("/home/work/" + i + ".ics"))
                .mapToObj(i ->
                        "<d:response><d:href>/home/work/" + i + ".ics</d:href><d:propstat><d:prop><c:calendar-data>"
                                + (i == 3 ? large + large + large : i == 2 ? "small" : large)
                                + "</c:calendar-data></d:prop></d:propstat></d:response>")
                .collect(Collectors.joining()));
        List<String> hrefs = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            hrefs.add("/home/work/" + i + ".ics");
        }
        List<DavObject> objects = client("/").objects("/home/work/", hrefs);
        assertThat(objects).extracting(DavObject::href).containsExactlyInAnyOrderElementsOf(hrefs);
        assertThat(objects).filteredOn(o -> o.href().endsWith("2.ics")).allMatch(o -> o.bytes().length == 5);
    }
}
