package jandrel.store.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.decide.Reason;
import jandrel.core.item.Party;
import jandrel.core.visibility.Oversight;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import jandrel.store.capture.Histories;
import jandrel.store.kernel.ChangeCursor;
import jandrel.store.kernel.PageCursor;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;

/** Whatever happened, the views let out what the service lets out, to the letter and for every kind of reader. */
class ReaderRowsTest {
    private static final int CHANGES = 40;
    private static StoreContext store;
    private static JdbcTemplate jdbc;
    private final Set<String> seen = new HashSet<>();

    private record Whom(
            Role role, @Nullable UUID person, @Nullable List<UUID> inTeams) {}

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_reader_rows");
        jdbc = store.get(JdbcTemplate.class);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @Test
    void viewsLetOutWhatTheServiceLetsOut() throws Exception {
        for (long seed : seeds().toArray()) {
            jdbc.update("DELETE FROM reader");
            Histories history = new Histories(store, seed);
            for (int step = 0; step < CHANGES; step++) {
                history.next().make().run();
            }
            history.settle();
            Random random = new Random(seed);
            List<UUID> people = jdbc.queryForList("SELECT id FROM person ORDER BY key", UUID.class);
            close(random, people);
            List<UUID> inTeams =
                    jdbc.queryForList("SELECT id FROM person WHERE team = ANY(?::text[])", UUID.class, "{T1}");
            List<Whom> all = new ArrayList<>(List.of(
                    new Whom(Role.ADMINISTRATOR, null, null),
                    new Whom(Role.AUDITOR, null, null),
                    new Whom(Role.MANAGER, null, inTeams)));
            people.forEach(p -> all.add(new Whom(Role.REP, p, null)));
            people.forEach(p -> all.add(new Whom(Role.AUDITOR, p, null)));
            for (Whom whom : all) {
                String what = whom + ", -Djandrel.seed=" + seed;
                Viewer viewer = reads(whom);
                assertThat(activities()).as(what).isEqualTo(activities(viewer));
                assertThat(decisions()).as(what).isEqualTo(decisions(viewer));
            }
        }
        assertThat(seen)
                .contains("FULL mail", "FULL meeting", "OUTLINE mail", "OUTLINE meeting", "a blind copy")
                .contains("decision FULL", "decision OUTLINE", "several faces");
    }

    static LongStream seeds() {
        return Histories.seeds(12);
    }

    /** Somebody who takes part closes what waits, or what is logged. */
    private static void close(Random random, List<UUID> people) {
        jdbc.queryForList(
                        "SELECT DISTINCT item, person FROM sighting WHERE verdict IN ('waiting', 'logged') ORDER BY 1, 2")
                .forEach(row -> {
                    if (random.nextInt(4) == 0) {
                        jdbc.update(
                                "INSERT INTO ruling (item, opens, readers, by_person, by_name, readers_named) VALUES (?, ?, ARRAY[?::uuid], ?, 'x', 'x')"
                                        + " ON CONFLICT DO NOTHING",
                                row.get("item"),
                                random.nextBoolean(),
                                people.get(random.nextInt(people.size())),
                                row.get("person"));
                    }
                });
        // two who were said to be in teams
        jdbc.update("UPDATE person SET team = 'T1' WHERE id = ?", people.get(0));
        jdbc.update("UPDATE person SET team = '' WHERE id = ?", people.get(people.size() - 1));
    }

    private static Viewer reads(Whom whom) {
        jdbc.update("DELETE FROM reader");
        jdbc.update(
                "INSERT INTO reader (login, name, role, person, teams, added_by) VALUES ('jandrel', 'x', ?, ?, ?::text[], 'x')",
                whom.role().name(),
                whom.person(),
                whom.inTeams() == null ? null : "{T1}");
        String team = whom.person() == null
                ? ""
                : jdbc.queryForObject("SELECT team FROM person WHERE id = ?", String.class, whom.person());
        return new Viewer(
                whom.role(),
                whom.person(),
                Viewer.team(team),
                Oversight.of(whom.role(), whom.person(), whom.inTeams()));
    }

