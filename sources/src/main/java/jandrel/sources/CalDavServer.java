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
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import javax.net.ssl.SSLException;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;

/** CalDAV (RFC 4791) with sync-collection (RFC 6578), to read and to write. */
public final class CalDavServer implements CalendarServer {
    private static final String WHO = "the calendar server";
    private static final long LARGEST_ANSWER = 64L * 1024 * 1024;
    /** Of objects, which can be asked for in smaller lots. */
    private static final long LARGEST_LOT = 16L * 1024 * 1024;

    private static final int MOST_REDIRECTS = 4;
    /** Seconds: no server can keep us away for longer than that. */
    private static final long LONGEST_WAIT = 3_600;

    private static final int MOST_PAGES = 1_000;
    private static final int LONGEST_OBJECT = 4 * 1024 * 1024;
    private static final int MOST_RETRIES = 2;
    private static final long RETRY_MILLIS = 300;
    private static final Pattern COLOUR = Pattern.compile("#[0-9A-Fa-f]{6}([0-9A-Fa-f]{2})?");
    private static final Set<String> WRITING = Set.of("all", "write", "write-content", "bind");
    private final URI base;
    private final String authorization;
    private final TimedHttp http;
    private final Inward egress;

    private CalDavServer(URI base, String authorization, TimedHttp http, Inward egress) {
        this.egress = egress;
        this.base = base;
        this.authorization = authorization;
        this.http = http;
    }

    /**
     * @param egress asked before each request, as what a name leads to may change
     * @throws SourceTrouble if the path leads to another server
     */
    public static CalDavServer open(Endpoint endpoint, ServerAccount account, Trust trust, Inward egress) {
        return open(endpoint, account, trust, egress, Patience.USUAL);
    }

    /** @throws SourceTrouble if the path leads to another server */
    public static CalDavServer open(
            Endpoint endpoint, ServerAccount account, Trust trust, Inward egress, Patience patience) {
        String basic = Base64.getEncoder()
                .encodeToString((account.login() + ":" + account.secret()).getBytes(StandardCharsets.UTF_8));
        String authorization = account.bearer() ? "Bearer " + account.secret() : "Basic " + basic;
        return new CalDavServer(at(endpoint), authorization, new TimedHttp(trust.http(), patience), egress);
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
        TimedHttp.Answer response = sent(request(home()).method("OPTIONS", HttpRequest.BodyPublishers.noBody()));
        drain(response);
        return response.headers().allValues("DAV").stream()
                .flatMap(value -> Stream.of(value.split(",", 0)))
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
        Set<String> changed = new LinkedHashSet<>();
        Set<String> removed = new LinkedHashSet<>();
        String at = known;
        for (int page = 0; page < MOST_PAGES; page++) {
            Optional<Multistatus> answers = report(resolve(calendar.href()), changesSince(at), !at.isEmpty());
            if (answers.isEmpty() && known.isEmpty()) {
                throw new SourceTrouble(
                        SourceTrouble.Kind.BROKEN, "the calendar server forgets its list of changes while it is read");
            }
            if (answers.isEmpty()) {
                return changes(calendar, "");
            }
            boolean more = false;
            for (Answer answer : answers.get().answers()) {
                if (answer.href().equals(calendar.href())) {
                    // RFC 6578 §3.6: there is more, after the token that comes with it
                    more |= answer.status().contains(" 507");
                } else {
                    (answer.isGone() ? changed : removed).remove(answer.href());
                    (answer.isGone() ? removed : changed).add(answer.href());
                }
            }
            String next = answers.get().token();
            if (!more) {
                return new Changes(next, List.copyOf(changed), List.copyOf(removed), known.isEmpty());
            }
            if (next.isEmpty() || next.equals(at)) {
                break;
            }
            at = next;
        }
        throw new SourceTrouble(SourceTrouble.Kind.BROKEN, "the calendar server's list of changes does not end");
    }

