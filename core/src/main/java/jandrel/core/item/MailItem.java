package jandrel.core.item;

import java.time.Instant;
import java.util.List;
import java.util.Objects;

/**
 * One message.
 *
 * @param at when it was sent, by its Date header if that can be believed, else when the server received it
 * @param dateFromHeader whether {@code at} is the sender's own date
 * @param markers what its headers say of its sort, each as {@code name: value} in lower case; never what it is about
 * @param strand how it hangs together with other messages
 */
public record MailItem(
        String identity,
        Instant at,
        boolean dateFromHeader,
        List<Party> parties,
        String subject,
        Nature nature,
        List<String> markers,
        Strand strand,
        Inside inside)
        implements Item {
    public MailItem {
        parties = List.copyOf(parties);
        // facts kept before there were these have none
        markers = List.copyOf(Objects.requireNonNullElse(markers, List.of()));
        strand = Objects.requireNonNullElse(strand, Strand.NONE);
        inside = Objects.requireNonNullElse(inside, Inside.NOTHING);
    }

    public MailItem(
            String identity,
            Instant at,
            boolean dateFromHeader,
            List<Party> parties,
            String subject,
            Nature nature,
            List<String> markers) {
        this(identity, at, dateFromHeader, parties, subject, nature, markers, Strand.NONE, Inside.NOTHING);
    }

    public MailItem(
            String identity, Instant at, boolean dateFromHeader, List<Party> parties, String subject, Nature nature) {
        this(identity, at, dateFromHeader, parties, subject, nature, List.of());
    }

    /** The same message as found in several copies, of which each may name others. */
    public MailItem with(List<Party> parties) {
        return new MailItem(identity, at, dateFromHeader, parties, subject, nature, markers, strand, inside);
    }
}
