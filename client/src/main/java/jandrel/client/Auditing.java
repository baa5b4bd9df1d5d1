package jandrel.client;

import jandrel.api.JournalApi.JournalPage;
import jandrel.api.JournalApi.VerifiedInfo;
import jandrel.api.OutboxApi.OutboxKind;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** The journal. */
final class Auditing {
    private Auditing() {}

    @Command(
            name = "journal",
            description = "The record of what people changed and what the service ran, chained by hash.",
            synopsisSubcommandLabel = "COMMAND",
            subcommands = {ListEntries.class, Verify.class, Export.class})
    static final class Journal extends Ask {
        @Override
        public Integer call() {
            return list(this, Map.of());
        }
    }

    private static int list(Ask ask, Map<String, String> query) {
        JournalPage page = ask.main().http().get("/api/journal", query, JournalPage.class);
        if (ask.out().json()) {
            ask.out().objects(page.entries());
            return 0;
        }
        Table table = new Table(">number", "when", "who", "did", "what", "before", "after");
        page.entries()
                .forEach(e -> table.row(
                        e.number(),
                        ask.out().time(e.at()),
                        e.who(),
                        e.what(),
                        e.kind() + " " + e.name(),
                        e.before() == null ? "" : e.before(),
                        e.after() == null ? "" : e.after()));
        return Ask.listed(ask.out(), table, page.entries().size(), page.total(), "entries");
    }

    @Command(name = "outbox", description = "What waits to go out to calendars, guests and mailboxes, and since when.")
    static final class Outbox extends Ask {
        @Override
        public Integer call() {
            List<OutboxKind> kinds = List.of(main().http().get("/api/outbox", Map.of(), OutboxKind[].class));
            if (out().json()) {
                out().objects(kinds);
                return 0;
            }
            Table table = new Table("what", ">waiting", ">failing", "the oldest since");
            kinds.forEach(k ->
                    table.row(k.kind(), k.waiting(), k.failing(), k.oldest() == null ? "" : out().time(k.oldest())));
            out().table(table);
            return 0;
        }
    }

    @Command(name = "list", description = "Its entries, newest first.")
    static final class ListEntries extends Ask {
        @Option(names = "--who", description = "A login, or service.")
        private String who = "";

        @Option(names = "--kind", description = "Of things, such as policy, exclusion, connection.")
        private String kind = "";

        @Option(names = "--thing", description = "The id of one thing.")
        private String thing = "";

        @Option(names = "--from", description = "Such as 2026-11-25T08:00:00Z.")
        private String from = "";

        @Option(names = "--until", description = "Such as 2026-11-26T08:00:00Z.")
        private String until = "";

        @Option(names = "--limit", description = "At most so many; 50 if not given.")
        private int limit = 50;

        @Override
        public Integer call() {
            Map<String, String> query = new LinkedHashMap<>();
            query.put("who", who);
            query.put("kind", kind);
            query.put("thing", thing);
            query.put("from", from);
            query.put("until", until);
            query.put("limit", String.valueOf(limit));
            return list(this, query);
        }
    }

    @Command(name = "verify", description = "Follows the whole chain at the service; 1 if an entry does not fit.")
    static final class Verify extends Ask {
        @Override
        public Integer call() {
            VerifiedInfo v = main().http().get("/api/journal/verify", Map.of(), VerifiedInfo.class);
            if (out().json()) {
                out().objects(List.of(v));
            }
            if (v.broken() > 0) {
                out().say("Entry " + v.broken() + " does not fit: " + v.why() + ".");
                return Trouble.NO;
            }
            out().say(String.format(
                    "All %,d entries fit. Keep this elsewhere to compare later: %s", v.entries(), v.head()));
            return 0;
        }
    }

    @Command(
            name = "export",
            description = "Writes it to a file, one entry a line; bin/jandrel-check verifies such a file.")
    static final class Export extends Ask {
        @Option(names = "--file", required = true, description = "Where to; - for standard output.")
        private Path file = Path.of("-");

        @Override
        public Integer call() {
            try {
                if (file.toString().equals("-")) {
                    main().http().copy("/api/journal.ndjson", Map.of(), System.out);
                    return 0;
                }
                try (OutputStream to = Files.newOutputStream(file)) {
                    main().http().copy("/api/journal.ndjson", Map.of(), to);
                }
            } catch (IOException unwritable) {
                throw new Trouble(Trouble.USE, "the file " + file + " cannot be written");
            }
            out().say("Written to " + file + "; verify it with: bin/jandrel-check " + file);
            return 0;
        }
    }
}
