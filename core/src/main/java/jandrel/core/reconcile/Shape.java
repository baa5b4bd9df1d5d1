package jandrel.core.reconcile;

import java.util.List;

/**
 * What a kind of thing consists of, as far as two sides keep it in step.
 *
 * @param <D> all that a side has of the thing
 */
public interface Shape<D> {
    /** In the order in which conflicts are told. */
    List<? extends Part<D>> parts();

    /** As it is once it is called off rather than deleted; the same where there is no such thing. */
    D cancel(D details);
}
