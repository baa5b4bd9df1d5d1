package jandrel.service.timeline;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.ActivityApi.ActivityDetail;
import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.ActivityApi.AttachmentInfo;
import jandrel.api.ActivityApi.LinkInfo;
import jandrel.api.ActivityApi.ReadersChoice;
import jandrel.core.address.PhoneNumber;
import jandrel.core.item.Content.Attachment;
import jandrel.core.timeline.Ruling;
import jandrel.core.visibility.Viewer;
import jandrel.formats.mail.NewText;
import jandrel.formats.mail.Phones;
import jandrel.service.capture.Fetching;
import jandrel.service.kernel.CsvOut;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.kernel.PageCursor;
import jandrel.store.people.People;
import jandrel.store.timeline.Decisions;
import jandrel.store.timeline.ItemPlace;
import jandrel.store.timeline.Rulings;
import jandrel.store.timeline.Timelines;
import jandrel.store.timeline.Timelines.Entry;
import jandrel.store.timeline.Timelines.Opened;
import jandrel.store.timeline.Timelines.Preview;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** One activity: what it says, what is attached, who reads it; and a whole timeline as a file. */
@RestController
class TimelineCalls {
    private static final int EXPORT_PAGE = 500;
    private final Timelines timelines;
    private final Decisions decisions;
    private final Rulings rulings;
    private final People people;
    private final Fetching fetching;
    private final Clock clock;
    private final Phones phones;

    TimelineCalls(
            Timelines timelines,
            Decisions decisions,
            Rulings rulings,
            People people,
            Fetching fetching,
            Clock clock,
            Phones phones) {
        this.phones = phones;
        this.fetching = fetching;
        this.rulings = rulings;
        this.people = people;
        this.timelines = timelines;
        this.decisions = decisions;
        this.clock = clock;
    }

    @GetMapping("/api/activities/{id}")
    ActivityDetail open(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        Opened opened = timelines.open(id, me.viewer()).orElseThrow(() -> Refusal.notFound("activity"));
        return new ActivityDetail(
                Shown.activity(
                        opened.entry(),
                        new Preview(
                                opened.content().text(),
                                opened.content().attachments().size()),
                        0),
                opened.links().stream()
                        .map(l -> new LinkInfo(
                                l.kind(), l.id(), l.name(), l.evidence().toLowerCase(java.util.Locale.ROOT)))
                        .toList(),
                opened.content().text(),
                opened.entry().kind().equals("mail")
                        ? NewText.of(opened.content().text())
                        : opened.content().text(),
                opened.content().html(),
                opened.content().attachments().stream()
                        .map(a -> new AttachmentInfo(a.name(), a.type(), a.bytes()))
                        .toList(),
                opened.bodyState(),
                opened.readers(),
                me.person() != null && rulings.isOwner(id, me.person()),
                decisions.of(id, me.viewer()).stream().map(Shown::decision).toList(),
                conversation(opened.entry(), me),
                opened.entry().kind().equals("mail")
                        ? phones.in(opened.content().text()).stream()
                                .map(PhoneNumber::text)
                                .toList()
                        : List.of(),
                Shown.forwarded(opened.entry().item()));
    }

    private List<ActivityInfo> conversation(Entry entry, SignedIn me) {
        List<Entry> all = timelines.conversation(entry, me.viewer());
        return all.size() < 2 ? List.of() : Shown.activities(all, timelines.previews(all, me.viewer()), Map.of());
    }

    /** What a message has attached, asked of its mailbox at this moment; nothing of it is kept. */
    @GetMapping("/api/activities/{id}/attachments/{number}")
    void attachment(
            @PathVariable("id") UUID id,
            @PathVariable("number") int number,
            @AuthenticationPrincipal SignedIn me,
            HttpServletResponse response)
            throws IOException {
        Opened opened = timelines.open(id, me.viewer()).orElseThrow(() -> Refusal.notFound("activity"));
        List<Attachment> attached = opened.content().attachments();
        if (number < 0 || number >= attached.size() || !opened.entry().kind().equals("mail")) {
            throw Refusal.notFound("attachment");
        }
        Attachment wanted = attached.get(number);
        // never shown by the browser itself: it may be anything
        response.setContentType(MediaType.APPLICATION_OCTET_STREAM_VALUE);
        response.setHeader(
                HttpHeaders.CONTENT_DISPOSITION,
                ContentDisposition.attachment()
                        .filename(wanted.name(), StandardCharsets.UTF_8)
                        .build()
                        .toString());
        response.setHeader("X-Content-Type-Options", "nosniff");
        for (ItemPlace place : decisions.places(id, me.viewer())) {
            if (fetching.attachment(me.id(), place.source(), place.position(), wanted, response.getOutputStream())) {
                return;
            }
        }
        response.reset();
        throw Refusal.of(HttpStatus.GONE, "No mailbox has the message any more", "Ask whoever wrote it for the file.");
    }

