package jandrel.acceptance;

import jandrel.api.SessionApi.Credentials;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.stream.Collectors;

/** Single calls, as anybody could make them. */
final class Calls {
    private static final HttpClient HTTP = HttpClient.newHttpClient();

    private Calls() {}

    /**
     * @param token empty for none
     * @param body sent as JSON; an empty text for none
     */
    static HttpResponse<String> call(String node, String token, String method, String path, Object body)
            throws IOException, InterruptedException {
        boolean bare = body.equals("");
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(node + path))
                .method(
                        method,
                        bare
                                ? HttpRequest.BodyPublishers.noBody()
                                : HttpRequest.BodyPublishers.ofString(Client.json(body)));
        if (!bare) {
            request.header("Content-Type", "application/json");
            // what a page of the console would prove by: anybody has one for their own
            request.header("X-XSRF-TOKEN", "own").header("Cookie", "XSRF-TOKEN=own");
        }
        if (!token.isEmpty()) {
            request.header("Authorization", "Bearer " + token);
        }
        return HTTP.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    /** What signs the console in. */
    static String cookie(String node, String login, String password) throws IOException, InterruptedException {
        return call(node, "", "POST", "/api/session", new Credentials(login, password, null, null))
                .headers()
                .allValues("Set-Cookie")
                .stream()
                .filter(c -> c.startsWith("jandrel_session="))
                .map(c -> c.substring(0, c.indexOf(';')))
                .collect(Collectors.joining());
    }

    static int withCookie(String node, String cookie, String path) throws IOException, InterruptedException {
        return HTTP.send(
                        HttpRequest.newBuilder(URI.create(node + path))
                                .header("Cookie", cookie)
                                .build(),
                        HttpResponse.BodyHandlers.discarding())
                .statusCode();
    }
}
