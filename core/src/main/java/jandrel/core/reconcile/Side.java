package jandrel.core.reconcile;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A thing as one side has it.
 *
 * @param details null where that side has none (any more)
 * @param changedAt when that side last changed it, as far as it says
 */
public record Side<D>(@Nullable D details, Instant changedAt) {}