    private List<String> activities(Viewer viewer) {
        List<String> all = new ArrayList<>();
        ActivityExport export = store.get(ActivityExport.class);
        ActivityExport.Names names = new ActivityExport.Names();
        Optional<ActivityExport.Bounds> next = export.next(0, ChangeCursor.FIRST, 50);
        while (next.isPresent()) {
            export.page(viewer, next.get(), true, names).forEach(e -> {
                seen.add(e.visibility() + " " + e.kind());
                all.add(String.join(
                        "|",
                        e.id().toString(),
                        e.kind(),
                        e.at().toString(),
                        e.visibility().name().toLowerCase(Locale.ROOT),
                        sorted(e.owners().stream().map(o -> o.id().toString()).toList()),
                        e.heading().subject(),
                        sorted(e.heading().parties().stream().map(this::party).toList()),
                        sorted(e.links().stream()
                                .map(l -> l.kind() + l.id() + l.evidence().toLowerCase(Locale.ROOT))
                                .toList()),
                        e.text(),
                        e.mark()));
            });
            next = export.next(0, next.get().last(), 50);
        }
        if (jdbc.queryForObject("SELECT count(*) FROM activity WHERE faces > 1", Long.class) > 0) {
            seen.add("several faces");
        }
        Collections.sort(all);
        return all;
    }

    private String party(Heading.Named party) {
        if (party.part() == Party.Part.BCC) {
            seen.add("a blind copy");
        }
        return party.part().name().toLowerCase(Locale.ROOT).replace('_', '-') + party.address();
    }

    private static String sorted(List<String> all) {
        return all.stream().sorted().collect(Collectors.joining(","));
    }

    /** The same from the views, each read once. */
    private static List<String> activities() {
        Map<String, String> parties =
                byCopy("SELECT activity, copy, part || address AS says FROM jandrel_1.participants");
        Map<String, String> links =
                byCopy("SELECT activity, copy, kind || record || evidence AS says FROM jandrel_1.links");
        Map<String, String> texts = byCopy("SELECT activity, copy, text AS says FROM jandrel_1.texts");
        List<String> all = jdbc.query(
                "SELECT id, copy, kind, at, visibility, subject, mark, people FROM jandrel_1.activities", (row, n) -> {
                    String copy = row.getString("id") + " " + row.getString("copy");
                    return String.join(
                            "|",
                            row.getString("id"),
                            row.getString("kind"),
                            row.getTimestamp("at").toInstant().toString(),
                            row.getString("visibility"),
                            array(row.getArray("people")),
                            or(row.getString("subject")),
                            parties.getOrDefault(copy, ""),
                            row.getString("visibility").equals("full") ? links.getOrDefault(copy, "") : "",
                            texts.getOrDefault(copy, ""),
                            or(row.getString("mark")));
                });
        Collections.sort(all);
        return all;
    }

    private static Map<String, String> byCopy(String query) {
        Map<String, List<String>> all = new HashMap<>();
        jdbc.query(query, row -> {
            all.computeIfAbsent(row.getString("activity") + " " + row.getString("copy"), c -> new ArrayList<>())
                    .add(or(row.getString("says")));
        });
        return all.entrySet().stream().collect(Collectors.toMap(Map.Entry::getKey, e -> sorted(e.getValue())));
    }

    private static String array(java.sql.Array array) throws SQLException {
        return sorted(java.util.Arrays.stream((Object[]) array.getArray())
                .map(String::valueOf)
                .toList());
    }

    private static String or(@Nullable String text) {
        return text == null ? "" : text;
    }

    private List<String> decisions(Viewer viewer) {
        DecisionFilter everything =
                new DecisionFilter("", "", "", null, null, null, null, DecisionFilter.FIRST, DecisionFilter.LAST, "");
        List<String> all = new ArrayList<>();
        for (Decisions.Shown d : store.get(Decisions.class).page(everything, viewer, PageCursor.TOP, 10_000)) {
            seen.add("decision " + d.visibility());
            // what decided it, as far as its trail may be read: it is its last reason, if that is told
            String rules = d.trail().stream().map(Reason::rule).map(Enum::name).collect(Collectors.joining(" "));
            all.add(String.join(
                    "|",
                    d.id().toString(),
                    d.kind(),
                    d.at().toString(),
                    d.person().toString(),
                    d.source(),
                    d.verdict().word(),
                    d.activity() ? d.itemId().toString() : "",
                    d.item() == null ? "" : d.item().subject(),
                    rules.isEmpty() ? "no rule" : "a rule"));
        }
        Collections.sort(all);
        return all;
    }

    private static List<String> decisions() {
        List<String> all = jdbc.query(
                "SELECT * FROM jandrel_1.decisions",
                (row, n) -> String.join(
                        "|",
                        row.getString("id"),
                        row.getString("kind"),
                        row.getTimestamp("at").toInstant().toString(),
                        row.getString("person"),
                        or(row.getString("source")),
                        row.getString("verdict"),
                        or(row.getString("activity")),
                        or(row.getString("subject")),
                        row.getString("rule") == null ? "no rule" : "a rule"));
        Collections.sort(all);
        return all;
    }
}
