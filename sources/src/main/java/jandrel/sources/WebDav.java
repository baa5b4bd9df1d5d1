package jandrel.sources;

import jandrel.sources.Multistatus.Answer;
import java.io.IOException;
import java.io.InputStream;
import java.net.ConnectException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import javax.net.ssl.SSLException;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;

/**
 * WebDAV (RFC 4918) with sync-collection (RFC 6578), as calendars and address books are built on it: to read and to write. Safe for
 * several threads.
 */
final class WebDav {
    private static final long LARGEST_ANSWER = 64L * 1024 * 1024;
    /** Of objects, which can be asked for in smaller lots. */
    private static final long LARGEST_LOT = 16L * 1024 * 1024;

    private static final int MOST_REDIRECTS = 4;
    /** Seconds: no server can keep us away for longer than that. */
    private static final long LONGEST_WAIT = 3_600;

    private static final int MOST_PAGES = 1_000;
    private static final int MOST_RETRIES = 2;
    private static final long RETRY_MILLIS = 300;
    private static final Set<String> WRITING = Set.of("all", "write", "write-content", "bind");

    private final URI base;
    private final String authorization;
    private final TimedHttp http;
    private final Inward egress;
    private final Words words;

    /**
     * How what went wrong is told.
     *
     * @param server such as {@code the calendar server}
     * @param place such as {@code calendar}
     * @param thing what an object in it is, such as {@code meeting}
     * @param largest bytes of one object; a larger one is named as that, and stops nothing
     */
    record Words(String server, String place, String thing, int largest) {}

    /**
     * What objects are asked for by.
     *
     * @param report the element, and {@code data} the property, of that namespace
     */
    record Objects(String namespace, String report, String data) {}

