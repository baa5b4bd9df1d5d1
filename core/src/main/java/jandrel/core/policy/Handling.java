package jandrel.core.policy;

/** What becomes of items that are not like the others. */
public record Handling(Private privateItems, Vanished cancelled, Vanished deleted, Series series) {
    /** A private item is its owner's, what is cancelled or deleted leaves the timeline, every occurrence counts. */
    public static final Handling SAFE =
            new Handling(Private.OUTLINE, Vanished.REMOVE, Vanished.REMOVE, Series.EACH_OCCURRENCE);

    /** Items marked private. */
    public enum Private {
        /** Logged; its owner reads it, everybody else gets the outline. */
        OUTLINE,
        LEAVE_OUT
    }

    /** Meetings cancelled, and items that their source no longer shows. */
    public enum Vanished {
        KEEP,
        /** Kept, and marked as what it is. */
        MARK,
        REMOVE
    }

    /** Meetings that recur. */
    public enum Series {
        EACH_OCCURRENCE,
        LEAVE_OUT
    }
}
