package jandrel.service.directory;

import jandrel.api.DirectoryApi.ImportUndone;
import jandrel.api.DirectoryApi.LeftRecord;
import jandrel.api.DirectoryApi.TakenImport;
import jandrel.core.directory.ImportRejected;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.directory.ImportUndo;
import jandrel.store.directory.ImportUndo.Undone;
import jandrel.store.kernel.Reopener;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RestController;

/** Files from elsewhere that were taken, and what undoes each as a whole. */
@RestController
class TakenImportCalls {
    private static final int MOST = 100;
    private static final int SOME = 50;
    private final ImportUndo undo;
    private final Reopener reopener;
    private final WakeUp nudges;

    TakenImportCalls(ImportUndo undo, Reopener reopener, WakeUp nudges) {
        this.undo = undo;
        this.reopener = reopener;
        this.nudges = nudges;
    }

    /** Those of the last thirty days, the newest first. */
    @GetMapping("/api/imports")
    List<TakenImport> all() {
        return undo.newest(MOST).stream()
                .map(t -> new TakenImport(
                        t.id(),
                        t.kind().plural(),
                        t.name(),
                        t.by(),
                        t.at(),
                        t.added(),
                        t.updated(),
                        t.undoneAt(),
                        t.undoneBy()))
                .toList();
    }

    /** What came with the file goes, and what it changed is as before; what was changed since is left as it is. */
    @PostMapping("/api/imports/{id}/undo")
    ImportUndone undo(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        long waiting = reopener.left();
        Undone undone;
        try {
            undone = undo.undo(id, me.login())
                    .orElseThrow(() -> Refusal.of(
                            HttpStatus.CONFLICT,
                            "There is nothing to undo",
                            "It is undone already, or was taken more than thirty days ago."));
        } catch (ImportRejected misfit) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "Nothing was undone: " + misfit.problems().get(0).reason(),
                    "What was before does not fit any more. Change back by hand what stands in the way.");
        }
        nudges.rulesChanged();
        return new ImportUndone(
                undone.removed(),
                undone.archived(),
                undone.restored(),
                undone.left().size(),
                undone.left().stream()
                        .limit(SOME)
                        .map(l -> new LeftRecord(l.record(), l.name(), l.why()))
                        .toList(),
                Math.max(0, reopener.left() - waiting));
    }
}
