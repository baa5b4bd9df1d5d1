package jandrel.sources;

import jandrel.sources.Multistatus.Answer;
import java.io.IOException;
import java.io.InputStream;
import java.net.ConnectException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import javax.net.ssl.SSLException;
import javax.net.ssl.SSLPeerUnverifiedException;
import org.jspecify.annotations.Nullable;

/** CalDAV (RFC 4791) with sync-collection (RFC 6578), to read and to write. */
public final class CalDavServer implements CalendarServer {
    private static final long LARGEST_ANSWER = 64L * 1024 * 1024;
    private static final int MOST_REDIRECTS = 4;
    private static final int MOST_RETRIES = 2;
    private static final long RETRY_MILLIS = 300;
    private static final Pattern COLOUR = Pattern.compile("#[0-9A-Fa-f]{6}([0-9A-Fa-f]{2})?");
    private static final Set<String> WRITING = Set.of("all", "write", "write-content", "bind");
    private final URI base;
    private final String authorization;
    private final HttpClient http;

    private CalDavServer(URI base, String authorization, HttpClient http) {
        this.base = base;
        this.authorization = authorization;
        this.http = http;
    }

    public static CalDavServer open(Endpoint endpoint, Account account, Trust trust) {
        String basic = Base64.getEncoder()
                .encodeToString((account.login() + ":" + account.secret()).getBytes(StandardCharsets.UTF_8));
        String authorization = account.bearer() ? "Bearer " + account.secret() : "Basic " + basic;
        HttpClient http = HttpClient.newBuilder()
                .sslContext(trust.context())
                .version(HttpClient.Version.HTTP_1_1)
                .connectTimeout(Duration.ofSeconds(15))
                .followRedirects(HttpClient.Redirect.NEVER)
                .build();
        String path = endpoint.path().isEmpty() ? "/" : endpoint.path();
        return new CalDavServer(
                URI.create("https://" + endpoint.host() + ":" + endpoint.port()).resolve(path), authorization, http);
    }

    @Override
    public List<Calendar> calendars() {
        String ask = "<d:propfind xmlns:d='DAV:' xmlns:c='" + Multistatus.CALDAV + "' xmlns:i='" + Multistatus.COLOURS
                + "'><d:prop><d:resourcetype/><d:displayname/><i:calendar-color/><d:supported-report-set/>"
                + "<d:current-user-privilege-set/><c:supported-calendar-component-set/></d:prop></d:propfind>";
        List<Calendar> found = new ArrayList<>();
        for (Answer answer : send("PROPFIND", home(), "1", ask).answers()) {
            boolean events =
                    answer.components().isEmpty() || answer.components().contains("VEVENT");
            if (answer.isCalendar() && events) {
                String name = answer.text("displayname");
                String colour = answer.text("calendar-color").strip();
                Set<String> rights = answer.said("privilege");
                found.add(new Calendar(
                        answer.href(),
                        name.isEmpty() ? "calendar" : name,
                        COLOUR.matcher(colour).matches() ? colour.substring(0, 7) : "",
                        answer.said("report").contains("sync-collection"),
                        rights.isEmpty() || WRITING.stream().anyMatch(rights::contains)));
            }
        }
        return found;
    }

    @Override
    public boolean schedules() {
        HttpResponse<InputStream> response = once(request(home())
                .method("OPTIONS", HttpRequest.BodyPublishers.noBody())
                .build());
        drain(response);
        return response.headers().allValues("DAV").stream()
                .flatMap(value -> Stream.of(value.split(",")))
                .anyMatch(token -> token.strip().equalsIgnoreCase("calendar-auto-schedule"));
    }

