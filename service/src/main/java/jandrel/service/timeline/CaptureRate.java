package jandrel.service.timeline;

import java.util.concurrent.TimeUnit;

/**
 * Whether much is being captured. The database counts what was added, and tells of it about once a second, so that a look at less than
 * that would take most moments of a backfill for quiet ones.
 */
final class CaptureRate {
    /** Nobody waits for each of so many. */
    private static final long MANY = 500;

    private static final long WINDOW_NANOS = TimeUnit.SECONDS.toNanos(2);

    private boolean begun;
    private long addedBefore;
    private long windowBegan;
    private long highUntil;

    /**
     * @param added how many there ever were
     * @param nanos a clock that only goes forward
     */
    boolean isHigh(long added, long nanos) {
        if (!begun) {
            begun = true;
            addedBefore = added;
            windowBegan = nanos;
            highUntil = nanos;
        }
        boolean many = added - addedBefore >= MANY;
        if (many) {
            highUntil = nanos + WINDOW_NANOS;
        }
        if (many || nanos - windowBegan >= WINDOW_NANOS) {
            addedBefore = added;
            windowBegan = nanos;
        }
        return nanos - highUntil < 0;
    }
}
