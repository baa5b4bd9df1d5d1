package jandrel.store.measures;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.measures.ContactFigures;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Only;
import jandrel.core.measures.ReplyFigures;
import jandrel.core.measures.SellingFigures;
import jandrel.core.measures.Span;
import jandrel.core.measures.StageFigures;
import jandrel.core.measures.Touches;
import jandrel.core.measures.WorkingHours;
import jandrel.core.measures.WorkingHours.Hours;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.HashSet;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/** Whatever happened, the figures are what plain SQL says over the same rows. Of a failure, the seed is named: -Djandrel.seed=. */
class MeasuresScanTest {
    private static final int HISTORIES = 50;
    private static final Instant NOW = Instant.parse("2026-06-30T12:00:00Z");
    private static final Span SPAN =
            new Span(LocalDate.parse("2026-01-01"), LocalDate.parse("2026-07-01"), ZoneId.of("Europe/Oslo"));
    /** Meetings with accounts, as one who reads what everybody may; and opportunities with their moments. */
    private static final String KNOWN = """
            WITH met AS (
                SELECT l.record AS account, a.id, a.at, a.owners[1] AS owner, CASE WHEN a.readers IS NOT NULL THEN 'HIDDEN'
                    WHEN a.facts LIKE '%CANCELLED%' THEN 'CANCELLED' WHEN o.state IS NOT NULL THEN upper(o.state)
                    WHEN a.trail LIKE '%DECLINED%' THEN 'DECLINED' WHEN a.ends > timestamptz '2026-06-30 12:00Z' THEN 'PLANNED'
                    WHEN a.trail LIKE '%MISSED%' THEN 'MISSED' ELSE 'HELD' END AS standing,
                    ARRAY(SELECT p.record FROM link p WHERE p.activity = a.id AND p.kind = 'opportunity') AS tied
                FROM activity a JOIN link l ON l.activity = a.id AND l.kind = 'account' LEFT JOIN meeting_outcome o ON o.item = a.item
                WHERE a.kind = 'meeting' AND a.facts NOT LIKE '%FOLLOW_UP%'),
            first AS (
                SELECT m.* FROM met m WHERE NOT EXISTS (
                    SELECT FROM met b WHERE b.account = m.account AND b.at < m.at AND b.standing = 'HELD')),
            was AS (
                SELECT h.*, CASE WHEN h.state <> 'OPEN' THEN h.state ELSE coalesce(upper(s.means), 'OPEN') END AS means
                FROM opportunity_history h LEFT JOIN stage s ON s.name = h.stage),
            last AS (SELECT DISTINCT ON (opportunity) * FROM was ORDER BY opportunity, at DESC, id DESC),
            deal AS (
                SELECT l.opportunity, l.account, l.means, l.channel, (SELECT min(at) FROM was w WHERE w.opportunity = l.opportunity) AS opened,
                    CASE WHEN l.means IN ('WON', 'LOST') THEN (SELECT min(w.at) FROM was w WHERE w.opportunity = l.opportunity AND w.at > coalesce(
                        (SELECT max(x.at) FROM was x WHERE x.opportunity = l.opportunity AND x.means <> l.means), '-infinity')) END AS closed
                FROM last l),
            of_deal AS (
                SELECT d.opportunity, m.* FROM deal d JOIN met m ON m.account = d.account AND (m.tied = '{}' OR d.opportunity = ANY(m.tied))
                    AND (m.at AT TIME ZONE 'Europe/Oslo')::date >= (d.opened AT TIME ZONE 'Europe/Oslo')::date
                    AND (d.closed IS NULL OR m.at <= d.closed))
            """;

    private static final String IN_SPAN =
            "(%1$s AT TIME ZONE 'Europe/Oslo')::date BETWEEN '2026-01-01' AND '2026-06-30'";
    private static final WorkingHours HOURS = new WorkingHours(
            ZoneId.of("Europe/Oslo"),
            Map.of(
                    DayOfWeek.MONDAY,
                    new Hours(LocalTime.of(9, 0), LocalTime.of(17, 0)),
                    DayOfWeek.FRIDAY,
                    new Hours(LocalTime.of(7, 30), LocalTime.MIDNIGHT)),
            Set.of(LocalDate.parse("2026-05-01")));
    private static StoreContext store;
    private static JdbcTemplate jdbc;

