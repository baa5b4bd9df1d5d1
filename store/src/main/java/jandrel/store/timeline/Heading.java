package jandrel.store.timeline;

import jandrel.core.item.Party;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;

/**
 * What stands over an item, and nothing else of what is kept of it: to make all of it costs an export more than all the rest.
 *
 * @param place of a meeting; else empty
 * @param sort {@code MEETING}, {@code CALL} or {@code FOLLOW_UP}; of a message without meaning
 */
public record Heading(List<Named> parties, String subject, String place, String sort) {
    public static final Heading NONE = new Heading(List.of(), "", "", "");

    /** @param address as it is kept: lower case */
    public record Named(Party.Part part, String address, String name) {}

    public Heading {
        parties = List.copyOf(Objects.requireNonNullElse(parties, List.of()));
        subject = Objects.requireNonNullElse(subject, "");
        place = Objects.requireNonNullElse(place, "");
        // what was kept before there were these is a meeting
        sort = Objects.requireNonNullElse(sort, "MEETING");
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

    /** Such as {@code follow-up}. */
    public String sortWord() {
        return sort.toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
