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
 * @param calendar whether the person's calendar is captured, so that meetings come from there
 * @param hand what the person chose for the very item
 */
public record SourceContext(
        UUID person,
        @Nullable UUID team,
        Instant since,
        @Nullable Instant until,
        Sharing sharing,
        boolean gone,
        boolean calendar,
        ManualOverride hand) {
    public SourceContext(UUID person, Instant since) {
        this(person, null, since, null, Sharing.EVERYONE);
    }

    public SourceContext(UUID person, @Nullable UUID team, Instant since, @Nullable Instant until, Sharing sharing) {
        this(person, team, since, until, sharing, false, false, ManualOverride.NONE);
    }

    public SourceContext asGone(boolean gone) {
        return new SourceContext(person, team, since, until, sharing, gone, calendar, hand);
    }

    public SourceContext withCalendar(boolean calendar) {
        return new SourceContext(person, team, since, until, sharing, gone, calendar, hand);
    }

    public SourceContext with(ManualOverride hand) {
        return new SourceContext(person, team, since, until, sharing, gone, calendar, hand);
    }
}
