package jandrel.core.visibility;

import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** @param person the person of ours behind the sign-in; null for one that is nobody's, such as an outside auditor's */
public record Viewer(Role role, @Nullable UUID person) {
    private static final UUID NOBODY = new UUID(0, 0);

    /** The person, or an id that nobody has: what is kept to one's own is then nothing at all. */
    public UUID personOrNobody() {
        return person == null ? NOBODY : person;
    }
}
