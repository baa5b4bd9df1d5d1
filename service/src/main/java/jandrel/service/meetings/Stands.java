package jandrel.service.meetings;

import jandrel.api.MeetingApi.GuestInfo;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.StandInfo;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Details;
import jandrel.store.connections.Connections;
import jandrel.store.meetings.Invitations;
import jandrel.store.meetings.Invitations.Asked;
import jandrel.store.meetings.Invitations.Way;
import jandrel.store.meetings.ManagedMeetings;
import jandrel.store.meetings.ManagedMeetings.ManagedMeeting;
import jandrel.store.meetings.Meetings.Meeting;
import jandrel.store.people.People;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Says how what was made or changed here stands with its owner's calendar, and with its guests. */
@Component
class Stands {
    private final ManagedMeetings plans;
    private final People people;
    private final Outgoing outgoing;
    private final InvitationSender asker;
    private final Invitations invitations;

    Stands(ManagedMeetings plans, People people, Outgoing outgoing, InvitationSender asker, Invitations invitations) {
        this.plans = plans;
        this.people = people;
        this.outgoing = outgoing;
        this.asker = asker;
        this.invitations = invitations;
    }

    /** After a change of ours: the calendar and the guests are told at once. */
    MadeMeeting settled(String what, UUID item, UUID changed) {
        ManagedMeeting plan = plans.one(changed).orElseThrow();
        if (plan.pendingSync()) {
            outgoing.soon(plan);
        }
        asker.soon();
        return new MadeMeeting(item, said(what, plan));
    }

    String said(String what, ManagedMeeting plan) {
        return what + "; " + stand(plan).says() + asking(plan) + ".";
    }

    private String asking(ManagedMeeting plan) {
        Details details = plan.details();
        int guests = details == null ? 0 : details.guests().size();
        if (guests == 0 || (!plan.madeHere() && !plan.asks())) {
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

    StandInfo stand(ManagedMeeting plan) {
        String calendar =
                outgoing.calendarOf(plan).map(Connections.Source::label).orElse("");
        String whose = people.one(plan.owner()).map(People.Person::name).orElse("");
        Details details = plan.details();
        String state;
        String says;
        if (!plan.trouble().isEmpty() && plan.pendingSync()) {
            state = "trouble";
            says = "it does not reach the calendar: " + plan.trouble();
        } else if (plan.detached()) {
            state = "detached";
            says = "it is no longer exchanged with the calendar";
        } else if (!plan.out()) {
            state = "here";
            says = "it stands here alone, as the policy of " + whose + " lets this kind go to no calendar";
        } else if (plan.pendingSync() && calendar.isEmpty()) {
            state = "trouble";
            says = "it waits for a calendar of " + whose + " that it could go to";
        } else {
            state = plan.pendingSync() ? "going" : "in-step";
            says = plan.pendingSync()
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

    /**
     * Who is asked to it, besides its organiser.
     *
     * @param plan null for what was neither made nor changed here
     */
    List<GuestInfo> guests(Meeting meeting, @Nullable ManagedMeeting plan) {
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
}
