package jandrel.service.timeline;

import jakarta.annotation.PreDestroy;
import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.ActivityApi.OwnerInfo;
import jandrel.api.DecisionApi.PartyInfo;
import jandrel.api.ExportApi.ActivityLine;
import jandrel.api.ExportApi.BeginLine;
import jandrel.api.ExportApi.EndLine;
import jandrel.api.ExportApi.LinkLine;
import jandrel.api.ExportApi.RemovedLine;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.timeline.ActivityExport;
import jandrel.store.timeline.ActivityExport.Exported;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
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
import java.util.concurrent.Semaphore;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.exc.JacksonIOException;
import tools.jackson.databind.SequenceWriter;
import tools.jackson.databind.json.JsonMapper;

/** All activities as a stream, each as the asker gets it anywhere else. */
@RestController
class ExportCalls {
    /** So many are in memory three times: two pages that are read, and the one that is written. */
    private static final int PAGE = 1_000;

    private static final int PAGE_WITH_TEXT = 150;
    private static final int BUFFER = 1 << 16;
    private static final int AT_ONCE = 3;
    /** For all exports together: connections that people wait for are few. */
    private static final int READERS = 2;
    /** Who reads so slowly goes on with another request, and keeps nobody else waiting meanwhile. */
    private static final Duration LONGEST = Duration.ofMinutes(30);

    private final ActivityExport export;
    private final JsonMapper json;
    private final Clock clock;
    private final Semaphore room = new Semaphore(AT_ONCE);
    private final ExecutorService readers = Executors.newFixedThreadPool(READERS, work -> {
        Thread thread = new Thread(work, "export");
        thread.setDaemon(true);
        return thread;
    });

    ExportCalls(ActivityExport export, JsonMapper json, Clock clock) {
        this.export = export;
        this.json = json;
        this.clock = clock;
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
        long cursor = export.cursor();
        if (since < 0 || since > cursor || (since > 0 && cursor - since > ActivityExport.OLDEST)) {
            throw Refusal.bad("“since” is no cursor of here, or too old", "Export all once more, without it.");
        }
        if (!room.tryAcquire()) {
            throw Refusal.of(
                    HttpStatus.TOO_MANY_REQUESTS,
                    AT_ONCE + " exports are under way",
                    "Try again when one of them has come to its end.");
        }
        try {
            response.setContentType("application/x-ndjson");
            response.setCharacterEncoding("UTF-8");
            response.setHeader("Content-Disposition", "attachment; filename=activities.ndjson");
            send(new Lines(response.getOutputStream()), cursor, since, after, text, me.viewer());
        } finally {
            room.release();
        }
    }

    private void send(Lines out, long cursor, long since, @Nullable UUID after, boolean text, Viewer viewer)
            throws IOException {
        out.line(new BeginLine("begin", String.valueOf(cursor), clock.instant()));
        Instant latest = clock.instant().plus(LONGEST);
        long activities = 0;
        Pages pages = new Pages(viewer, since, after == null ? ActivityExport.FIRST : after, text);
        for (List<Exported> page = pages.next(); page != null; page = pages.next()) {
            for (Exported e : page) {
                out.line(line(e, text));
                activities++;
            }
            if (clock.instant().isAfter(latest)) {
                // without its last line, so that nobody takes it for whole
                out.flush();
                return;
            }
        }
        out.line(new EndLine("end", activities, since == 0 ? 0 : removed(out, since)));
        out.flush();
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

    private long removed(Lines out, long since) throws IOException {
        long removed = 0;
        UUID after = ActivityExport.FIRST;
        for (List<UUID> gone = export.gone(since, after, PAGE);
                !gone.isEmpty();
                gone = export.gone(since, after, PAGE)) {
            for (UUID id : gone) {
                out.line(new RemovedLine("removed", id));
            }
            removed += gone.size();
            after = gone.get(gone.size() - 1);
        }
        return removed;
    }

    @PreDestroy
    void end() {
        // what waits for a page is told that there is none, and does not wait for ever
        readers.shutdown();
    }

    /** Writes one JSON object a line. */
    private final class Lines {
        private final OutputStream out;
        private final SequenceWriter values;

        Lines(OutputStream out) {
            this.out = new BufferedOutputStream(out, BUFFER);
            values = json.writer().withRootValueSeparator("\n").writeValues(this.out);
        }

        void line(Object value) throws IOException {
            try {
                values.write(value);
            } catch (JacksonIOException gone) {
                // as with any other answer: nobody reads on
                throw gone.getCause();
            }
        }

        void flush() throws IOException {
            values.flush();
            out.write('\n');
            out.flush();
        }
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
