package jandrel.store.kernel;

import java.util.Collection;
import java.util.HashSet;
import java.util.Set;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * The one order in which a transaction takes locks, so that no two wait for each other: the rules, rows (a plan, then a connection, then
 * its sources), items, the journal. Each step is taken once, with all that it needs; the journal always last, as each entry waits for
 * the one before it to be safe. A transaction that would take them otherwise fails at once, whether anybody else is there or not.
 */
public final class LockOrder implements TransactionSynchronization {
    private enum Step {
        NOTHING,
        RULES,
        ITEMS,
        JOURNAL
    }

    private Step reached = Step.NOTHING;
    private boolean rules;
    private boolean alone;
    private final Set<Long> items = new HashSet<>();

    private LockOrder() {}

    static void rulesShared() {
        LockOrder order = here();
        if (!order.rules) {
            order.reach(Step.RULES);
            order.rules = true;
        }
    }

    static void rulesAlone() {
        LockOrder order = here();
        if (order.rules) {
            // two that hold the rules together would each wait for the other to let go
            require(order.alone, "the rules alone after sharing them");
            return;
        }
        order.reach(Step.RULES);
        order.rules = true;
        order.alone = true;
    }

    public static void items(Collection<Long> keys) {
        LockOrder order = here();
        require(order.items.isEmpty() || order.items.containsAll(keys), "more items after some");
        order.reach(Step.ITEMS);
        order.items.addAll(keys);
    }

    public static void journal() {
        here().reach(Step.JOURNAL);
    }

    private void reach(Step step) {
        require(step.compareTo(reached) >= 0, step + " after " + reached);
        reached = step;
    }

    private static void require(boolean inOrder, String what) {
        if (!inOrder) {
            throw new StoreException("locks are taken out of order: " + what);
        }
    }

    /** Of the transaction under way. */
    private static LockOrder here() {
        for (TransactionSynchronization known : TransactionSynchronizationManager.getSynchronizations()) {
            if (known instanceof LockOrder order) {
                return order;
            }
        }
        LockOrder order = new LockOrder();
        TransactionSynchronizationManager.registerSynchronization(order);
        return order;
    }
}
