package jandrel.core.reconcile;

import org.jspecify.annotations.Nullable;

/**
 * What a side's changes are told from. Mostly the same for both; where an answer of the other was lost, each side's own: what ours was
 * when it was sent, and what was written there.
 */
public record Base<D>(D here, D there) {
    public static <D> @Nullable Base<D> of(@Nullable D agreed) {
        return agreed == null ? null : new Base<>(agreed, agreed);
    }
}
