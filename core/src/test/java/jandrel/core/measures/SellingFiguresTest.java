package jandrel.core.measures;

import static jandrel.core.timeline.Standing.CANCELLED;
import static jandrel.core.timeline.Standing.HELD;
import static jandrel.core.timeline.Standing.MISSED;
import static jandrel.core.timeline.Standing.PLANNED;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jandrel.core.measures.Deal.Change;
import jandrel.core.measures.Deal.Means;
import jandrel.core.measures.Deal.Worth;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.timeline.Standing;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.DoubleStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Cases that were reasoned by hand. */
class SellingFiguresTest {
    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final Instant NOW = Instant.parse("2026-06-30T12:00:00Z");
    private static final UUID SKARVIK = new UUID(1, 1);
    private static final UUID LUNDBY = new UUID(1, 2);
    private static final UUID MAREN = new UUID(2, 1);
    private static final UUID TOBIAS = new UUID(2, 2);
    private final List<MetAccount> meetings = new ArrayList<>();
    private final List<Deal> deals = new ArrayList<>();
    private TeamHistory teams = new TeamHistory(List.of());
    private Only only = Only.ALL;

    private static Instant at(String day) {
        return day.length() == 10 ? Instant.parse(day + "T10:00:00Z") : Instant.parse(day);
    }

    private UUID met(UUID account, String day, @Nullable Standing standing, UUID... opportunities) {
        UUID id = new UUID(9, meetings.size() + 1L);
        meetings.add(met(id, account, day, standing, MAREN, opportunities));
        return id;
    }

    private static MetAccount met(
            UUID id, UUID account, String day, @Nullable Standing standing, UUID owner, UUID... opportunities) {
        boolean cancelled = standing == CANCELLED;
        return new MetAccount(
                id,
                id,
                account,
                Set.of(opportunities),
                at(day),
                standing == PLANNED ? NOW.plusSeconds(1) : at(day),
                new MetAccount.Signs(cancelled, false, standing == MISSED, ""),
                standing == null ? Readers.only(Set.of(TOBIAS)) : Readers.EVERYONE,
                null,
                owner,
                "");
    }

    private static Change change(String day, String stage, Means means) {
        return new Change(
                at(day), stage, means, new Worth(new BigDecimal("1000"), "EUR", "once"), MAREN, SKARVIK, "fair");
    }

    private UUID deal(Change... changes) {
        UUID id = new UUID(8, deals.size() + 1L);
        deals.add(new Deal(id, List.of(changes)));
        return id;
    }

    private SellingFigures figures() {
        return new SellingFigures(seen(), teams, owner -> true);
    }

    private StageFigures stages() {
        return new StageFigures(seen(), teams, owner -> true);
    }

    private SellingHistory.Seen seen() {
        return SellingHistory.NONE.with(Set.of(), meetings, Set.of(), deals).seenBy(new Viewer(Role.REP, MAREN), NOW);
    }

    private static Span span(String from, String until) {
        return new Span(LocalDate.parse(from), LocalDate.parse(until).plusDays(1), OSLO);
    }

    private static final Span HALF = span("2026-01-01", "2026-06-30");

    /** The values of a line that are neither missing nor naught, by column. */
    private static Map<String, Double> line(Sheet sheet, String key) {
        Line line = key.equals("*")
                ? sheet.total()
                : sheet.lines().stream()
                        .filter(l -> l.key().equals(key))
                        .findFirst()
                        .orElseThrow();
        Map<String, Double> values = new TreeMap<>();
        for (int i = 0; i < sheet.columns().size(); i++) {
            Double value = line.cells().get(i).value();
            if (value != null && value != 0) {
                values.put(sheet.columns().get(i).name(), value);
            }
        }
        return values;
    }

    private static List<Behind> behind(Sheet sheet, String column) {
        int at = sheet.columns().stream().map(Sheet.Column::name).toList().indexOf(column);
        return sheet.total().cells().get(at).rows();
    }

    @Test
    void aFirstMeetingMissedAndThenHeldCountsTwiceAndALaterOneNotAtAll() {
        UUID missed = met(SKARVIK, "2026-02-03", MISSED);
        UUID held = met(SKARVIK, "2026-03-04", HELD);
        met(SKARVIK, "2026-04-05", HELD);
        Sheet sheet = figures().firstMeetings(HALF, By.MONTH, only);
        assertThat(line(sheet, "2026-02")).isEqualTo(Map.of("missed", 1.0));
        assertThat(line(sheet, "2026-03")).isEqualTo(Map.of("held", 1.0, "shown up", 1.0, "met again", 1.0));
        assertThat(line(sheet, "2026-04")).isEmpty();
        assertThat(line(sheet, "*")).containsEntry("shown up", 0.5);
        assertThat(behind(sheet, "missed")).containsExactly(new Behind(missed, SKARVIK));
        assertThat(behind(sheet, "held")).containsExactly(new Behind(held, SKARVIK));
    }

