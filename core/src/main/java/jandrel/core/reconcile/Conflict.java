package jandrel.core.reconcile;

import org.jspecify.annotations.Nullable;

/**
 * Something that both sides wanted otherwise, and what was done. The losing value is kept by whoever records it.
 *
 * @param field null where one side deleted what the other changed
 * @param hereWon whose value stands
 * @param lost all of the losing side, to bring a value back from; null when what lost was a deletion
 */
public record Conflict<D>(
        @Nullable Part<D> field,
        boolean hereWon,
        String here,
        String there,
        @Nullable D lost) {}