    @BeforeAll
    static void open() throws Exception {
        store = new StoreContext("test_measures_scan");
        jdbc = store.get(JdbcTemplate.class);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @Test
    void figuresAreWhatPlainSqlSays() {
        String one = System.getProperty("jandrel.seed");
        long first = one == null ? 1 : Long.parseLong(one);
        Set<String> columns = new HashSet<>();
        for (long seed = first; seed < first + (one == null ? HISTORIES : 1); seed++) {
            Random random = new Random(seed);
            new TransactionTemplate(store.get(PlatformTransactionManager.class)).executeWithoutResult(t -> {
                new RandomSelling(jdbc, random, NOW).fill();
            });
            Viewer viewer = new Viewer(Role.MANAGER, UUID.randomUUID(), Viewer.team(""));
            MeasureRows.Rows rows = store.get(MeasureRows.class).all(viewer, NOW);
            SellingFigures figures = new SellingFigures(rows.seen(), rows.teams(), owner -> true);
            SheetBySql.check(jdbc, seed, "first", figures.firstMeetings(SPAN, By.MONTH, Only.ALL), FIRST, columns);
            SheetBySql.check(jdbc, seed, "two", figures.afterTwoMeetings(SPAN, By.CHANNEL, Only.ALL), TWO, columns);
            SheetBySql.check(jdbc, seed, "won", figures.toWin(SPAN, By.TEAM, Only.ALL), WON, columns);
            SheetBySql.check(
                    jdbc,
                    seed,
                    "stages",
                    new StageFigures(rows.seen(), rows.teams(), owner -> true).of(SPAN, rows.stages(), Only.ALL, NOW),
                    STAGES,
                    columns);
            MeasureRows.Touched touched = store.get(MeasureRows.class).touched(viewer, NOW);
            SheetBySql.check(
                    jdbc,
                    seed,
                    "touch",
                    Touches.of(touched.accounts(), By.TEAM, Only.ALL, touched.teams(), NOW),
                    TOUCH,
                    columns);
            MeasureRows.Exchanges exchanges =
                    store.get(MeasureRows.class).exchanges(viewer, SPAN.before().begin(), SPAN.end(), NOW);
            SheetBySql.check(
                    jdbc,
                    seed,
                    "contact",
                    ContactFigures.of(exchanges.all(), SPAN, By.WEEK, Only.ALL, exchanges.teams(), owner -> true),
                    CONTACT,
                    columns);
            MeasureRows.Exchanges around = store.get(MeasureRows.class)
                    .exchanges(
                            viewer,
                            SPAN.begin().minus(ReplyFigures.LONGEST),
                            SPAN.end().plus(ReplyFigures.LONGEST),
                            NOW);
            SheetBySql.check(
                    jdbc,
                    seed,
                    "replies",
                    new ReplyFigures(around.all(), Only.ALL, around.teams(), owner -> true, HOURS, NOW)
                            .of(SPAN, By.MONTH),
                    REPLIES,
                    columns);
        }
        // each of them was seen to be something
        assertThat(columns)
                .contains(
                        "first missed",
                        "first met again",
                        "two nothing next",
                        "two lost",
                        "won meetings, median",
                        "won days, 75 %")
                .contains("stages EUR a month", "stages went on", "stages days there, median")
                .contains("touch this week", "touch longer ago", "touch never", "touch nothing next")
                .contains("touch only theirs", "touch reply pending")
                .contains("replies answered", "replies waiting", "replies no answer", "replies hours, median")
                .contains("contact mail in", "contact mail out", "contact meetings missed", "contact accounts");
    }

    private static final String FIRST = KNOWN + """
            , seen AS (SELECT f.*, EXISTS (SELECT FROM met b WHERE b.account = f.account AND b.at > f.at AND b.standing IN ('HELD', 'PLANNED')) AS again,
                EXISTS (SELECT FROM deal d WHERE d.account = f.account AND (d.closed IS NULL OR (d.closed AT TIME ZONE 'Europe/Oslo')::date
                    >= (f.at AT TIME ZONE 'Europe/Oslo')::date)) AS opened,
                EXISTS (SELECT FROM deal d WHERE d.account = f.account AND d.means = 'WON' AND (d.closed AT TIME ZONE 'Europe/Oslo')::date
                    >= (f.at AT TIME ZONE 'Europe/Oslo')::date) AS won
              FROM first f WHERE NOT EXISTS (SELECT FROM first h WHERE h.account = f.account AND h.standing = 'HIDDEN') AND
            """ + IN_SPAN.formatted("f.at") + """
            ) SELECT to_char(at AT TIME ZONE 'Europe/Oslo', 'YYYY-MM') AS key, count(*) FILTER (WHERE standing = 'PLANNED') AS planned,
                count(*) FILTER (WHERE standing = 'HELD') AS held, count(*) FILTER (WHERE standing = 'MISSED') AS missed,
                count(*) FILTER (WHERE standing = 'CANCELLED') AS cancelled, count(*) FILTER (WHERE standing = 'DECLINED') AS declined,
                avg((standing = 'HELD')::int) FILTER (WHERE standing IN ('HELD', 'MISSED')) AS "shown up",
                avg(again::int) FILTER (WHERE standing = 'HELD') AS "met again", avg(opened::int) FILTER (WHERE standing = 'HELD') AS opportunity,
                avg(won::int) FILTER (WHERE standing = 'HELD') AS won
            FROM seen GROUP BY 1
            """;

    private static final String TWO = KNOWN + """
            , second AS (SELECT opportunity, at FROM (SELECT opportunity, at, row_number() OVER (PARTITION BY opportunity ORDER BY at) AS n
                FROM of_deal WHERE standing = 'HELD') h WHERE n = 2),
            stands AS (SELECT d.channel AS key, CASE WHEN d.means <> 'OPEN' THEN d.means WHEN EXISTS (
                    SELECT FROM of_deal m WHERE m.opportunity = d.opportunity AND m.standing = 'PLANNED') THEN 'AHEAD' ELSE 'NOTHING' END AS now
                FROM deal d JOIN second s ON s.opportunity = d.opportunity
                WHERE NOT EXISTS (SELECT FROM of_deal m WHERE m.opportunity = d.opportunity AND m.standing = 'HIDDEN') AND
            """ + IN_SPAN.formatted("s.at") + """
            ) SELECT key, count(*) AS opportunities, count(*) FILTER (WHERE now = 'WON') AS won, count(*) FILTER (WHERE now = 'AGREED') AS agreed,
                count(*) FILTER (WHERE now = 'AHEAD') AS "meeting ahead", count(*) FILTER (WHERE now = 'NOTHING') AS "nothing next",
                count(*) FILTER (WHERE now = 'LOST') AS lost, avg((now = 'WON')::int) AS "won of all" FROM stands GROUP BY 1
            """;

    private static final String WON = KNOWN + """
            , won AS (SELECT d.*, (d.closed AT TIME ZONE 'Europe/Oslo')::date - (d.opened AT TIME ZONE 'Europe/Oslo')::date AS days,
                CASE WHEN NOT EXISTS (SELECT FROM of_deal m WHERE m.opportunity = d.opportunity AND m.standing = 'HIDDEN')
                    THEN (SELECT count(*) FROM of_deal m WHERE m.opportunity = d.opportunity AND m.standing = 'HELD') END AS meetings,
                (SELECT w.owner FROM was w WHERE w.opportunity = d.opportunity AND w.at <= d.closed ORDER BY w.at DESC, w.id DESC LIMIT 1) AS owner
              FROM deal d WHERE d.means = 'WON' AND
            """ + IN_SPAN.formatted("d.closed") + """
            ) SELECT coalesce((SELECT t.team FROM person_team t WHERE t.person = w.owner
                    ORDER BY t.at <= w.closed DESC, CASE WHEN t.at <= w.closed THEN t.at END DESC, t.at LIMIT 1), '') AS key,
                count(*) AS won, avg(meetings) AS "meetings, mean", percentile_cont(0.25) WITHIN GROUP (ORDER BY meetings) AS "meetings, 25 %",
                percentile_cont(0.5) WITHIN GROUP (ORDER BY meetings) AS "meetings, median",
                percentile_cont(0.75) WITHIN GROUP (ORDER BY meetings) AS "meetings, 75 %", avg(days) AS "days, mean",
                percentile_cont(0.25) WITHIN GROUP (ORDER BY days) AS "days, 25 %", percentile_cont(0.5) WITHIN GROUP (ORDER BY days) AS "days, median",
                percentile_cont(0.75) WITHIN GROUP (ORDER BY days) AS "days, 75 %"
            FROM won w GROUP BY 1
            """;

    /** Two kinds of rows, told apart by who is in a stage now and who came into it. */
    private static final String STAGES = KNOWN + """
            , moved AS (SELECT w.*, lag(stage) OVER o AS stage_before, lag(means IN ('WON', 'LOST')) OVER o AS closed_before
                FROM was w WINDOW o AS (PARTITION BY opportunity ORDER BY at, id)),
            step AS (SELECT m.*, lead(at) OVER o AS until, lead(means) OVER o AS next FROM moved m
                WHERE stage_before IS DISTINCT FROM stage OR closed_before IS DISTINCT FROM (means IN ('WON', 'LOST'))
                WINDOW o AS (PARTITION BY opportunity ORDER BY at, id)),
            came AS (SELECT * FROM step WHERE means NOT IN ('WON', 'LOST') AND
            """ + IN_SPAN.formatted("at") + """
            ), stood AS (SELECT * FROM last WHERE means NOT IN ('WON', 'LOST')),
            keys AS (SELECT name AS key FROM stage UNION SELECT stage FROM came UNION SELECT stage FROM stood)
            SELECT key, (SELECT count(*) FROM stood WHERE stage = key) AS "in it",
                (SELECT sum(value) FROM stood WHERE stage = key AND currency = 'EUR' AND period = 'once') AS "EUR",
                (SELECT sum(value) FROM stood WHERE stage = key AND currency = 'EUR' AND period = 'month') AS "EUR a month",
                (SELECT count(*) FROM came WHERE stage = key) AS "came in",
                (SELECT avg((until IS NOT NULL AND next <> 'LOST')::int) FROM came WHERE stage = key) AS "went on",
                (SELECT percentile_cont(0.5) WITHIN GROUP (ORDER BY (until AT TIME ZONE 'Europe/Oslo')::date - (at AT TIME ZONE 'Europe/Oslo')::date)
                    FROM came WHERE stage = key AND until IS NOT NULL) AS "days there, median"
            FROM keys
            """;

    private static final String TOUCH = """
            WITH tied AS (SELECT l.record AS account, l.at, l.blind, a.kind, a.authors = '{}' AS theirs, a.readers IS NOT NULL AS hidden,
                a.facts LIKE '%CANCELLED%' AS cancelled FROM link l JOIN activity a ON a.id = l.activity WHERE l.kind = 'account' AND NOT l.blind),
            past AS (SELECT * FROM tied WHERE at <= timestamptz '2026-06-30 12:00Z'),
            each AS (
                SELECT c.id, c.owner, (SELECT max(at) FROM past WHERE account = c.id) AS last,
                    EXISTS (SELECT FROM tied WHERE account = c.id AND kind = 'meeting' AND NOT cancelled AND at > timestamptz '2026-06-30 12:00Z') AS next,
                    EXISTS (SELECT FROM past WHERE account = c.id AND hidden) AS hides,
                    (SELECT max(at) FROM past WHERE account = c.id AND kind = 'mail' AND theirs) AS theirs,
                    (SELECT max(at) FROM past WHERE account = c.id AND (kind = 'mail' AND NOT theirs OR kind = 'meeting' AND NOT cancelled)) AS ours
                FROM account c WHERE c.archived_at IS NULL),
            aged AS (SELECT *, timestamptz '2026-06-30 12:00Z' - last AS age FROM each)
            SELECT coalesce((SELECT t.team FROM person_team t WHERE t.person = g.owner
                    ORDER BY t.at <= timestamptz '2026-06-30 12:00Z' DESC, CASE WHEN t.at <= timestamptz '2026-06-30 12:00Z' THEN t.at END DESC, t.at
                    LIMIT 1), '') AS key,
                count(*) AS accounts, count(*) FILTER (WHERE age < interval '168 hours') AS "this week",
                count(*) FILTER (WHERE age >= interval '168 hours' AND age < interval '720 hours') AS "this month",
                count(*) FILTER (WHERE age >= interval '720 hours' AND age < interval '2160 hours') AS "this quarter",
                count(*) FILTER (WHERE age >= interval '2160 hours') AS "longer ago", count(*) FILTER (WHERE last IS NULL) AS never,
                count(*) FILTER (WHERE NOT next) AS "nothing next",
                count(*) FILTER (WHERE NOT hides AND theirs IS NOT NULL AND ours IS NULL) AS "only theirs",
                count(*) FILTER (WHERE NOT hides AND theirs IS NOT NULL AND (ours IS NULL OR theirs > ours)) AS "reply pending"
            FROM aged g GROUP BY 1
            """;

    private static final String REPLIES = """
            WITH mail AS (
                SELECT l.record AS account, a.at, CASE WHEN a.readers IS NOT NULL THEN 'UNKNOWN' WHEN a.authors = '{}' THEN 'THEIRS' ELSE 'OURS' END
                    AS wrote
                FROM activity a JOIN link l ON l.activity = a.id AND l.kind = 'account' WHERE a.kind = 'mail'),
            begun AS (
                SELECT m.at, (SELECT p.wrote FROM mail p WHERE p.account = m.account AND p.at < m.at AND p.at >= m.at - interval '720 hours'
                        ORDER BY p.at DESC LIMIT 1) AS before, n.wrote AS next, n.at AS answered
                FROM mail m LEFT JOIN LATERAL (
                    SELECT * FROM mail n WHERE n.account = m.account AND n.at > m.at AND n.at <= m.at + interval '720 hours' AND n.wrote <> 'THEIRS'
                    ORDER BY n.at LIMIT 1) n ON true
                WHERE m.wrote = 'THEIRS' AND
            """ + IN_SPAN.formatted("m.at") + """
            ), waits AS (
                SELECT w.*, (
                    SELECT coalesce(sum(extract(epoch FROM least(w.answered, o.ends AT TIME ZONE 'Europe/Oslo')
                        - greatest(w.at, o.begins AT TIME ZONE 'Europe/Oslo'))), 0) / 3600
                    FROM generate_series(timestamp '2025-11-01', timestamp '2026-09-01', interval '1 day') d, LATERAL (
                        SELECT d + CASE WHEN extract(isodow FROM d) = 1 THEN interval '9 hours' ELSE interval '7 hours 30 minutes' END AS begins,
                            d + CASE WHEN extract(isodow FROM d) = 1 THEN interval '17 hours' ELSE interval '24 hours' END AS ends) o
                    WHERE extract(isodow FROM d) IN (1, 5) AND d <> date '2026-05-01' AND w.answered > o.begins AT TIME ZONE 'Europe/Oslo'
                        AND w.at < o.ends AT TIME ZONE 'Europe/Oslo') AS hours
                FROM begun w WHERE coalesce(w.before, 'OURS') = 'OURS' AND w.next IS DISTINCT FROM 'UNKNOWN')
            SELECT to_char(at AT TIME ZONE 'Europe/Oslo', 'YYYY-MM') AS key, count(*) AS messages, count(answered) AS answered,
                count(*) FILTER (WHERE answered IS NULL AND at + interval '720 hours' >= timestamptz '2026-06-30 12:00Z') AS waiting,
                count(*) FILTER (WHERE answered IS NULL AND at + interval '720 hours' < timestamptz '2026-06-30 12:00Z') AS "no answer",
                avg((answered IS NOT NULL)::int) AS "answered of all",
                percentile_cont(0.25) WITHIN GROUP (ORDER BY hours) FILTER (WHERE answered IS NOT NULL) AS "hours, 25 %",
                percentile_cont(0.5) WITHIN GROUP (ORDER BY hours) FILTER (WHERE answered IS NOT NULL) AS "hours, median",
                percentile_cont(0.75) WITHIN GROUP (ORDER BY hours) FILTER (WHERE answered IS NOT NULL) AS "hours, 75 %"
            FROM waits GROUP BY 1
            """;

    private static final String CONTACT = """
            WITH seen AS (
                SELECT a.id, to_char(date_trunc('week', a.at AT TIME ZONE 'Europe/Oslo'), 'YYYY-MM-DD') AS week, a.kind, a.authors = '{}' AS theirs,
                    CASE WHEN a.kind = 'mail' THEN 'MAIL' WHEN a.facts LIKE '%CANCELLED%' THEN 'CANCELLED' WHEN o.state IS NOT NULL THEN upper(o.state)
                    WHEN a.trail LIKE '%DECLINED%' THEN 'DECLINED' WHEN a.ends > timestamptz '2026-06-30 12:00Z' THEN 'PLANNED'
                    WHEN a.trail LIKE '%MISSED%' THEN 'MISSED' ELSE 'HELD' END AS standing
                FROM activity a LEFT JOIN meeting_outcome o ON o.item = a.item
                WHERE a.readers IS NULL AND a.facts NOT LIKE '%FOLLOW_UP%' AND
            """ + IN_SPAN.formatted("a.at") + """
            ) SELECT week AS key, count(*) FILTER (WHERE kind = 'mail' AND theirs) AS "mail in",
                count(*) FILTER (WHERE kind = 'mail' AND NOT theirs) AS "mail out", count(*) FILTER (WHERE standing = 'HELD') AS "meetings held",
                count(*) FILTER (WHERE standing = 'MISSED') AS "meetings missed",
                (SELECT count(DISTINCT l.record) FROM link l JOIN seen s ON s.id = l.activity
                    WHERE s.week = w.week AND l.kind = 'account' AND s.standing IN ('MAIL', 'HELD', 'MISSED')) AS accounts
            FROM seen w GROUP BY week
            """;
}
