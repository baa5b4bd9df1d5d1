package jandrel.core.visibility;

import java.util.Collection;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Whose decisions, connections and cover stand in somebody's lists. It gives no right to read what was written: that is
 * {@link Visibility}'s alone.
 *
 * @param everybody whether there is no limit; then {@code people} is empty
 */
public record Oversight(boolean everybody, Set<UUID> people) {
    public static final Oversight EVERYBODY = new Oversight(true, Set.of());

    public Oversight {
        people = Set.copyOf(people);
    }

    /**
     * A rep's own alone; everybody's for the other roles, unless they are limited to teams.
     *
     * @param person who they are; null for nobody of the company
     * @param inTeams the people of the teams that they are limited to; null for no limit
     */
    public static Oversight of(Role role, @Nullable UUID person, @Nullable Collection<UUID> inTeams) {
        if (role == Role.REP) {
            return new Oversight(false, person == null ? Set.of() : Set.of(person));
        }
        return !role.isLimitable() || inTeams == null ? EVERYBODY : new Oversight(false, Set.copyOf(inTeams));
    }

    /** Its people; null for no limit. */
    public UUID @Nullable [] limit() {
        return everybody ? null : people.toArray(UUID[]::new);
    }

    public boolean covers(@Nullable UUID person) {
        return everybody || (person != null && people.contains(person));
    }
}
