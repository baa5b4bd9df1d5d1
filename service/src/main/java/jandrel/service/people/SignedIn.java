package jandrel.service.people;

import jandrel.core.visibility.Oversight;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Who asks.
 *
 * @param oversight whose items their lists hold
 */
public record SignedIn(
        UUID id,
        String login,
        String name,
        Role role,
        @Nullable UUID person,
        String team,
        Oversight oversight) {
    public Viewer viewer() {
        return new Viewer(role, person, Viewer.team(team), oversight);
    }
}
