package jandrel.core.timeline;

import jandrel.core.item.MeetingItem;
import java.time.Instant;
import java.util.Locale;

/**
 * How a meeting stands. Nothing is ever overdue: what has ended was held, unless somebody says otherwise.
 */
public enum Standing {
    PLANNED,
    HELD,
    MISSED,
    CANCELLED,
    /** Everybody from outside has declined. */
    DECLINED;

    /**
     * @param declined whether everybody from outside has declined
     * @param missed whether its own words say that it did not take place
     * @param outcome what somebody said of it; empty for nothing
     */
    public static Standing of(MeetingItem meeting, boolean declined, boolean missed, String outcome, Instant now) {
        boolean cancelled = meeting.state() == MeetingItem.State.CANCELLED;
        return of(cancelled, meeting.ends(), declined, missed, outcome, now);
    }

    /** As {@link #of(MeetingItem, boolean, boolean, String, Instant)}, where no more than this is known of it. */
    public static Standing of(
            boolean cancelled, Instant ends, boolean declined, boolean missed, String outcome, Instant now) {
        if (cancelled) {
            return CANCELLED;
        }
        if (!outcome.isEmpty()) {
            return valueOf(outcome.toUpperCase(Locale.ROOT));
        }
        if (declined) {
            return DECLINED;
        }
        if (ends.isAfter(now)) {
            return PLANNED;
        }
        return missed ? MISSED : HELD;
    }

    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }
}