    @Test
    void anAccountMetBeforeTheTimeHasNoFirstMeetingInIt() {
        met(SKARVIK, "2025-11-03", HELD);
        met(SKARVIK, "2026-02-03", HELD);
        assertThat(figures().firstMeetings(HALF, By.MONTH, only).total().basis())
                .isZero();
    }

    @Test
    void whatCameOfAFirstMeetingIsWonOnlyIfItWasNotOverBefore() {
        met(SKARVIK, "2026-02-03", HELD);
        deal(change("2025-03-01", "", Means.OPEN), change("2025-06-01", "", Means.WON));
        assertThat(line(figures().firstMeetings(HALF, By.CHANNEL, only), "fair"))
                .doesNotContainKeys("won", "opportunity");
        deal(change("2026-02-03", "", Means.OPEN), change("2026-05-01", "", Means.WON));
        assertThat(line(figures().firstMeetings(HALF, By.CHANNEL, only), "fair"))
                .containsEntry("won", 1.0)
                .containsEntry("opportunity", 1.0);
    }

    @Test
    void twoOpportunitiesOfOneAccountShareItsMeetingsButForThoseTiedToOne() {
        UUID one = deal(change("2026-01-10", "", Means.OPEN), change("2026-03-31", "", Means.WON));
        UUID other = deal(change("2026-01-10", "", Means.OPEN), change("2026-03-31", "", Means.WON));
        met(SKARVIK, "2026-01-20", HELD);
        met(SKARVIK, "2026-02-20", HELD, one);
        met(SKARVIK, "2026-02-21", HELD, one);
        met(SKARVIK, "2026-03-01", CANCELLED);
        met(SKARVIK, "2026-04-01", HELD);
        met(LUNDBY, "2026-02-01", HELD);
        Sheet sheet = figures().toWin(HALF, By.MONTH, only);
        assertThat(line(sheet, "2026-03"))
                .containsEntry("won", 2.0)
                .containsEntry("meetings, mean", 2.0)
                .containsEntry("meetings, 25 %", 1.5)
                .containsEntry("meetings, 75 %", 2.5)
                .containsEntry("days, median", 80.0);
        assertThat(behind(sheet, "won")).containsExactlyInAnyOrder(new Behind(null, one), new Behind(null, other));
    }

    @Test
    void whoGetsFiguresOfTheirOwnAloneGetsNoneOfOthers() {
        UUID deal = deal(change("2026-01-10", "offer", Means.OPEN), change("2026-03-31", "offer", Means.WON));
        deal(change("2026-01-10", "offer", Means.OPEN));
        met(SKARVIK, "2026-01-20", HELD, deal);
        met(SKARVIK, "2026-02-20", HELD, deal);
        for (UUID somebody : List.of(MAREN, TOBIAS)) {
            SellingFigures figures = new SellingFigures(seen(), teams, somebody::equals);
            StageFigures stages = new StageFigures(seen(), teams, somebody::equals);
            assertThat(List.of(
                            figures.firstMeetings(HALF, By.MONTH, only),
                            figures.afterTwoMeetings(HALF, By.MONTH, only),
                            figures.toWin(HALF, By.MONTH, only),
                            stages.of(HALF, List.of("offer"), only, NOW)))
                    .allSatisfy(s -> assertThat(s.total().basis() > 0).isEqualTo(somebody.equals(MAREN)));
        }
    }

    @Test
    void oneWonWithoutAMeetingCountsWithNone() {
        deal(change("2026-05-01", "", Means.OPEN), change("2026-05-11", "", Means.WON));
        assertThat(line(figures().toWin(HALF, By.OWNER, only), MAREN.toString()))
                .isEqualTo(Map.of(
                        "won", 1.0, "days, mean", 10.0, "days, 25 %", 10.0, "days, median", 10.0, "days, 75 %", 10.0));
    }

    @Test
    void oneThatIsReopenedIsWonWhenItIsWonAgainAndNotWhenItIsLost() {
        deal(
                change("2026-01-01", "", Means.OPEN),
                change("2026-02-01", "", Means.WON),
                change("2026-02-15", "", Means.OPEN),
                change("2026-04-01", "", Means.WON),
                change("2026-04-09", "signed", Means.WON));
        deal(
                change("2026-01-01", "", Means.OPEN),
                change("2026-02-01", "", Means.WON),
                change("2026-03-01", "", Means.LOST));
        Sheet sheet = figures().toWin(HALF, By.MONTH, only);
        assertThat(line(sheet, "2026-02")).isEmpty();
        assertThat(line(sheet, "2026-04")).containsEntry("won", 1.0).containsEntry("days, median", 90.0);
        assertThat(sheet.total().basis()).isEqualTo(1);
    }

