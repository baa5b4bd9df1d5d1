package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.MeetingApi.FeedInfo;
import jandrel.api.MeetingApi.NewFeed;
import jandrel.api.SessionApi.ChosenPassword;
import jandrel.api.SessionApi.Credentials;
import jandrel.api.SessionApi.InvitePeople;
import jandrel.api.SessionApi.Invited;
import jandrel.api.SessionApi.NewSignIn;
import jandrel.api.SessionApi.NewToken;
import jandrel.api.SessionApi.PasswordChange;
import jandrel.api.SessionApi.SessionInfo;
import jandrel.api.SessionApi.SignInInfo;
import jandrel.api.SessionApi.SignInLink;
import jandrel.api.SessionApi.Token;
import jandrel.api.SessionApi.Whoami;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How people come to a sign-in, keep it, and lose it. */
@Tag("alone")
class SignInsTest {
    private static final String PASSWORD = Providers.PASSWORD;
    private static final String PROXIES = "127.0.7.0/28, 127.0.8.1";
    private static MailSink mail;
    private static Harbour h;

    @BeforeAll
    static void open() throws Exception {
        mail = new MailSink();
        Map<String, String> settings = new HashMap<>(mail.settings());
        settings.put("JANDREL_PROXIES", PROXIES);
        h = Harbour.open("sign_ins", settings);
    }

    @AfterAll
    static void close() {
        h.close();
        mail.close();
    }

    /** Somebody of the company, without a sign-in. */
    private static String person(String key) throws Exception {
        String address = key + "@corvane.example";
        h.csv("people", "key,name,addresses\n" + key + ",Person " + key + "," + address);
        return address;
    }

    private static Invited invite(String key) throws Exception {
        return h.admin.post("/api/sign-ins/invite", new InvitePeople(List.of(key), null), Invited[].class)[0];
    }

    private static SignInInfo signIn(String login) throws Exception {
        return Arrays.stream(h.admin.get("/api/sign-ins", SignInInfo[].class))
                .filter(s -> s.login().equals(login))
                .findFirst()
                .orElseThrow();
    }

    private static HttpResponse<String> call(Service who, String method, String path, Object body) throws Exception {
        return Calls.call(h.process.url(), who.token(), method, path, body);
    }

    private static int choose(String link, String password) throws Exception {
        return call(nobody(), "PUT", "/api/session/link", new ChosenPassword(link, password, null))
                .statusCode();
    }

    private static Service nobody() {
        return new Service(h.process.url());
    }

    @Test
    void whoIsInvitedChoosesAPasswordOnceAndNobodyElseKnowsIt() throws Exception {
        String address = person("si-ida");
        assertThat(invite("si-ida").problem()).isEmpty();
        assertThat(invite("si-ida").problem()).isEqualTo("has a sign-in");
        assertThat(signIn(address).state()).isEqualTo("invited");
        String link = mail.link(address, 1);
        assertThat(call(nobody(), "POST", "/api/session/link", new SignInLink(link))
                        .body())
                .contains(address, "invitation");
        HttpResponse<String> weak =
                call(nobody(), "PUT", "/api/session/link", new ChosenPassword(link, "person-si-ida", null));
        assertThat(weak.statusCode()).isEqualTo(400);
        assertThat(weak.body()).contains("too easy to guess");
        assertThat(choose(link, PASSWORD)).isEqualTo(200);
        assertThat(choose(link, "another " + PASSWORD)).as("a second time").isEqualTo(410);
        assertThat(h.process
                        .signedIn(address, PASSWORD)
                        .get("/api/session", Whoami.class)
                        .role())
                .isEqualTo("rep");
        assertThat(signIn(address).state()).isEqualTo("active");
        String journal = h.admin.ask("GET", "/api/journal?kind=sign-in", "").body();
        assertThat(journal).contains("invited", "claimed").doesNotContain(link);
    }

    @Test
    void anInvitationIsSentAgainAndWithdrawn() throws Exception {
        String address = person("si-again");
        invite("si-again");
        String first = mail.link(address, 1);
        UUID id = signIn(address).id();
        assertThat(h.admin.ask("POST", "/api/sign-ins/" + id + "/invite", "").statusCode())
                .isEqualTo(204);
        String second = mail.link(address, 2);
        assertThat(choose(first, PASSWORD)).as("the one before").isEqualTo(410);
        h.admin.delete("/api/sign-ins/" + id + "/invitation");
        assertThat(choose(second, PASSWORD)).as("withdrawn").isEqualTo(410);
        assertThat(signIn(address).invitedUntil()).isNull();
        h.process.run("UPDATE sign_in_link SET expires_at = now() - interval '1 second'");
        assertThat(h.admin.ask("POST", "/api/sign-ins/" + id + "/invite", "").statusCode())
                .isEqualTo(204);
        String third = mail.link(address, 3);
        h.process.run("UPDATE sign_in_link SET expires_at = now() - interval '1 second'");
        assertThat(choose(third, PASSWORD)).as("after seven days").isEqualTo(410);
    }

