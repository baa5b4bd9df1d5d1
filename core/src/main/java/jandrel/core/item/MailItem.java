package jandrel.core.item;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Set;

/**
 * One message.
 *
 * @param at when it was sent, by its Date header if that can be believed, else when the server received it
 * @param dateFromHeader whether {@code at} is the sender's own date
 * @param markers what its headers say of its sort, each as {@code name: value} in lower case; never what it is about
 * @param strand how it hangs together with other messages
 * @param sketch what it says, as {@link Sketch} has it; empty where that is not known
 */
public record MailItem(
        String identity,
        Instant at,
        boolean dateFromHeader,
        List<Party> parties,
        String subject,
        Nature nature,
        List<String> markers,
        ThreadHeaders strand,
        Inside inside,
        String sketch)
        implements Item {
    public MailItem {
        parties = List.copyOf(parties);
        // facts kept before there were these have none
        markers = List.copyOf(Objects.requireNonNullElse(markers, List.of()));
        strand = Objects.requireNonNullElse(strand, ThreadHeaders.NONE);
        inside = Objects.requireNonNullElse(inside, Inside.NOTHING);
        sketch = Objects.requireNonNullElse(sketch, Sketch.NONE);
    }

    public MailItem(
            String identity,
            Instant at,
            boolean dateFromHeader,
            List<Party> parties,
            String subject,
            Nature nature,
            List<String> markers,
            ThreadHeaders strand,
            Inside inside) {
        this(identity, at, dateFromHeader, parties, subject, nature, markers, strand, inside, Sketch.NONE);
    }

    public MailItem(
            String identity,
            Instant at,
            boolean dateFromHeader,
            List<Party> parties,
            String subject,
            Nature nature,
            List<String> markers) {
        this(
                identity,
                at,
                dateFromHeader,
                parties,
                subject,
                nature,
                markers,
                ThreadHeaders.NONE,
                Inside.NOTHING,
                Sketch.NONE);
    }

    public MailItem(
            String identity, Instant at, boolean dateFromHeader, List<Party> parties, String subject, Nature nature) {
        this(identity, at, dateFromHeader, parties, subject, nature, List.of());
    }

    /** Who wrote what was passed on may count as if on it. */
    @Override
    public Set<String> keys() {
        Set<String> keys = Item.super.keys();
        Inside.Forwarded passedOn = inside.forwarded();
        if (passedOn != null) {
            keys.addAll(passedOn.from().keys());
        }
        return keys;
    }

    public MailItem with(List<Party> parties) {
        return new MailItem(identity, at, dateFromHeader, parties, subject, nature, markers, strand, inside, sketch);
    }

    /** The same without those who have a blind copy, except those whose addresses are given. */
    public MailItem openly(Set<String> known) {
        return parties.stream().allMatch(p -> p.part() != Party.Part.BCC)
                ? this
                : with(parties.stream()
                        .filter(p -> p.part() != Party.Part.BCC
                                || known.contains(p.address().toString()))
                        .toList());
    }

    public MailItem saying(String sketch) {
        return new MailItem(identity, at, dateFromHeader, parties, subject, nature, markers, strand, inside, sketch);
    }
}