    @Test
    void afterTwoMeetingsEachStandsInOneColumn() {
        UUID won = deal(change("2026-01-01", "", Means.OPEN), change("2026-05-01", "", Means.WON));
        UUID agreed = deal(change("2026-01-01", "", Means.OPEN), change("2026-05-01", "signed", Means.AGREED));
        UUID booked = deal(change("2026-01-01", "", Means.OPEN));
        UUID idle = deal(change("2026-01-01", "", Means.OPEN));
        UUID once = deal(change("2026-01-01", "", Means.OPEN));
        for (UUID deal : List.of(won, agreed, booked, idle)) {
            met(SKARVIK, "2026-02-01", HELD, deal);
            met(SKARVIK, "2026-02-11", MISSED, deal);
            met(SKARVIK, "2026-03-01", HELD, deal);
        }
        met(SKARVIK, "2026-03-01", HELD, once);
        met(SKARVIK, "2026-07-03", PLANNED, booked, agreed);
        Sheet sheet = figures().afterTwoMeetings(HALF, By.MONTH, only);
        assertThat(line(sheet, "2026-03"))
                .isEqualTo(Map.of(
                        "opportunities",
                        4.0,
                        "won",
                        1.0,
                        "agreed",
                        1.0,
                        "meeting ahead",
                        1.0,
                        "nothing next",
                        1.0,
                        "won of all",
                        0.25));
        assertThat(behind(sheet, "nothing next")).containsExactly(new Behind(null, idle));
    }

    @Test
    void aPersonWhoChangesTeamsTakesNoPastFigureAlong() {
        teams = new TeamHistory(List.of(
                new TeamHistory.Joined(MAREN, at("2026-01-01"), "Atlantic"),
                new TeamHistory.Joined(MAREN, at("2026-03-01"), "Baltic")));
        met(SKARVIK, "2026-02-03", HELD);
        met(LUNDBY, "2026-04-03", HELD);
        Sheet sheet = figures().firstMeetings(HALF, By.TEAM, only);
        assertThat(line(sheet, "Atlantic")).containsEntry("held", 1.0);
        assertThat(line(sheet, "Baltic")).containsEntry("held", 1.0);
        only = new Only(null, "Baltic", null, null);
        assertThat(figures().firstMeetings(HALF, By.TEAM, only).lines()).hasSize(1);
        // before anything is known of somebody, their first team counts
        meetings.clear();
        met(SKARVIK, "2025-12-03", HELD);
        assertThat(figures()
                        .firstMeetings(span("2025-12-01", "2025-12-31"), By.TEAM, Only.ALL)
                        .lines())
                .extracting(Line::key)
                .containsExactly("Atlantic");
    }

    @Test
    void theDayIsTheZonesWhenClocksChange() {
        // in Oslo, clocks go forward at 01:00 UTC on 29 March: the day ends at 22:00 UTC from then on
        met(SKARVIK, "2026-03-31T21:59:00Z", HELD);
        met(LUNDBY, "2026-03-31T22:00:00Z", HELD);
        Sheet sheet = figures().firstMeetings(HALF, By.MONTH, only);
        assertThat(line(sheet, "2026-03")).containsEntry("held", 1.0);
        assertThat(line(sheet, "2026-04")).containsEntry("held", 1.0);
        // twenty-three hours on the day itself
        assertThat(span("2026-03-29", "2026-03-29").has(at("2026-03-28T22:59:00Z")))
                .isFalse();
        assertThat(span("2026-03-29", "2026-03-29").has(at("2026-03-28T23:00:00Z")))
                .isTrue();
        assertThat(span("2026-03-29", "2026-03-29").has(at("2026-03-29T22:00:00Z")))
                .isFalse();
    }

