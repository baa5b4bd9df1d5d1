package jandrel.service.meetings;

import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.MeetingChange;
import jandrel.api.MeetingApi.MeetingDetail;
import jandrel.api.MeetingApi.MeetingOutcome;
import jandrel.api.MeetingApi.MeetingResult;
import jandrel.api.MeetingApi.MovedInfo;
import jandrel.api.MeetingApi.NewMeeting;
import jandrel.api.MeetingApi.SaidInfo;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Sort;
import jandrel.core.item.Party.Part;
import jandrel.core.policy.Policy.OutwardKind;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Field;
import jandrel.core.timeline.ResultWords;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Visibility;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.sources.SourceTrouble;
import jandrel.store.directory.RecordRef;
import jandrel.store.directory.RecordRefs;
import jandrel.store.meetings.Invitations;
import jandrel.store.meetings.ManagedMeetings;
import jandrel.store.meetings.ManagedMeetings.About;
import jandrel.store.meetings.ManagedMeetings.ManagedMeeting;
import jandrel.store.meetings.Meetings;
import jandrel.store.meetings.Meetings.Meeting;
import jandrel.store.people.People;
import jandrel.store.timeline.MeetingResults;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Makes, changes and deletes meetings, calls and follow-ups; says how they stand with their owners' calendars. */
@RestController
class MeetingCalls {
    private static final Set<String> OUTCOMES = Set.of("", "held", "missed");
    private final ManagedMeetings plans;
    private final Meetings meetings;
    private final People people;
    private final RecordRefs records;
    private final Stands stands;
    private final ConflictCalls conflicts;
    private final Outgoing outgoing;
    private final InvitationSender asker;
    private final Invitations invitations;
    private final MeetingResults results;
    private final Clock clock;

    MeetingCalls(
            ManagedMeetings plans,
            Meetings meetings,
            People people,
            RecordRefs records,
            Stands stands,
            ConflictCalls conflicts,
            Outgoing outgoing,
            InvitationSender asker,
            Invitations invitations,
            MeetingResults results,
            Clock clock) {
        this.results = results;
        this.asker = asker;
        this.invitations = invitations;
        this.plans = plans;
        this.meetings = meetings;
        this.people = people;
        this.records = records;
        this.stands = stands;
        this.conflicts = conflicts;
        this.outgoing = outgoing;
        this.clock = clock;
    }

    @PostMapping("/api/meetings")
    @LargestBody(kilobytes = 512)
    @ResponseStatus(HttpStatus.CREATED)
    MadeMeeting make(@RequestBody NewMeeting wanted, @AuthenticationPrincipal SignedIn me) {
        Sort sort = Making.sort(wanted.sort());
        People.Person owner = Owners.of(people, wanted.person(), me);
        Details details = Making.details(wanted);
        if (wanted.records().isEmpty()) {
            throw Refusal.bad("It is for no record", "Name at least one contact, lead, account or opportunity.");
        }
        List<About> about = new ArrayList<>();
        for (UUID record : wanted.records()) {
            RecordRef target = records.find(record).orElseThrow(() -> Refusal.notFound("record"));
            about.add(new About(target.id(), target.kind()));
        }
        boolean out = outgoing.sends(owner.id(), OutwardKind.valueOf(sort.name()));
        String uid = UUID.randomUUID() + "@jandrel";
        boolean asks = asks(wanted.ask(), owner, details, out);
        MeetingItem template =
                Making.template(uid, sort, details, owner.writesAs(), owner.name(), names(details), clock.instant());
        UUID item = plans.make(owner.id(), template, details, about, out, asks, me.name());
        ManagedMeeting plan = plans.of(item, owner.id()).orElseThrow();
        if (out) {
            outgoing.soon(plan);
        }
        asker.soon();
        return new MadeMeeting(item, stands.said("Made", plan));
    }

    private Map<String, String> names(Details details) {
        return details.guests().isEmpty() ? Map.of() : plans.namesOf(details.guests());
    }

