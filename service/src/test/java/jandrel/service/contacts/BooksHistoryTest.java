package jandrel.service.contacts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.fail;

import jandrel.core.reconcile.RandomHistory;
import jandrel.store.StoreContext;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Random histories of a directory and the books of several people. A failure names its seed, and the fewest of its steps that still fail. */
class BooksHistoryTest {
    private static final int HISTORIES = Integer.getInteger("jandrel.histories", 30);
    private static StoreContext store;

    @BeforeAll
    static void open() throws Exception {
        store = new StoreContext("service_books");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @Test
    void theDirectoryAndEveryBookAgreeInTheEndWhateverIsMergedMovedOrPrivate() throws Exception {
        int merges = 0;
        int writes = 0;
        int answers = 0;
        for (int n = 0; n < HISTORIES; n++) {
            long seed = Long.getLong("jandrel.seed", 5_000_011L) + n;
            List<Long> steps = RandomHistory.steps(seed);
            BooksHistory history = played(seed, steps);
            if (history.failed() != null) {
                List<Long> fewest =
                        RandomHistory.fewest(steps, some -> played(seed, some).failed() != null);
                fail("seed %d: %s", seed, played(seed, fewest).failed());
            }
            merges += history.merges;
            writes += history.writes;
            answers += history.answers;
        }
        // a model in which nothing ever happens would agree, too
        assertThat(merges).isGreaterThan(HISTORIES / 2);
        assertThat(writes).isGreaterThan(HISTORIES);
        assertThat(answers).isGreaterThan(HISTORIES / 20);
    }

    private static BooksHistory played(long seed, List<Long> steps) {
        try {
            BooksHistory history = new BooksHistory(store, new SplittableRandom(~seed));
            for (long step : steps) {
                history.step(step);
            }
            history.end();
            return history;
        } catch (Exception broken) {
            throw new IllegalStateException("seed " + seed, broken);
        }
    }
}
