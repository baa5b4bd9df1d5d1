package jandrel.service.calendar;

import jandrel.api.Meetings.ConflictInfo;
import jandrel.api.Meetings.GuestInfo;
import jandrel.api.Meetings.MadeMeeting;
import jandrel.api.Meetings.MeetingChange;
import jandrel.api.Meetings.MeetingDetail;
import jandrel.api.Meetings.MovedInfo;
import jandrel.api.Meetings.NewCalendar;
import jandrel.api.Meetings.NewMeeting;
import jandrel.api.Meetings.SendOut;
import jandrel.api.Meetings.SentOut;
import jandrel.api.Meetings.StandInfo;
import jandrel.api.Meetings.Telling;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Sort;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.policy.Policy.OutwardKind;
import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Details;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Visibility;
import jandrel.service.Refusal;
import jandrel.service.capture.Asker;
import jandrel.service.capture.Outgoing;
import jandrel.service.people.SignedIn;
import jandrel.sources.SourceTrouble;
import jandrel.store.Connections;
import jandrel.store.Invitations;
import jandrel.store.Invitations.Asked;
import jandrel.store.Invitations.Way;
import jandrel.store.Meetings;
import jandrel.store.Meetings.Meeting;
import jandrel.store.People;
import jandrel.store.Pins;
import jandrel.store.Plans;
import jandrel.store.Plans.About;
import jandrel.store.Plans.Kept;
import jandrel.store.Plans.Plan;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
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
    private static final int MOST_CONFLICTS = 200;
    private static final Set<String> TOLD = Set.of("", "held", "missed");
    private final Plans plans;
    private final Meetings meetings;
    private final People people;
    private final Pins records;
    private final Connections connections;
    private final Outgoing outgoing;
    private final Asker asker;
    private final Invitations invitations;
    private final Clock clock;

    MeetingCalls(
            Plans plans,
            Meetings meetings,
            People people,
            Pins records,
            Connections connections,
            Outgoing outgoing,
            Asker asker,
            Invitations invitations,
            Clock clock) {
        this.asker = asker;
        this.invitations = invitations;
        this.plans = plans;
        this.meetings = meetings;
        this.people = people;
        this.records = records;
        this.connections = connections;
        this.outgoing = outgoing;
        this.clock = clock;
    }

    @PostMapping("/api/meetings")
    @ResponseStatus(HttpStatus.CREATED)
    MadeMeeting make(@RequestBody NewMeeting wanted, @AuthenticationPrincipal SignedIn me) {
        Sort sort = Making.sort(wanted.sort());
        People.Person owner = owner(wanted.person(), me);
        Details details = Making.details(wanted);
        if (wanted.records().isEmpty()) {
            throw Refusal.bad("It is for no record", "Name at least one contact, lead, account or opportunity.");
        }
        List<About> about = new ArrayList<>();
        for (UUID record : wanted.records()) {
            Pins.Target target = records.target(record).orElseThrow(() -> Refusal.notFound("record"));
            about.add(new About(target.id(), target.kind()));
        }
        boolean out = outgoing.sends(owner.id(), OutwardKind.valueOf(sort.name()));
        String uid = UUID.randomUUID() + "@jandrel";
        boolean asks = asks(wanted.ask(), owner, details, out);
        MeetingItem template =
                Making.template(uid, sort, details, owner.writesAs(), owner.name(), names(details), clock.instant());
        UUID item = plans.make(owner.id(), template, details, about, out, asks, me.name());
        Plan plan = plans.of(item).orElseThrow();
        if (out) {
            outgoing.soon(plan);
        }
        asker.soon();
        return new MadeMeeting(item, said("Made", plan));
    }

    private Map<String, String> names(Details details) {
        return details.guests().isEmpty() ? Map.of() : plans.namesOf(details.guests());
    }

    private People.Person owner(@Nullable UUID wanted, SignedIn me) {
        UUID person = wanted == null ? me.person() : wanted;
        if (person == null) {
            throw Refusal.bad("It is nobody’s", "Say whose it is: your sign-in is no person’s of the company.");
        }
        if (!person.equals(me.person()) && me.role() != Role.ADMINISTRATOR) {
            throw Refusal.of(
                    HttpStatus.FORBIDDEN,
                    "Only administrators make something for others",
                    "Make it for yourself, or ask one.");
        }
        return people.one(person).orElseThrow(() -> Refusal.notFound("person"));
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
        return wanted != null || can && outgoing.asks(owner.id());
    }

    private String said(String what, Plan plan) {
        return what + "; " + stand(plan).says() + asking(plan) + ".";
    }

    private String asking(Plan plan) {
        Details details = plan.details();
        int guests = details == null ? 0 : details.guests().size();
        if (guests == 0 || !plan.madeHere() && !plan.asks()) {
            return "";
        }
        String whom = guests == 1 ? "its guest is" : "its " + guests + " guests are";
        if (!plan.asks()) {
            return "; " + whom + " not asked from here";
        }
        return asker.way(plan.owner(), plan.out())
                .map(way ->
                        way == Way.MAIL ? "; " + whom + " told by mail" : "; " + whom + " told by the calendar server")
                .orElse("; " + whom + " not told, as no mail server is set up");
    }

    private StandInfo stand(Plan plan) {
        String calendar = Optional.ofNullable(plan.source())
                .flatMap(connections::source)
                .or(() -> plan.out() ? plans.outgoing(plan.owner()) : Optional.empty())
                .map(Connections.Source::label)
                .orElse("");
        String whose = people.one(plan.owner()).map(People.Person::name).orElse("");
        Details details = plan.details();
        String state;
        String says;
        if (!plan.trouble().isEmpty() && plan.owed()) {
            state = "trouble";
            says = "it does not reach the calendar: " + plan.trouble();
        } else if (plan.parted()) {
            state = "parted";
            says = "it is no longer exchanged with the calendar";
        } else if (!plan.out()) {
            state = "here";
            says = "it stands here alone, as the policy of " + whose + " lets this kind go to no calendar";
        } else if (plan.owed() && calendar.isEmpty()) {
            state = "trouble";
            says = "it waits for a calendar of " + whose + " that it could go to";
        } else {
            state = plan.owed() ? "going" : "in-step";
            says = plan.owed()
                    ? "it is on its way to the calendar “" + calendar + "” of " + whose
                    : "it stands alike here and in the calendar “" + calendar + "” of " + whose;
        }
        return new StandInfo(
                state,
                says,
                calendar,
                details == null ? Details.NONE : details.reminder(),
                details == null || details.busy());
    }

    @GetMapping("/api/meetings/{item}")
    MeetingDetail open(@PathVariable("item") UUID item, @AuthenticationPrincipal SignedIn me) {
        Meeting meeting = read(item, me);
        Map<UUID, People.Person> everybody =
                people.all().stream().collect(Collectors.toMap(People.Person::id, Function.identity()));
        Optional<Plan> plan = plans.of(item);
        String whyNot = whyNot(meeting, me);
        return new MeetingDetail(
                CalendarCalls.info(meeting, everybody, me, clock.instant()),
                meetings.moved(item).stream()
                        .map(m -> new MovedInfo(m.at(), m.wasBegins(), m.wasEnds(), m.begins(), m.ends(), m.by()))
                        .toList(),
                meetings.told(item).map(Meetings.Told::by).orElse(""),
                plan.map(this::stand).orElse(null),
                plan.map(p -> conflicts(p, me)).orElse(List.of()),
                guests(meeting, plan.orElse(null)),
                plan.filter(Plan::asks).isPresent(),
                whyNot.isEmpty(),
                whyNot);
    }

    private List<GuestInfo> guests(Meeting meeting, @Nullable Plan plan) {
        Map<String, Asked> asked = plan == null || !plan.asks()
                ? Map.of()
                : invitations.asked(plan.id()).stream().collect(Collectors.toMap(Asked::guest, Function.identity()));
        MeetingItem facts = Objects.requireNonNull(meeting.facts());
        Set<String> own = facts.parties().stream()
                .filter(p -> p.part() == Part.ORGANISER)
                .map(p -> p.address().toString())
                .collect(Collectors.toSet());
        return facts.parties().stream()
                .filter(p -> p.part().isGuest() && !own.contains(p.address().toString()))
                .map(p -> guest(p, asked.get(p.address().toString()), plan != null && plan.asks()))
                .toList();
    }

    private static GuestInfo guest(Party party, @Nullable Asked asked, boolean asks) {
        String answer = party.part() == Part.GROUP
                ? "group"
                : Answer.of(party.part()).map(Answer::word).orElse("none");
        String how = "";
        if (asked != null && !asked.trouble().isEmpty()) {
            how = "could not be asked: " + asked.trouble();
        } else if (asked != null) {
            how = asked.way() == Way.MAIL ? "told by mail" : "told by the calendar server";
        } else if (asks) {
            how = "about to be asked";
        }
        return new GuestInfo(
                party.address().toString(),
                party.name(),
                answer,
                how,
                asked == null || asked.trouble().isEmpty());
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
        Optional<Plan> plan = plans.of(meeting.id());
        if (plan.isEmpty() && !outgoing.reaches(owner)) {
            return "It came from a calendar, and the policy lets nothing out to that.";
        }
        if (plan.filter(Plan::parted).isPresent()) {
            return "It is no longer exchanged with its calendar: change it there.";
        }
        return "";
    }

    /** Whose calendar a change by the asker goes to: their own, or that of its owner for an administrator. */
    private @Nullable UUID ownerOf(Meeting meeting, SignedIn me) {
        UUID planned = plans.of(meeting.id()).map(Plan::owner).orElse(null);
        if (me.person() != null
                && meeting.owners().contains(me.person())
                && (planned == null || planned.equals(me.person()))) {
            return me.person();
        }
        return me.role() == Role.ADMINISTRATOR
                ? (planned == null ? meeting.owners().get(0) : planned)
                : null;
    }

    private Plan changeable(UUID item, SignedIn me) {
        Meeting meeting = read(item, me);
        String whyNot = whyNot(meeting, me);
        if (!whyNot.isEmpty()) {
            throw Refusal.of(HttpStatus.FORBIDDEN, "This meeting cannot be changed here", whyNot);
        }
        UUID owner = Objects.requireNonNull(ownerOf(meeting, me));
        try {
            return outgoing.adopt(item, owner, me.name())
                    .orElseThrow(() -> Refusal.of(
                            HttpStatus.CONFLICT,
                            "The calendar does not show this meeting any more",
                            "Look again in a moment."));
        } catch (SourceTrouble trouble) {
            throw Refusal.of(HttpStatus.BAD_GATEWAY, "The calendar cannot be asked", trouble.getMessage() + ".");
        }
    }

    @PutMapping("/api/meetings/{item}")
    MadeMeeting change(
            @PathVariable("item") UUID item, @RequestBody MeetingChange wanted, @AuthenticationPrincipal SignedIn me) {
        Plan plan = changeable(item, me);
        Details now = plan.details();
        if (now == null) {
            throw Refusal.notFound("meeting");
        }
        Details changed = Making.changed(now, wanted);
        if (wanted.ask() != null && wanted.ask() != plan.asks()) {
            People.Person owner = people.one(plan.owner()).orElseThrow(() -> Refusal.notFound("person"));
            invitations.asks(plan.id(), asks(wanted.ask(), owner, changed, plan.out()));
        }
        plans.change(plan.id(), changed, me.name());
        return settled("Changed", item);
    }

    private MadeMeeting settled(String what, UUID item) {
        Plan plan = plans.of(item).orElseThrow();
        if (plan.owed()) {
            outgoing.soon(plan);
        }
        asker.soon();
        return new MadeMeeting(item, said(what, plan));
    }

    @DeleteMapping("/api/meetings/{item}")
    MadeMeeting delete(@PathVariable("item") UUID item, @AuthenticationPrincipal SignedIn me) {
        Plan plan = changeable(item, me);
        plans.change(plan.id(), null, me.name());
        Plan deleted = plans.of(item).orElseThrow();
        asker.soon();
        String guests = invitations.told(plan.id()).isEmpty() ? "" : " Guests who were asked are told.";
        if (deleted.owed()) {
            outgoing.soon(deleted);
            return new MadeMeeting(item, "Deleted here; the calendar is told as the policy says." + guests);
        }
        return new MadeMeeting(item, "Deleted." + guests);
    }

    /** Says how it went. For all who read it. */
    @PutMapping("/api/meetings/{item}/told")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void tell(@PathVariable("item") UUID item, @RequestBody Telling told, @AuthenticationPrincipal SignedIn me) {
        Meeting meeting = read(item, me);
        if (!TOLD.contains(told.state())) {
            throw Refusal.bad("“" + told.state() + "” cannot be said of a meeting", "It was held, or missed.");
        }
        if (!told.state().isEmpty() && meeting.begins().isAfter(clock.instant())) {
            throw Refusal.bad("It has not begun yet", "Say how it went once it has.");
        }
        meetings.tell(item, told.state(), me.name());
    }

    private List<ConflictInfo> conflicts(@Nullable Plan plan, SignedIn me) {
        List<ConflictInfo> shown = new ArrayList<>();
        Map<UUID, Boolean> readable = new HashMap<>();
        for (Kept kept : plans.conflicts(plan == null ? null : plan.id(), MOST_CONFLICTS)) {
            Plan of = plan == null ? plans.one(kept.plan()).orElseThrow() : plan;
            boolean reads = readable.computeIfAbsent(
                    of.item(),
                    item -> of.owner().equals(me.person())
                            || meetings.one(item, me.viewer())
                                    .filter(m -> m.visibility() == Visibility.FULL)
                                    .isPresent());
            if (reads) {
                shown.add(info(kept, of));
            }
        }
        return shown;
    }

    private static ConflictInfo info(Kept kept, Plan plan) {
        Details details = plan.details();
        return new ConflictInfo(
                kept.id(),
                plan.item(),
                details == null ? plan.template().subject() : details.title(),
                kept.at(),
                kept.field() == null ? "deleted" : kept.field().name().toLowerCase(Locale.ROOT),
                kept.hereWon() ? "here" : "calendar",
                kept.here(),
                kept.calendar(),
                kept.canComeBack(),
                kept.broughtBackBy());
    }

    /** All that the asker may read, the latest first. */
    @GetMapping("/api/conflicts")
    List<ConflictInfo> conflicts(@AuthenticationPrincipal SignedIn me) {
        return conflicts(null, me);
    }

    @PostMapping("/api/conflicts/{id}/bring-back")
    MadeMeeting bringBack(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        Kept kept = plans.conflict(id).orElseThrow(() -> Refusal.notFound("conflict"));
        Plan plan = plans.one(kept.plan()).orElseThrow();
        if (!plan.owner().equals(me.person()) && me.role() != Role.ADMINISTRATOR) {
            throw Refusal.notFound("conflict");
        }
        if (conflicts(plan, me).isEmpty()) {
            throw Refusal.notFound("conflict");
        }
        if (!plans.bringBack(id, me.name())) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "There is nothing to bring back",
                    "It was brought back before, or was a deletion.");
        }
        return settled("Brought back", plan.item());
    }

    /** What was made here before it could go out; counted, or sent. */
    @PostMapping("/api/meetings/send-out")
    SentOut sendOut(@RequestBody SendOut wanted, @AuthenticationPrincipal SignedIn me) {
        People.Person owner = owner(wanted.person(), me);
        List<Plan> all = plans.notOut(owner.id()).stream()
                .filter(p -> outgoing.sends(
                        owner.id(), OutwardKind.valueOf(p.template().sort().name())))
                .toList();
        boolean reads = owner.id().equals(me.person());
        List<String> titles = all.stream()
                .limit(50)
                .map(p -> reads && p.details() != null
                        ? p.details().title()
                        : p.template().sort().word())
                .toList();
        if (wanted.apply() && !all.isEmpty()) {
            plans.sendOut(all.stream().map(Plan::id).toList(), me.name());
            outgoing.soon(all.get(0));
        }
        return new SentOut(all.size(), titles, wanted.apply());
    }

    /** A calendar for what is made here, so that it stays apart from what is personal. */
    @PostMapping("/api/connections/{id}/calendars")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void calendarFor(
            @PathVariable("id") UUID id, @RequestBody NewCalendar wanted, @AuthenticationPrincipal SignedIn me) {
        Connections.Connection connection =
                connections.connection(id).orElseThrow(() -> Refusal.notFound("connection"));
        if (!connection.person().equals(me.person()) && me.role() != Role.ADMINISTRATOR) {
            throw Refusal.notFound("connection");
        }
        String name = wanted.name().strip();
        if (name.isEmpty() || name.length() > 100) {
            throw Refusal.bad("The calendar needs a name", "Give 1 to 100 characters.");
        }
        if (!connections
                .server(connection.server())
                .map(s -> s.kind().equals("caldav"))
                .orElse(false)) {
            throw Refusal.bad("This connection has no calendars", "Choose one to a calendar server.");
        }
        try {
            outgoing.calendarFor(id, name);
        } catch (SourceTrouble trouble) {
            throw Refusal.of(HttpStatus.BAD_GATEWAY, "The calendar was not made", trouble.getMessage() + ".");
        }
    }
}
