package jandrel.client;

import jandrel.api.DirectoryApi.LineProblem;
import jandrel.api.Problem;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.HttpURLConnection;
import java.net.URI;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/** Asks the service. HttpURLConnection, as it starts in a third of the time of the newer client. */
final class Http {
    static final JsonMapper JSON = JsonMapper.builder().build();
    private static final int SHOWN_PROBLEMS = 20;
    private final String url;
    private final String token;

    Http(Home.SignIn signIn) {
        this.url = signIn.url().replaceAll("/+$", "");
        this.token = signIn.token();
    }

    <T> T get(String path, Map<String, String> query, Class<T> type) {
        return JSON.readValue(send("GET", path + query(query), null, ""), type);
    }

    void copy(String path, Map<String, String> query, OutputStream to) throws IOException {
        // a piece at a time, whatever its length
        send("GET", path + query(query), null, "", in -> in.transferTo(to));
    }

    <T> T send(String method, String path, Object body, Class<T> type) {
        return JSON.readValue(send(method, path, JSON.writeValueAsBytes(body), "application/json"), type);
    }

    /** Whose answer is empty. */
    void tell(String method, String path, Object body) {
        send(method, path, JSON.writeValueAsBytes(body), "application/json");
    }

    void send(String method, String path) {
        send(method, path, method.equals("POST") ? new byte[0] : null, "application/json");
    }

    <T> T sendCsv(String path, byte[] file, Class<T> type) {
        return JSON.readValue(send("POST", path, file, "text/csv"), type);
    }

    <T> T sendBytes(String path, byte[] file, Class<T> type) {
        return JSON.readValue(send("POST", path, file, "application/octet-stream"), type);
    }

    private byte[] send(String method, String path, byte @Nullable [] body, String contentType) {
        ByteArrayOutputStream answer = new ByteArrayOutputStream();
        send(method, path, body, contentType, in -> in.transferTo(answer));
        return answer.toByteArray();
    }

    private interface Taker {
        long take(InputStream answer) throws IOException;
    }

    private void send(String method, String path, byte @Nullable [] body, String contentType, Taker taker) {
        try {
            HttpURLConnection connection =
                    (HttpURLConnection) URI.create(url + path).toURL().openConnection();
            connection.setRequestMethod(method);
            connection.setConnectTimeout(10_000);
            connection.setReadTimeout(120_000);
            connection.setInstanceFollowRedirects(false);
            if (!token.isEmpty()) {
                connection.setRequestProperty("Authorization", "Bearer " + token);
            }
            if (body != null) {
                connection.setDoOutput(true);
                connection.setRequestProperty("Content-Type", contentType);
                try (OutputStream out = connection.getOutputStream()) {
                    out.write(body);
                }
            }
            int status = connection.getResponseCode();
            if (status >= 400) {
                throw refusal(status, read(connection.getErrorStream()));
            }
            try (InputStream answer = connection.getInputStream()) {
                taker.take(answer);
            }
        } catch (IOException | IllegalArgumentException unreachable) {
            throw new Trouble(
                    Trouble.REACH,
                    "the service at " + url + " cannot be reached; is it running, and is the address right?");
        }
    }

    private static byte[] read(@Nullable InputStream in) throws IOException {
        if (in == null) {
            return new byte[0];
        }
        try (in) {
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            in.transferTo(out);
            return out.toByteArray();
        }
    }

    private static Trouble refusal(int status, byte[] answer) {
        int code = status == 401 || status == 403 || status >= 500
                ? Trouble.REACH
                : status == 400 ? Trouble.USE : Trouble.NO;
        try {
            Problem problem = JSON.readValue(answer, Problem.class);
            StringBuilder said =
                    new StringBuilder().append(problem.title()).append(". ").append(problem.detail());
            List<LineProblem> lines = problem.problems() == null ? List.of() : problem.problems();
            lines.stream()
                    .limit(SHOWN_PROBLEMS)
                    .forEach(p -> said.append("\n  ").append(where(p)).append(p.reason()));
            if (lines.size() > SHOWN_PROBLEMS) {
                said.append("\n  and ").append(lines.size() - SHOWN_PROBLEMS).append(" more");
            }
            return new Trouble(code, said.toString());
        } catch (JacksonException noProblem) {
            return new Trouble(code, "the service answered with status " + status + "; is it a Jandrel service?");
        }
    }

    /** Of what is in no file, there is no line. */
    private static String where(LineProblem p) {
        String where = Stream.of(p.line() == 0 ? "" : "line " + p.line(), p.column())
                .filter(part -> !part.isEmpty())
                .collect(Collectors.joining(", "));
        return where.isEmpty() ? "" : where + ": ";
    }

    private static String query(Map<String, String> query) {
        StringBuilder text = new StringBuilder();
        query.forEach((name, value) -> {
            if (!value.isEmpty()) {
                text.append(text.isEmpty() ? "?" : "&")
                        .append(name)
                        .append('=')
                        .append(URLEncoder.encode(value, StandardCharsets.UTF_8));
            }
        });
        return text.toString();
    }
}
