package jandrel.store.measures;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.measures.CaptureFigures;
import jandrel.core.measures.ChangeFigures;
import jandrel.core.measures.ContactFigures;
import jandrel.core.measures.CoverageFigures;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Only;
import jandrel.core.measures.ReplyFigures;
import jandrel.core.measures.SellingFigures;
import jandrel.core.measures.Sheet;
import jandrel.core.measures.Span;
import jandrel.core.measures.StageFigures;
import jandrel.core.measures.Touches;
import jandrel.core.measures.WorkingHours;
import jandrel.core.measures.WorkingHours.Hours;
import jandrel.core.policy.Policy;
import jandrel.core.visibility.Oversight;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import jandrel.store.kernel.Json;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/** Whoever reads, the views of measures come to the figures that the service tells them. */
class ReaderViewsTest {
    private static final int HISTORIES = 20;
    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final WorkingHours HOURS = new WorkingHours(
            OSLO,
            Map.of(
                    DayOfWeek.MONDAY,
                    new Hours(LocalTime.of(9, 0), LocalTime.of(17, 0)),
                    DayOfWeek.SUNDAY,
                    new Hours(LocalTime.of(7, 30), LocalTime.MIDNIGHT)),
            Set.of(LocalDate.now(OSLO).minusDays(20), LocalDate.now(OSLO).minusDays(34)));
    private static final List<String> DECIDED = List.of(
            "logged TIED", "waiting NOBODY_KNOWN", "left-out EXCLUDED", "left-out NOT_IN_FOLDER", "unreadable BROKEN");

    private static final List<String> VERDICTS = List.of("logged", "waiting", "left-out");
    private static StoreContext store;
    private static JdbcTemplate jdbc;
    private Instant now = Instant.EPOCH;
    private Span span = new Span(LocalDate.EPOCH, LocalDate.EPOCH, OSLO);
    private String in = "";
    private final Set<String> columns = new HashSet<>();

