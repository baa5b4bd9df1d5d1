package jandrel.core.rehearse;

import jandrel.core.decide.Decision;
import jandrel.core.timeline.Activity;
import jandrel.core.timeline.Face;
import jandrel.core.visibility.Readers;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/**
 * What names itself alike, mostly one item, under the rules as they are, and as they would be.
 *
 * @param sides every sighting of it that is decided anew
 * @param before what stands on timelines
 * @param after what would stand there
 */
public record Turn(UUID item, String kind, Instant at, List<Side> sides, List<Activity> before, List<Activity> after) {
    public Turn {
        sides = List.copyOf(sides);
        before = List.copyOf(before);
        after = List.copyOf(after);
    }

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

    /** All that becomes of these, one for each activity that it happens to; empty when nothing does. */
    public List<Effect> effects() {
        List<Effect> effects = new ArrayList<>(1);
        for (Activity was : before) {
            if (after.stream().noneMatch(is -> is.hasCopyOf(was))) {
                effects.add(Effect.VANISHES);
            }
        }
        for (Activity is : after) {
            Optional<Activity> was =
                    before.stream().filter(b -> is.hasCopyOf(b)).findFirst();
            if (was.isEmpty()) {
                effects.add(Effect.APPEARS);
            } else {
                effects(was.get(), is, effects);
            }
        }
        return effects;
    }

    private static void effects(Activity was, Activity is, List<Effect> into) {
        if (!readers(was).equals(readers(is))) {
            into.add(Effect.READERS);
        }
        if (!new HashSet<>(was.links()).equals(new HashSet<>(is.links()))) {
            into.add(Effect.LINKS);
        }
    }

    private static List<Readers> readers(Activity activity) {
        return activity.faces().stream().map(Face::readers).toList();
    }
}
