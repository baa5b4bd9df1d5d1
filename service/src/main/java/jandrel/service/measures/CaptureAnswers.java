package jandrel.service.measures;

import jandrel.api.MeasureApi.MeasureRow;
import jandrel.core.measures.CaptureFigures;
import jandrel.core.measures.ChangeFigures;
import jandrel.core.measures.Measure;
import jandrel.core.measures.Sheet;
import jandrel.core.measures.Span;
import jandrel.core.visibility.Viewer;
import jandrel.service.measures.MeasureQuery.Asked;
import jandrel.service.timeline.Shown;
import jandrel.store.capture.Lateness;
import jandrel.store.measures.CaptureCounts;
import jandrel.store.measures.ChangeCounts;
import jandrel.store.timeline.Decisions;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What was captured, and what of it was decided anew: counted by the database, and opened to decisions. */
@Component
class CaptureAnswers {
    /** So many decisions are listed, or written to a file: of a year there may be millions. */
    private static final int MOST_LISTED = 100_000;

    private final CaptureCounts counts;
    private final Decisions decisions;
    private final Lateness lateness;
    private final ChangeCounts changes;

    CaptureAnswers(CaptureCounts counts, ChangeCounts changes, Decisions decisions, Lateness lateness) {
        this.counts = counts;
        this.changes = changes;
        this.decisions = decisions;
        this.lateness = lateness;
    }

    Sheet sheet(Asked asked, Viewer me) {
        return CaptureFigures.of(
                counts.of(asked.span(), asked.by(), asked.only(), me),
                asked.span().begins(asked.by()).keySet());
    }

    Sheet changes(Asked asked, Viewer me) {
        return ChangeFigures.of(
                changes.of(asked.span(), asked.by(), asked.only(), me),
                asked.span().begins(asked.by()).keySet());
    }

    /** How late mail was, for those alone whose figures are everybody's: it is not known of each person. */
    String late(Span span, Viewer me) {
        if (!me.oversight().everybody()) {
            return "";
        }
        Lateness.Measured late = lateness.between(span.from(), span.until().minusDays(1));
        return late.messages() == 0 ? "" : " " + MeasureWords.late(late.median(), late.most());
    }

    /** What policies are called. */
    Map<UUID, String> policies() {
        return counts.policies();
    }

    /** @param total what the figure says */
    CountedRows behind(Asked asked, @Nullable String line, String column, long total, Viewer me) {
        List<UUID> ids = asked.measure() == Measure.DECIDED_AGAIN
                ? changes.behind(
                        asked.span(),
                        asked.by(),
                        asked.only(),
                        me,
                        line,
                        ChangeFigures.way(column).orElse(null),
                        MOST_LISTED)
                : counts.behind(
                        asked.span(),
                        asked.by(),
                        asked.only(),
                        me,
                        line,
                        CaptureFigures.verdict(column).orElse(null),
                        MOST_LISTED);
        return new CountedRows(
                Math.max(total, ids.size()), ids.size(), (from, until) -> rows(ids.subList(from, until), me));
    }

    private List<MeasureRow> rows(List<UUID> ids, Viewer me) {
        Map<UUID, Decisions.Shown> shown =
                decisions.some(ids, me).stream().collect(Collectors.toMap(Decisions.Shown::id, Function.identity()));
        return ids.stream()
                .map(shown::get)
                .filter(d -> d != null)
                .map(CaptureAnswers::row)
                .toList();
    }

    private static MeasureRow row(Decisions.Shown d) {
        return new MeasureRow(
                null, d.at(), Shown.decision(d).subject(), d.verdict().word(), d.id(), "decision", d.personName());
    }
}
