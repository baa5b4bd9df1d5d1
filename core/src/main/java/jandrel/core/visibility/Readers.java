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
        return everyone || ids.stream().anyMatch(people::contains);
    }
}
