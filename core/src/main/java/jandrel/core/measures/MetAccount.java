package jandrel.core.measures;

import jandrel.core.timeline.Standing;
import jandrel.core.visibility.FaceChoice;
import jandrel.core.visibility.Readers;
import java.time.Instant;
import java.util.Comparator;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * A meeting or call, as it stands on the timeline of one account; of several, one for each. {@link SellingHistory.Seen} says what
 * somebody may know of it.
 *
 * @param item what its copies name themselves by
 * @param opportunities on whose timelines it stands, too
 * @param face which of several copies that say different things; null where there is but one
 * @param owner the first of ours
 * @param result what came of it, as the company calls it; empty where nobody said
 */
public record MetAccount(
        UUID item,
        UUID meeting,
        UUID account,
        Set<UUID> opportunities,
        Instant begins,
        Instant ends,
        Signs signs,
        Readers readers,
        @Nullable FaceChoice face,
        @Nullable UUID owner,
        String result) {
    static final Comparator<MetAccount> IN_ORDER =
            Comparator.comparing(MetAccount::begins).thenComparing(MetAccount::meeting);

    /** How it went, as far as anything says so; see {@link Standing#of}. */
    public record Signs(boolean cancelled, boolean declined, boolean missed, String outcome) {}

    public MetAccount {
        opportunities = Set.copyOf(opportunities);
    }

    Standing standing(Instant now) {
        return Standing.of(signs.cancelled(), ends, signs.declined(), signs.missed(), signs.outcome(), now);
    }
}
