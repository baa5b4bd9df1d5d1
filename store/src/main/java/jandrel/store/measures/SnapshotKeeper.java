package jandrel.store.measures;

import jandrel.store.measures.ChangeMapper.Changed;
import jandrel.store.measures.ChangeMapper.Moment;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Something that is read once and kept in memory, then with every question brought to what was committed before it. What a node has not
 * seen is told by PostgreSQL's snapshots, so that a transaction that was slow to commit is not missed.
 *
 * @param <T> what is kept; never changed itself
 * @param <K> what else it was read by: where that is another, all is read anew
 */
final class SnapshotKeeper<T, K> {
    /** To read all of it may take longer than one question. */
    private static final int SECONDS = 180;

    /** For so long what changed is certain to be written down; see {@link #FORGOTTEN}. */
    private static final Duration CERTAIN = Duration.ofHours(12);

    /** After which what was written down of changes may be forgotten. */
    static final Duration FORGOTTEN = Duration.ofDays(1);

    private final ChangeMapper changes;
    private final String[] kinds;
    private final int mostChanges;
    private final TransactionTemplate snapshot;
    private final ReentrantLock turn = new ReentrantLock(true);
    private @Nullable State<T, K> state;

    private record State<T, K>(T kept, Moment moment, K key) {
        boolean isOf(Moment now, K key) {
            // numbers that went back are those of another database, such as one that was restored
            return key.equals(this.key)
                    && now.at().isBefore(moment.at().plus(CERTAIN))
                    && now.oldest() >= moment.oldest();
        }
    }

    /** How it is read, all of it or what changed. Called in one transaction with one snapshot. */
    interface Reading<T, K> {
        T all(K key);

        /** @param changed ids by their kind */
        T changed(T before, K key, Function<String, Set<UUID>> changed);
    }

    /**
     * @param kinds of changes that it takes
     * @param mostChanges of more than these, to read all anew costs less
     */
    SnapshotKeeper(ChangeMapper changes, PlatformTransactionManager transactions, int mostChanges, String... kinds) {
        this.changes = changes;
        this.kinds = Arrays.copyOf(kinds, kinds.length);
        this.mostChanges = mostChanges;
        snapshot = new TransactionTemplate(transactions);
        snapshot.setReadOnly(true);
        snapshot.setTimeout(SECONDS);
        snapshot.setIsolationLevel(TransactionDefinition.ISOLATION_REPEATABLE_READ);
        snapshot.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    }

    /**
     * All that was committed before this was asked.
     *
     * @param then what is read besides, at the same moment
     */
    <R> R current(Supplier<K> key, Reading<T, K> reading, BiFunction<T, K, R> then) {
        turn.lock();
        try {
            return Objects.requireNonNull(snapshot.execute(t -> {
                Moment now = changes.now();
                K as = key.get();
                T kept = kept(now, as, reading);
                state = new State<>(kept, now, as);
                return then.apply(kept, as);
            }));
        } finally {
            turn.unlock();
        }
    }

    private T kept(Moment now, K as, Reading<T, K> reading) {
        State<T, K> before = state;
        if (before == null || !before.isOf(now, as)) {
            return reading.all(as);
        }
        List<Changed> changed = changes.changed(before.moment().snapshot(), kinds, mostChanges + 1);
        if (changed.size() > mostChanges) {
            return reading.all(as);
        }
        return changed.isEmpty()
                ? before.kept()
                : reading.changed(
                        before.kept(),
                        as,
                        kind -> changed.stream()
                                .filter(c -> c.kind().equals(kind))
                                .map(Changed::id)
                                .collect(Collectors.toSet()));
    }
}
