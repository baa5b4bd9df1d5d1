package jandrel.service.capture;

import jandrel.formats.calendar.Reply;
import java.util.UUID;

/** Takes guests' answers to invitations, as they come in with an organiser's mail (RFC 6047). */
public interface ReplySink {
    /**
     * Taking the same answer twice changes nothing.
     *
     * @param person in whose mailbox it came
     */
    void take(UUID person, Reply reply);
}
