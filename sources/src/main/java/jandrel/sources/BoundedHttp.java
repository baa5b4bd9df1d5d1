package jandrel.sources;

import java.io.IOException;
import java.io.InputStream;
import java.io.InterruptedIOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Asks for a short answer over HTTP: it ends in time, is of a bounded size, and no redirect is followed. */
public final class BoundedHttp {
    private static final int MOST_BYTES = 1 << 20;
    /** What the client writes itself. */
    private static final Set<String> OWN = Set.of("host", "content-length", "connection", "expect", "upgrade");

    private final TimedHttp http;

    /** @param body as UTF-8 */
    public record Answer(int status, Map<String, List<String>> headers, String body) {}

    public BoundedHttp(Trust trust, Patience patience) {
        http = new TimedHttp(trust.http(), patience);
    }

    /**
     * @param body empty for none
     * @throws IOException if no answer comes to its end in time, or it is longer than a mebibyte
     */
    public Answer send(String method, URI uri, Map<String, List<String>> headers, String body) throws IOException {
        HttpRequest.Builder request = HttpRequest.newBuilder(uri)
                .method(
                        method,
                        body.isEmpty()
                                ? HttpRequest.BodyPublishers.noBody()
                                : HttpRequest.BodyPublishers.ofString(body));
        headers.forEach((name, values) -> {
            if (!OWN.contains(name.toLowerCase(Locale.ROOT))) {
                values.forEach(value -> request.header(name, value));
            }
        });
        try {
            TimedHttp.Answer answer = http.send(request);
            try (InputStream in = answer.body()) {
                byte[] bytes = in.readNBytes(MOST_BYTES + 1);
                if (bytes.length > MOST_BYTES) {
                    throw new IOException("the answer is too long");
                }
                return new Answer(answer.status(), answer.headers().map(), new String(bytes, StandardCharsets.UTF_8));
            }
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new InterruptedIOException("stopped while waiting for an answer");
        }
    }
}
