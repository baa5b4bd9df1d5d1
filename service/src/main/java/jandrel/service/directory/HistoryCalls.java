package jandrel.service.directory;

import jandrel.api.DirectoryApi.LineProblem;
import jandrel.api.MeasureApi.HistoryOutcome;
import jandrel.api.MeasureApi.RecordChange;
import jandrel.core.directory.ImportRejected;
import jandrel.formats.table.DirectoryFiles;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Refusal;
import jandrel.store.directory.OpportunityHistory;
import java.io.StringReader;
import java.time.Clock;
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** How opportunities were: read, and brought from before they came here. */
@RestController
class HistoryCalls {
    private static final int MOST = 500;
    private final OpportunityHistory history;
    private final Clock clock;

    HistoryCalls(OpportunityHistory history, Clock clock) {
        this.history = history;
        this.clock = clock;
    }

    /** The newest first, at most five hundred. */
    @GetMapping("/api/records/{id}/history")
    List<RecordChange> of(@PathVariable("id") UUID id) {
        return history.of(id, MOST).stream()
                .map(w -> new RecordChange(
                        w.at(),
                        w.by(),
                        w.origin(),
                        w.stage(),
                        w.state().toLowerCase(Locale.ROOT),
                        w.value() == null ? "" : w.value().toPlainString(),
                        w.currency(),
                        w.period(),
                        w.owner(),
                        w.account(),
                        w.channel()))
                .toList();
    }

    @PostMapping(path = "/api/directory/opportunity-history", consumes = "text/csv")
    @LargestBody(kilobytes = 200 * 1024)
    HistoryOutcome take(@RequestBody byte[] file) {
        try {
            OpportunityHistory.Added added =
                    history.add(DirectoryFiles.history(new StringReader(DirectoryCalls.utf8(file))), clock.instant());
            return new HistoryOutcome(added.added(), added.known());
        } catch (ImportRejected misfit) {
            throw Refusal.misfit(
                    "Nothing was imported: " + misfit.problems().get(0).reason(),
                    "Mend what is named below and import the whole file again.",
                    misfit.problems().stream()
                            .map(p -> new LineProblem(p.line(), p.column(), p.reason()))
                            .toList());
        }
    }
}
