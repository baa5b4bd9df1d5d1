package jandrel.service.journal;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.JournalApi.EntryInfo;
import jandrel.api.JournalApi.JournalPage;
import jandrel.api.JournalApi.VerifiedInfo;
import jandrel.core.journal.Canonical;
import jandrel.core.journal.Entry;
import jandrel.service.kernel.Paging;
import jandrel.service.kernel.Refusal;
import jandrel.store.journal.Journal;
import java.io.IOException;
import java.io.PrintWriter;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The journal: read, verified, taken away. */
@RestController
class JournalCalls {
    private final Journal journal;

    JournalCalls(Journal journal) {
        this.journal = journal;
    }

    @GetMapping("/api/journal")
    JournalPage page(
            @RequestParam(name = "who", defaultValue = "") String who,
            @RequestParam(name = "kind", defaultValue = "") String kind,
            @RequestParam(name = "thing", defaultValue = "") String thing,
            @RequestParam(name = "from", defaultValue = "") String from,
            @RequestParam(name = "until", defaultValue = "") String until,
            @RequestParam(name = "byPeople", defaultValue = "false") boolean byPeople,
            @RequestParam(name = "before", defaultValue = "0") long before,
            @RequestParam(name = "limit", defaultValue = "50") int limit) {
        Journal.Filter filter = new Journal.Filter(
                who, kind, thing, at(from, "0001-01-01T00:00:00Z"), at(until, "9999-01-01T00:00:00Z"), byPeople);
        int most = Paging.limit(limit);
        List<EntryInfo> entries = journal.page(filter, before <= 0 ? Long.MAX_VALUE : before, most).stream()
                .map(JournalCalls::shown)
                .toList();
        long next = entries.size() == most ? entries.get(entries.size() - 1).number() : 0;
        return new JournalPage(journal.count(filter), entries, next);
    }

    private static Instant at(String text, String otherwise) {
        try {
            return Instant.parse(text.isBlank() ? otherwise : text);
        } catch (DateTimeParseException no) {
            throw Refusal.bad("“" + text + "” is not a time", "Write it as 2026-11-25T08:00:00Z.");
        }
    }

    private static EntryInfo shown(Journal.Kept kept) {
        Entry e = kept.entry();
        return new EntryInfo(
                e.number(),
                e.at(),
                e.who(),
                e.what(),
                e.thing().kind(),
                e.thing().id(),
                e.thing().name(),
                text(e.before()),
                text(e.after()),
                kept.hash());
    }

    private static @Nullable String text(@Nullable Object value) {
        return value == null ? null : Canonical.json(value);
    }

    @GetMapping("/api/journal/verify")
    VerifiedInfo verify() {
        Journal.Verified v = journal.verify();
        return new VerifiedInfo(v.entries(), v.broken(), v.why(), v.head());
    }

    /** One line an entry, oldest first: the canonical text that the hash is taken of, and the hash. */
    @GetMapping(path = "/api/journal.ndjson", produces = "application/x-ndjson")
    void export(HttpServletResponse response) throws IOException {
        response.setContentType("application/x-ndjson");
        response.setCharacterEncoding("UTF-8");
        response.setHeader("Content-Disposition", "attachment; filename=journal.ndjson");
        PrintWriter out = response.getWriter();
        journal.each(kept -> out.append("{\"entry\":")
                .append(kept.entry().canonical())
                .append(",\"hash\":\"")
                .append(kept.hash())
                .append("\"}\n"));
    }
}
