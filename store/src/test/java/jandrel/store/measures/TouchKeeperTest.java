package jandrel.store.measures;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.measures.Touches;
import jandrel.core.visibility.Oversight;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import jandrel.store.timeline.Timelines;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;

/** Whatever comes and goes, and as time passes: when accounts were touched is what the database says to the same question. */
class TouchKeeperTest {
    private static final Instant NOON = Instant.parse("2026-06-30T12:00:00Z");
    private static final int HISTORIES = 15;
    private static final int STEPS = 25;
    private static final List<UUID> PEOPLE = RandomTouches.PEOPLE;
    private static final List<UUID> ACCOUNTS = RandomTouches.ACCOUNTS;

    @Test
    void eachNodeKnowsWhatTheDatabaseSays() throws Exception {
        try (StoreContext one = new StoreContext("test_touch_keeper");
                StoreContext other = StoreContext.beside("test_touch_keeper")) {
            JdbcTemplate jdbc = one.get(JdbcTemplate.class);
            RandomTouches.accounts(jdbc);
            for (UUID person : PEOPLE) {
                jdbc.update("INSERT INTO person (id, key, name) VALUES (?, ?, 'P')", person, person.toString());
            }
            boolean facesWereSeen = false;
            for (long seed = 1; seed <= HISTORIES; seed++) {
                Random random = new Random(seed);
                // as in a service that goes on: what was ahead is past later
                Instant now = NOON.plus(seed * 9, ChronoUnit.HOURS);
                for (int step = 0; step < STEPS; step++) {
                    now = now.plus(random.nextInt(20), ChronoUnit.MINUTES);
                    RandomTouches.change(jdbc, random, now);
                    if (random.nextInt(4) == 0) {
                        accountChanges(jdbc, random);
                    }
                    if (random.nextInt(3) == 0) {
                        StoreContext node = random.nextBoolean() ? one : other;
                        assertKnown(
                                node,
                                new Viewer(Role.REP, PEOPLE.get(random.nextInt(3)), null, Oversight.EVERYBODY),
                                now,
                                seed);
                        assertKnown(node, new Viewer(Role.ADMINISTRATOR, null), now, seed);
                    }
                }
                for (StoreContext node : List.of(one, other)) {
                    for (UUID person : PEOPLE) {
                        assertKnown(node, new Viewer(Role.REP, person, null, Oversight.EVERYBODY), now, seed);
                    }
                }
                // clocks differ a little
                assertKnown(one, new Viewer(Role.ADMINISTRATOR, null), now.minusSeconds(50), seed);
                facesWereSeen |= one.count("SELECT count(*) FROM activity WHERE faces > 1") > 0;
            }
            assertThat(facesWereSeen).isTrue();
        }
    }

    /** Another owner or none, out of the lists and back, one more that nothing touched, and one less. */
    private static void accountChanges(JdbcTemplate jdbc, Random random) {
        UUID account = ACCOUNTS.get(random.nextInt(ACCOUNTS.size()));
        switch (random.nextInt(4)) {
            case 0 ->
                jdbc.update(
                        "UPDATE account SET owner = ? WHERE id = ?",
                        random.nextInt(3) == 0 ? null : PEOPLE.get(random.nextInt(3)),
                        account);
            case 1 ->
                jdbc.update(
                        "UPDATE account SET archived_at = CASE WHEN archived_at IS NULL THEN now() END WHERE id = ?",
                        account);
            case 2 ->
                jdbc.update(
                        "INSERT INTO account (id, key, name) VALUES (?, ?, 'Untouched')",
                        UUID.randomUUID(),
                        "untouched" + random.nextInt());
            default -> jdbc.update("DELETE FROM account WHERE name = 'Untouched'");
        }
    }

    private static void assertKnown(StoreContext node, Viewer viewer, Instant now, long seed) {
        List<Touches.Account> known =
                new ArrayList<>(node.get(MeasureRows.class).touched(viewer, now).accounts());
        known.sort(Comparator.comparing(Touches.Account::id));
        List<UUID> listed = node.get(JdbcTemplate.class)
                .queryForList("SELECT id FROM account WHERE archived_at IS NULL", UUID.class);
        List<Touches.Account> said =
                node
                        .get(MeasureRows.Mapped.class)
                        .touches(listed.toArray(UUID[]::new), Timelines.ids(viewer), now)
                        .stream()
                        .map(t -> new Touches.Account(
                                t.id(), t.owner(), t.ours(), t.theirs(), t.met(), t.last(), t.hasNext(), t.hides()))
                        .sorted(Comparator.comparing(Touches.Account::id))
                        .toList();
        assertThat(known).as("seed %d at %s for %s", seed, now, viewer).isEqualTo(said);
    }
}
