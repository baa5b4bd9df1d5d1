package jandrel.service.meetings;

import jandrel.formats.calendar.Reply;
import jandrel.service.capture.ReplySink;
import jandrel.store.meetings.Invitations;
import jandrel.store.meetings.Invitations.Answered;
import jandrel.store.meetings.ManagedMeetings;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Takes guests' answers to invitations, as they come in with an organiser's mail (RFC 6047). */
@Component
class Replies implements ReplySink {
    private final Invitations invitations;
    private final ManagedMeetings plans;
    private final Outgoing outgoing;

    Replies(Invitations invitations, ManagedMeetings plans, Outgoing outgoing) {
        this.invitations = invitations;
        this.plans = plans;
        this.outgoing = outgoing;
    }

    @Override
    public void take(UUID person, Reply reply) {
        Answered answered = new Answered(
                reply.uid(), reply.recurrence(), reply.guest(), reply.answer(), reply.sequence(), reply.stamp());
        if (invitations.take(person, answered)) {
            plans.of(person, reply.uid(), reply.recurrence()).ifPresent(outgoing::soon);
        }
    }
}
