package jandrel.service.meetings;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.MeetingApi.FeedInfo;
import jandrel.api.MeetingApi.NewFeed;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.journal.Entry.Thing;
import jandrel.core.reconcile.Details;
import jandrel.core.visibility.Viewer;
import jandrel.formats.calendar.CalendarFeed;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Secrets;
import jandrel.service.kernel.Settings;
import jandrel.service.people.SignInEnded;
import jandrel.service.people.SignedIn;
import jandrel.service.people.Viewers;
import jandrel.store.journal.Journal;
import jandrel.store.meetings.Feeds;
import jandrel.store.meetings.Feeds.Feed;
import jandrel.store.meetings.Meetings;
import jandrel.store.meetings.Meetings.Meeting;
import jandrel.store.people.People;
import jandrel.store.timeline.DecisionFilter;
import jandrel.store.timeline.KnownRecord;
import jandrel.store.timeline.Timelines;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/**
 * A record's or a person's meetings for a calendar program, by a secret address. Who has the address gets what its maker would see at
 * that moment: no more once the maker sees less, and nothing once it is revoked.
 */
@RestController
class FeedCalls {
    private static final Duration BACK = Duration.ofDays(90);
    private static final Duration AHEAD = Duration.ofDays(400);
    private static final int MOST = 5_000;
    private static final int MOST_IN_FILE = 20_000;
    private static final String BUSY = "Busy";
    private final Feeds feeds;
    private final Meetings meetings;
    private final Timelines timelines;
    private final People people;
    private final Viewers viewers;
    private final Journal journal;
    private final TransactionTemplate transactions;
    private final Settings settings;
    private final Clock clock;

    FeedCalls(
            Feeds feeds,
            Meetings meetings,
            Timelines timelines,
            People people,
            Viewers viewers,
            Journal journal,
            TransactionTemplate transactions,
            Settings settings,
            Clock clock) {
        this.settings = settings;
        this.feeds = feeds;
        this.meetings = meetings;
        this.timelines = timelines;
        this.people = people;
        this.viewers = viewers;
        this.journal = journal;
        this.transactions = transactions;
        this.clock = clock;
    }

    @PostMapping("/api/feeds")
    @ResponseStatus(HttpStatus.CREATED)
    FeedInfo make(@RequestBody NewFeed wanted, @AuthenticationPrincipal SignedIn me) {
        String name = switch (wanted.kind()) {
            case "record" ->
                timelines
                        .record(wanted.id(), clock.instant())
                        .map(KnownRecord::name)
                        .orElseThrow(() -> Refusal.notFound("record"));
            case "person" ->
                people.one(wanted.id()).map(People.Person::name).orElseThrow(() -> Refusal.notFound("person"));
            default -> throw Refusal.bad("There is no “" + wanted.kind() + "” to subscribe to", "record or person.");
        };
        String secret = Secrets.fresh();
        UUID id = UUID.randomUUID();
        transactions.executeWithoutResult(t -> {
            feeds.add(id, Secrets.hash(secret), me.id(), wanted.kind(), wanted.id(), name);
            journal.add(me.login(), "made", new Thing("subscription", id.toString(), name), null, wanted.kind());
        });
        String address = settings.publicUrl() + "/feeds/" + secret + ".ics";
        return new FeedInfo(id, wanted.kind(), name, clock.instant(), null, address);
    }

    @EventListener
    void ended(SignInEnded ended) {
        feeds.removeAll(ended.signIn());
    }

    @GetMapping("/api/feeds")
    List<FeedInfo> all(@AuthenticationPrincipal SignedIn me) {
        return feeds.of(me.id()).stream()
                .map(f -> new FeedInfo(f.id(), f.kind(), f.name(), f.madeAt(), f.lastRead(), null))
                .toList();
    }

    @DeleteMapping("/api/feeds/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void revoke(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        transactions.executeWithoutResult(t -> {
            if (feeds.remove(id, me.id()) == 0) {
                throw Refusal.notFound("subscription");
            }
            journal.add(me.login(), "revoked", new Thing("subscription", id.toString(), ""), null, null);
        });
    }

    @GetMapping("/feeds/{secret}.ics")
    void read(@PathVariable("secret") String secret, HttpServletResponse response) throws IOException {
        Optional<Feed> feed = feeds.byHash(Secrets.hash(secret));
        Optional<Viewer> viewer = feed.flatMap(f -> viewers.of(f.signIn()));
        if (viewer.isEmpty()) {
            throw Refusal.notFound("subscription");
        }
        Instant now = clock.instant();
        Feed f = feed.orElseThrow();
        feeds.read(f.id(), now);
        boolean ofPerson = f.kind().equals("person");
        Meetings.Wanted wanted = new Meetings.Wanted(
                now.minus(BACK),
                now.plus(AHEAD),
                ofPerson ? List.of(f.ofId()) : List.of(),
                ofPerson ? List.of() : List.of(f.ofId()));
        response.setHeader("Cache-Control", "private, no-store");
        calendar(response);
        try (CalendarFeed out = CalendarFeed.subscription(response.getWriter(), f.name())) {
            write(out, meetings.between(wanted, viewer.get(), MOST), false);
        }
    }

    /** All meetings on a record's timeline, as far as the asker sees them, as one file. */
    @GetMapping(path = "/api/records/{id}/meetings.ics", produces = "text/calendar")
    void file(@PathVariable("id") UUID record, @AuthenticationPrincipal SignedIn me, HttpServletResponse response)
            throws IOException {
        if (timelines.record(record, clock.instant()).isEmpty()) {
            throw Refusal.notFound("record");
        }
        Meetings.Wanted wanted =
                new Meetings.Wanted(DecisionFilter.FIRST, DecisionFilter.LAST, List.of(), List.of(record));
        response.setHeader("Content-Disposition", "attachment; filename=meetings.ics");
        calendar(response);
        try (CalendarFeed out = CalendarFeed.file(response.getWriter())) {
            write(out, meetings.between(wanted, me.viewer(), MOST_IN_FILE), true);
        }
    }

    private static void calendar(HttpServletResponse response) {
        response.setContentType("text/calendar");
        response.setCharacterEncoding("UTF-8");
    }

    /** @param withPeople whether it says who takes part, where that may be read */
    private static void write(CalendarFeed out, List<Meeting> all, boolean withPeople) throws IOException {
        for (Meeting meeting : all) {
            MeetingItem facts = meeting.facts();
            out.add(
                    meeting.id() + "@jandrel",
                    details(meeting, facts),
                    facts == null ? 0 : facts.sequence(),
                    facts == null ? meeting.begins() : Instant.ofEpochMilli(facts.stamp()),
                    facts != null && withPeople ? facts.parties() : List.of());
        }
    }

    /** Of an outline: when, and that it is busy. */
    private static Details details(Meeting m, @Nullable MeetingItem facts) {
        return new Details(
                facts == null ? BUSY : facts.subject(),
                new Details.When(m.begins(), m.ends(), m.allDay(), ""),
                facts == null ? "" : facts.place(),
                facts == null ? "" : facts.online(),
                "",
                m.takesTime(),
                facts == null ? Privacy.PRIVATE : facts.privacy(),
                Details.NONE,
                new TreeSet<>(),
                new TreeMap<>(),
                facts != null && facts.state() == MeetingItem.State.CANCELLED);
    }
}