    private static String changesSince(String token) {
        return "<d:sync-collection xmlns:d='DAV:'><d:sync-token>" + Multistatus.escaped(token)
                + "</d:sync-token><d:sync-level>1</d:sync-level><d:prop><d:getetag/></d:prop></d:sync-collection>";
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
        TimedHttp.Answer response = exchange("REPORT", at, "1", ask);
        if (mayForget && (response.status() == 403 || response.status() == 409 || response.status() == 412)) {
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
        try {
            return asked(calendar, hrefs);
        } catch (TooLong tooMuch) {
            if (hrefs.size() > 1) {
                List<String> all = List.copyOf(hrefs);
                List<CalendarObject> objects = new ArrayList<>(objects(calendar, all.subList(0, all.size() / 2)));
                objects.addAll(objects(calendar, all.subList(all.size() / 2, all.size())));
                return objects;
            }
            // larger than anybody reads: it is named as that, and stops nothing
            return List.of(new CalendarObject(hrefs.iterator().next(), "", new byte[LONGEST_OBJECT + 1]));
        }
    }

    private List<CalendarObject> asked(String calendar, Collection<String> hrefs) {
        StringBuilder ask = new StringBuilder("<c:calendar-multiget xmlns:d='DAV:' xmlns:c='" + Multistatus.CALDAV
                + "'><d:prop><d:getetag/><c:calendar-data/></d:prop>");
        hrefs.forEach(h -> ask.append("<d:href>").append(Multistatus.escaped(h)).append("</d:href>"));
        ask.append("</c:calendar-multiget>");
        return send("REPORT", resolve(calendar), "1", ask.toString(), LARGEST_LOT).answers().stream()
                .filter(a -> !a.isGone() && !a.text("calendar-data").isEmpty())
                .map(a -> new CalendarObject(
                        a.href(), a.text("getetag"), a.text("calendar-data").getBytes(StandardCharsets.UTF_8)))
                .toList();
    }

    @Override
    public boolean put(String href, byte[] object, @Nullable String tag) {
        HttpRequest.Builder request = request(resolve(href))
                .header("Content-Type", "text/calendar; charset=utf-8")
                .header(tag == null ? "If-None-Match" : "If-Match", tag == null ? "*" : tag)
                .PUT(HttpRequest.BodyPublishers.ofByteArray(object));
        return took(sent(request), "put");
    }

    @Override
    public boolean delete(String href, String tag) {
        return took(sent(request(resolve(href)).header("If-Match", tag).DELETE()), "delete");
    }

    @Override
    public String make(String name) {
        String path = URI.create("calendar-" + UUID.randomUUID() + "/").toString();
        URI home = home();
        URI at = URI.create(home.toString().endsWith("/") ? home + path : home + "/" + path);
        String ask = "<c:mkcalendar xmlns:d='DAV:' xmlns:c='" + Multistatus.CALDAV + "'><d:set><d:prop><d:displayname>"
                + Multistatus.escaped(name) + "</d:displayname><c:supported-calendar-component-set>"
                + "<c:comp name='VEVENT'/></c:supported-calendar-component-set></d:prop></d:set></c:mkcalendar>";
        HttpRequest.Builder request = request(at)
                .header("Content-Type", "application/xml; charset=utf-8")
                .method("MKCALENDAR", HttpRequest.BodyPublishers.ofString(ask));
        took(sent(request), "make a calendar");
        return at.getPath();
    }

    private HttpRequest.Builder request(URI at) {
        return HttpRequest.newBuilder(at).header("Authorization", authorization);
    }

    private static boolean took(TimedHttp.Answer response, String what) {
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
                    SourceTrouble.Kind.SIGN_IN, "the calendar server does not take this sign-in; sign in again");
        }
        if (status == 409) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.FORBIDDEN,
                    "the calendar has another file for the same meeting, or no room for this one");
        }
        if (status == 403) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.FORBIDDEN, "the calendar server does not let this person change the calendar");
        }
        if (isUnavailable(status)) {
            throw unavailable(response, status);
        }
        if (status / 100 != 2) {
            throw new SourceTrouble(
                    status / 100 == 4 ? SourceTrouble.Kind.FORBIDDEN : SourceTrouble.Kind.BROKEN,
                    "the calendar server answered with status " + status + " to a change");
        }
        return true;
    }

    private Multistatus send(String method, URI at, String depth, String body) {
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
    private URI resolve(String href) {
        try {
            return sameServer(base, href);
        } catch (IllegalArgumentException malformed) {
            throw new SourceTrouble(SourceTrouble.Kind.BROKEN, "the calendar server names a malformed path", malformed);
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
                    throw SourceTrouble.unreachable(WHO, broken);
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

    private static void pause() {
        try {
            Thread.sleep(RETRY_MILLIS);
        } catch (InterruptedException stopped) {
            throw stopped(stopped);
        }
    }

    private static SourceTrouble stopped(InterruptedException stopped) {
        Thread.currentThread().interrupt();
        return new SourceTrouble(SourceTrouble.Kind.UNREACHABLE, "stopped while asking the calendar server", stopped);
    }

    private static boolean isUnavailable(int status) {
        return status == 429 || (status / 100 == 5 && status != 501 && status != 505 && status != 507);
    }

    /** Retry-After in seconds (RFC 9110 §10.2.3); the few that write a date are asked again in our own time. */
    private static SourceTrouble unavailable(TimedHttp.Answer response, int status) {
        Duration wait = response.headers()
                .firstValue("Retry-After")
                .map(String::strip)
                .filter(value -> value.matches("\\d{1,5}"))
                .map(value -> Duration.ofSeconds(Math.min(LONGEST_WAIT, Long.parseLong(value))))
                .orElse(null);
        return SourceTrouble.unavailable(WHO, status, wait);
    }

    private static Multistatus parsed(TimedHttp.Answer response) {
        return parsed(response, LARGEST_ANSWER);
    }

    private static Multistatus parsed(TimedHttp.Answer response, long largest) {
        int status = response.status();
        if (status == 401) {
            drain(response);
            throw new SourceTrouble(
                    SourceTrouble.Kind.SIGN_IN, "the calendar server does not take this sign-in; sign in again");
        }
        if (status != 207) {
            drain(response);
            if (isUnavailable(status)) {
                throw unavailable(response, status);
            }
            throw new SourceTrouble(
                    SourceTrouble.Kind.BROKEN, "the calendar server answered with status " + status + whatToDo(status));
        }
        LimitedStream in = limited(response, largest);
        try (in) {
            return Multistatus.read(in);
        } catch (IOException broken) {
            throw in.isOver() ? new TooLong(broken) : brokenOff(broken);
        }
    }

    /** Of a status that says something about the address that was asked (RFC 9110 §15.5). */
    private static String whatToDo(int status) {
        return switch (status) {
            case 403, 404, 405, 410 -> ": there are no calendars for this person at that path; check the path";
            default -> "";
        };
    }

    private static SourceTrouble brokenOff(IOException broken) {
        return broken.getCause() instanceof XMLStreamException
                ? new SourceTrouble(
                        SourceTrouble.Kind.BROKEN, "the calendar server's answer is not well-formed XML", broken)
                : SourceTrouble.unreachable(WHO, broken);
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

    @Override
    public void close() {
        // connections are kept for whoever asks the same server next
    }

    private static final class TooLong extends SourceTrouble {
        private static final long serialVersionUID = 1L;

        TooLong(IOException cause) {
            super(Kind.BROKEN, "the calendar server's answer is too long", cause);
        }
    }
}
