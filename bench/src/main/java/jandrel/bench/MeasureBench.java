package jandrel.bench;

import jandrel.core.measures.ContactFigures;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Only;
import jandrel.core.measures.SellingFigures;
import jandrel.core.measures.Span;
import jandrel.core.measures.StageFigures;
import jandrel.core.measures.Touches;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.demo.Stand;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.measures.MeasureRows;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;

/** Each measure of a year, from the question to its figures: one activity in ten is a meeting, with 50,000 opportunities. */
final class MeasureBench {
    private static final int ACCOUNTS = 20_000;
    private static final int OPPORTUNITIES = 50_000;
    private static final int RUNS = 200;
    /** Asked before, as a service is that has been asked for a while. */
    private static final int WARM = 20;

    /** To fill the database takes longer than to ask it: {@code -Djandrel.bench.kept=true} uses what a run before left. */
    private static final boolean KEPT = Boolean.getBoolean("jandrel.bench.kept");

    /** What takes seconds is known after fewer. */
    private static final double LONG = 1_000;

    private static final Instant NOW = Instant.parse("2026-11-01T00:00:00Z");
    private static final Span YEAR =
            new Span(LocalDate.parse("2025-11-01"), LocalDate.parse("2026-11-01"), ZoneOffset.UTC);
    private final Stand stand;

    MeasureBench(Stand stand) {
        this.stand = stand;
    }

    /** @param most how many activities there are in the end; one million are measured before */
    void run(int most) throws SQLException {
        try (Opened store = new Opened(stand, "bench_measures", KEPT)) {
            Database database = store.database();
            if (!KEPT) {
                records(database);
                activities(database, 0, 1_000_000);
            }
            MeasureRows rows = store.bean(MeasureRows.class);
            Map<String, Double> one = measured(database, rows);
            one.forEach((name, ms) -> Figures.line("measures, " + name + " at 1 M", "%.0f ms   (bar: 100 ms)", ms));
            if (most > 1_000_000) {
                activities(database, 1_000_000, most);
                measured(database, rows)
                        .forEach((name, ms) -> Figures.line(
                                "measures, " + name + " at " + most / 1_000_000 + " M",
                                "%.0f ms   %.2fx of 1 M (bar 1.3)",
                                ms,
                                ms / one.getOrDefault(name, ms)));
            }
        }
    }

    private static void records(Database database) throws SQLException {
        database.run("INSERT INTO person (id, key, name, team) SELECT md5('p' || n)::uuid, 'p' || n, 'P', 'T' || n % 12"
                + " FROM generate_series(0, 299) n");
        database.run(
                "INSERT INTO account (id, key, name, owner) SELECT md5('r' || n)::uuid, 'r' || n, 'A', md5('p' || n % 300)::uuid"
                        + " FROM generate_series(0, " + (ACCOUNTS - 1) + ") n");
        database.run("""
                INSERT INTO opportunity (id, key, name, account, stage, state, value, currency, owner, channel)
                SELECT md5('o' || n)::uuid, 'o' || n, 'O', md5('r' || n %% %d)::uuid, 's' || n %% 5,
                    (ARRAY['OPEN', 'WON', 'LOST'])[1 + n %% 3], n, 'EUR', md5('p' || n %% 300)::uuid, 'c' || n %% 4
                FROM generate_series(0, %d) n""".formatted(ACCOUNTS, OPPORTUNITIES - 1));
        database.run("""
                INSERT INTO opportunity_history (opportunity, at, by_name, origin, stage, state, value, currency, period, owner, account, channel)
                SELECT o.id, timestamptz '2024-01-01' + (o.value::int % 700) * interval '1 day' + k * interval '20 days', 'x', 'file',
                    's' || k, CASE WHEN k = 3 THEN o.state ELSE 'OPEN' END, o.value, 'EUR', 'once', o.owner, o.account, o.channel
                FROM opportunity o, generate_series(0, 3) k""");
    }

