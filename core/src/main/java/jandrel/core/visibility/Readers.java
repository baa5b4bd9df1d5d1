package jandrel.core.visibility;

import java.util.Set;
import java.util.UUID;

/**
 * Who reads something in full. Everybody else gets its outline.
 *
 * @param everyone whether there is no limit; then {@code people} is empty
 * @param people persons, and what {@link Viewer#team} stands for teams
 */
public record Readers(boolean everyone, Set<UUID> people) {
    /** No limit. */
    public static final Readers EVERYONE = new Readers(true, Set.of());

    public Readers {
        people = Set.copyOf(people);
    }

    public static Readers only(Set<UUID> people) {
        return new Readers(false, people);
    }

    /** Whether one of these is among them. */
    public boolean has(Set<UUID> ids) {
        if (everyone) {
            return true;
        }
        // asked of every meeting that figures count: a stream would cost more than the answer
        for (UUID id : ids) {
            if (people.contains(id)) {
                return true;
            }
        }
        return false;
    }
}