    private WebDav(URI base, String authorization, TimedHttp http, Inward egress, Words words) {
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
    static WebDav open(
            Endpoint endpoint, ServerAccount account, Trust trust, Inward egress, Patience patience, Words words) {
        String basic = Base64.getEncoder()
                .encodeToString((account.login() + ":" + account.secret()).getBytes(StandardCharsets.UTF_8));
        String authorization = account.bearer() ? "Bearer " + account.secret() : "Basic " + basic;
        return new WebDav(at(endpoint), authorization, new TimedHttp(trust.http(), patience), egress, words);
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

    /** Where a person's things are: named by the property of their principal (RFC 5397). */
    URI home(String property, String namespace) {
        URI principal = property(base, "current-user-principal", "DAV:").orElse(base);
        return property(principal, property, namespace)
                .orElseThrow(() -> new SourceTrouble(
                        SourceTrouble.Kind.BROKEN,
                        words.server() + " names no home for this person's " + words.place() + "s"));
    }

    private Optional<URI> property(URI at, String name, String namespace) {
        String ask = "<d:propfind xmlns:d='DAV:' xmlns:p='" + namespace + "'><d:prop><p:" + name
                + "/></d:prop></d:propfind>";
        return send("PROPFIND", at, "0", ask).answers().stream()
                .map(a -> a.text(name))
                .filter(href -> !href.isEmpty())
                .findFirst()
                .map(this::resolve);
    }

    /**
     * What is new in a collection.
     *
     * @param syncs whether the server tells changes by RFC 6578
     * @param token empty to ask for all
     */
    DavChanges changes(String href, boolean syncs, String token) {
        if (!syncs) {
            return byTags(href, token);
        }
        // a server that learnt it only since has no token of that kind yet
        String known = Tags.areIn(token) ? "" : token;
        Set<String> changed = new LinkedHashSet<>();
        Set<String> removed = new LinkedHashSet<>();
        String at = known;
        for (int page = 0; page < MOST_PAGES; page++) {
            Optional<Multistatus> answers = report(resolve(href), changesSince(at), !at.isEmpty());
            if (answers.isEmpty() && known.isEmpty()) {
                throw new SourceTrouble(
                        SourceTrouble.Kind.BROKEN, words.server() + " forgets its list of changes while it is read");
            }
            if (answers.isEmpty()) {
                return changes(href, true, "");
            }
            boolean more = false;
            for (Answer answer : answers.get().answers()) {
                if (answer.href().equals(href)) {
                    // RFC 6578 §3.6: there is more, after the token that comes with it
                    more |= answer.status().contains(" 507");
                } else {
                    (answer.isGone() ? changed : removed).remove(answer.href());
                    (answer.isGone() ? removed : changed).add(answer.href());
                }
            }
            String next = answers.get().token();
            if (!more) {
                return new DavChanges(next, List.copyOf(changed), List.copyOf(removed), known.isEmpty());
            }
            if (next.isEmpty() || next.equals(at)) {
                break;
            }
            at = next;
        }
        throw new SourceTrouble(SourceTrouble.Kind.BROKEN, words.server() + "'s list of changes does not end");
    }

    private static String changesSince(String token) {
        return "<d:sync-collection xmlns:d='DAV:'><d:sync-token>" + Multistatus.escaped(token)
                + "</d:sync-token><d:sync-level>1</d:sync-level><d:prop><d:getetag/></d:prop></d:sync-collection>";
    }

    /** Where a server cannot tell what changed: the tags of all objects are compared with those of the last time. */
    private DavChanges byTags(String collection, String token) {
        String ask = "<d:propfind xmlns:d='DAV:'><d:prop><d:getetag/><d:resourcetype/></d:prop></d:propfind>";
        Map<String, String> tags = new TreeMap<>();
        for (Answer answer : send("PROPFIND", resolve(collection), "1", ask).answers()) {
            if (!answer.href().equals(collection) && !answer.text("getetag").isEmpty()) {
                tags.put(answer.href(), answer.text("getetag"));
            }
        }
        return Tags.changes(tags, token);
    }

    /** Nothing, if the server no longer knows the token (RFC 6578 §3.2: 403 or 409 with valid-sync-token). */
    private Optional<Multistatus> report(URI at, String ask, boolean mayForget) {
        TimedHttp.Answer response = exchange("REPORT", at, "1", ask);
        if (mayForget && (response.status() == 403 || response.status() == 409 || response.status() == 412)) {
            drain(response);
            return Optional.empty();
        }
        return Optional.of(parsed(response));
    }

    /** Those that have gone in the meantime are not among the answers. */
    List<DavObject> objects(Objects how, String collection, Collection<String> hrefs) {
        if (hrefs.isEmpty()) {
            return List.of();
        }
        try {
            return asked(how, collection, hrefs);
        } catch (TooLong tooMuch) {
            if (hrefs.size() > 1) {
                List<String> all = List.copyOf(hrefs);
                List<DavObject> objects = new ArrayList<>(objects(how, collection, all.subList(0, all.size() / 2)));
                objects.addAll(objects(how, collection, all.subList(all.size() / 2, all.size())));
                return objects;
            }
            // larger than anybody reads: it is named as that, and stops nothing
            return List.of(new DavObject(hrefs.iterator().next(), "", new byte[words.largest() + 1]));
        }
    }

    private List<DavObject> asked(Objects how, String collection, Collection<String> hrefs) {
        StringBuilder ask = new StringBuilder("<c:" + how.report() + " xmlns:d='DAV:' xmlns:c='" + how.namespace()
                + "'><d:prop><d:getetag/><c:" + how.data() + "/></d:prop>");
        hrefs.forEach(h -> ask.append("<d:href>").append(Multistatus.escaped(h)).append("</d:href>"));
        ask.append("</c:").append(how.report()).append('>');
        return send("REPORT", resolve(collection), "1", ask.toString(), LARGEST_LOT).answers().stream()
                .filter(a -> !a.isGone() && !a.text(how.data()).isEmpty())
                .map(a -> new DavObject(
                        a.href(), a.text("getetag"), a.text(how.data()).getBytes(StandardCharsets.UTF_8)))
                .toList();
    }

    /**
     * One request, asked once: when no answer comes, it may or may not have been carried out.
     *
     * @param tag of the state that is written over; null if there must be none yet
     * @return false if the object is in another state by now
     */
    boolean put(String href, String type, byte[] object, @Nullable String tag) {
        HttpRequest.Builder request = request(resolve(href))
                .header("Content-Type", type)
                .header(tag == null ? "If-None-Match" : "If-Match", tag == null ? "*" : tag)
                .PUT(HttpRequest.BodyPublishers.ofByteArray(object));
        return took(sent(request), "put");
    }

    /** Likewise. */
    boolean delete(String href, String tag) {
        return took(sent(request(resolve(href)).header("If-Match", tag).DELETE()), "delete");
    }

    /**
     * Makes a collection in somebody's home.
     *
     * @return its href
     */
    String make(URI home, String name, String method, String body) {
        URI at = URI.create((home.toString().endsWith("/") ? home : home + "/") + name + "/");
        HttpRequest.Builder request = request(at)
                .header("Content-Type", "application/xml; charset=utf-8")
                .method(method, HttpRequest.BodyPublishers.ofString(body));
        took(sent(request), "make");
        return at.getRawPath();
    }

    /** Whether the server says that it can do something (RFC 4918 §10.1). */
    boolean can(URI at, String what) {
        TimedHttp.Answer response = sent(request(at).method("OPTIONS", HttpRequest.BodyPublishers.noBody()));
        drain(response);
        return response.headers().allValues("DAV").stream()
                .flatMap(value -> java.util.stream.Stream.of(value.split(",", 0)))
                .anyMatch(token -> token.strip().equalsIgnoreCase(what));
    }

    /** Whether the person may put something into it (RFC 3744 §5.4); a server that says nothing of it is tried. */
    static boolean isWritable(Answer answer) {
        Set<String> rights = answer.said("privilege");
        return rights.isEmpty() || WRITING.stream().anyMatch(rights::contains);
    }

    private HttpRequest.Builder request(URI at) {
        return HttpRequest.newBuilder(at).header("Authorization", authorization);
    }

    private boolean took(TimedHttp.Answer response, String what) {
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

    private Multistatus send(String method, URI at, String depth, String body, long largest) {
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

    private TimedHttp.Answer exchange(String method, URI at, String depth, String body) {
        return sent(request(at)
                .header("Content-Type", "application/xml; charset=utf-8")
                .header("Depth", depth)
                .method(method, HttpRequest.BodyPublishers.ofString(body)));
    }

    /**
     * Asks once more if the connection breaks, as one does that the server closed while it was idle. A write names the version that it
     * changes, so that one which was taken in spite of that is refused the second time.
     */
    private TimedHttp.Answer sent(HttpRequest.Builder request) {
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

    private Multistatus parsed(TimedHttp.Answer response) {
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

    private static void drain(TimedHttp.Answer response) {
        try (InputStream in = limited(response, 1024 * 1024)) {
            in.transferTo(java.io.OutputStream.nullOutputStream());
        } catch (IOException tooLong) {
            // the connection is closed instead of used again
        }
    }

    private static final class TooLong extends SourceTrouble {
        private static final long serialVersionUID = 1L;

        TooLong(String server, IOException cause) {
            super(Kind.BROKEN, server + "'s answer is too long", cause);
        }
    }
}
