package jandrel.sources;

import java.io.IOException;
import java.io.InputStream;
import java.net.ConnectException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Base64;
import javax.net.ssl.SSLException;
import javax.xml.stream.XMLStreamException;

/**
 * Requests to one WebDAV server by one sign-in (RFC 4918), in bounded time and memory, and what its answers mean: which are worth another
 * try, and in what words the others are told. Safe for several threads.
 */
final class DavRequests {
    private static final long LARGEST_ANSWER = 64L * 1024 * 1024;
    private static final int MOST_REDIRECTS = 4;
    /** Seconds: no server can keep us away for longer than that. */
    private static final long LONGEST_WAIT = 3_600;

    private static final int MOST_RETRIES = 2;
    private static final long RETRY_MILLIS = 300;

    private final URI base;
    private final String authorization;
    private final TimedHttp http;
    private final Inward egress;
    private final DavWords words;

    private DavRequests(URI base, String authorization, TimedHttp http, Inward egress, DavWords words) {
        this.base = base;
        this.authorization = authorization;
        this.http = http;
        this.egress = egress;
        this.words = words;
    }

    /**
     * @param egress asked before each request, as what a name leads to may change
     * @throws SourceTrouble if the path leads to another server
     */
    static DavRequests to(
            Endpoint endpoint, ServerAccount account, Trust trust, Inward egress, Patience patience, DavWords words) {
        String basic = Base64.getEncoder()
                .encodeToString((account.login() + ":" + account.secret()).getBytes(StandardCharsets.UTF_8));
        String authorization = account.bearer() ? "Bearer " + account.secret() : "Basic " + basic;
        return new DavRequests(at(endpoint), authorization, new TimedHttp(trust.http(), patience), egress, words);
    }

    URI base() {
        return base;
    }

    /** A path is a path: one that carries a scheme or a host of its own would take the password there. */
    private static URI at(Endpoint endpoint) {
        String path = endpoint.path().isEmpty() ? "/" : endpoint.path();
        try {
            return sameServer(URI.create("https://" + endpoint.host() + ":" + endpoint.port()), path);
        } catch (IllegalArgumentException malformed) {
            throw new SourceTrouble(SourceTrouble.Kind.REFUSED, "the server's path is malformed", malformed);
        }
    }