    private static void activities(Database database, int from, int to) throws SQLException {
        database.run("""
                INSERT INTO activity (id, item, kind, at, ends, all_day, subject, people, facts, readers, owners, insiders, authors, version)
                SELECT md5('a' || n)::uuid, md5('a' || n)::uuid, CASE WHEN n %% 10 = 0 THEN 'meeting' ELSE 'mail' END, m, m + interval '1 hour',
                    false, 'About', 'C', '{"state":"PLANNED","sort":"MEETING"}', CASE WHEN n %% 7 = 0 THEN ARRAY[md5('p' || n %% 300)::uuid] END,
                    ARRAY[md5('p' || n %% 300)::uuid], ARRAY[]::uuid[], CASE WHEN n %% 2 = 0 THEN ARRAY[md5('p' || n %% 300)::uuid] ELSE '{}' END, ''
                FROM generate_series(%d, %d) n, LATERAL (SELECT timestamptz '2024-01-01' + (n::bigint * 7919 %% 1500000) * interval '59 seconds' AS m) t""".formatted(from, to - 1));
        database.run("""
                INSERT INTO link SELECT md5('r' || n %% %d)::uuid, a.at, a.id, 'account', 'ADDRESS'
                FROM generate_series(%d, %d) n JOIN activity a ON a.id = md5('a' || n)::uuid""".formatted(ACCOUNTS, from, to - 1));
        database.run("VACUUM ANALYZE");
    }

    private static Map<String, Double> measured(Database database, MeasureRows rows) throws SQLException {
        Viewer viewer = new Viewer(Role.MANAGER, TimelineReads.md5("p1"), Viewer.team("T1"));
        Map<String, Double> took = new LinkedHashMap<>();
        long began = System.nanoTime();
        rows.all(viewer, NOW);
        Figures.line("measures, what is kept in memory, read before", "%.0f ms", (System.nanoTime() - began) / 1e6);
        took.put(
                "first meetings",
                p99(database, "first meetings", () -> selling(rows, viewer).firstMeetings(YEAR, By.MONTH, Only.ALL)));
        took.put(
                "after two meetings",
                p99(
                        database,
                        "after two meetings",
                        () -> selling(rows, viewer).afterTwoMeetings(YEAR, By.MONTH, Only.ALL)));
        took.put("to win", p99(database, "to win", () -> selling(rows, viewer).toWin(YEAR, By.MONTH, Only.ALL)));
        took.put("stages", p99(database, "stages", () -> {
            MeasureRows.Rows all = rows.all(viewer, NOW);
            new StageFigures(all.seen(), all.teams(), o -> true).of(YEAR, all.stages(), Only.ALL, NOW);
        }));
        took.put("last touch", p99(database, "last touch", () -> {
            MeasureRows.Touched touched = rows.touched(viewer, NOW);
            Touches.of(touched.accounts(), By.OWNER, Only.ALL, touched.teams(), NOW);
        }));
        took.put("contact", p99(database, "contact", () -> {
            MeasureRows.Exchanges all = rows.exchanges(viewer, YEAR.begin(), YEAR.end(), NOW);
            ContactFigures.of(all.all(), YEAR, By.WEEK, Only.ALL, all.teams(), o -> true);
        }));
        return took;
    }

    private static SellingFigures selling(MeasureRows rows, Viewer viewer) {
        MeasureRows.Rows all = rows.all(viewer, NOW);
        return new SellingFigures(all.seen(), all.teams(), o -> true);
    }

    /**
     * Within how many milliseconds 99 of a hundred are answered, once warm, each after a meeting and an opportunity changed; the time
     * after which reading is given up where it was.
     */
    private static double p99(Database database, String name, Runnable ask) throws SQLException {
        double[] millis = new double[RUNS];
        for (int i = -WARM; i < RUNS; i++) {
            database.run("UPDATE activity SET version = '' WHERE id = md5('a' || %d)::uuid".formatted(10 * (i + WARM)));
            database.run(
                    "UPDATE opportunity SET value = value + 1 WHERE id = md5('o' || %d)::uuid".formatted(i + WARM));
            long began = System.nanoTime();
            try {
                ask.run();
            } catch (org.springframework.transaction.TransactionTimedOutException
                    | org.springframework.dao.QueryTimeoutException tooLong) {
                // whoever asks gets no answer after this time either
                return ReadTimeout.SECONDS * 1000.0;
            }
            double took = (System.nanoTime() - began) / 1e6;
            if (i >= 0) {
                millis[i] = took;
            }
            if (took > LONG && i == 2 - WARM) {
                return took;
            }
        }
        Arrays.sort(millis);
        Figures.line("measures, " + name, "half of the answers within %.0f ms", millis[RUNS / 2]);
        return millis[RUNS - 1 - RUNS / 100];
    }
}
