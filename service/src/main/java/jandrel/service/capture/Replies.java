package jandrel.service.capture;

import jandrel.formats.calendar.Reply;
import jandrel.store.Invitations;
import jandrel.store.Invitations.Answered;
import jandrel.store.ManagedMeetings;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Takes guests' answers to invitations, as they come in with an organiser's mail (RFC 6047). */
@Component
class Replies {
    private final Invitations invitations;
    private final ManagedMeetings plans;
    private final Outgoing outgoing;

    Replies(Invitations invitations, ManagedMeetings plans, Outgoing outgoing) {
        this.invitations = invitations;
        this.plans = plans;
        this.outgoing = outgoing;
    }

    /** Taking the same answer twice changes nothing. @param person in whose mailbox it came */
    void take(UUID person, Reply reply) {
        Answered answered = new Answered(
                reply.uid(), reply.recurrence(), reply.guest(), reply.answer(), reply.sequence(), reply.stamp());
        if (invitations.take(person, answered)) {
            plans.of(person, reply.uid(), reply.recurrence()).ifPresent(outgoing::soon);
        }
    }
}
