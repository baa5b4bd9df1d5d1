package jandrel.service.measures;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.MeasureApi.MeasureColumn;
import jandrel.api.MeasureApi.MeasureInfo;
import jandrel.api.MeasureApi.MeasureLine;
import jandrel.api.MeasureApi.MeasureRow;
import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.api.MeasureApi.RowsBehind;
import jandrel.core.measures.Measure;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.TableOut;
import jandrel.service.people.SignedIn;
import java.io.IOException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Measures: their definitions, their figures, and what stands behind each. */
@RestController
class MeasureCalls {
    private static final int MOST_ROWS = 500;
    /** Below its heading: more have no place in a sheet (ECMA-376). */
    private static final int MOST_IN_WORKBOOK = 1_048_575;

    private final MeasureAnswers answers;
    private final Clock clock;

    MeasureCalls(MeasureAnswers answers, Clock clock) {
        this.answers = answers;
        this.clock = clock;
    }

    @GetMapping("/api/measures")
    List<MeasureInfo> all() {
        return Arrays.stream(Measure.values()).map(MeasureAnswers::info).toList();
    }

    @GetMapping("/api/measures/{name}")
    MeasureSheet figures(
            @PathVariable("name") String name,
            @ParameterObject @ModelAttribute MeasureQuery query,
            @AuthenticationPrincipal SignedIn me) {
        return answers.sheet(query.of(name, clock.instant()), me.viewer());
    }

    /**
     * What stands behind a figure: exactly the ones that it counts, the first five hundred of them.
     *
     * @param line its key; missing for all lines together
     * @param column its name
     */
    @GetMapping("/api/measures/{name}/rows")
    RowsBehind behind(
            @PathVariable("name") String name,
            @ParameterObject @ModelAttribute MeasureQuery query,
            @RequestParam(name = "line", required = false) @Nullable String line,
            @RequestParam(name = "column") String column,
            @AuthenticationPrincipal SignedIn me) {
        CountedRows counted = answers.behind(query.of(name, clock.instant()), line, column, me.viewer());
        return new RowsBehind(counted.total(), counted.page(0, MOST_ROWS));
    }

    /** All of them, as a file. */
    @GetMapping("/api/measures/{name}/rows.{format:csv|xlsx}")
    void rowsFile(
            @PathVariable("name") String name,
            @PathVariable("format") String format,
            @ParameterObject @ModelAttribute MeasureQuery query,
            @RequestParam(name = "line", required = false) @Nullable String line,
            @RequestParam(name = "column") String column,
            @AuthenticationPrincipal SignedIn me,
            HttpServletResponse response)
            throws IOException {
        CountedRows counted = answers.behind(query.of(name, clock.instant()), line, column, me.viewer());
        int most = format.equals("xlsx") ? Math.min(MOST_IN_WORKBOOK, counted.listed()) : counted.listed();
        if (counted.total() > most) {
            throw Refusal.bad(
                    "These are too many for one file",
                    "It holds " + most + " rows; ask for a shorter time, or for a line of it.");
        }
        List<String> heading = List.of("at", "state", "title", "kind", "record", "record_id", "activity_id");
        try (TableOut out = TableOut.to(response, format, name + "-rows", heading)) {
            for (int from = 0; from < counted.listed(); from += MOST_ROWS) {
                for (MeasureRow r : counted.page(from, MOST_ROWS)) {
                    out.row(Arrays.asList(
                            r.at(), r.state(), r.title(), r.kind(), r.recordName(), r.record(), r.meeting()));
                }
            }
        }
    }

    @GetMapping("/api/measures/{name}/figures.{format:csv|xlsx}")
    void figuresFile(
            @PathVariable("name") String name,
            @PathVariable("format") String format,
            @ParameterObject @ModelAttribute MeasureQuery query,
            @AuthenticationPrincipal SignedIn me,
            HttpServletResponse response)
            throws IOException {
        MeasureSheet sheet = figures(name, query, me);
        List<String> heading = new ArrayList<>(List.of(sheet.by(), "key", "basis"));
        sheet.columns().stream().map(MeasureColumn::name).forEach(heading::add);
        try (TableOut out = TableOut.to(response, format, name, heading)) {
            for (MeasureLine line : sheet.lines()) {
                List<@Nullable Object> cells = new ArrayList<>(List.of(line.label(), line.key(), line.basis()));
                line.cells().forEach(c -> cells.add(c.value()));
                out.row(cells);
            }
        }
    }
}
