package jandrel.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.demo.ServiceProcess;
import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The console's session, as a browser has it: a cookie that signs in, and one whose value goes back in a header. */
@ExtendWith(Harbour.Shared.class)
class SessionTest {
    private static final String TOKEN = "XSRF-TOKEN";
    private final CookieManager cookies = new CookieManager();
    private final HttpClient browser =
            HttpClient.newBuilder().cookieHandler(cookies).build();

    private HttpRequest.Builder to(Harbour h, String path) {
        return HttpRequest.newBuilder(URI.create(h.process.url() + path)).header("Content-Type", "application/json");
    }

    private HttpResponse<String> send(HttpRequest.Builder request) throws IOException, InterruptedException {
        return browser.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    private String token() {
        return cookies.getCookieStore().getCookies().stream()
                .filter(c -> c.getName().equals(TOKEN))
                .map(HttpCookie::getValue)
                .findFirst()
                .orElse("");
    }

    private HttpResponse<String> signIn(Harbour h) throws IOException, InterruptedException {
        String body = "{\"login\":\"admin\",\"password\":\"" + ServiceProcess.ADMIN_PASSWORD + "\"}";
        return send(
                to(h, "/api/session").header("X-" + TOKEN, token()).POST(HttpRequest.BodyPublishers.ofString(body)));
    }

    /** Any address that a person may type is the console’s; a program is told what there is not. */
    @Test
    void pagesAreTheConsolesAndCallsAreNot(Harbour h) throws Exception {
        for (String page : List.of("/", "/overview", "/timeline/x", "/no-such-page", "/no/such/page", "/apis")) {
            assertThat(send(to(h, page)).body()).as(page).contains("<div id=\"app\">");
        }
        for (String none : List.of("/api/none", "/scim/none", "/assets/none.js", "/none.js", "/api", "/assets")) {
            assertThat(send(to(h, none))).as(none).satisfies(answer -> {
                assertThat(answer.statusCode()).isIn(401, 404);
                assertThat(answer.body()).doesNotContain("<div");
            });
        }
    }

    @Test
    void whatProvesThatACallComesFromTheConsoleIsNewWithTheSignInAndStaysThen(Harbour h) throws Exception {
        assertThat(send(to(h, "/api/session")).statusCode()).isEqualTo(401);
        String before = token();
        assertThat(before).isNotEmpty();
        assertThat(signIn(h).statusCode()).isEqualTo(200);
        String after = token();
        assertThat(after).isNotEmpty().isNotEqualTo(before);
        List<CompletableFuture<HttpResponse<String>>> beside = IntStream.range(0, 20)
                .mapToObj(i -> browser.sendAsync(to(h, "/api/session").build(), HttpResponse.BodyHandlers.ofString()))
                .toList();
        assertThat(beside).allSatisfy(answer -> {
            assertThat(answer.get().statusCode()).isEqualTo(200);
            assertThat(answer.get().headers().allValues("Set-Cookie")).isEmpty();
        });
        assertThat(send(to(h, "/api/session").header("X-" + TOKEN, after).DELETE())
                        .statusCode())
                .isEqualTo(204);
        assertThat(send(to(h, "/api/session")).statusCode()).isEqualTo(401);
    }

    @Test
    void aCallThatAnotherSiteCouldMakeIsRefused(Harbour h) throws Exception {
        send(to(h, "/api/session"));
        signIn(h);
        HttpResponse<String> without = send(to(h, "/api/session").DELETE());
        assertThat(without.statusCode()).isEqualTo(403);
        assertThat(without.body()).contains("does not prove that it comes from the console");
        assertThat(send(to(h, "/api/session").header("X-" + TOKEN, "made-up").DELETE())
                        .statusCode())
                .isEqualTo(403);
        assertThat(send(to(h, "/api/session")).statusCode()).isEqualTo(200);
    }

    private HttpResponse<String> token(Harbour h, String body) throws IOException, InterruptedException {
        return send(to(h, "/api/tokens").POST(HttpRequest.BodyPublishers.ofString(body)));
    }

    @Test
    void whatIsMissingOrTooLargeIsNamed(Harbour h) throws Exception {
        assertThat(token(h, "{\"login\":\"admin\"}"))
                .matches(a -> a.statusCode() == 400)
                .matches(a -> a.body().contains("is missing “password”"));
        assertThat(token(h, "{\"login\":{},\"password\":\"x\"}"))
                .matches(a -> a.statusCode() == 400)
                .matches(a -> a.body().contains("“login”"));
        assertThat(token(h, "{\"login").statusCode()).isEqualTo(400);
        String large = "{\"login\":\"" + "a".repeat(70_000) + "\",\"password\":\"x\"}";
        assertThat(token(h, large))
                .matches(a -> a.statusCode() == 413)
                .matches(a -> a.body().contains("64 KB"));
        HttpResponse<String> inPieces = send(to(h, "/api/tokens")
                .POST(HttpRequest.BodyPublishers.fromPublisher(HttpRequest.BodyPublishers.ofString(large))));
        assertThat(inPieces.statusCode()).isEqualTo(413);
        assertThat(h.admin
                        .ask("POST", "/api/servers", "{\"name\":\"x\",\"kind\":\"imap\",\"port\":993}")
                        .body())
                .contains("“host”");
    }

    @Test
    void manyGuessesAtOnceAreNoMoreThanOneAfterTheOther(Harbour h) throws Exception {
        h.person("guessed", "rep");
        String wrong = "{\"login\":\"guessed\",\"password\":\"not this one\"}";
        List<CompletableFuture<HttpResponse<String>>> beside = IntStream.range(0, 20)
                .mapToObj(i -> browser.sendAsync(
                        to(h, "/api/tokens")
                                .POST(HttpRequest.BodyPublishers.ofString(wrong))
                                .build(),
                        HttpResponse.BodyHandlers.ofString()))
                .toList();
        int looked = 0;
        for (CompletableFuture<HttpResponse<String>> answer : beside) {
            looked += answer.get().statusCode() == 401 ? 1 : 0;
        }
        assertThat(looked).isEqualTo(5);
    }

    @Test
    void aPersonHasOneSignInAndTheJournalNamesThem(Harbour h) throws Exception {
        h.person("single", "rep");
        var again = h.admin.ask(
                "POST",
                "/api/sign-ins",
                "{\"login\":\"unseen\",\"name\":\"Unseen\",\"password\":\"buoys-and-tides-26\",\"role\":\"rep\",\"person\":\"single\"}");
        assertThat(again.statusCode()).isEqualTo(409);
        assertThat(again.body()).contains("already has a sign-in");
        assertThat(h.admin.ask("GET", "/api/journal?limit=100", "").body()).contains("single Person single");
    }
}
