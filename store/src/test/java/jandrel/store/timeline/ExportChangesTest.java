package jandrel.store.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.timeline.Ruling;
import jandrel.core.visibility.Oversight;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import jandrel.store.capture.Histories;
import jandrel.store.directory.RecordExport;
import jandrel.store.kernel.ChangeCursor;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;

/** Whatever happened, an export and what changed since are what a fresh export is, for everybody who takes one. */
class ExportChangesTest {
    private static final int ROUNDS = 6;
    private static final int CHANGES = 8;
    private static final int PAGE = 7;
    private static StoreContext store;
    private static JdbcTemplate jdbc;
    private final Set<String> seen = new HashSet<>();

    /** What somebody has: each thing's words by its id. */
    private record Copy(Viewer viewer, Map<UUID, String> all) {}

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_export_changes");
        jdbc = store.get(JdbcTemplate.class);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @Test
    void whatChangedMakesAnOldExportANewOne() throws Exception {
        for (long seed : Histories.seeds(10).toArray()) {
            Histories history = new Histories(store, seed);
            Random random = new Random(seed);
            for (int step = 0; step < CHANGES; step++) {
                history.next().make().run();
            }
            List<UUID> people = jdbc.queryForList("SELECT id FROM person ORDER BY key", UUID.class);
            List<Copy> copies = new ArrayList<>();
            copies.add(new Copy(new Viewer(Role.ADMINISTRATOR, null, Viewer.team("")), new HashMap<>()));
            copies.add(new Copy(
                    new Viewer(
                            Role.AUDITOR,
                            null,
                            Viewer.team(""),
                            Oversight.of(Role.AUDITOR, null, people.subList(0, 2))),
                    new HashMap<>()));
            people.forEach(p -> copies.add(new Copy(
                    new Viewer(Role.REP, p, Viewer.team(""), Oversight.of(Role.REP, p, null)), new HashMap<>())));
            long since = 0;
            for (int round = 0; round < ROUNDS; round++) {
                for (int step = 0; step < CHANGES; step++) {
                    history.next().make().run();
                }
                if (random.nextBoolean()) {
                    history.settle();
                }
                rule(random);
                // as one goes whose mailbox was disconnected, with all that was decided there
                jdbc.update(
                        "DELETE FROM sighting WHERE id IN (SELECT id FROM sighting WHERE verdict = 'left-out' ORDER BY id LIMIT 1)");
                long cursor = store.get(ChangeCursor.class).current();
                for (Copy copy : copies) {
                    Map<UUID, String> fresh = new TreeMap<>();
                    bring(copy.viewer(), 0, fresh);
                    bring(copy.viewer(), since, copy.all());
                    assertThat(new TreeMap<>(copy.all()))
                            .as("%s in round %d, -Djandrel.seed=%d", copy.viewer(), round, seed)
                            .isEqualTo(fresh);
                }
                since = cursor;
            }
        }
        assertThat(seen)
                .contains("activity", "decision", "record", "activity gone", "decision gone", "closed", "taken back");
    }

    /** Somebody who takes part closes something, or takes that back. */
    private void rule(Random random) {
        jdbc.queryForList(
                        "SELECT DISTINCT item, person FROM sighting WHERE verdict IN ('waiting', 'logged') ORDER BY 1, 2")
                .forEach(row -> {
                    int what = random.nextInt(6);
                    UUID person = (UUID) row.get("person");
                    if (what < 2) {
                        store.get(Rulings.class)
                                .rule(
                                        (UUID) row.get("item"),
                                        what == 0 ? null : new Ruling(false, Set.of(person), "x", "x"),
                                        person,
                                        "x");
                        seen.add(what == 0 ? "taken back" : "closed");
                    }
                });
    }

    private void bring(Viewer viewer, long since, Map<UUID, String> into) {
        ActivityExport activities = store.get(ActivityExport.class);
        ActivityExport.Names names = new ActivityExport.Names();
        Optional<ActivityExport.Bounds> next = activities.next(since, ChangeCursor.FIRST, PAGE);
        while (next.isPresent()) {
            activities.page(viewer, next.get(), true, names).forEach(e -> {
                into.put(
                        e.id(),
                        e.kind()
                                + e.at()
                                + e.visibility()
                                + e.heading()
                                + e.owners()
                                + e.mark()
                                + e.text()
                                + e.links().stream()
                                        .map(l -> l.id() + l.evidence())
                                        .toList());
                seen.add("activity");
            });
            next = activities.next(since, next.get().last(), PAGE);
        }
        DecisionExport decisions = store.get(DecisionExport.class);
        UUID last = ChangeCursor.FIRST;
        for (List<Decisions.Shown> page = decisions.next(viewer, since, last, PAGE);
                !page.isEmpty();
                page = decisions.next(viewer, since, last, PAGE)) {
            page.forEach(d -> {
                into.put(
                        // an item that only one source showed may have the id of its decision
                        new UUID(~d.id().getMostSignificantBits(), d.id().getLeastSignificantBits()),
                        d.itemId()
                                + d.kind()
                                + d.at()
                                + d.person()
                                + d.verdict()
                                + d.visibility()
                                + d.item()
                                + d.trail()
                                + d.activity());
                seen.add("decision");
            });
            last = page.get(page.size() - 1).id();
        }
        RecordExport records = store.get(RecordExport.class);
        last = ChangeCursor.FIRST;
        for (List<RecordExport.Exported> page = records.next(since, last, PAGE);
                !page.isEmpty();
                page = records.next(since, last, PAGE)) {
            page.forEach(r -> {
                into.put(r.id(), r.toString());
                seen.add("record");
            });
            last = page.get(page.size() - 1).id();
        }
        if (since > 0) {
            activities.gone(since, ChangeCursor.FIRST, 10_000).forEach(id -> {
                into.remove(id);
                seen.add("activity gone");
            });
            decisions.gone(viewer, since, ChangeCursor.FIRST, 10_000).forEach(id -> {
                into.remove(new UUID(~id.getMostSignificantBits(), id.getLeastSignificantBits()));
                seen.add("decision gone");
            });
            records.gone(since, ChangeCursor.FIRST, 10_000).forEach(id -> {
                into.remove(id);
                seen.add("record gone");
            });
        }
    }
}