    @ParameterizedTest(name = "by {0}: {1}")
    @CsvSource({
        // what others wrote before the proxy's own word is anybody's
        "127.0.7.3, '203.0.113.9', 203.0.113.9",
        "127.0.7.3, '198.51.100.1, 203.0.113.9', 203.0.113.9",
        "127.0.7.3, '203.0.113.9, 127.0.8.1', 203.0.113.9",
        "127.0.8.1, '2001:db8::9', 2001:db8::9",
        "127.0.7.16, '203.0.113.9', 127.0.7.16",
        "127.0.0.1, '203.0.113.9', 127.0.0.1",
    })
    void onlyANamedProxySaysFromWhereSomebodyComes(String proxy, String says, String place) throws Exception {
        String body = Client.json(new Credentials("admin", ServiceProcess.ADMIN_PASSWORD, "by " + proxy, null));
        URI at = URI.create(h.process.url());
        try (Socket socket = new Socket()) {
            socket.bind(new InetSocketAddress(proxy, 0));
            socket.connect(new InetSocketAddress(at.getHost(), at.getPort()));
            socket.getOutputStream()
                    .write(("POST /api/tokens HTTP/1.1\r\nHost: " + at.getAuthority() + "\r\nX-Forwarded-For: " + says
                                    + "\r\nX-Forwarded-Host: evil.example\r\nX-Forwarded-Proto: https\r\n"
                                    + "Content-Type: application/json\r\nConnection: close\r\nContent-Length: "
                                    + body.length() + "\r\n\r\n" + body)
                            .getBytes(StandardCharsets.UTF_8));
            assertThat(new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8))
                    .startsWith("HTTP/1.1 200");
        }
        assertThat(h.admin.get("/api/session/tokens", SessionInfo[].class))
                .filteredOn(s -> s.label().equals("by " + proxy))
                .extracting(SessionInfo::place)
                .contains(place);
    }

    @Test
    void nobodyIsWrittenToWithoutEnd() throws Exception {
        String address = person("si-often");
        invite("si-often");
        String path = "/api/sign-ins/" + signIn(address).id() + "/invite";
        for (int n = 0; n < 10; n++) {
            assertThat(call(h.admin, "POST", path, Map.of()).statusCode()).isEqualTo(204);
        }
        assertThat(call(h.admin, "POST", path, Map.of()).body())
                .contains("So many letters went to them today that no more do");
    }

    @Test
    void whatLetsSomebodyInStandsNowhereAsItIs() throws Exception {
        h.process.run("CREATE TABLE IF NOT EXISTS seen AS SELECT payload FROM outbox WHERE false");
        h.process.run("CREATE OR REPLACE FUNCTION keep() RETURNS trigger LANGUAGE plpgsql AS"
                + " 'BEGIN INSERT INTO seen VALUES (NEW.payload); RETURN NEW; END'");
        h.process.run("CREATE OR REPLACE TRIGGER keep AFTER INSERT ON outbox FOR EACH ROW EXECUTE FUNCTION keep()");
        String address = person("si-sealed");
        invite("si-sealed");
        String link = mail.link(address, 1);
        assertThat(h.process.count("SELECT count(*) FROM seen WHERE payload LIKE '%si-sealed%'"))
                .isOne();
        assertThat(h.process.count("SELECT count(*) FROM seen WHERE payload LIKE '%" + link + "%'"))
                .isZero();
        h.process.run("DROP TRIGGER keep ON outbox");
        assertThat(h.process.service.log()).doesNotContain(link);
    }

    @Test
    void aForgottenPasswordIsSetAnewByMailAndEveryOtherSessionEnds() throws Exception {
        String address = h.person("si-forgot", "rep");
        Service before = h.process.signedIn("si-forgot", PASSWORD);
        HttpResponse<String> unknown = call(nobody(), "POST", "/api/session/forgotten", Map.of("login", "nobody-here"));
        HttpResponse<String> known = call(nobody(), "POST", "/api/session/forgotten", Map.of("login", "si-forgot"));
        assertThat(List.of(unknown.statusCode(), known.statusCode())).containsExactly(202, 202);
        assertThat(known.body()).isEqualTo(unknown.body());
        soon().until(() -> mail.to(address).stream().anyMatch(l -> l.subject().contains("new password")));
        call(nobody(), "POST", "/api/session/forgotten", Map.of("login", "si-forgot"));
        String link = mail.to(address).stream()
                .filter(l -> l.subject().contains("new password"))
                .findFirst()
                .orElseThrow()
                .link();
        assertThat(choose(link, "lantern " + PASSWORD)).isEqualTo(200);
        assertThat(before.ask("GET", "/api/session", "").statusCode()).isEqualTo(401);
        assertThat(h.process.signedIn("si-forgot", "lantern " + PASSWORD).token())
                .isNotEmpty();
        soon().until(() -> letters(address, "was changed") == 2);
        assertThat(letters(address, "set a new password"))
                .as("one letter, however often it was asked for")
                .isOne();
    }

    private static long letters(String address, String subject) {
        return mail.to(address).stream()
                .filter(l -> l.subject().contains(subject))
                .count();
    }

    @Test
    void aFirstPasswordThatSomebodyElseGaveIsGoodForChoosingOnesOwnAlone() throws Exception {
        person("si-first");
        h.admin.post(
                "/api/sign-ins",
                new NewSignIn("si-first", "First", "first-" + PASSWORD, "manager", "si-first", null),
                SignInInfo.class);
        Service first = h.process.signedIn("si-first", "first-" + PASSWORD);
        assertThat(first.get("/api/session", Whoami.class).choosePassword()).isTrue();
        for (String path : List.of("/api/records", "/api/decisions", "/api/sign-ins", "/api/session/tokens")) {
            assertThat(first.ask("GET", path, "").statusCode()).as(path).isEqualTo(403);
        }
        Service other = h.process.signedIn("si-first", "first-" + PASSWORD);
        PasswordChange change = new PasswordChange("first-" + PASSWORD, PASSWORD);
        assertThat(call(first, "PUT", "/api/session/password", new PasswordChange("wrong", PASSWORD))
                        .statusCode())
                .isEqualTo(400);
        assertThat(call(first, "PUT", "/api/session/password", change).statusCode())
                .isEqualTo(204);
        assertThat(first.ask("GET", "/api/records", "").statusCode()).isEqualTo(200);
        assertThat(other.ask("GET", "/api/session", "").statusCode())
                .as("every other session ends")
                .isEqualTo(401);
    }

    @Test
    void theLastAdministratorStays() throws Exception {
        UUID id = signIn("admin").id();
        assertThat(call(h.admin, "POST", "/api/sign-ins/" + id + "/end", Map.of())
                        .statusCode())
                .isEqualTo(409);
        assertThat(call(h.admin, "PUT", "/api/sign-ins/" + id + "/role", Map.of("role", "rep"))
                        .statusCode())
                .isEqualTo(409);
    }

    /** An unknown login is answered as a known one is, however often; a known device is not shut out by what others guess. */
    @Test
    void guessingTellsNothingAndShutsNobodyOutWhoHasSignedInBefore() throws Exception {
        h.person("si-target", "rep");
        Token device = nobody().post("/api/tokens", new Credentials("si-target", PASSWORD, "mine", null), Token.class);
        List<String> known = new ArrayList<>();
        List<String> unknown = new ArrayList<>();
        for (int i = 0; i < 7; i++) {
            known.add(guessed("si-target"));
            unknown.add(guessed("si-nobody"));
        }
        assertThat(known).isEqualTo(unknown).last().asString().startsWith("429");
        assertThat(call(nobody(), "POST", "/api/tokens", new Credentials("si-target", PASSWORD, "", null))
                        .statusCode())
                .as("from anywhere else")
                .isEqualTo(429);
        Credentials from = new Credentials("si-target", PASSWORD, "", device.device());
        assertThat(call(nobody(), "POST", "/api/tokens", from).statusCode()).isEqualTo(200);
        for (int i = 0; i < 5; i++) {
            call(nobody(), "POST", "/api/tokens", new Credentials("si-target", "wrong", "", device.device()));
        }
        assertThat(call(nobody(), "POST", "/api/tokens", from).statusCode())
                .as("a device that guesses is as good as unknown")
                .isEqualTo(429);
    }

    /** Nor does it help to hold somebody's session. */
    @Test
    void theCurrentPasswordIsNotGuessedByAskingForAnother() throws Exception {
        h.person("si-held", "rep");
        Service held = h.process.signedIn("si-held", PASSWORD);
        List<Integer> answers = new ArrayList<>();
        for (int i = 0; i < 7; i++) {
            answers.add(
                    call(held, "PUT", "/api/session/password", new PasswordChange("wrong " + i, "lantern " + PASSWORD))
                            .statusCode());
        }
        assertThat(answers).containsExactly(400, 400, 400, 400, 400, 429, 429);
        assertThat(held.ask("GET", "/api/session", "").statusCode()).isEqualTo(200);
    }

    private static String guessed(String login) throws Exception {
        HttpResponse<String> answer = call(nobody(), "POST", "/api/tokens", new Credentials(login, "wrong", "", null));
        return answer.statusCode() + answer.body().replaceAll("\\d+", "").replace(login, "");
    }

    /** Each way in, at two nodes, before and after. */
    @Test
    void whoLeavesHasNoWayInLeftAtAnyNode() throws Exception {
        String address = h.person("si-leaver", "rep");
        h.connectMail("si-leaver");
        ServiceProcess second = h.process.node();
        try {
            List<String> nodes = List.of(h.process.url(), second.url());
            Service session = h.process.signedIn("si-leaver", PASSWORD);
            UUID account = h.account("sileaver");
            String feed = session.post("/api/feeds", new NewFeed("record", account), FeedInfo.class)
                    .address();
            Token made = session.post("/api/session/tokens", new NewToken("mine", 30, List.of("read")), Token.class);
            Token device = nobody().post("/api/tokens", new Credentials("si-leaver", PASSWORD, "", null), Token.class);
            String cookie = Calls.cookie(h.process.url(), "si-leaver", PASSWORD);
            Map<String, Way> ways = new LinkedHashMap<>();
            ways.put(
                    "token",
                    node -> Calls.call(node, session.token(), "GET", "/api/session", "")
                            .statusCode());
            ways.put(
                    "made token",
                    node -> Calls.call(node, made.token(), "GET", "/api/records", "")
                            .statusCode());
            ways.put("cookie", node -> Calls.withCookie(node, cookie, "/api/session"));
            ways.put(
                    "feed",
                    node -> Calls.call(node, "", "GET", URI.create(feed).getPath(), "")
                            .statusCode());
            ways.put(
                    "password",
                    node -> Calls.call(
                                    node, "", "POST", "/api/tokens", new Credentials("si-leaver", PASSWORD, "", null))
                            .statusCode());
            ways.put(
                    "password from a known device",
                    node -> Calls.call(
                                    node,
                                    "",
                                    "POST",
                                    "/api/tokens",
                                    new Credentials("si-leaver", PASSWORD, "", device.device()))
                            .statusCode());
            ways.put(
                    "new token",
                    node -> Calls.call(
                                    node,
                                    session.token(),
                                    "POST",
                                    "/api/session/tokens",
                                    new NewToken("n", 1, List.of("read")))
                            .statusCode());
            check(ways, nodes, true);
            call(nobody(), "POST", "/api/session/forgotten", Map.of("login", "si-leaver"));
            soon().until(() ->
                    mail.to(address).stream().anyMatch(l -> l.subject().contains("new password")));
            String reset = mail.to(address).stream()
                    .filter(l -> l.subject().contains("new password"))
                    .findFirst()
                    .orElseThrow()
                    .link();
            soon().until(() -> h.process.count(
                            "SELECT count(*) FROM connection WHERE account = '" + address + "' AND state = 'capturing'")
                    == 1);
            try (ListeningPage first = new ListeningPage(nodes.get(0), session.token());
                    ListeningPage other = new ListeningPage(nodes.get(1), session.token())) {
                // as their directory says it
                UUID person = signIn("si-leaver").person();
                assertThat(h.admin.ask("DELETE", "/scim/v2/Users/" + person, "").statusCode())
                        .isEqualTo(204);
                check(ways, nodes, false);
                Awaitility.await()
                        .atMost(Duration.ofSeconds(1))
                        .pollInterval(Duration.ofMillis(20))
                        .until(() -> first.hasEnded() && other.hasEnded());
            }
            assertThat(choose(reset, PASSWORD)).as("by mail").isEqualTo(410);
            assertThat(signIn("si-leaver").state()).isEqualTo("ended");
            assertThat(h.process.count(
                            "SELECT count(*) FROM connection WHERE account = '" + address + "' AND state = 'paused'"))
                    .isOne();
            assertThat(h.process.count(
                            "SELECT count(*) FROM person WHERE key = 'si-leaver' AND cover_until = current_date"))
                    .isOne();
            assertThat(invite("si-leaver").problem()).as("back again").isEmpty();
            soon().until(() -> letters(address, "Your sign-in") == 1);
            String back = mail.to(address).stream()
                    .filter(l -> l.subject().contains("Your sign-in"))
                    .findFirst()
                    .orElseThrow()
                    .link();
            assertThat(choose(back, "lantern " + PASSWORD)).isEqualTo(200);
            check(ways, nodes, false);
        } finally {
            second.close();
        }
    }

    private interface Way {
        int ask(String node) throws Exception;
    }

    private static void check(Map<String, Way> ways, List<String> nodes, boolean opens) throws Exception {
        for (Map.Entry<String, Way> way : ways.entrySet()) {
            for (String node : nodes) {
                assertThat(way.getValue().ask(node) < 300)
                        .as(way.getKey() + " at " + node)
                        .isEqualTo(opens);
            }
        }
    }
}
