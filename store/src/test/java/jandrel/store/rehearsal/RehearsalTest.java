package jandrel.store.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.Item;
import jandrel.core.rehearse.Effects;
import jandrel.core.rehearse.Turn.Effect;
import jandrel.store.StoreContext;
import jandrel.store.capture.Histories;
import java.sql.SQLException;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.LongStream;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** What a rehearsal says is what comes of the change: for random histories, and random changes of every kind. */
class RehearsalTest {
    private static StoreContext store;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_rehearsal");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    private record Stood(String readers, Set<String> links, Set<String> copies) {
        boolean isSame(Stood other) {
            return copies.stream().anyMatch(other.copies::contains);
        }
    }

    static LongStream seeds() {
        return Histories.seeds(8);
    }

    /** Seeded: a failure prints the seed, which replays the history. */
    @ParameterizedTest
    @MethodSource("seeds")
    void whatIsRehearsedIsWhatComes(long seed) throws Exception {
        Histories history = new Histories(store, seed);
        for (int i = 0; i < 40; i++) {
            history.arrive();
        }
        for (int step = 0; step < 60; step++) {
            Histories.Change change = history.next();
            history.settle();
            if (change.canBeRehearsed()) {
                Effects told = store.get(Rehearsing.class)
                        .rehearse(
                                change.draft(),
                                (source, positions) -> outsideTransactions(history, source, positions),
                                (done, total) -> {},
                                () -> false,
                                turn -> true);
                Map<String, Stood> before = standing();
                change.make().run();
                history.settle();
                assertThat(told(told))
                        .as("seed %d, step %d: %s", seed, step, change)
                        .isEqualTo(compared(before, standing()));
            } else {
                change.make().run();
            }
        }
    }

    private static Map<String, Item> outsideTransactions(Histories history, int source, List<String> positions) {
        assertThat(TransactionSynchronizationManager.isActualTransactionActive())
                .as("a transaction waits for a server")
                .isFalse();
        return history.fetched(source, positions);
    }

    private static Map<Effect, Long> told(Effects effects) {
        Map<Effect, Long> told = new EnumMap<>(Effect.class);
        for (Effect effect : Effect.values()) {
            told.put(effect, effects.activities(effect));
        }
        return told;
    }

    private static Map<Effect, Long> compared(Map<String, Stood> before, Map<String, Stood> after) {
        Map<Effect, Long> counts = new EnumMap<>(Effect.class);
        for (Effect effect : Effect.values()) {
            counts.put(effect, 0L);
        }
        before.values().stream()
                .filter(was -> after.values().stream().noneMatch(was::isSame))
                .forEach(was -> counts.merge(Effect.VANISHES, 1L, Long::sum));
        after.values()
                .forEach(is -> before.values().stream()
                        .filter(is::isSame)
                        .findFirst()
                        .ifPresentOrElse(
                                was -> {
                                    counts.merge(
                                            Effect.READERS, was.readers().equals(is.readers()) ? 0L : 1L, Long::sum);
                                    counts.merge(Effect.LINKS, was.links().equals(is.links()) ? 0L : 1L, Long::sum);
                                },
                                () -> counts.merge(Effect.APPEARS, 1L, Long::sum)));
        return counts;
    }

    private Map<String, Stood> standing() throws SQLException {
        String sql = """
                SELECT a.id, string_agg(coalesce((SELECT array_agg(r ORDER BY r) FROM unnest(a.readers) r)::text, 'all') ||
                       CASE WHEN a.readers IS NULL THEN '' ELSE '!' END, ' ' ORDER BY a.face),
                       coalesce((SELECT array_agg(l.record || l.evidence) FROM link l WHERE l.activity = a.id), '{}'),
                       (SELECT array_agg(c::text) FROM activity b, unnest(b.copies) c WHERE b.id = a.id)
                FROM activity a GROUP BY a.id
                """;
        Map<String, Stood> standing = new TreeMap<>();
        try (var c = store.get(DataSource.class).getConnection();
                var s = c.createStatement();
                var found = s.executeQuery(sql)) {
            while (found.next()) {
                standing.put(
                        found.getString(1),
                        new Stood(
                                found.getString(2),
                                Set.of((String[]) found.getArray(3).getArray()),
                                Set.of((String[]) found.getArray(4).getArray())));
            }
        }
        return standing;
    }
}
