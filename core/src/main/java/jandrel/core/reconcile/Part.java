package jandrel.core.reconcile;

import org.jspecify.annotations.Nullable;

/**
 * A part of what two sides have of one thing, which is merged by itself.
 *
 * @param <D> all that a side has of the thing; never changes
 */
public interface Part<D> {
    /** As it is stored: never rename one. */
    String name();

    Object of(D details);

    /** @param from whose value of this part it gets */
    D put(D into, D from);

    /** As the journal of conflicts keeps it. */
    String words(D details);

    /** Whether two sides seldom come to the same value by chance: by it a write is known again whose answer was lost. */
    boolean isTelling();

    /** Whether the other side is believed in this even where nothing else is taken up from it. */
    default boolean isTheirs() {
        return false;
    }

    /**
     * For a part with members: what both sides’ changes of single members come to.
     *
     * @param base null while the sides never agreed on anything
     * @return null for a part that is merged by its value
     */
    default @Nullable Combined<D> combine(@Nullable Base<D> base, D ours, D theirs, boolean hereWins) {
        return null;
    }

    /**
     * @param value of which this part counts
     * @param clash whether both sides changed the same member
     */
    record Combined<D>(D value, boolean clash) {}
}
