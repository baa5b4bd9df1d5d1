package jandrel.core.reconcile;

/**
 * What the policy prefers where both sides want something else.
 *
 * @param wins whose value stands where both changed the same field
 * @param deletionWins whether a deletion stands against a change of the other side; else the change lives
 * @param deletedThere what becomes of ours when the other's is deleted
 * @param deletedHere what becomes of the other's when ours is deleted
 * @param takesUp whether ours takes up what the other changes; else ours is put back there, but for what is the other's to say
 * @param gives whether the other is written to at all; else ours only takes up what the other changes
 */
public record Preference(
        Wins wins, boolean deletionWins, Deleted deletedThere, Deleted deletedHere, boolean takesUp, boolean gives) {
    /** The later change stands, a change lives, and what is deleted goes from both. */
    public static final Preference SAFE = new Preference(Wins.LATER, false, Deleted.REMOVE, Deleted.REMOVE, true);

    /** One that writes. */
    public Preference(Wins wins, boolean deletionWins, Deleted deletedThere, Deleted deletedHere, boolean takesUp) {
        this(wins, deletionWins, deletedThere, deletedHere, takesUp, true);
    }

    /** Whose value. */
    public enum Wins {
        HERE,
        THERE,
        LATER
    }

    /** What a deletion on the one side does on the other. */
    public enum Deleted {
        REMOVE,
        /** It stays, marked as cancelled. */
        CANCEL,
        /** It stays as it is. The two sides have detached. */
        KEEP,
        /** It stays as it is until somebody says whether it is removed, too. */
        ASK
    }
}
