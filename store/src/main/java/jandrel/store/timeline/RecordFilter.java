package jandrel.store.timeline;

import jandrel.store.kernel.Like;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Which records are wanted. Empty and null members do not filter.
 *
 * @param kind {@code contact}, {@code lead}, {@code account} or {@code opportunity}
 * @param name a part of it
 * @param owner whose they are; a contact is its account's owner's
 * @param touch when their last activity was
 * @param nothingNext only those without a meeting ahead
 */
public record RecordFilter(
        String kind,
        String name,
        @Nullable UUID owner,
        @Nullable Touch touch,
        boolean nothingNext) {
    /** When the last activity was, each without those before it. */
    public enum Touch {
        DAY(1, 0),
        WEEK(7, 1),
        MONTH(30, 7),
        QUARTER(90, 30),
        LONGER(0, 90),
        NEVER(0, 0);

        private final int within;
        private final int before;

        /** @param within so many days; 0 for any number */
        Touch(int within, int before) {
            this.within = within;
            this.before = before;
        }

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }

        Instant after(Instant now) {
            return within == 0 ? DecisionFilter.FIRST : now.minus(Duration.ofDays(within));
        }
    }

    /**
     * Between which moments a last touch is.
     *
     * @param word empty where any will do
     */
    public record Touched(String word, Instant after, Instant until) {}

    Touched touched(Instant now) {
        return touch == null
                ? new Touched("", now, now)
                : new Touched(touch.word(), touch.after(now), now.minus(Duration.ofDays(touch.before)));
    }

    /** All of a kind with this in their names. */
    public static RecordFilter named(String kind, String name) {
        return new RecordFilter(kind, name, null, null, false);
    }

    /** For ILIKE. */
    public String pattern() {
        return "%" + Like.escaped(name) + "%";
    }

    /** For LIKE, of a name that begins so. */
    public String start() {
        return Like.escaped(name) + "%";
    }
}
