package jandrel.service.timeline;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.ExportApi.ActivityLine;
import jandrel.api.ExportApi.BeginLine;
import jandrel.api.ExportApi.EndLine;
import jandrel.api.ExportApi.LinkLine;
import jandrel.api.ExportApi.RemovedLine;
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
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import java.util.concurrent.Semaphore;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** All activities as a stream, each as the asker gets it anywhere else. */
@RestController
class ExportCalls {
    private static final int PAGE = 500;
    private static final int AT_ONCE = 3;
    /** Who reads so slowly goes on with another request, and keeps nobody else waiting meanwhile. */
    private static final Duration LONGEST = Duration.ofMinutes(30);

    private final ActivityExport export;
    private final JsonMapper json;
    private final Clock clock;
    private final Semaphore room = new Semaphore(AT_ONCE);

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
            OutputStream out = new BufferedOutputStream(response.getOutputStream(), 1 << 16);
            line(out, new BeginLine("begin", String.valueOf(cursor), clock.instant()));
            Instant latest = clock.instant().plus(LONGEST);
            long activities = 0;
            ActivityExport.Page page =
                    export.page(me.viewer(), since, after == null ? ActivityExport.FIRST : after, PAGE, text);
            while (page.last() != null) {
                for (Exported e : page.activities()) {
                    line(out, line(e, text));
                    activities++;
                }
                if (clock.instant().isAfter(latest)) {
                    // without its last line, so that nobody takes it for whole
                    out.flush();
                    return;
                }
                page = export.page(me.viewer(), since, page.last(), PAGE, text);
            }
            line(out, new EndLine("end", activities, since == 0 ? 0 : removed(out, since)));
            out.flush();
        } finally {
            room.release();
        }
    }

    private long removed(OutputStream out, long since) throws IOException {
        long removed = 0;
        UUID after = ActivityExport.FIRST;
        for (List<UUID> gone = export.gone(since, after, PAGE);
                !gone.isEmpty();
                gone = export.gone(since, after, PAGE)) {
            for (UUID id : gone) {
                line(out, new RemovedLine("removed", id));
            }
            removed += gone.size();
            after = gone.get(gone.size() - 1);
        }
        return removed;
    }

    private void line(OutputStream out, Object line) throws IOException {
        out.write(json.writeValueAsBytes(line));
        out.write('\n');
    }

    private static ActivityLine line(Exported e, boolean text) {
        ActivityInfo a = Shown.activity(e.entry());
        return new ActivityLine(
                "activity",
                a.id(),
                a.kind(),
                a.at(),
                a.ends(),
                a.allDay(),
                a.visibility(),
                a.subject(),
                a.people(),
                a.place(),
                a.owners(),
                a.mark(),
                a.sort(),
                a.direction(),
                e.links().stream()
                        .map(l -> new LinkLine(
                                l.kind(), l.id(), l.name(), l.evidence().toLowerCase(Locale.ROOT)))
                        .toList(),
                text ? e.text() : null);
    }
}
