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
        if (meeting.state() == MeetingItem.State.CANCELLED) {
            return CANCELLED;
        }
        if (!outcome.isEmpty()) {
            return valueOf(outcome.toUpperCase(Locale.ROOT));
        }
        if (declined) {
            return DECLINED;
        }
        if (meeting.ends().isAfter(now)) {
            return PLANNED;
        }
        return missed ? MISSED : HELD;
    }

    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }
}
