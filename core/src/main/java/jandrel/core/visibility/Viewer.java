package jandrel.core.visibility;

import java.nio.charset.StandardCharsets;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Who asks.
 *
 * @param person the person of ours behind the sign-in; null for one that is nobody's, such as an outside auditor's
 * @param team stands for the person's team among readers; null for none
 * @param oversight whose items the viewer's lists hold
 */
public record Viewer(
        Role role, @Nullable UUID person, @Nullable UUID team, Oversight oversight) {
    private static final UUID NOBODY = new UUID(0, 0);

    public Viewer(Role role, @Nullable UUID person) {
        this(role, person, null);
    }

    /** Not limited to teams. */
    public Viewer(Role role, @Nullable UUID person, @Nullable UUID team) {
        this(role, person, team, Oversight.of(role, person, null));
    }

    /** The person, or an id that nobody has: what is kept to one's own is then nothing at all. */
    public UUID personOrNobody() {
        return person == null ? NOBODY : person;
    }

    /** What stands for the viewer among readers. */
    public Set<UUID> ids() {
        UUID me = personOrNobody();
        return team == null ? Set.of(me) : Set.of(me, team);
    }

    /** The id that stands for a team among readers; null for an empty name, as people without a team are not one. */
    public static @Nullable UUID team(String name) {
        return name.isBlank() ? null : UUID.nameUUIDFromBytes(("team\n" + name).getBytes(StandardCharsets.UTF_8));
    }
}