    /** Chooses who reads one activity; for those whose own source showed it. */
    @PutMapping("/api/activities/{id}/readers")
    ActivityDetail choose(
            @PathVariable("id") UUID id, @RequestBody ReadersChoice wanted, @AuthenticationPrincipal SignedIn me) {
        UUID person = owner(id, me);
        Set<UUID> readers = new LinkedHashSet<>();
        List<String> named = new ArrayList<>();
        for (String key : wanted.people()) {
            People.Person p = people.find(key)
                    .orElseThrow(
                            () -> Refusal.bad("Nobody has the key or address “" + key + "”", "Check its spelling."));
            readers.add(p.id());
            named.add(p.name());
        }
        Set<String> teams = people.all().stream().map(People.Person::team).collect(Collectors.toSet());
        for (String team : wanted.teams()) {
            UUID id2 = Viewer.team(team);
            if (id2 == null || !teams.contains(team)) {
                throw Refusal.bad("There is no team “" + team + "”", "Teams are compared as they are written.");
            }
            readers.add(id2);
            named.add("team " + team);
        }
        if (wanted.opens() && readers.isEmpty()) {
            throw Refusal.bad("It would be opened to nobody", "Name people or teams.");
        }
        String to = named.isEmpty() ? "nobody else" : String.join(", ", named);
        rulings.rule(id, new Ruling(wanted.opens(), readers, me.name(), to), person, me.login());
        return open(id, me);
    }

    /** Takes back what was chosen. */
    @DeleteMapping("/api/activities/{id}/readers")
    ActivityDetail unchoose(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        rulings.rule(id, null, owner(id, me), me.login());
        return open(id, me);
    }

    private UUID owner(UUID id, SignedIn me) {
        UUID person = me.person();
        if (person == null || !rulings.isOwner(id, person)) {
            throw Refusal.of(
                    HttpStatus.FORBIDDEN,
                    "Only those whose own mailbox or calendar has it choose who reads it",
                    "Ask one of them.");
        }
        return person;
    }

    /** The whole timeline as CSV, as far as the asker sees it; a page at a time, whatever its length. */
    @GetMapping(path = "/api/records/{id}/timeline.csv", produces = "text/csv")
    void export(@PathVariable("id") UUID record, @AuthenticationPrincipal SignedIn me, HttpServletResponse response)
            throws IOException {
        if (timelines.record(record, clock.instant()).isEmpty()) {
            throw Refusal.notFound("record");
        }
        response.setContentType("text/csv");
        response.setCharacterEncoding("UTF-8");
        response.setHeader("Content-Disposition", "attachment; filename=timeline.csv");
        CsvOut out = new CsvOut(
                response.getWriter(), "at", "ends", "kind", "visibility", "subject", "people", "place", "whose");
        PageCursor cursor = PageCursor.TOP;
        for (List<Entry> page = timelines.page(record, me.viewer(), cursor, EXPORT_PAGE);
                !page.isEmpty();
                page = timelines.page(record, me.viewer(), cursor, EXPORT_PAGE)) {
            for (Entry entry : page) {
                write(Shown.activity(entry), out);
            }
            Entry last = page.get(page.size() - 1);
            cursor = new PageCursor(last.sorted(), last.id());
        }
    }

    private static void write(ActivityInfo a, CsvOut out) throws IOException {
        out.row(
                a.at(),
                a.ends() == null ? "" : a.ends(),
                a.kind(),
                a.visibility(),
                a.subject(),
                a.people().stream().map(p -> p.part() + " " + p.address()).collect(Collectors.joining("; ")),
                a.place(),
                a.owners().stream().map(o -> o.name()).collect(Collectors.joining("; ")));
    }
}
