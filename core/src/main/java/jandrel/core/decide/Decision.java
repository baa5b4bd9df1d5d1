package jandrel.core.decide;

import jandrel.core.policy.Policy.Sharing;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * The verdict on one item at one person's source.
 *
 * @param trail the reasons, in the order in which they were weighed
 * @param links empty unless logged
 * @param sharing how widely this sighting lets the item be read
 * @param insiders the people of ours on the item
 * @param team the owner's team, where it reads too
 * @param exclusion the exclusion that the verdict rests on, if one does
 * @param part what the person whose source shows it does on it
 */
public record Decision(
        Verdict verdict,
        List<Reason> trail,
        List<Link> links,
        Sharing sharing,
        Set<UUID> insiders,
        @Nullable UUID team,
        @Nullable UUID exclusion,
        OwnPart part) {
    public Decision {
        trail = List.copyOf(trail);
        links = List.copyOf(links);
        insiders = Set.copyOf(insiders);
    }

    public Decision(
            Verdict verdict,
            List<Reason> trail,
            List<Link> links,
            Sharing sharing,
            Set<UUID> insiders,
            @Nullable UUID team,
            @Nullable UUID exclusion) {
        this(verdict, trail, links, sharing, insiders, team, exclusion, OwnPart.UNNAMED);
    }

    /** The teams whose members read. */
    public Set<UUID> teams() {
        return team == null ? Set.of() : Set.of(team);
    }

    static Decision without(Verdict verdict, List<Reason> trail) {
        return new Decision(verdict, trail, List.of(), Sharing.OWNER, Set.of(), null, null);
    }

    static Decision excluded(UUID exclusion, List<Reason> trail) {
        return new Decision(Verdict.LEFT_OUT, trail, List.of(), Sharing.OWNER, Set.of(), null, exclusion);
    }
}
