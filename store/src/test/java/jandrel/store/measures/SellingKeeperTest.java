package jandrel.store.measures;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.measures.Deal;
import jandrel.core.measures.MetAccount;
import jandrel.core.measures.SellingHistory;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;

/** What is kept in memory is what is in the database, whatever changes it, and in whatever order that is committed. */
class SellingKeeperTest {
    private static final Instant NOW = Instant.parse("2026-06-30T12:00:00Z");
    private static final UUID MAREN = new UUID(2, 1);
    private static final UUID SKARVIK = new UUID(1, 1);
    private static final UUID LUNDBY = new UUID(1, 2);
    private static StoreContext store;
    private static JdbcTemplate jdbc;

    @BeforeAll
    static void open() throws Exception {
        store = new StoreContext("test_selling_keeper");
        jdbc = store.get(JdbcTemplate.class);
        jdbc.update("INSERT INTO person (id, key, name) VALUES (?, 'maren', 'M')", MAREN);
        for (UUID account : List.of(SKARVIK, LUNDBY)) {
            jdbc.update("INSERT INTO account (id, key, name) VALUES (?, ?, 'A')", account, account.toString());
        }
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void nothing() {
        for (String table : List.of("link", "activity", "meeting_outcome", "opportunity", "stage", "result")) {
            jdbc.update("DELETE FROM " + table);
        }
    }

    private static SellingHistory.Seen seen(SellingKeeper keeper) {
        return keeper.current().history().seenBy(new Viewer(Role.MANAGER, MAREN), NOW);
    }

    private static List<MetAccount> kept() {
        SellingHistory.Seen seen = seen(store.get(SellingKeeper.class));
        return Stream.of(SKARVIK, LUNDBY).flatMap(a -> seen.with(a).stream()).toList();
    }

    private static String meeting(int id, UUID account, String state) {
        UUID item = new UUID(9, id);
        String at = NOW.minusSeconds(id).toString();
        return """
                INSERT INTO activity (id, item, kind, at, ends, all_day, subject, people, facts, readers, owners, insiders, version, trail)
                VALUES ('%1$s', '%1$s', 'meeting', '%2$s', '%2$s', false, 'Offer', '', '{"state":"%3$s","sort":"CALL","subject":"Offer"}', NULL,
                    ARRAY['%5$s']::uuid[], '{}', 'v', '[]');
                INSERT INTO link (record, at, activity, kind, evidence) VALUES ('%4$s', '%2$s', '%1$s', 'account', 'ADDRESS')
                """.formatted(item, at, state, account, MAREN);
    }

    private static String gone(int id) {
        UUID item = new UUID(9, id);
        return "DELETE FROM activity WHERE item = '%1$s'; DELETE FROM link WHERE activity = '%1$s'".formatted(item);
    }

    @Test
    void whatWasCommittedLateIsSeenAllTheSame() throws SQLException {
        jdbc.execute(meeting(1, SKARVIK, "PLANNED"));
        assertThat(kept()).hasSize(1);
        try (Connection slow = store.get(DataSource.class).getConnection();
                Statement statement = slow.createStatement()) {
            slow.setAutoCommit(false);
            statement.execute(meeting(2, SKARVIK, "PLANNED"));
            jdbc.execute(meeting(3, LUNDBY, "PLANNED"));
            assertThat(kept()).hasSize(2);
            jdbc.execute(gone(1));
            assertThat(kept()).hasSize(1);
            slow.commit();
        }
        assertThat(kept()).extracting(MetAccount::item).containsExactlyInAnyOrder(new UUID(9, 2), new UUID(9, 3));
        try (Connection given = store.get(DataSource.class).getConnection();
                Statement statement = given.createStatement()) {
            given.setAutoCommit(false);
            statement.execute(gone(2));
            given.rollback();
        }
        assertThat(kept()).hasSize(2);
    }

    @Test
    void whatSomebodySaysOfAMeetingIsKnownWithTheNextQuestion() {
        jdbc.execute(meeting(1, SKARVIK, "PLANNED"));
        assertThat(kept()).extracting(m -> m.signs().outcome()).containsExactly("");
        UUID item = new UUID(9, 1);
        jdbc.update("INSERT INTO meeting_outcome (item, owners, state, by_name) VALUES (?, '{}', 'missed', 'x')", item);
        assertThat(kept()).extracting(m -> m.signs().outcome()).containsExactly("missed");
        jdbc.update("DELETE FROM meeting_outcome");
        assertThat(kept()).extracting(m -> m.signs().outcome()).containsExactly("");
        jdbc.update("INSERT INTO meeting_result (item, owners, name, by_name) VALUES (?, '{}', 'no fit', 'x')", item);
        assertThat(kept()).extracting(MetAccount::result).containsExactly("no fit");
    }

    /** A list that changes is of nothing that was written down with a meeting, and changes how all of them read. */
    @Test
    void aListThatChangesCountsForWhatWasThereBefore() {
        UUID deal = new UUID(8, 1);
        jdbc.update(
                "INSERT INTO opportunity (id, key, name, account, stage, state) VALUES (?, 'o', 'O', ?, 'yes', 'OPEN')",
                deal,
                SKARVIK);
        assertThat(means()).containsExactly(Deal.Means.OPEN);
        jdbc.update("INSERT INTO stage VALUES (1, 'yes', 'agreed')");
        assertThat(means()).containsExactly(Deal.Means.AGREED);
        jdbc.update("UPDATE stage SET means = 'won'");
        assertThat(means()).containsExactly(Deal.Means.WON);
        jdbc.update("DELETE FROM opportunity");
        assertThat(means()).isEmpty();
    }

    private static List<Deal.Means> means() {
        return seen(store.get(SellingKeeper.class)).deals().stream()
                .map(d -> d.now().means())
                .toList();
    }

    /** Step by step, by two nodes: each knows what one knows that reads all of it now. */
    @Test
    void whateverHappensEachNodeKnowsIt() throws SQLException {
        try (StoreContext other = StoreContext.beside("test_selling_keeper")) {
            for (int seed = 0; seed < 20; seed++) {
                Random random = new Random(seed);
                for (int step = 0; step < 10; step++) {
                    int id = random.nextInt(6);
                    String change = random.nextInt(3) == 0
                            ? gone(id)
                            : gone(id) + ";"
                                    + meeting(
                                            id,
                                            random.nextBoolean() ? SKARVIK : LUNDBY,
                                            random.nextBoolean() ? "PLANNED" : "CANCELLED");
                    jdbc.execute(change);
                    if (random.nextBoolean()) {
                        assertKnown(other, seed);
                    }
                }
                assertKnown(store, seed);
                assertKnown(other, seed);
            }
        }
    }

    private static void assertKnown(StoreContext node, int seed) {
        SellingHistory.Seen seen = seen(node.get(SellingKeeper.class));
        List<String> known = Stream.of(SKARVIK, LUNDBY)
                .flatMap(a -> seen.with(a).stream())
                .map(m -> m.item() + " " + m.account() + " " + m.signs().cancelled())
                .sorted()
                .toList();
        assertThat(known)
                .as("seed %d", seed)
                .isEqualTo(jdbc
                        .queryForList(
                                "SELECT concat_ws(' ', a.item, l.record, (a.facts LIKE '%CANCELLED%')::text) FROM activity a JOIN link l ON l.activity = a.id",
                                String.class)
                        .stream()
                        .sorted()
                        .toList());
    }
}
