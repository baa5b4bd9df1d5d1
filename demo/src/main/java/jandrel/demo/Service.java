package jandrel.demo;

import jandrel.api.Problem;
import jandrel.api.SessionApi.Credentials;
import jandrel.api.SessionApi.NewSignIn;
import jandrel.api.SessionApi.PasswordChange;
import jandrel.api.SessionApi.Token;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/** The service, as the demo and the acceptance tests talk to it. */
public final class Service {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private final String base;
    private final HttpClient http = HttpClient.newHttpClient();
    private String token = "";

    public Service(String base) {
        this.base = base;
    }

    public boolean isUp() throws InterruptedException {
        try {
            return send(HttpRequest.newBuilder(URI.create(base + "/api/ops/health"))
                                    .GET())
                            .statusCode()
                    == 200;
        } catch (IOException notYet) {
            return false;
        }
    }

    public void signIn(String login, String password) throws IOException, InterruptedException {
        Token given = post("/api/tokens", new Credentials(login, password, "demo", null), Token.class);
        token = given.token();
    }

    /**
     * A sign-in whose password is the given one; somebody of the company chooses it in place of a first one.
     *
     * @param person their key; null for nobody
     * @return false if it is there already
     */
    public boolean addSignIn(String login, String name, String password, String role, @Nullable String person)
            throws IOException, InterruptedException {
        String first = person == null ? password : "first-" + password;
        if (!add("/api/sign-ins", new NewSignIn(login, name, first, role, person, null))) {
            return false;
        }
        if (person != null) {
            Service own = new Service(base);
            own.signIn(login, first);
            check(own.ask(
                    "PUT", "/api/session/password", JSON.writeValueAsString(new PasswordChange(first, password))));
        }
        return true;
    }

    /** What signs a call in, for callers of their own. */
    public String token() {
        return token;
    }

    /** This service, for whoever has such a token. */
    public Service as(String other) {
        token = other;
        return this;
    }

    public <T> T get(String path, Class<T> type) throws IOException, InterruptedException {
        return read(send(to(path).GET()), type);
    }

    public <T> T put(String path, Object body, Class<T> type) throws IOException, InterruptedException {
        return read(
                send(to(path).header("Content-Type", "application/json")
                        .PUT(HttpRequest.BodyPublishers.ofString(JSON.writeValueAsString(body)))),
                type);
    }

    public <T> T post(String path, Object body, Class<T> type) throws IOException, InterruptedException {
        return read(posted(path, body), type);
    }

    /** @return false if it is there already */
    public boolean add(String path, Object body) throws IOException, InterruptedException {
        HttpResponse<String> answer = posted(path, body);
        if (answer.statusCode() == 409) {
            return false;
        }
        check(answer);
        return true;
    }

    public <T> T postCsv(String path, String file, Class<T> type) throws IOException, InterruptedException {
        return read(
                send(to(path).header("Content-Type", "text/csv").POST(HttpRequest.BodyPublishers.ofString(file))),
                type);
    }

    public void delete(String path) throws IOException, InterruptedException {
        check(send(to(path).DELETE()));
    }

    /**
     * The answer as it is, refused or not.
     *
     * @param body JSON; empty for none
     */
    public HttpResponse<String> ask(String method, String path, String body) throws IOException, InterruptedException {
        HttpRequest.Builder request = to(path).method(
                        method,
                        body.isEmpty()
                                ? HttpRequest.BodyPublishers.noBody()
                                : HttpRequest.BodyPublishers.ofString(body));
        return send(body.isEmpty() ? request : request.header("Content-Type", "application/json"));
    }

    private HttpResponse<String> posted(String path, Object body) throws IOException, InterruptedException {
        return send(to(path).header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(JSON.writeValueAsString(body))));
    }

    private HttpRequest.Builder to(String path) {
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(base + path));
        return token.isEmpty() ? request : request.header("Authorization", "Bearer " + token);
    }

    private HttpResponse<String> send(HttpRequest.Builder request) throws IOException, InterruptedException {
        return http.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    private static <T> T read(HttpResponse<String> answer, Class<T> type) throws IOException {
        check(answer);
        return JSON.readValue(answer.body(), type);
    }

    private static void check(HttpResponse<String> answer) throws IOException {
        if (answer.statusCode() >= 400) {
            @Nullable
            Problem problem = answer.body().startsWith("{") ? JSON.readValue(answer.body(), Problem.class) : null;
            throw new IOException(
                    problem == null ? "status " + answer.statusCode() : problem.title() + ". " + problem.detail());
        }
    }
}
