package jandrel.store.capture;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.store.StoreContext;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.LongStream;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** After any history of items and changes, the timelines equal what a fresh capture under today's rules gives. */
class ConvergenceTest {
    private static final int CHANGES = 30;
    private static StoreContext store;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_convergence");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    /** Seeded: a failure prints the seed, which replays the history. */
    @ParameterizedTest
    @MethodSource("seeds")
    void theTimelineConverges(long seed) throws Exception {
        Histories history = new Histories(store, seed);
        List<String> changes = new ArrayList<>();
        for (int step = 0; step < CHANGES; step++) {
            Histories.Change change = history.next();
            changes.add(change.toString());
            change.make().run();
            // some changes meet what was decided, others what still waits to be
            if (step % 3 == 0 || step == CHANGES - 1) {
                history.settle();
                assertThat(decided())
                        .as(() -> "seed " + seed + ": " + String.join("\n", changes))
                        .isEqualTo(history.expected());
            }
        }
        assertThat(tallied()).as("seed %d: tallies", seed).isEqualTo(counted());
        List<String> lived = state();
        history.anew();
        assertThat(lived).as("seed %d", seed).isEqualTo(state());
    }

    static LongStream seeds() {
        return Histories.seeds(40);
    }

    private static List<String> decided() throws SQLException {
        return rows(
                        "SELECT source || ' ' || position || ' ' || verdict || ' ' || coalesce(links, '') || ' ' || sharing FROM sighting")
                .stream()
                .sorted()
                .toList();
    }

    private static List<String> tallied() throws SQLException {
        return rows("SELECT source || kind || verdict || rule || sum(n) FROM tally GROUP BY source, kind, verdict, rule"
                + " HAVING sum(n) <> 0 UNION ALL SELECT coalesce(sum(n), 0)::text FROM activity_tally ORDER BY 1");
    }

    private static List<String> counted() throws SQLException {
        return rows(
                "SELECT source || kind || verdict || rule || count(*) FROM sighting GROUP BY source, kind, verdict, rule"
                        + " UNION ALL SELECT count(*)::text FROM activity WHERE face = 0 ORDER BY 1");
    }

    private static List<String> state() throws SQLException {
        String sql = """
                SELECT 'sighting ' || source || ' ' || position || ' ' || verdict || ' ' || coalesce(links::text, '') || sharing FROM sighting
                UNION ALL SELECT 'activity ' || id || face || ' ' || subject || coalesce(readers::text, '') || owners::text || mine::text || elsewhere::text
                    || coalesce(rivals::text, '') || (SELECT array_agg(c ORDER BY c) FROM unnest(copies) c)::text || coalesce(content::text, '') || text
                    FROM activity
                UNION ALL SELECT 'link ' || record || activity || evidence FROM link
                UNION ALL SELECT 'body ' || item || content || text FROM body ORDER BY 1
                """;
        return rows(sql);
    }

    private static List<String> rows(String sql) throws SQLException {
        List<String> rows = new ArrayList<>();
        try (var c = store.get(DataSource.class).getConnection();
                var s = c.createStatement();
                var found = s.executeQuery(sql)) {
            while (found.next()) {
                rows.add(found.getString(1));
            }
        }
        return rows;
    }
}