    @Test
    void stagesAreAsTheyWereAtTheEndAndValuesAreNeverMixed() {
        UUID moved = deal(
                change("2026-01-10", "talk", Means.OPEN),
                change("2026-02-10", "quoted", Means.OPEN),
                change("2026-06-10", "closed", Means.WON));
        Worth monthly = new Worth(new BigDecimal("50"), "EUR", "month");
        Worth dollars = new Worth(new BigDecimal("7"), "USD", "once");
        deal(new Change(at("2026-03-01"), "quoted", Means.OPEN, monthly, MAREN, SKARVIK, ""));
        deal(new Change(at("2026-03-01"), "odd", Means.OPEN, dollars, TOBIAS, SKARVIK, ""));
        deal(change("2026-04-01", "talk", Means.OPEN), change("2026-04-21", "closed", Means.LOST));
        Sheet sheet = stages().of(span("2026-01-01", "2026-05-31"), List.of("talk", "quoted", "unused"), only, NOW);
        assertThat(sheet.lines()).extracting(Line::key).containsExactly("talk", "quoted", "unused", "odd");
        assertThat(line(sheet, "quoted"))
                .isEqualTo(Map.of(
                        "in it",
                        2.0,
                        "EUR",
                        1000.0,
                        "EUR a month",
                        50.0,
                        "came in",
                        2.0,
                        "went on",
                        0.5,
                        "days there, median",
                        120.0));
        assertThat(line(sheet, "talk"))
                .containsEntry("came in", 2.0)
                .containsEntry("went on", 0.5)
                .doesNotContainKey("in it");
        assertThat(line(sheet, "*")).containsEntry("USD", 7.0);
        only = new Only(TOBIAS, null, null, null);
        assertThat(stages().of(HALF, List.of(), only, NOW).total().basis()).isEqualTo(2);
        assertThat(behind(sheet, "EUR")).containsExactly(new Behind(null, moved));
    }

    @Test
    void othersAreOnlyWhatOnesOwnAreToldBy() {
        met(SKARVIK, "2026-02-01", HELD);
        meetings.add(met(new UUID(9, 99), LUNDBY, "2026-02-02", HELD, TOBIAS));
        SellingFigures own = new SellingFigures(seen(), teams, TOBIAS::equals);
        assertThat(own.firstMeetings(HALF, By.OWNER, only).lines())
                .extracting(Line::key)
                .containsExactly(TOBIAS.toString());
    }

    @Test
    void whoMayNotReadAllIsToldSoAndNotAFigureThatIsWrong() {
        met(SKARVIK, "2026-02-01", null);
        met(SKARVIK, "2026-03-01", HELD);
        met(LUNDBY, "2026-02-01", HELD);
        met(LUNDBY, "2026-03-01", null);
        Sheet first = figures().firstMeetings(HALF, By.MONTH, only);
        assertThat(line(first, "*")).containsEntry("held", 1.0);
        assertThat(first.hidden()).isEqualTo(1);
        deal(change("2026-01-01", "", Means.OPEN), change("2026-05-01", "", Means.WON));
        Sheet won = figures().toWin(HALF, By.MONTH, only);
        assertThat(line(won, "*"))
                .containsEntry("won", 1.0)
                .containsKey("days, median")
                .doesNotContainKey("meetings, median");
        assertThat(won.hidden()).isEqualTo(1);
        Sheet two = figures().afterTwoMeetings(HALF, By.MONTH, only);
        assertThat(two.total().basis()).isZero();
        assertThat(two.hidden()).isEqualTo(1);
    }

    @Test
    void aSpreadLiesWhereAStraightLineDoes() {
        Spread spread = Spread.of(DoubleStream.of(4.0, 1.0, 3.0, 2.0));
        assertThat(spread.median()).isCloseTo(2.5, within(1e-9));
        assertThat(spread.quarter()).isCloseTo(1.75, within(1e-9));
        assertThat(spread.threeQuarters()).isCloseTo(3.25, within(1e-9));
        assertThat(Spread.of(DoubleStream.empty()).mean()).isNull();
    }

    @Test
    void anAccountStandsInOneAge() {
        List<Touches.Account> accounts = List.of(
                new Touches.Account(SKARVIK, MAREN, at("2026-06-29"), null, null, at("2026-06-29"), true, false),
                new Touches.Account(LUNDBY, MAREN, null, at("2026-03-01"), null, at("2026-03-01"), false, false),
                new Touches.Account(
                        new UUID(1, 3),
                        MAREN,
                        at("2026-06-01"),
                        at("2026-06-10"),
                        at("2026-05-01"),
                        at("2026-06-10"),
                        false,
                        true),
                new Touches.Account(new UUID(1, 4), null, null, null, null, null, false, false));
        Sheet sheet = Touches.of(accounts, By.OWNER, Only.ALL, teams, NOW);
        // of the third not all may be read: a reply to what they wrote last may be there
        assertThat(line(sheet, MAREN.toString()))
                .isEqualTo(Map.of(
                        "accounts",
                        3.0,
                        "this week",
                        1.0,
                        "this month",
                        1.0,
                        "longer ago",
                        1.0,
                        "nothing next",
                        2.0,
                        "only theirs",
                        1.0,
                        "reply pending",
                        1.0));
        assertThat(line(sheet, "")).isEqualTo(Map.of("accounts", 1.0, "never", 1.0, "nothing next", 1.0));
    }
}
