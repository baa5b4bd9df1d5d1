package jandrel.service.meetings;

import jandrel.api.MeetingApi.NewCalendar;
import jandrel.api.MeetingApi.SendOut;
import jandrel.api.MeetingApi.SentOut;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.OutwardKind;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Connections;
import jandrel.store.meetings.ManagedMeetings;
import jandrel.store.meetings.ManagedMeetings.ManagedMeeting;
import jandrel.store.people.People;
import jandrel.store.policy.Policies;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Where what is made here goes, and what never went. */
@RestController
class SendOutCalls {
    private final ManagedMeetings plans;
    private final People people;
    private final Connections connections;
    private final Outgoing outgoing;
    private final Policies policies;

    SendOutCalls(ManagedMeetings plans, People people, Connections connections, Outgoing outgoing, Policies policies) {
        this.plans = plans;
        this.people = people;
        this.connections = connections;
        this.outgoing = outgoing;
        this.policies = policies;
    }

    /** What was made here before it could go out; counted, or sent. */
    @PostMapping("/api/meetings/send-out")
    SentOut sendOut(@RequestBody SendOut wanted, @AuthenticationPrincipal SignedIn me) {
        People.Person owner = Owners.of(people, wanted.person(), me);
        Optional<Policy> policy = policies.of(owner.id());
        List<ManagedMeeting> all = plans.notOut(owner.id()).stream()
                .filter(p -> policy.filter(rules -> rules.sends(
                                OutwardKind.valueOf(p.template().sort().name())))
                        .isPresent())
                .toList();
        boolean reads = owner.id().equals(me.person());
        List<String> titles = all.stream()
                .limit(50)
                .map(p -> reads && p.details() != null
                        ? p.details().title()
                        : p.template().sort().word())
                .toList();
        if (wanted.apply() && !all.isEmpty()) {
            plans.sendOut(all.stream().map(ManagedMeeting::id).toList(), me.name());
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