    private static URI sameServer(URI base, String href) {
        URI uri = base.resolve(href);
        if (!base.getAuthority().equals(uri.getAuthority()) || !"https".equals(uri.getScheme())) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.REFUSED, "the path leads to another server; the sign-in is not sent there");
        }
        return uri;
    }

    HttpRequest.Builder request(URI at) {
        return HttpRequest.newBuilder(at).header("Authorization", authorization);
    }

    /** @return whether it was done; not where the object is in another state by now */
    boolean took(TimedHttp.Answer response, String what) {
        int status = response.status();
        if (status == 207) {
            // some answer with what became of it inside (RFC 4918 §9.6.1)
            status = parsed(response).worst();
        } else {
            drain(response);
        }
        if (status == 412 || (status == 404 && what.equals("delete"))) {
            return false;
        }
        if (status == 401) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.SIGN_IN, words.server() + " does not take this sign-in; sign in again");
        }
        if (status == 409) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.FORBIDDEN,
                    "the " + words.place() + " has another file for the same " + words.thing()
                            + ", or no room for this one");
        }
        if (status == 403) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.FORBIDDEN,
                    words.server() + " does not let this person change the " + words.place());
        }
        if (isUnavailable(status)) {
            throw unavailable(response, status);
        }
        if (status / 100 != 2) {
            throw new SourceTrouble(
                    status / 100 == 4 ? SourceTrouble.Kind.FORBIDDEN : SourceTrouble.Kind.BROKEN,
                    words.server() + " answered with status " + status + " to a change");
        }
        return true;
    }

    Multistatus send(String method, URI at, String depth, String body) {
        return send(method, at, depth, body, LARGEST_ANSWER);
    }

    Multistatus send(String method, URI at, String depth, String body, long largest) {
        TimedHttp.Answer response = exchange(method, at, depth, body);
        for (int n = 0; n < MOST_REDIRECTS && response.status() / 100 == 3; n++) {
            drain(response);
            URI next = resolve(response.headers().firstValue("location").orElse("/"));
            response = exchange(method, next, depth, body);
        }
        return parsed(response, largest);
    }

    /** What the server names must be at the same server: the sign-in goes nowhere else. */
    URI resolve(String href) {
        try {
            return sameServer(base, href);
        } catch (IllegalArgumentException malformed) {
            throw new SourceTrouble(SourceTrouble.Kind.BROKEN, words.server() + " names a malformed path", malformed);
        }
    }

    TimedHttp.Answer exchange(String method, URI at, String depth, String body) {
        return sent(request(at)
                .header("Content-Type", "application/xml; charset=utf-8")
                .header("Depth", depth)
                .method(method, HttpRequest.BodyPublishers.ofString(body)));
    }

    /**
     * Asks once more if the connection breaks, as one does that the server closed while it was idle. A write names the version that it
     * changes, so that one which was taken in spite of that is refused the second time.
     */
    TimedHttp.Answer sent(HttpRequest.Builder request) {
        egress.check(request.build().uri().getHost());
        for (int again = MOST_RETRIES; ; again--) {
            try {
                return http.send(request);
            } catch (IOException broken) {
                if (again == 0 || !mayHelp(broken)) {
                    throw SourceTrouble.unreachable(words.server(), broken);
                }
                pause();
            } catch (InterruptedException stopped) {
                throw stopped(stopped);
            }
        }
    }

    private static boolean mayHelp(IOException broken) {
        return !(broken instanceof ConnectException
                || broken instanceof SSLException
                || broken instanceof HttpTimeoutException);
    }

    private void pause() {
        try {
            Thread.sleep(RETRY_MILLIS);
        } catch (InterruptedException stopped) {
            throw stopped(stopped);
        }
    }

    private SourceTrouble stopped(InterruptedException stopped) {
        Thread.currentThread().interrupt();
        return new SourceTrouble(SourceTrouble.Kind.UNREACHABLE, "stopped while asking " + words.server(), stopped);
    }

    private static boolean isUnavailable(int status) {
        return status == 429 || (status / 100 == 5 && status != 501 && status != 505 && status != 507);
    }

    /** Retry-After in seconds (RFC 9110 §10.2.3); the few that write a date are asked again in our own time. */
    private SourceTrouble unavailable(TimedHttp.Answer response, int status) {
        Duration wait = response.headers()
                .firstValue("Retry-After")
                .map(String::strip)
                .filter(value -> value.matches("\\d{1,5}"))
                .map(value -> Duration.ofSeconds(Math.min(LONGEST_WAIT, Long.parseLong(value))))
                .orElse(null);
        return SourceTrouble.unavailable(words.server(), status, wait);
    }

    Multistatus parsed(TimedHttp.Answer response) {
        return parsed(response, LARGEST_ANSWER);
    }

    private Multistatus parsed(TimedHttp.Answer response, long largest) {
        int status = response.status();
        if (status == 401) {
            drain(response);
            throw new SourceTrouble(
                    SourceTrouble.Kind.SIGN_IN, words.server() + " does not take this sign-in; sign in again");
        }
        if (status != 207) {
            drain(response);
            if (isUnavailable(status)) {
                throw unavailable(response, status);
            }
            throw new SourceTrouble(
                    SourceTrouble.Kind.BROKEN, words.server() + " answered with status " + status + whatToDo(status));
        }
        LimitedStream in = limited(response, largest);
        try (in) {
            return Multistatus.read(in);
        } catch (IOException broken) {
            throw in.isOver() ? new TooLong(words.server(), broken) : brokenOff(broken);
        }
    }

    /** Of a status that says something about the address that was asked (RFC 9110 §15.5). */
    private String whatToDo(int status) {
        return switch (status) {
            case 403, 404, 405, 410 ->
                ": there are no " + words.place() + "s for this person at that path; check the path";
            default -> "";
        };
    }

    private SourceTrouble brokenOff(IOException broken) {
        return broken.getCause() instanceof XMLStreamException
                ? new SourceTrouble(
                        SourceTrouble.Kind.BROKEN, words.server() + "'s answer is not well-formed XML", broken)
                : SourceTrouble.unreachable(words.server(), broken);
    }

    private static LimitedStream limited(TimedHttp.Answer response, long most) {
        return new LimitedStream(response.body(), most, () -> new IOException("the answer is too long"));
    }

    static void drain(TimedHttp.Answer response) {
        try (InputStream in = limited(response, 1024 * 1024)) {
            in.transferTo(java.io.OutputStream.nullOutputStream());
        } catch (IOException tooLong) {
            // the connection is closed instead of used again
        }
    }

    static final class TooLong extends SourceTrouble {
        private static final long serialVersionUID = 1L;

        TooLong(String server, IOException cause) {
            super(Kind.BROKEN, server + "'s answer is too long", cause);
        }
    }
}
