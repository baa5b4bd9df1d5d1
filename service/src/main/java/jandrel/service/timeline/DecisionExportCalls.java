package jandrel.service.timeline;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.DecisionApi.DecisionInfo;
import jandrel.api.ExportApi.DecisionLine;
import jandrel.core.visibility.Viewer;
import jandrel.service.kernel.Exports;
import jandrel.service.people.SignedIn;
import jandrel.store.timeline.DecisionExport;
import jandrel.store.timeline.Decisions;
import java.io.IOException;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** All decisions as a stream, each as the asker gets it anywhere else. */
@RestController
class DecisionExportCalls {
    private final DecisionExport export;
    private final Exports exports;

    DecisionExportCalls(DecisionExport export, Exports exports) {
        this.export = export;
        this.exports = exports;
    }

    /**
     * One JSON object a line: {@code begin} with the cursor of the next export, {@code decision}, {@code removed}, {@code end}. Without
     * the last line it is not whole.
     *
     * @param since the cursor of an earlier export, so that only what changed since comes; missing for all
     * @param after the id of the last decision that came, to go on where an export broke off
     */
    @GetMapping(path = "/api/export/decisions.ndjson", produces = "application/x-ndjson")
    void decisions(
            @RequestParam(name = "since", defaultValue = "0") long since,
            @RequestParam(name = "after", required = false) @Nullable UUID after,
            @AuthenticationPrincipal SignedIn me,
            HttpServletResponse response)
            throws IOException {
        Viewer viewer = me.viewer();
        exports.send("decisions.ndjson", since, response, out -> {
            boolean whole = out.pages(
                    after,
                    (from, last, most) -> export.next(viewer, from, last, most),
                    Decisions.Shown::id,
                    d -> line(Shown.decision(d)));
            if (whole) {
                out.removed((from, last, most) -> export.gone(viewer, from, last, most));
            }
            return whole;
        });
    }

    private static DecisionLine line(DecisionInfo d) {
        return new DecisionLine(
                "decision",
                d.id(),
                d.item(),
                d.kind(),
                d.at(),
                d.person(),
                d.personName(),
                d.source(),
                d.verdict(),
                d.visibility(),
                d.subject(),
                d.people(),
                d.trail(),
                d.reasons(),
                d.activity());
    }
}
