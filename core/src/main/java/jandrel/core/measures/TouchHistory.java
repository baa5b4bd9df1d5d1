package jandrel.core.measures;

import jandrel.core.visibility.Readers;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * When accounts were touched, how, and who may know: of what is past the last of each kind alone, of what is ahead all. Never changed
 * itself.
 */
public final class TouchHistory {
    public static final TouchHistory NONE = new TouchHistory(SharedMap.empty());
    private final SharedMap<List<Touch>> touches;

    /** What took place, or is to. */
    public enum How {
        /** Ours wrote. */
        OURS,
        /** They wrote. */
        THEIRS,
        /** A meeting, whether it has begun or is ahead. */
        MET,
        /** A meeting that was cancelled: something took place, and nobody met. */
        CANCELLED
    }

    /** @param readers who may know what it was; that it was is no secret */
    public record Touch(How how, Instant at, Readers readers) {}

    private TouchHistory(SharedMap<List<Touch>> touches) {
        this.touches = touches;
    }

    /** What these accounts had before goes. */
    public TouchHistory with(Set<UUID> accounts, Map<UUID, List<Touch>> now) {
        SharedMap<List<Touch>>.Editing all = touches.edit();
        accounts.forEach(all::remove);
        now.forEach((account, some) -> all.put(account, List.copyOf(some)));
        return new TouchHistory(all.done());
    }

    /**
     * How an account stands, as far as a viewer may know.
     *
     * @param reads see {@link jandrel.core.visibility.Visibility#full}
     */
    public Touches.Account seen(UUID account, @Nullable UUID owner, Predicate<Readers> reads, Instant now) {
        Instant ours = null;
        Instant theirs = null;
        Instant met = null;
        Instant last = null;
        boolean hasNext = false;
        boolean hides = !reads.test(Readers.EVERYONE);
        List<Touch> all = touches.get(account);
        for (Touch touch : all == null ? List.<Touch>of() : all) {
            if (touch.at().isAfter(now)) {
                hasNext |= touch.how() == How.MET;
                continue;
            }
            last = later(last, touch.at());
            if (!reads.test(touch.readers())) {
                hides = true;
                continue;
            }
            switch (touch.how()) {
                case OURS -> ours = later(ours, touch.at());
                case THEIRS -> theirs = later(theirs, touch.at());
                case MET -> met = later(met, touch.at());
                case CANCELLED -> {
                    // nobody wrote, and nobody met
                }
            }
        }
        return new Touches.Account(account, owner, ours, theirs, met, last, hasNext, hides);
    }

    private static Instant later(@Nullable Instant one, Instant other) {
        return one == null || other.isAfter(one) ? other : one;
    }
}
