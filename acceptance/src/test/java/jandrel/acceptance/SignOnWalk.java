package jandrel.acceptance;

import jandrel.demo.Providers;
import jandrel.demo.Stand;
import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A browser's way to a provider and back, each step seen. */
final class SignOnWalk {
    private static final Pattern CSRF = Pattern.compile("name=\"_csrf\"[^>]*value=\"([^\"]+)\"");
    private final String service;
    private final CookieManager cookies = new CookieManager();
    private final HttpClient http;
    private URI answer = URI.create("about:blank");

    SignOnWalk(Stand stand, String service) throws Exception {
        this.service = service;
        this.http = HttpClient.newBuilder()
                .sslContext(stand.http().sslContext())
                .version(HttpClient.Version.HTTP_1_1)
                .cookieHandler(cookies)
                .followRedirects(HttpClient.Redirect.NEVER)
                .build();
    }

    HttpResponse<String> get(String address) throws IOException, InterruptedException {
        return http.send(HttpRequest.newBuilder(URI.create(address)).build(), HttpResponse.BodyHandlers.ofString());
    }

    private HttpResponse<String> signIn(HttpResponse<String> form, String login) throws Exception {
        Matcher csrf = CSRF.matcher(form.body());
        String body = "username=" + encoded(login) + "&password=" + encoded(Providers.PASSWORD)
                + (csrf.find() ? "&_csrf=" + encoded(csrf.group(1)) : "");
        return http.send(
                HttpRequest.newBuilder(form.uri())
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString(body))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    /**
     * @param query of the first address; begins with a question mark, or is empty
     * @return the console's page where it ends
     */
    String to(String provider, String query, String login) throws Exception {
        HttpResponse<String> now = get(service + "/api/session/providers/" + provider + "/start" + query);
        for (int steps = 0; steps < 12; steps++) {
            if (now.statusCode() == 200 && now.uri().getPath().equals("/login")) {
                now = signIn(now, login);
            }
            String location = now.headers()
                    .firstValue("Location")
                    .orElseThrow(() -> new IllegalStateException("the way ends within"));
            URI next = now.uri().resolve(location);
            if (next.toString().startsWith(service) && !next.getPath().startsWith("/api/")) {
                return next.toString().substring(service.length());
            }
            if (next.getPath().equals("/api/session/provider")) {
                answer = next;
            }
            now = get(next.toString());
        }
        throw new IllegalStateException("the way has no end");
    }

    /** Where the provider sent its last answer. */
    String answer() {
        return answer.toString();
    }

    /** What the service keeps here under this name; empty for nothing. */
    String cookie(String name) {
        return cookies.getCookieStore().getCookies().stream()
                .filter(c -> c.getName().equals(name))
                .map(HttpCookie::getValue)
                .findFirst()
                .orElse("");
    }

    void keep(String name, String value) {
        HttpCookie cookie = new HttpCookie(name, value);
        cookie.setPath("/");
        cookie.setVersion(0);
        cookies.getCookieStore().add(URI.create(service), cookie);
    }

    /** @return 200 with the session that the walk opened */
    int whoami() throws Exception {
        return get(service + "/api/session").statusCode();
    }
}
