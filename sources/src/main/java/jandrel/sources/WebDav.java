package jandrel.sources;

import jandrel.sources.Multistatus.Answer;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * WebDAV (RFC 4918) with sync-collection (RFC 6578), as calendars and address books are built on it: to read and to write. Safe for
 * several threads.
 */
final class WebDav {
    /** Of objects, which can be asked for in smaller lots. */
    private static final long LARGEST_LOT = 16L * 1024 * 1024;

    private static final int MOST_PAGES = 1_000;
    private static final Set<String> WRITING = Set.of("all", "write", "write-content", "bind");

    private final DavRequests requests;
    private final DavWords words;

    /**
     * What objects are asked for by.
     *
     * @param report the element, and {@code data} the property, of that namespace
     */
    record Objects(String namespace, String report, String data) {}

    private WebDav(DavRequests requests, DavWords words) {
        this.requests = requests;
        this.words = words;
    }

    /**
     * @param egress asked before each request, as what a name leads to may change
     * @throws SourceTrouble if the path leads to another server
     */
    static WebDav open(
            Endpoint endpoint, ServerAccount account, Trust trust, Inward egress, Patience patience, DavWords words) {
        return new WebDav(DavRequests.to(endpoint, account, trust, egress, patience, words), words);
    }

    /** Where a person's things are: named by the property of their principal (RFC 5397). */
    URI home(String property, String namespace) {
        URI principal =
                property(requests.base(), "current-user-principal", "DAV:").orElse(requests.base());
        return property(principal, property, namespace)
                .orElseThrow(() -> new SourceTrouble(
                        SourceTrouble.Kind.BROKEN,
                        words.server() + " names no home for this person's " + words.place() + "s"));
    }

    private Optional<URI> property(URI at, String name, String namespace) {
        String ask = "<d:propfind xmlns:d='DAV:' xmlns:p='" + namespace + "'><d:prop><p:" + name
                + "/></d:prop></d:propfind>";
        return requests.send("PROPFIND", at, "0", ask).answers().stream()
                .map(a -> a.text(name))
                .filter(href -> !href.isEmpty())
                .findFirst()
                .map(requests::resolve);
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
            Optional<Multistatus> answers = report(requests.resolve(href), changesSince(at), !at.isEmpty());
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
        for (Answer answer : requests.send("PROPFIND", requests.resolve(collection), "1", ask)
                .answers()) {
            if (!answer.href().equals(collection) && !answer.text("getetag").isEmpty()) {
                tags.put(answer.href(), answer.text("getetag"));
            }
        }
        return Tags.changes(tags, token);
    }

    /** Nothing, if the server no longer knows the token (RFC 6578 §3.2: 403 or 409 with valid-sync-token). */
    private Optional<Multistatus> report(URI at, String ask, boolean mayForget) {
        TimedHttp.Answer response = requests.exchange("REPORT", at, "1", ask);
        if (mayForget && (response.status() == 403 || response.status() == 409 || response.status() == 412)) {
            DavRequests.drain(response);
            return Optional.empty();
        }
        return Optional.of(requests.parsed(response));
    }

    /** Those that have gone in the meantime are not among the answers. */
    List<DavObject> objects(Objects how, String collection, Collection<String> hrefs) {
        if (hrefs.isEmpty()) {
            return List.of();
        }
        try {
            return asked(how, collection, hrefs);
        } catch (DavRequests.TooLong tooMuch) {
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
        return requests
                .send("REPORT", requests.resolve(collection), "1", ask.toString(), LARGEST_LOT)
                .answers()
                .stream()
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
        HttpRequest.Builder request = requests.request(requests.resolve(href))
                .header("Content-Type", type)
                .header(tag == null ? "If-None-Match" : "If-Match", tag == null ? "*" : tag)
                .PUT(HttpRequest.BodyPublishers.ofByteArray(object));
        return requests.took(requests.sent(request), "put");
    }

    /** Likewise. */
    boolean delete(String href, String tag) {
        return requests.took(
                requests.sent(requests.request(requests.resolve(href))
                        .header("If-Match", tag)
                        .DELETE()),
                "delete");
    }

    /**
     * Makes a collection in somebody's home.
     *
     * @return its href
     */
    String make(URI home, String name, String method, String body) {
        URI at = URI.create((home.toString().endsWith("/") ? home : home + "/") + name + "/");
        HttpRequest.Builder request = requests.request(at)
                .header("Content-Type", "application/xml; charset=utf-8")
                .method(method, HttpRequest.BodyPublishers.ofString(body));
        requests.took(requests.sent(request), "make");
        return at.getRawPath();
    }

    /** Whether the server says that it can do something (RFC 4918 §10.1). */
    boolean can(URI at, String what) {
        TimedHttp.Answer response =
                requests.sent(requests.request(at).method("OPTIONS", HttpRequest.BodyPublishers.noBody()));
        DavRequests.drain(response);
        return response.headers().allValues("DAV").stream()
                .flatMap(value -> java.util.stream.Stream.of(value.split(",", 0)))
                .anyMatch(token -> token.strip().equalsIgnoreCase(what));
    }

    /** Answers as they are, for what only some servers have. */
    Multistatus send(String method, URI at, String depth, String body) {
        return requests.send(method, at, depth, body);
    }

    /** What the server names must be at the same server: the sign-in goes nowhere else. */
    URI resolve(String href) {
        return requests.resolve(href);
    }

    /** Whether the person may put something into it (RFC 3744 §5.4); a server that says nothing of it is tried. */
    static boolean isWritable(Answer answer) {
        Set<String> rights = answer.said("privilege");
        return rights.isEmpty() || WRITING.stream().anyMatch(rights::contains);
    }
}
