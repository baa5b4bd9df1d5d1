package jandrel.service.timeline;

import jakarta.annotation.PreDestroy;
import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.ActivityApi.OwnerInfo;
import jandrel.api.DecisionApi.PartyInfo;
import jandrel.api.ExportApi.ActivityLine;
import jandrel.api.ExportApi.LinkLine;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.service.kernel.Exports;
import jandrel.service.people.SignedIn;
import jandrel.store.kernel.ChangeCursor;
import jandrel.store.timeline.ActivityExport;
import jandrel.store.timeline.ActivityExport.Exported;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** All activities as a stream, each as the asker gets it anywhere else. */
@RestController
class ExportCalls {
    /** So many are in memory three times: two pages that are read, and the one that is written. */
    private static final int PAGE = 1_000;

    private static final int PAGE_WITH_TEXT = 150;
    /** For all exports together: connections that people wait for are few. */
    private static final int READERS = 2;

    private final ActivityExport export;
    private final Exports exports;
    private final ExecutorService readers = Executors.newFixedThreadPool(READERS, work -> {
        Thread thread = new Thread(work, "export");
        thread.setDaemon(true);
        return thread;
    });

    ExportCalls(ActivityExport export, Exports exports) {
        this.export = export;
        this.exports = exports;
    }

    /**
     * One JSON object a line: {@code begin} with the cursor of the next export, {@code activity}, {@code removed}, {@code end}. Without
     * the last line it is not whole.
     *
     * @param since the cursor of an earlier export, so that only what changed since comes; missing for all
     * @param after the id of the last activity that came, to go on where an export broke off
     * @param text whether what was written comes along
     */
    @GetMapping(path = "/api/export/activities.ndjson", produces = "application/x-ndjson")
    void activities(
            @RequestParam(name = "since", defaultValue = "0") long since,
            @RequestParam(name = "after", required = false) @Nullable UUID after,
            @RequestParam(name = "text", defaultValue = "false") boolean text,
            @AuthenticationPrincipal SignedIn me,
            HttpServletResponse response)
            throws IOException {
        exports.send("activities.ndjson", since, response, out -> {
            Pages pages = new Pages(me.viewer(), since, after == null ? ChangeCursor.FIRST : after, text);
            for (List<Exported> page = pages.next(); page != null; page = pages.next()) {
                for (Exported e : page) {
                    out.line(line(e, text));
                }
                if (out.isLate()) {
                    return false;
                }
            }
            out.removed(export::gone);
            return true;
        });
    }

    /** Read in order, two side by side while the one before is written. */
    private final class Pages {
        private final Viewer viewer;
        private final long since;
        private final boolean text;
        private final ActivityExport.Names names = new ActivityExport.Names();
        private final Deque<CompletableFuture<List<Exported>>> underWay = new ArrayDeque<>();
        private UUID after;
        private boolean wasLast;

        Pages(Viewer viewer, long since, UUID after, boolean text) {
            this.viewer = viewer;
            this.since = since;
            this.after = after;
            this.text = text;
        }

        /** Null after the last. */
        @Nullable
        List<Exported> next() {
            while (!wasLast && underWay.size() < READERS) {
                Optional<ActivityExport.Bounds> bounds = export.next(since, after, text ? PAGE_WITH_TEXT : PAGE);
                bounds.ifPresentOrElse(this::read, () -> wasLast = true);
            }
            CompletableFuture<List<Exported>> first = underWay.poll();
            try {
                return first == null ? null : first.join();
            } catch (CompletionException failed) {
                throw failed.getCause() instanceof RuntimeException cause ? cause : failed;
            }
        }

        private void read(ActivityExport.Bounds bounds) {
            after = bounds.last();
            underWay.add(CompletableFuture.supplyAsync(() -> export.page(viewer, bounds, text, names), readers));
        }
    }

    @PreDestroy
    void end() {
        // what waits for a page is told that there is none, and does not wait for ever
        readers.shutdown();
    }

    private static ActivityLine line(Exported e, boolean text) {
        boolean meeting = e.kind().equals("meeting");
        boolean full = e.visibility() == Visibility.FULL;
        return new ActivityLine(
                "activity",
                e.id(),
                e.kind(),
                e.at(),
                e.ends(),
                e.allDay(),
                e.visibility().name().toLowerCase(Locale.ROOT),
                e.heading().subject(),
                e.heading().parties().stream()
                        .map(p -> new PartyInfo(p.part().name().toLowerCase(Locale.ROOT), p.address(), p.name()))
                        .toList(),
                e.heading().place(),
                e.owners().stream().map(o -> new OwnerInfo(o.id(), o.name())).toList(),
                e.mark(),
                full && meeting ? e.heading().sort().word() : "",
                full && !meeting ? e.ours() ? "out" : "in" : "",
                e.links().stream()
                        .map(l -> new LinkLine(
                                l.kind(), l.id(), l.name(), l.evidence().toLowerCase(Locale.ROOT)))
                        .toList(),
                text ? e.text() : null);
    }
}
