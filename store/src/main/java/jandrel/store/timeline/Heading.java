package jandrel.store.timeline;

import jandrel.core.item.MeetingItem.Sort;
import jandrel.core.item.Party;
import java.util.List;
import java.util.Objects;
import java.util.Set;

/**
 * What stands over an item, and nothing else of what is kept of it: to make all of it costs an export more than all the rest.
 *
 * @param place of a meeting; else empty
 * @param sort of a message without meaning
 */
public record Heading(List<Named> parties, String subject, String place, Sort sort) {
    public static final Heading NONE = new Heading(List.of(), "", "", Sort.MEETING);

    /** @param address as it is kept: lower case */
    public record Named(Party.Part part, String address, String name) {}

    public Heading {
        parties = List.copyOf(Objects.requireNonNullElse(parties, List.of()));
        subject = Objects.requireNonNullElse(subject, "");
        place = Objects.requireNonNullElse(place, "");
        // what was kept before there were these is a meeting
        sort = Objects.requireNonNullElse(sort, Sort.MEETING);
    }

    boolean hasBlind() {
        return parties.stream().anyMatch(p -> p.part() == Party.Part.BCC);
    }

    /** The same without those who have a blind copy, except those whose addresses are given. */
    Heading openly(Set<String> known) {
        return new Heading(
                parties.stream()
                        .filter(p -> p.part() != Party.Part.BCC || known.contains(p.address()))
                        .toList(),
                subject,
                place,
                sort);
    }
}
