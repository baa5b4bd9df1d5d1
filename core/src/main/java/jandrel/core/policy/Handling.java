package jandrel.core.policy;

import java.util.Objects;

/**
 * What becomes of items that are not like the others.
 *
 * @param deleted for meetings that their calendar no longer shows
 * @param deletedMail for messages that their owner deleted, or filed in a folder that is not captured
 * @param loggedKeyword the IMAP keyword (RFC 3501 §2.3.2) that messages get in their mailbox once they are logged; empty for none
 */
public record Handling(
        Private privateItems,
        Vanished cancelled,
        Vanished deleted,
        Vanished deletedMail,
        Series series,
        String loggedKeyword) {
    /**
     * A private item is its owner's, a meeting that is cancelled or deleted leaves the timeline, a message that is tidied away
     * stays, every occurrence counts.
     */
    public static final Handling SAFE =
            new Handling(Private.OUTLINE, Vanished.REMOVE, Vanished.REMOVE, Vanished.KEEP, Series.EACH_OCCURRENCE, "");

    public Handling {
        // rules kept before there was this have none
        deletedMail = Objects.requireNonNullElse(deletedMail, Vanished.KEEP);
        loggedKeyword = Objects.requireNonNullElse(loggedKeyword, "");
    }

    public Handling withDeleted(Vanished deleted, Vanished deletedMail) {
        return new Handling(privateItems, cancelled, deleted, deletedMail, series, loggedKeyword);
    }

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
