package jandrel.service.measures;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.MeasureApi.MeasureCell;
import jandrel.api.MeasureApi.MeasureColumn;
import jandrel.api.MeasureApi.MeasureInfo;
import jandrel.api.MeasureApi.MeasureLine;
import jandrel.api.MeasureApi.MeasureSheet;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class FigureTextTest {
    private static MeasureLine line(String label, @Nullable Double value) {
        return new MeasureLine(label, label, 1, List.of(new MeasureCell(value, 1)));
    }

    private static List<String> text(String by, List<MeasureLine> lines) {
        return FigureText.of(new MeasureSheet(
                        new MeasureInfo("activity", "", "", "", "", "", List.of()),
                        by,
                        "2026-01-01",
                        "2026-12-31",
                        "UTC",
                        "It says.",
                        "meetings",
                        List.of(new MeasureColumn("meetings", "count")),
                        lines,
                        line("All", 9.0),
                        null,
                        0,
                        0,
                        ""))
                .lines()
                .skip(3)
                .takeWhile(l -> !l.startsWith("All"))
                .map(l -> l.replaceAll(" +", " "))
                .toList();
    }

    private static List<MeasureLine> weeks(int count, int firstWithAny) {
        List<MeasureLine> weeks = new ArrayList<>();
        for (int n = 1; n <= count; n++) {
            weeks.add(line("W" + n, n < firstWithAny ? null : 2.0));
        }
        return weeks;
    }

    @Test
    void manyWeeksWithNothingAreOneLine() {
        assertThat(text("week", weeks(30, 29)))
                .containsExactly("(28 with nothing)", "W29 2 ████████████████████", "W30 2 ████████████████████");
    }

    @Test
    void fewWithNothingAreToldOneByOne() {
        assertThat(text("team", List.of(line("A", 4.0), line("B", 0.0), line("C", null), line("D", 1.0))))
                .containsExactly("A 4 ████████████████████", "B 0", "C", "D 1 █████");
    }

    @Test
    void ofMoreWeeksThanFitTheNewestAreTold() {
        List<String> text = text("week", weeks(52, 1));
        assertThat(text)
                .hasSize(41)
                .startsWith("(12 before these)")
                .last()
                .asString()
                .startsWith("W52 ");
    }

    @Test
    void ofMoreTeamsThanFitTheFirstAreTold() {
        List<String> text = text("team", weeks(52, 1));
        assertThat(text).hasSize(41).endsWith("and 12 more").first().asString().startsWith("W1 ");
    }

    @Test
    void whereThereIsNothingAtAllThatIsSaid() {
        assertThat(text("month", weeks(12, 13))).containsExactly("(12 with nothing)");
    }
}