    @BeforeAll
    static void open() throws Exception {
        store = new StoreContext("test_reader_views");
        jdbc = store.get(JdbcTemplate.class);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @Test
    void viewsOfMeasuresComeToTheSameFigures() {
        String one = System.getProperty("jandrel.seed");
        long first = one == null ? 1 : Long.parseLong(one);
        for (long seed = first; seed < first + (one == null ? HISTORIES : 1); seed++) {
            long of = seed;
            new TransactionTemplate(store.get(PlatformTransactionManager.class)).executeWithoutResult(t -> {
                jdbc.update("DELETE FROM reader");
                new RandomSelling(jdbc, new Random(of), Instant.now()).fill();
            });
            new TransactionTemplate(store.get(PlatformTransactionManager.class)).executeWithoutResult(t -> {
                jdbc.execute("SET LOCAL TIME ZONE 'Europe/Oslo'");
                everyReader(of);
                t.setRollbackOnly();
            });
        }
        assertThat(columns)
                .contains("first held", "first met again", "first won", "two nothing next", "two won", "won won")
                .contains("won meetings, median", "stages came in", "touch reply pending", "contact mail out")
                .contains("replies answered", "replies waiting", "replies no answer", "replies hours, median")
                .contains("capture logged", "capture waiting", "capture left out", "capture unreadable")
                .contains("again logged now", "again no longer logged", "again other")
                .contains("coverage connected", "coverage not connected");
    }

    private void everyReader(long seed) {
        now = Instant.now().truncatedTo(ChronoUnit.MICROS);
        LocalDate today = LocalDate.ofInstant(now, OSLO);
        span = new Span(today.minusDays(180), today.plusDays(1), OSLO);
        in = "%s::date BETWEEN '" + today.minusDays(180) + "' AND '" + today + "'";
        List<UUID> people = jdbc.queryForList("SELECT id FROM person ORDER BY key", UUID.class);
        moreOf(new Random(seed), people);
        reads(seed, Role.ADMINISTRATOR, null, null, List.of());
        reads(seed, Role.MANAGER, people.get(0), null, List.of());
        reads(seed, Role.REP, people.get(0), null, List.of(people.get(0)));
        reads(seed, Role.MANAGER, people.get(0), "Atlantic", people);
        reads(seed, Role.AUDITOR, null, null, List.of());
        reads(seed, Role.AUDITOR, null, "Atlantic", people.subList(1, 3));
    }

    /** @param inTeam whose figures they get, where they are limited */
    private void reads(long seed, Role role, @Nullable UUID person, @Nullable String team, List<UUID> inTeam) {
        jdbc.update("DELETE FROM reader");
        jdbc.update(
                "INSERT INTO reader (login, name, role, person, teams, added_by) VALUES ('jandrel', 'x', ?, ?, ?::text[], 'x')",
                role.name(),
                person,
                team == null ? null : "{" + team + "}");
        UUID ofTeam = person == null
                ? null
                : Viewer.team(jdbc.queryForObject("SELECT team FROM person WHERE id = ?", String.class, person));
        Viewer viewer = new Viewer(role, person, ofTeam, Oversight.of(role, person, team == null ? null : inTeam));
        Predicate<@Nullable UUID> whose = viewer.oversight()::covers;
        MeasureRows.Rows rows = store.get(MeasureRows.class).all(viewer, now);
        SellingFigures figures = new SellingFigures(rows.seen(), rows.teams(), whose);
        check(seed, "first", figures.firstMeetings(span, By.MONTH, Only.ALL), FIRST, "at", "count(DISTINCT account)");
        check(
                seed,
                "two",
                figures.afterTwoMeetings(span, By.CHANNEL, Only.ALL),
                TWO,
                "at",
                "count(DISTINCT opportunity)");
        check(seed, "won", figures.toWin(span, By.OWNER, Only.ALL), WON, "at", "count(*)");
        Sheet stages = new StageFigures(rows.seen(), rows.teams(), whose).of(span, List.of(), Only.ALL, now);
        // of what was in a stage in between, and of its value, the history tells more
        check(seed, "stages", without(stages, Set.of("came in", "went on", "days there, median")), STAGES, "at", "0");
        MeasureRows.Touched touched = store.get(MeasureRows.class).touched(viewer, now);
        check(
                seed,
                "touch",
                Touches.of(touched.accounts(), By.OWNER, Only.ALL, touched.teams(), now),
                TOUCH,
                "",
                "count(*)");
        MeasureRows.Exchanges all = store.get(MeasureRows.class).exchanges(viewer, span.begin(), span.end(), now);
        Sheet contact = ContactFigures.of(all.all(), span, By.WEEK, Only.ALL, all.teams(), whose);
        check(seed, "contact", contact, CONTACT, "at", "count(*)");
        MeasureRows.Exchanges around = store.get(MeasureRows.class)
                .exchanges(
                        viewer,
                        span.begin().minus(ReplyFigures.LONGEST),
                        span.end().plus(ReplyFigures.LONGEST),
                        now);
        Sheet replies = new ReplyFigures(
                        around.all(),
                        Only.ALL,
                        around.teams(),
                        whose,
                        store.get(CompanyHours.class).now(),
                        now)
                .of(span, By.MONTH);
        check(seed, "replies", replies, REPLIES, "at", "count(DISTINCT account)");
        for (By by : List.of(By.OWNER, By.REASON)) {
            Sheet capture = CaptureFigures.of(store.get(CaptureCounts.class).of(span, by, Only.ALL, viewer), List.of());
            String key = by == By.OWNER ? "person::text" : "coalesce(replace(upper(reason), '-', '_'), '')";
            check(seed, "capture", capture, CAPTURE.replace("KEY", key), "day", "0");
        }
        for (By by : List.of(By.OWNER, By.VERSION)) {
            Sheet again = ChangeFigures.of(store.get(ChangeCounts.class).of(span, by, Only.ALL, viewer), List.of());
            String key = by == By.OWNER ? "person::text" : "coalesce(policy || ' ' || version, '')";
            check(seed, "again", again, AGAIN.replace("KEY", key), "at", "0");
        }
        CoverageRows.History known = store.get(CoverageRows.class).all();
        Sheet coverage = new CoverageFigures(
                        known.people(), known.covered(), known.connected(), Only.ALL, known.teams(), whose, now)
                .of(span, By.POLICY);
        // who was never under a policy is in no view of covers
        check(seed, "coverage", withoutLine("", coverage), COVERAGE, "", "0");
    }

    private static Sheet withoutLine(String key, Sheet sheet) {
        return new Sheet(
                sheet.columns(),
                sheet.lines().stream().filter(l -> !l.key().equals(key)).toList(),
                sheet.total(),
                sheet.hidden());
    }

    /** What was decided again of these, and who was under which policy with what connected. */
    private void changesOf(Random random, List<UUID> people) {
        for (UUID decision :
                jdbc.queryForList("SELECT id FROM sighting WHERE source = 1 ORDER BY position", UUID.class)) {
            String before = VERDICTS.get(random.nextInt(VERDICTS.size()));
            String after = VERDICTS.get(random.nextInt(VERDICTS.size()));
            if (!before.equals(after)) {
                jdbc.update(
                        "INSERT INTO decision_change (sighting, at, person, policy, version, before, after, rule)"
                                + " SELECT id, ?, person, nullif(?, '')::uuid, ?, ?, ?, rule FROM sighting WHERE id = ?",
                        before(random),
                        random.nextInt(5) == 0 ? "" : Policy.FIRST.toString(),
                        random.nextInt(3),
                        before,
                        after,
                        decision);
            }
        }
        for (int i = 0; i < 12; i++) {
            UUID person = people.get(random.nextInt(people.size()));
            jdbc.update(
                    "INSERT INTO cover_history (person, at, policy, version, covered) VALUES (?, ?, ?::uuid, 1, ?)",
                    person,
                    before(random),
                    random.nextBoolean() ? Policy.FIRST : new UUID(7, 7),
                    random.nextInt(4) > 0);
            jdbc.update(
                    "INSERT INTO connection_history (person, connection, at, connected) VALUES (?, ?, ?, ?)",
                    person,
                    new UUID(person.getMostSignificantBits(), random.nextInt(2)),
                    before(random),
                    random.nextInt(3) > 0);
        }
    }

    private java.sql.Timestamp before(Random random) {
        return java.sql.Timestamp.from(now.minus(random.nextInt(200 * 24 * 60), ChronoUnit.MINUTES));
    }

    /** Decisions of all kinds of everybody, and hours that are not the usual ones. */
    private void moreOf(Random random, List<UUID> people) {
        if (random.nextBoolean()) {
            jdbc.update("INSERT INTO working_hours (hours) VALUES (?)", Json.write(HOURS));
        }
        for (int i = 0; i < 60; i++) {
            String[] is = DECIDED.get(random.nextInt(DECIDED.size())).split(" ", -1);
            jdbc.update(
                    "INSERT INTO sighting (id, source, position, person, item, kind, at, verdict, rule, trail, sharing, insiders)"
                            + " VALUES (?, 1, ?, ?, ?, 'mail', ?, ?, ?, '[]', 'OWNER', '{}')",
                    UUID.randomUUID(),
                    String.valueOf(i),
                    people.get(random.nextInt(people.size())),
                    UUID.randomUUID(),
                    java.sql.Timestamp.from(now.minus(random.nextInt(200 * 24), ChronoUnit.HOURS)),
                    is[0],
                    is[1]);
        }
        changesOf(random, people);
    }

    private static Sheet without(Sheet sheet, Set<String> but) {
        List<Integer> kept = java.util.stream.IntStream.range(0, sheet.columns().size())
                .filter(i -> but.contains(sheet.columns().get(i).name()))
                .boxed()
                .toList();
        return new Sheet(
                kept.stream().map(sheet.columns()::get).toList(),
                sheet.lines().stream()
                        .map(l -> new Sheet.Line(
                                l.key(),
                                l.basis(),
                                kept.stream().map(l.cells()::get).toList()))
                        .toList(),
                sheet.total(),
                sheet.hidden());
    }

    /** @param hidden how many the figure hides, of the rows of its view that are not known */
    private void check(long seed, String what, Sheet sheet, String sql, String at, String hidden) {
        String where = at.isEmpty() ? "true" : in.formatted(at);
        SheetBySql.check(jdbc, seed, what, sheet, sql.replace("IN_SPAN", where), columns);
        String view = sql.substring(sql.indexOf("jandrel_1.")).split(" ", 2)[0];
        if (!hidden.equals("0")) {
            assertThat(jdbc.queryForObject(
                            "SELECT " + hidden + " FROM " + view + " WHERE NOT known AND " + where, Long.class))
                    .as("hidden of %s, -Djandrel.seed=%d", what, seed)
                    .isEqualTo(sheet.hidden());
        }
    }

    private static final String FIRST = """
            SELECT to_char(at, 'YYYY-MM') AS key, count(*) FILTER (WHERE standing = 'planned') AS planned,
                count(*) FILTER (WHERE standing = 'held') AS held, count(*) FILTER (WHERE standing = 'missed') AS missed,
                count(*) FILTER (WHERE standing = 'cancelled') AS cancelled, count(*) FILTER (WHERE standing = 'declined') AS declined,
                avg((standing = 'held')::int) FILTER (WHERE standing IN ('held', 'missed')) AS "shown up",
                avg(met_again::int) FILTER (WHERE standing = 'held') AS "met again",
                avg(opportunity::int) FILTER (WHERE standing = 'held') AS opportunity, avg(won::int) FILTER (WHERE standing = 'held') AS won
            FROM jandrel_1.first_meetings v WHERE known AND IN_SPAN GROUP BY 1
            """;

    private static final String TWO = """
            SELECT coalesce(channel, '') AS key, count(*) AS opportunities, count(*) FILTER (WHERE stands = 'won') AS won,
                count(*) FILTER (WHERE stands = 'agreed') AS agreed, count(*) FILTER (WHERE stands = 'meeting-ahead') AS "meeting ahead",
                count(*) FILTER (WHERE stands = 'nothing-next') AS "nothing next", count(*) FILTER (WHERE stands = 'lost') AS lost,
                avg((stands = 'won')::int) AS "won of all"
            FROM jandrel_1.second_meetings v WHERE known AND IN_SPAN GROUP BY 1
            """;

    private static final String WON = """
            SELECT coalesce(owner::text, '') AS key, count(*) AS won, avg(meetings) AS "meetings, mean",
                percentile_cont(0.25) WITHIN GROUP (ORDER BY meetings) AS "meetings, 25 %",
                percentile_cont(0.5) WITHIN GROUP (ORDER BY meetings) AS "meetings, median",
                percentile_cont(0.75) WITHIN GROUP (ORDER BY meetings) AS "meetings, 75 %", avg(days) AS "days, mean",
                percentile_cont(0.25) WITHIN GROUP (ORDER BY days) AS "days, 25 %", percentile_cont(0.5) WITHIN GROUP (ORDER BY days) AS "days, median",
                percentile_cont(0.75) WITHIN GROUP (ORDER BY days) AS "days, 75 %"
            FROM jandrel_1.wins v WHERE IN_SPAN GROUP BY 1
            """;

    private static final String STAGES = """
            SELECT coalesce(stage, '') AS key, count(*) AS "came in", avg(went_on::int) AS "went on",
                percentile_cont(0.5) WITHIN GROUP (ORDER BY days) FILTER (WHERE until IS NOT NULL) AS "days there, median"
            FROM jandrel_1.stage_steps v WHERE IN_SPAN GROUP BY 1
            """;

    private static final String TOUCH = """
            SELECT coalesce(owner::text, '') AS key, count(*) AS accounts,
                count(*) FILTER (WHERE now() - last_touch < interval '168 hours') AS "this week",
                count(*) FILTER (WHERE now() - last_touch >= interval '168 hours' AND now() - last_touch < interval '720 hours') AS "this month",
                count(*) FILTER (WHERE now() - last_touch >= interval '720 hours' AND now() - last_touch < interval '2160 hours') AS "this quarter",
                count(*) FILTER (WHERE now() - last_touch >= interval '2160 hours') AS "longer ago", count(*) FILTER (WHERE last_touch IS NULL) AS never,
                count(*) FILTER (WHERE next_meeting IS NULL) AS "nothing next",
                count(*) FILTER (WHERE known AND they_wrote IS NOT NULL AND we_wrote IS NULL AND met IS NULL) AS "only theirs",
                count(*) FILTER (WHERE known AND they_wrote IS NOT NULL AND they_wrote > coalesce(greatest(we_wrote, met), '-infinity')) AS "reply pending"
            FROM jandrel_1.account_touches v WHERE IN_SPAN GROUP BY 1
            """;

    private static final String REPLIES = """
            SELECT to_char(at, 'YYYY-MM') AS key, count(*) AS messages, count(*) FILTER (WHERE state = 'answered') AS answered,
                count(*) FILTER (WHERE state = 'waiting') AS waiting, count(*) FILTER (WHERE state = 'no-answer') AS "no answer",
                avg((state = 'answered')::int) AS "answered of all", percentile_cont(0.25) WITHIN GROUP (ORDER BY hours) AS "hours, 25 %",
                percentile_cont(0.5) WITHIN GROUP (ORDER BY hours) AS "hours, median",
                percentile_cont(0.75) WITHIN GROUP (ORDER BY hours) AS "hours, 75 %"
            FROM jandrel_1.reply_times v WHERE known AND IN_SPAN GROUP BY 1
            """;

    private static final String CAPTURE = """
            SELECT KEY AS key, sum(decisions) AS seen, sum(decisions) FILTER (WHERE verdict = 'logged') AS logged,
                sum(decisions) FILTER (WHERE verdict = 'waiting') AS waiting, sum(decisions) FILTER (WHERE verdict = 'left-out') AS "left out",
                sum(decisions) FILTER (WHERE verdict = 'unreadable') AS unreadable,
                coalesce(sum(decisions) FILTER (WHERE verdict = 'logged'), 0) / sum(decisions) AS "logged of all"
            FROM jandrel_1.capture_days v WHERE IN_SPAN GROUP BY 1
            """;

    private static final String AGAIN = """
            SELECT KEY AS key, count(*) AS changed, count(*) FILTER (WHERE after = 'logged') AS "logged now",
                count(*) FILTER (WHERE before = 'logged') AS "no longer logged",
                count(*) FILTER (WHERE 'logged' NOT IN (before, after)) AS other
            FROM jandrel_1.decision_changes v WHERE IN_SPAN GROUP BY 1
            """;

    private static final String COVERAGE = """
            SELECT policy::text AS key, count(*) AS people, count(*) AS covered, count(*) FILTER (WHERE c.one) AS connected,
                count(*) FILTER (WHERE NOT c.one) AS "not connected", 0 AS "not covered", avg(c.one::int) AS "connected of all"
            FROM (SELECT DISTINCT ON (v.person) v.policy, v.covered, EXISTS (SELECT FROM (
                    SELECT DISTINCT ON (k.connection) k.connected FROM jandrel_1.connection_changes k WHERE k.person = v.person
                    ORDER BY k.connection, k.at DESC) o WHERE o.connected) AS one
                FROM jandrel_1.cover_changes v ORDER BY v.person, v.at DESC) c
            WHERE c.covered AND IN_SPAN GROUP BY 1
            """;

    private static final String CONTACT = """
            SELECT to_char(date_trunc('week', at), 'YYYY-MM-DD') AS key, count(DISTINCT activity) FILTER (WHERE what = 'mail-in') AS "mail in",
                count(DISTINCT activity) FILTER (WHERE what = 'mail-out') AS "mail out",
                count(DISTINCT activity) FILTER (WHERE what = 'meeting-held') AS "meetings held",
                count(DISTINCT activity) FILTER (WHERE what = 'meeting-missed') AS "meetings missed",
                count(DISTINCT account) FILTER (WHERE what IN ('mail-in', 'mail-out', 'meeting-held', 'meeting-missed')) AS accounts
            FROM (SELECT c.*, a.account FROM jandrel_1.contact_made c LEFT JOIN unnest(c.accounts) AS a(account) ON true) v
            WHERE known AND IN_SPAN GROUP BY 1
            """;
}