    private URI home() {
        URI principal = property(base, "current-user-principal", "DAV:").orElse(base);
        return property(principal, "calendar-home-set", Multistatus.CALDAV)
                .orElseThrow(() -> new SourceTrouble(
                        SourceTrouble.Kind.BROKEN, "the calendar server names no home for this person's calendars"));
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

    @Override
    public Changes changes(Calendar calendar, String token) {
        if (!calendar.syncs()) {
            return byTags(calendar.href(), token);
        }
        // a server that learnt it only since has no token of that kind yet
        String known = Tags.areIn(token) ? "" : token;
        String ask = "<d:sync-collection xmlns:d='DAV:'><d:sync-token>" + Multistatus.escaped(known)
                + "</d:sync-token><d:sync-level>1</d:sync-level><d:prop><d:getetag/></d:prop></d:sync-collection>";
        Optional<Multistatus> answers = report(resolve(calendar.href()), ask, !known.isEmpty());
        if (answers.isEmpty()) {
            return changes(calendar, "");
        }
        List<String> changed = new ArrayList<>();
        List<String> removed = new ArrayList<>();
        for (Answer answer : answers.get().answers()) {
            if (!answer.href().equals(calendar.href())) {
                (answer.isGone() ? removed : changed).add(answer.href());
            }
        }
        return new Changes(answers.get().token(), changed, removed, known.isEmpty());
    }

    /** Where a server cannot tell what changed: the tags of all objects are compared with those of the last time. */
    private Changes byTags(String calendar, String token) {
        String ask = "<d:propfind xmlns:d='DAV:'><d:prop><d:getetag/><d:resourcetype/></d:prop></d:propfind>";
        Map<String, String> tags = new TreeMap<>();
        for (Answer answer : send("PROPFIND", resolve(calendar), "1", ask).answers()) {
            if (!answer.href().equals(calendar) && !answer.text("getetag").isEmpty()) {
                tags.put(answer.href(), answer.text("getetag"));
            }
        }
        return Tags.changes(tags, token);
    }

    /** Nothing, if the server no longer knows the token (RFC 6578 §3.2: 403 or 409 with valid-sync-token). */
    private Optional<Multistatus> report(URI at, String ask, boolean mayForget) {
        HttpResponse<InputStream> response = exchange("REPORT", at, "1", ask);
        if (mayForget
                && (response.statusCode() == 403 || response.statusCode() == 409 || response.statusCode() == 412)) {
            drain(response);
            return Optional.empty();
        }
        return Optional.of(parsed(response));
    }

    @Override
    public List<CalendarObject> objects(String calendar, Collection<String> hrefs) {
        if (hrefs.isEmpty()) {
            return List.of();
        }
        StringBuilder ask = new StringBuilder("<c:calendar-multiget xmlns:d='DAV:' xmlns:c='" + Multistatus.CALDAV
                + "'><d:prop><d:getetag/><c:calendar-data/></d:prop>");
        hrefs.forEach(h -> ask.append("<d:href>").append(Multistatus.escaped(h)).append("</d:href>"));
        ask.append("</c:calendar-multiget>");
        return send("REPORT", resolve(calendar), "1", ask.toString()).answers().stream()
                .filter(a -> !a.isGone() && !a.text("calendar-data").isEmpty())
                .map(a -> new CalendarObject(
                        a.href(), a.text("getetag"), a.text("calendar-data").getBytes(StandardCharsets.UTF_8)))
                .toList();
    }

    @Override
    public boolean put(String href, byte[] object, @Nullable String tag) {
        HttpRequest request = request(resolve(href))
                .header("Content-Type", "text/calendar; charset=utf-8")
                .header(tag == null ? "If-None-Match" : "If-Match", tag == null ? "*" : tag)
                .PUT(HttpRequest.BodyPublishers.ofByteArray(object))
                .build();
        return took(once(request), "put");
    }

    @Override
    public boolean delete(String href, String tag) {
        return took(once(request(resolve(href)).header("If-Match", tag).DELETE().build()), "delete");
    }

    @Override
    public String make(String name) {
        String path = URI.create("calendar-" + UUID.randomUUID() + "/").toString();
        URI home = home();
        URI at = URI.create(home.toString().endsWith("/") ? home + path : home + "/" + path);
        String ask = "<c:mkcalendar xmlns:d='DAV:' xmlns:c='" + Multistatus.CALDAV + "'><d:set><d:prop><d:displayname>"
                + Multistatus.escaped(name) + "</d:displayname><c:supported-calendar-component-set>"
                + "<c:comp name='VEVENT'/></c:supported-calendar-component-set></d:prop></d:set></c:mkcalendar>";
        HttpRequest request = request(at)
                .header("Content-Type", "application/xml; charset=utf-8")
                .method("MKCALENDAR", HttpRequest.BodyPublishers.ofString(ask))
                .build();
        took(once(request), "make a calendar");
        return at.getPath();
    }

    private HttpRequest.Builder request(URI at) {
        return HttpRequest.newBuilder(at).timeout(Duration.ofSeconds(60)).header("Authorization", authorization);
    }

    private HttpResponse<InputStream> once(HttpRequest request) {
        try {
            return http.send(request, HttpResponse.BodyHandlers.ofInputStream());
        } catch (IOException unreachable) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.UNREACHABLE, "the calendar server did not answer a change", unreachable);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new SourceTrouble(
                    SourceTrouble.Kind.UNREACHABLE, "stopped while asking the calendar server", stopped);
        }
    }

    private static boolean took(HttpResponse<InputStream> response, String what) {
        int status = response.statusCode();
        drain(response);
        if (status == 412 || status == 404 && what.equals("delete")) {
            return false;
        }
        if (status == 401) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.SIGN_IN, "the calendar server does not take this sign-in; sign in again");
        }
        if (status == 403) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.FORBIDDEN, "the calendar server does not let this person change the calendar");
        }
        if (status / 100 != 2) {
            throw new SourceTrouble(
                    status / 100 == 4 ? SourceTrouble.Kind.FORBIDDEN : SourceTrouble.Kind.BROKEN,
                    "the calendar server answered with status " + status + " to a change");
        }
        return true;
    }

    private Multistatus send(String method, URI at, String depth, String body) {
        HttpResponse<InputStream> response = exchange(method, at, depth, body);
        for (int n = 0; n < MOST_REDIRECTS && response.statusCode() / 100 == 3; n++) {
            drain(response);
            URI next = resolve(response.headers().firstValue("location").orElse("/"));
            response = exchange(method, next, depth, body);
        }
        return parsed(response);
    }

    /** What the server names must be at the same server: the sign-in goes nowhere else. */
    private URI resolve(String href) {
        URI uri;
        try {
            uri = base.resolve(href);
        } catch (IllegalArgumentException malformed) {
            throw new SourceTrouble(SourceTrouble.Kind.BROKEN, "the calendar server names a malformed path", malformed);
        }
        if (!base.getAuthority().equals(uri.getAuthority()) || !"https".equals(uri.getScheme())) {
            throw new SourceTrouble(SourceTrouble.Kind.BROKEN, "the calendar server points to another server");
        }
        return uri;
    }

    private HttpResponse<InputStream> exchange(String method, URI at, String depth, String body) {
        HttpRequest request = HttpRequest.newBuilder(at)
                .timeout(Duration.ofSeconds(180))
                .header("Authorization", authorization)
                .header("Content-Type", "application/xml; charset=utf-8")
                .header("Depth", depth)
                .method(method, HttpRequest.BodyPublishers.ofString(body))
                .build();
        try {
            return sent(request);
        } catch (SSLException untrusted) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.UNREACHABLE,
                    "the calendar server's certificate is not trusted; add its authority to the trusted ones",
                    untrusted);
        } catch (IOException unreachable) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.UNREACHABLE,
                    "the calendar server cannot be reached; check host and port",
                    unreachable);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new SourceTrouble(
                    SourceTrouble.Kind.UNREACHABLE, "stopped while asking the calendar server", stopped);
        }
    }

    /** Asks once more if the connection breaks, as one does that the server closed while it was idle: asking changes nothing. */
    private HttpResponse<InputStream> sent(HttpRequest request) throws IOException, InterruptedException {
        for (int again = MOST_RETRIES; ; again--) {
            try {
                return http.send(request, HttpResponse.BodyHandlers.ofInputStream());
            } catch (ConnectException | SSLPeerUnverifiedException | HttpTimeoutException hopeless) {
                throw hopeless;
            } catch (IOException broken) {
                if (again == 0) {
                    throw broken;
                }
                Thread.sleep(RETRY_MILLIS);
            }
        }
    }

    private static Multistatus parsed(HttpResponse<InputStream> response) {
        int status = response.statusCode();
        if (status == 401) {
            drain(response);
            throw new SourceTrouble(
                    SourceTrouble.Kind.SIGN_IN, "the calendar server does not take this sign-in; sign in again");
        }
        if (status != 207) {
            drain(response);
            throw new SourceTrouble(SourceTrouble.Kind.BROKEN, "the calendar server answered with status " + status);
        }
        try (InputStream in = new Bounded(response.body(), LARGEST_ANSWER)) {
            return Multistatus.read(in);
        } catch (IOException broken) {
            throw new SourceTrouble(SourceTrouble.Kind.BROKEN, "the calendar server's answer breaks off", broken);
        }
    }

    private static void drain(HttpResponse<InputStream> response) {
        try (InputStream in = new Bounded(response.body(), 1024 * 1024)) {
            in.transferTo(java.io.OutputStream.nullOutputStream());
        } catch (IOException tooLong) {
            // the connection is closed instead of used again
        }
    }

    @Override
    public void close() {
        // the client's threads end by themselves once nobody holds it
    }

    /** Stops an answer that does not end. */
    private static final class Bounded extends java.io.FilterInputStream {
        private long left;

        Bounded(InputStream in, long most) {
            super(in);
            left = most;
        }

        @Override
        public int read() throws IOException {
            int b = super.read();
            count(b < 0 ? 0 : 1);
            return b;
        }

        @Override
        public int read(byte[] into, int from, int length) throws IOException {
            int n = super.read(into, from, length);
            count(Math.max(0, n));
            return n;
        }

        private void count(int n) throws IOException {
            left -= n;
            if (left < 0) {
                throw new IOException("the answer is too long");
            }
        }
    }
}
