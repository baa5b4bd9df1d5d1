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
    private static final List<UUID> PEOPLE = List.of(new UUID(2, 1), new UUID(2, 2), new UUID(2, 3));
    private static final List<UUID> ACCOUNTS = List.of(new UUID(1, 1), new UUID(1, 2), new UUID(1, 3));

    @Test
    void eachNodeKnowsWhatTheDatabaseSays() throws Exception {
        try (StoreContext one = new StoreContext("test_touch_keeper");
                StoreContext other = StoreContext.beside("test_touch_keeper")) {
            JdbcTemplate jdbc = one.get(JdbcTemplate.class);
            ACCOUNTS.forEach(
                    a -> jdbc.update("INSERT INTO account (id, key, name) VALUES (?, ?, 'A')", a, a.toString()));
            boolean facesWereSeen = false;
            for (long seed = 1; seed <= HISTORIES; seed++) {
                Random random = new Random(seed);
                // as in a service that goes on: what was ahead is past later
                Instant now = NOON.plus(seed * 9, ChronoUnit.HOURS);
                for (int step = 0; step < STEPS; step++) {
                    now = now.plus(random.nextInt(20), ChronoUnit.MINUTES);
                    change(jdbc, random, now);
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

    private static void change(JdbcTemplate jdbc, Random random, Instant now) {
        UUID item = new UUID(9, random.nextInt(12));
        jdbc.update("DELETE FROM link WHERE activity = ?", item);
        jdbc.update("DELETE FROM activity WHERE item = ?", item);
        if (random.nextInt(4) == 0) {
            return;
        }
        boolean meeting = random.nextInt(3) == 0;
        Instant at = now.plus(random.nextInt(-20_000, meeting ? 3_000 : 2), ChronoUnit.MINUTES);
        int faces = random.nextInt(5) == 0 ? 2 : 1;
        for (int face = 0; face < faces; face++) {
            jdbc.update(
                    "INSERT INTO activity (id, item, face, faces, kind, at, ends, all_day, subject, people, facts, readers, owners, insiders, authors,"
                            + " mine, elsewhere, rivals, version, trail) VALUES (?, ?, ?, ?, ?, ?::timestamptz, ?::timestamptz, false, 'M', '', ?,"
                            + " ?::text::uuid[], '{}', '{}', ?::text::uuid[], ?::text::uuid[], ?::text::uuid[], ?::text::uuid[], 'v', '[]')",
                    item,
                    item,
                    face,
                    faces,
                    meeting ? "meeting" : "mail",
                    at.toString(),
                    at.toString(),
                    "{\"state\":\"" + (random.nextInt(4) == 0 ? "CANCELLED" : "PLANNED") + "\"}",
                    random.nextInt(3) == 0 ? some(random) : null,
                    random.nextBoolean() ? "{}" : some(random),
                    some(random),
                    faces == 1 ? "{}" : some(random),
                    random.nextBoolean() ? "{}" : some(random));
        }
        for (UUID account : ACCOUNTS) {
            if (random.nextInt(2) == 0) {
                jdbc.update(
                        "INSERT INTO link (record, at, activity, kind, evidence, blind) VALUES (?, ?::timestamptz, ?, 'account', 'ADDRESS', ?)",
                        account,
                        at.toString(),
                        item,
                        random.nextInt(6) == 0);
            }
        }
    }

    private static String some(Random random) {
        return "{" + PEOPLE.get(random.nextInt(3)) + "}";
    }

    private static void assertKnown(StoreContext node, Viewer viewer, Instant now, long seed) {
        List<Touches.Account> known =
                new ArrayList<>(node.get(MeasureRows.class).touched(viewer, now).accounts());
        known.sort(Comparator.comparing(Touches.Account::id));
        List<Touches.Account> said = node
                .get(MeasureRows.Mapped.class)
                .touches(ACCOUNTS.toArray(UUID[]::new), Timelines.ids(viewer), now)
                .stream()
                .map(t -> new Touches.Account(
                        t.id(), t.owner(), t.ours(), t.theirs(), t.met(), t.last(), t.hasNext(), t.hides()))
                .sorted(Comparator.comparing(Touches.Account::id))
                .toList();
        assertThat(known).as("seed %d at %s for %s", seed, now, viewer).isEqualTo(said);
    }
}
