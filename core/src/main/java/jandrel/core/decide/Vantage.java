package jandrel.core.decide;

import jandrel.core.policy.Policy.Sharing;
import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Where an item was seen from.
 *
 * @param person whose source showed it
 * @param team stands for the person's team among readers; null for one without a team
 * @param since nothing before this is captured at that source
 * @param until nothing from this on is captured; null while the cover has no end
 * @param sharing how widely the person lets their own items be read; the narrower of this and the policy's counts
 * @param gone whether the source no longer shows it
 */
public record Vantage(
        UUID person,
        @Nullable UUID team,
        Instant since,
        @Nullable Instant until,
        Sharing sharing,
        boolean gone) {
    public Vantage(UUID person, Instant since) {
        this(person, null, since, null, Sharing.EVERYONE, false);
    }

    public Vantage asGone() {
        return new Vantage(person, team, since, until, sharing, true);
    }
}
