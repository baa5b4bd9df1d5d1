package jandrel.core.measures;

import jandrel.core.timeline.Standing;
import java.time.Instant;
import java.util.Comparator;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * A meeting or call, as it stands on the timeline of one account; of several, one for each.
 *
 * @param opportunities on whose timelines it stands, too
 * @param standing null where the reader may not know it
 * @param owner the first of ours
 * @param result what came of it, as the company calls it; empty where nobody said
 */
public record MetAccount(
        UUID meeting,
        UUID account,
        Set<UUID> opportunities,
        Instant begins,
        @Nullable Standing standing,
        @Nullable UUID owner,
        String result) {
    static final Comparator<MetAccount> IN_ORDER =
            Comparator.comparing(MetAccount::begins).thenComparing(MetAccount::meeting);

    public MetAccount {
        opportunities = Set.copyOf(opportunities);
    }

    boolean isHidden() {
        return standing == null;
    }

    boolean isHeld() {
        return standing == Standing.HELD;
    }
}
