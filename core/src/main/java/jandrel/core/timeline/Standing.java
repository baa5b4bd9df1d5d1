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
     * @param told what somebody said of it; empty for nothing
     */
    public static Standing of(MeetingItem meeting, boolean declined, String told, Instant now) {
        if (meeting.state() == MeetingItem.State.CANCELLED) {
            return CANCELLED;
        }
        if (!told.isEmpty()) {
            return valueOf(told.toUpperCase(Locale.ROOT));
        }
        if (declined) {
            return DECLINED;
        }
        return meeting.ends().isAfter(now) ? PLANNED : HELD;
    }

    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }
}
