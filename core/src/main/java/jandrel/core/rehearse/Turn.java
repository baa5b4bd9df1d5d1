package jandrel.core.rehearse;

import jandrel.core.decide.Decision;
import jandrel.core.timeline.Activity;
import java.time.Instant;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/**
 * One item under the rules as they are, and as they would be.
 *
 * @param sides every sighting of it that is decided anew
 * @param before what stands on timelines
 * @param after what would stand there
 */
public record Turn(
        UUID item, String kind, Instant at, List<Side> sides, Optional<Activity> before, Optional<Activity> after) {

    /** One sighting's decisions. */
    public record Side(UUID sighting, UUID person, Decision before, Decision after) {
        /** Whether verdict, links or readers differ; a trail that only says it otherwise is no change. */
        boolean changes() {
            return before.verdict() != after.verdict()
                    || !Set.copyOf(before.links()).equals(Set.copyOf(after.links()))
                    || before.sharing() != after.sharing();
        }
    }

    /** What can become of an activity. */
    public enum Effect {
        APPEARS,
        VANISHES,
        READERS,
        LINKS
    }

    /** All that becomes of this one; empty when nothing does. */
    public Set<Effect> effects() {
        if (before.isEmpty() || after.isEmpty()) {
            return before.isPresent() ? Set.of(Effect.VANISHES) : after.isPresent() ? Set.of(Effect.APPEARS) : Set.of();
        }
        Set<Effect> effects = EnumSet.noneOf(Effect.class);
        if (!before.get().readers().equals(after.get().readers())) {
            effects.add(Effect.READERS);
        }
        if (!new HashSet<>(before.get().links())
                .equals(new HashSet<>(after.get().links()))) {
            effects.add(Effect.LINKS);
        }
        return effects;
    }
}
