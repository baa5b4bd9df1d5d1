package jandrel.core.measures;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.measures.CoverageFigures.Connected;
import jandrel.core.measures.CoverageFigures.Covered;
import jandrel.core.measures.CoverageFigures.Known;
import jandrel.core.measures.Measure.By;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;

class CoverageFiguresTest {
    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final UUID ADA = new UUID(0, 1);
    private static final UUID BEA = new UUID(0, 2);
    private static final UUID NEW_RULES = new UUID(1, 1);
    private static final UUID OLD_RULES = new UUID(1, 2);
    private static final UUID MAIL = new UUID(2, 1);
    private static final UUID CALENDAR = new UUID(2, 2);
    private static final Instant NOW = at("2026-05-20T12:00:00Z");

    private static Instant at(String text) {
        return Instant.parse(text);
    }

    private static Sheet sheet(By by, Only only, Predicate<UUID> covers) {
        return new CoverageFigures(
                        List.of(
                                new Known(ADA, at("2026-01-10T00:00:00Z"), null),
                                new Known(BEA, at("2026-02-10T00:00:00Z"), LocalDate.parse("2026-05-01"))),
                        List.of(
                                new Covered(ADA, at("2026-01-10T00:00:00Z"), OLD_RULES, true),
                                new Covered(BEA, at("2026-02-10T00:00:00Z"), OLD_RULES, true),
                                new Covered(ADA, at("2026-03-02T00:00:00Z"), OLD_RULES, false),
                                new Covered(ADA, at("2026-04-02T00:00:00Z"), NEW_RULES, true)),
                        List.of(
                                new Connected(ADA, MAIL, at("2026-02-01T00:00:00Z"), true),
                                new Connected(ADA, CALENDAR, at("2026-02-02T00:00:00Z"), true),
                                new Connected(ADA, MAIL, at("2026-02-03T00:00:00Z"), false),
                                // just before midnight there, where March is over an hour earlier than in UTC
                                new Connected(BEA, MAIL, at("2026-03-31T21:59:59Z"), true)),
                        only,
                        new TeamHistory(List.of(
                                new TeamHistory.Joined(ADA, at("2026-01-10T00:00:00Z"), "Baltic"),
                                new TeamHistory.Joined(BEA, at("2026-02-10T00:00:00Z"), "Fjords"),
                                new TeamHistory.Joined(BEA, at("2026-05-02T00:00:00Z"), "Baltic"))),
                        covers,
                        NOW)
                .of(new Span(LocalDate.parse("2026-01-01"), LocalDate.parse("2026-06-01"), OSLO), by);
    }

    /** People, covered, connected, not connected. */
    private static Map<String, List<Integer>> counts(Sheet sheet) {
        Map<String, List<Integer>> counts = new TreeMap<>();
        sheet.lines()
                .forEach(l -> counts.put(
                        l.key(),
                        l.cells().subList(0, 4).stream()
                                .map(c -> c.rows().size())
                                .toList()));
        return counts;
    }

    @Test
    void eachMonthIsAsItWasAtItsEnd() {
        Sheet sheet = sheet(By.MONTH, Only.ALL, p -> true);
        assertThat(counts(sheet))
                .containsExactly(
                        Map.entry("2026-01", List.of(1, 1, 0, 1)),
                        Map.entry("2026-02", List.of(2, 2, 1, 1)),
                        // one whom no policy has any more is not connected, whatever of theirs still is
                        Map.entry("2026-03", List.of(2, 1, 1, 0)),
                        Map.entry("2026-04", List.of(2, 2, 2, 0)),
                        // the end of somebody's cover counts from its first moment
                        Map.entry("2026-05", List.of(2, 1, 1, 0)));
        assertThat(sheet.total().cells().get(5).value()).isEqualTo(0.5);
    }

    @Test
    void otherLinesAreOfTheEndOfTheWholeTime() {
        assertThat(counts(sheet(By.TEAM, Only.ALL, p -> true)))
                .containsExactly(Map.entry("Baltic", List.of(2, 1, 1, 0)));
        assertThat(counts(sheet(By.POLICY, Only.ALL, p -> true)))
                .containsExactly(
                        Map.entry("", List.of(1, 0, 0, 0)), Map.entry(NEW_RULES.toString(), List.of(1, 1, 1, 0)));
    }

    @Test
    void ofWhomSomebodyMayNotKnowNothingIsCounted() {
        assertThat(counts(sheet(By.MONTH, Only.ALL, BEA::equals)).get("2026-04"))
                .isEqualTo(List.of(1, 1, 1, 0));
        // in the team of then
        assertThat(counts(sheet(By.MONTH, new Only(null, "Fjords", null, null), p -> true)))
                .containsEntry("2026-04", List.of(1, 1, 1, 0))
                .containsEntry("2026-05", List.of(0, 0, 0, 0));
    }
}
