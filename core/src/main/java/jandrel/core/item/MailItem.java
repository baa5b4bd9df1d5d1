package jandrel.core.item;

import java.time.Instant;
import java.util.List;

/**
 * One message.
 *
 * @param at when it was sent, by its Date header if that can be believed, else when the server received it
 * @param dateFromHeader whether {@code at} is the sender's own date
 */
public record MailItem(
        String identity, Instant at, boolean dateFromHeader, List<Party> parties, String subject, Nature nature)
        implements Item {
    public MailItem {
        parties = List.copyOf(parties);
    }
}