    /** @throws Refusal if guests are to be asked, and nobody can ask them */
    private boolean asks(@Nullable Boolean wanted, People.Person owner, Details details, boolean out) {
        if (details.guests().isEmpty() || Boolean.FALSE.equals(wanted)) {
            return false;
        }
        boolean can = asker.way(owner.id(), out).isPresent();
        if (Boolean.TRUE.equals(wanted) && !can) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "The guests cannot be asked",
                    "No mail server is set up to send by (JANDREL_SMTP_HOST), and the calendar server asks nobody by"
                            + " itself. Make it without asking, and ask them yourself.");
        }
        return wanted != null || (can && outgoing.asks(owner.id()));
    }

    @GetMapping("/api/meetings/{item}")
    MeetingDetail open(@PathVariable("item") UUID item, @AuthenticationPrincipal SignedIn me) {
        Meeting meeting = read(item, me);
        Map<UUID, People.Person> everybody =
                people.all().stream().collect(Collectors.toMap(People.Person::id, Function.identity()));
        Optional<ManagedMeeting> plan = plans.behind(item);
        String whyNot = whyNot(meeting, me);
        return new MeetingDetail(
                CalendarCalls.info(meeting, everybody, me, clock.instant(), results.all()),
                meetings.moved(item).stream()
                        .map(m -> new MovedInfo(m.at(), m.wasBegins(), m.wasEnds(), m.begins(), m.ends(), m.by()))
                        .toList(),
                meetings.outcome(item).map(Meetings.Outcome::by).orElse(""),
                results.said(item).stream()
                        .map(s -> new SaidInfo(s.name(), s.by(), s.at()))
                        .toList(),
                plan.map(stands::stand).orElse(null),
                plan.map(p -> conflicts.of(p, me)).orElse(List.of()),
                stands.guests(meeting, plan.orElse(null)),
                plan.filter(ManagedMeeting::asks).isPresent(),
                whyNot.isEmpty(),
                whyNot);
    }

    /** Only what the asker reads in full: an outline has no history, and nothing to change. */
    private Meeting read(UUID item, SignedIn me) {
        return meetings.one(item, me.viewer())
                .filter(m -> m.visibility() == Visibility.FULL)
                .orElseThrow(() -> Refusal.notFound("meeting"));
    }

    private String whyNot(Meeting meeting, SignedIn me) {
        UUID owner = ownerOf(meeting, me);
        if (owner == null) {
            return "Only those whose calendar has it change it.";
        }
        Optional<ManagedMeeting> plan = plans.behind(meeting.id());
        if (plan.isEmpty() && !outgoing.reaches(owner)) {
            return "It came from a calendar, and the policy lets nothing out to that.";
        }
        if (plan.filter(ManagedMeeting::detached).isPresent()) {
            return "It is no longer exchanged with its calendar: change it there.";
        }
        return plan.map(ManagedMeeting::madeHere).orElse(false) ? "" : whoseElse(meeting, owner);
    }

    /** RFC 5546 §3.2.2: a meeting is its organiser's to change; in a guest's calendar is a copy. */
    private String whoseElse(Meeting meeting, UUID owner) {
        Set<String> own = people.one(owner).map(p -> Set.of(p.addresses())).orElse(Set.of());
        return Objects.requireNonNull(meeting.facts()).parties().stream()
                .filter(p -> p.part() == Part.ORGANISER)
                .filter(p -> !own.contains(p.address().toString()))
                .findFirst()
                .map(p -> "It is the meeting of " + (p.name().isEmpty() ? p.address() : p.name())
                        + ", who asks to it: only they can change it.")
                .orElse("");
    }

    /** Whose calendar a change by the asker goes to: their own, or that of its owner for an administrator. */
    private @Nullable UUID ownerOf(Meeting meeting, SignedIn me) {
        UUID planned = plans.behind(meeting.id()).map(ManagedMeeting::owner).orElse(null);
        if (me.person() != null
                && meeting.owners().contains(me.person())
                && (planned == null || planned.equals(me.person()))) {
            return me.person();
        }
        return me.role() == Role.ADMINISTRATOR
                ? (planned != null
                        ? planned
                        : meeting.authors().stream()
                                .findFirst()
                                .orElse(meeting.owners().get(0)))
                : null;
    }

    private ManagedMeeting changeable(UUID item, SignedIn me) {
        Meeting meeting = read(item, me);
        String whyNot = whyNot(meeting, me);
        if (!whyNot.isEmpty()) {
            throw Refusal.of(HttpStatus.FORBIDDEN, "This meeting cannot be changed here", whyNot);
        }
        UUID owner = Objects.requireNonNull(ownerOf(meeting, me));
        try {
            return outgoing.adopt(meeting.key(), owner, me.name())
                    .orElseThrow(() -> Refusal.of(
                            HttpStatus.CONFLICT,
                            "The calendar does not show this meeting any more",
                            "Look again in a moment."));
        } catch (SourceTrouble trouble) {
            throw Refusal.of(HttpStatus.BAD_GATEWAY, "The calendar cannot be asked", trouble.getMessage() + ".");
        }
    }

    @PutMapping("/api/meetings/{item}")
    @LargestBody(kilobytes = 512)
    MadeMeeting change(
            @PathVariable("item") UUID item, @RequestBody MeetingChange wanted, @AuthenticationPrincipal SignedIn me) {
        ManagedMeeting plan = changeable(item, me);
        Details now = plan.details();
        if (now == null) {
            throw Refusal.notFound("meeting");
        }
        Boolean asks = null;
        if (wanted.ask() != null && wanted.ask() != plan.asks()) {
            People.Person owner = people.one(plan.owner()).orElseThrow(() -> Refusal.notFound("person"));
            asks = asks(wanted.ask(), owner, Making.changed(now, wanted), plan.out());
        }
        // somebody else, or the calendar, may have changed it since it was read
        plans.change(plan.id(), was -> merged(was, wanted), asks, me.name());
        return stands.settled("Changed", item, plan.id());
    }

    /** @throws Refusal with both values of each field that is neither what the change was begun from nor what it makes of it */
    private static Details merged(@Nullable Details now, MeetingChange wanted) {
        if (now == null) {
            throw Refusal.of(
                    HttpStatus.CONFLICT, "Somebody deleted this meanwhile", "Your change was not made; make it anew.");
        }
        Details changed = Making.changed(now, wanted);
        if (wanted.seen() != null) {
            Details seen = Making.changed(now, wanted.seen());
            String conflicts = Arrays.stream(Field.values())
                    .filter(f -> f != Field.ANSWERS)
                    .filter(f -> !f.words(seen).equals(f.words(now))
                            && !f.words(changed).equals(f.words(now)))
                    .map(f -> f.name().toLowerCase(Locale.ROOT) + " is “" + f.words(now) + "” now, you wrote “"
                            + f.words(changed) + "”")
                    .collect(Collectors.joining("; "));
            if (!conflicts.isEmpty()) {
                throw Refusal.of(
                        HttpStatus.CONFLICT,
                        "Somebody changed this meanwhile",
                        "Nothing was saved: " + conflicts + ". Save again to replace it with yours.");
            }
        }
        return changed;
    }

    @DeleteMapping("/api/meetings/{item}")
    MadeMeeting delete(@PathVariable("item") UUID item, @AuthenticationPrincipal SignedIn me) {
        ManagedMeeting plan = changeable(item, me);
        plans.change(plan.id(), null, me.name());
        ManagedMeeting deleted = plans.one(plan.id()).orElseThrow();
        asker.soon();
        String guests = invitations.lastLetters(plan.id()).isEmpty() ? "" : " Guests who were asked are told.";
        if (deleted.pendingSync()) {
            outgoing.soon(deleted);
            return new MadeMeeting(item, "Deleted here; the calendar is told as the policy says." + guests);
        }
        return new MadeMeeting(item, "Deleted." + guests);
    }

    /** Says how it went. For all who read it. */
    @PutMapping("/api/meetings/{item}/outcome")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void outcome(
            @PathVariable("item") UUID item,
            @RequestBody MeetingOutcome outcome,
            @AuthenticationPrincipal SignedIn me) {
        Meeting meeting = read(item, me);
        if (!OUTCOMES.contains(outcome.state())) {
            throw Refusal.bad("“" + outcome.state() + "” cannot be said of a meeting", "It was held, or missed.");
        }
        begun(meeting, outcome.state());
        meetings.noteOutcome(item, outcome.state(), me.name());
    }

    private void begun(Meeting meeting, String said) {
        if (!said.isEmpty() && meeting.begins().isAfter(clock.instant())) {
            throw Refusal.bad("It has not begun yet", "Say how it went once it has.");
        }
    }

    /** Says what came of it, as the company calls it; what was said before is kept. For all who read it. */
    @PutMapping("/api/meetings/{item}/result")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void result(
            @PathVariable("item") UUID item, @RequestBody MeetingResult said, @AuthenticationPrincipal SignedIn me) {
        Meeting meeting = read(item, me);
        String result = said.result().strip();
        String known = result.isEmpty()
                ? ""
                : results.called(result)
                        .orElseThrow(() -> Refusal.bad(
                                "There is no result “" + result + "”",
                                "There are "
                                        + results.all().stream()
                                                .map(ResultWords::name)
                                                .collect(Collectors.joining(", ", "", "."))));
        begun(meeting, known);
        results.say(item, known, me.name());
    }
}
