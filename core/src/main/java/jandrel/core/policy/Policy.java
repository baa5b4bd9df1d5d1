package jandrel.core.policy;

/**
 * What is captured and who reads it.
 *
 * @param version grows by one with each change
 * @param backDays how many days before the day of connecting are captured
 * @param aheadDays how many days ahead meetings are captured
 */
public record Policy(int version, boolean mail, boolean meetings, int backDays, int aheadDays, Sharing sharing) {
    /** The furthest that a policy may look back or ahead: a hundred years. */
    public static final int MOST_DAYS = 36_525;

    /** Who reads an activity in full; everybody else gets its outline. Ordered from the widest to the narrowest. */
    public enum Sharing {
        EVERYONE,
        THOSE_ON_IT,
        OWNER
    }

    public Policy {
        if (backDays < 0 || backDays > MOST_DAYS || aheadDays < 0 || aheadDays > MOST_DAYS) {
            throw new IllegalArgumentException("days back and ahead go from 0 to " + MOST_DAYS);
        }
    }

    /** The safe one that a new installation begins with. */
    public static Policy first() {
        return new Policy(1, true, true, 90, 60, Sharing.EVERYONE);
    }
}
