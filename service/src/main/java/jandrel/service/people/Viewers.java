package jandrel.service.people;

import jandrel.core.visibility.Oversight;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.people.SignIns;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Who a sign-in is, as far as reading goes, at this moment. */
@Component
public class Viewers {
    private final SignIns signIns;

    Viewers(SignIns signIns) {
        this.signIns = signIns;
    }

    /** @return nothing once the sign-in has gone */
    public Optional<Viewer> of(UUID signIn) {
        return signIns.one(signIn)
                .filter(s -> s.endedAt() == null)
                .map(s -> new Viewer(
                        Role.valueOf(s.role()),
                        s.person(),
                        Viewer.team(s.team()),
                        oversight(s.role(), s.person(), s.overseen())));
    }

    static Oversight oversight(String role, @Nullable UUID person, UUID @Nullable [] overseen) {
        return Oversight.of(Role.valueOf(role), person, overseen == null ? null : List.of(overseen));
    }
}
