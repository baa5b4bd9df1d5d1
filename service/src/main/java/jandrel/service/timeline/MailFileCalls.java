package jandrel.service.timeline;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.core.item.Content;
import jandrel.core.item.MailItem;
import jandrel.formats.mail.MessageFile;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.kernel.PageCursor;
import jandrel.store.timeline.DecisionFilter;
import jandrel.store.timeline.TimelineFilter;
import jandrel.store.timeline.Timelines;
import jandrel.store.timeline.Timelines.Entry;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** Captured mail as files that mail programs open: of what the asker reads in full, and of nothing else. */
@RestController
class MailFileCalls {
    private static final int PAGE = 25;
    private static final TimelineFilter MAIL =
            new TimelineFilter("mail", "", "", null, "", false, "", DecisionFilter.FIRST, DecisionFilter.LAST);
    private final Timelines timelines;
    private final Clock clock;

    MailFileCalls(Timelines timelines, Clock clock) {
        this.timelines = timelines;
        this.clock = clock;
    }

    /** All mail on a record's timeline as one mailbox, the newest first, a page at a time, whatever its length. */
    @GetMapping(path = "/api/records/{id}/mail.mbox", produces = "application/mbox")
    void mailbox(@PathVariable("id") UUID record, @AuthenticationPrincipal SignedIn me, HttpServletResponse response)
            throws IOException {
        if (timelines.record(record, clock.instant()).isEmpty()) {
            throw Refusal.notFound("record");
        }
        response.setContentType("application/mbox");
        response.setHeader("Content-Disposition", "attachment; filename=mail.mbox");
        OutputStream out = new BufferedOutputStream(response.getOutputStream(), 1 << 16);
        PageCursor cursor = PageCursor.TOP;
        for (List<Entry> page = timelines.page(record, MAIL, me.viewer(), cursor, PAGE);
                !page.isEmpty();
                page = timelines.page(record, MAIL, me.viewer(), cursor, PAGE)) {
            Map<UUID, Content> said = timelines.contents(page, me.viewer());
            for (Entry entry : page) {
                if (entry.item() instanceof MailItem mail) {
                    out.write(MessageFile.inMailbox(entry.id(), mail, said.getOrDefault(entry.id(), Content.EMPTY)));
                }
            }
            Entry last = page.get(page.size() - 1);
            cursor = new PageCursor(last.sorted(), last.id());
        }
        out.flush();
    }

    /** One message. */
    @GetMapping(path = "/api/activities/{id}/message.eml", produces = "message/rfc822")
    void message(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me, HttpServletResponse response)
            throws IOException {
        Timelines.Opened opened = timelines.open(id, me.viewer()).orElseThrow(() -> Refusal.notFound("activity"));
        if (!(opened.entry().item() instanceof MailItem mail)) {
            throw Refusal.of(
                    HttpStatus.NOT_FOUND,
                    "There is no message of it for you",
                    "It is a meeting, or you may not read it.");
        }
        response.setContentType("message/rfc822");
        response.setHeader("Content-Disposition", "attachment; filename=message.eml");
        response.getOutputStream().write(MessageFile.message(id, mail, opened.content()));
    }
}
