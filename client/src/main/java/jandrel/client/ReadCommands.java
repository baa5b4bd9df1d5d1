package jandrel.client;

import jandrel.api.ActivityApi.ActivityDetail;
import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.ActivityApi.FoundInfo;
import jandrel.api.ActivityApi.SearchPage;
import jandrel.api.ActivityApi.TimelinePage;
import jandrel.api.DecisionApi.Count;
import jandrel.api.DecisionApi.PartyInfo;
import jandrel.api.DecisionApi.Summary;
import jandrel.api.RecordApi.RecordInfo;
import jandrel.api.RecordApi.RecordPage;
import java.io.IOException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Commands that only ask. */
final class ReadCommands {
    private ReadCommands() {}

    @Command(name = "status", description = "Totals: what was seen, logged, left out, and why.")
    static final class Status extends Ask {
        @Override
        public Integer call() {
            Summary s = main().http().get("/api/summary", Map.of(), Summary.class);
            Out out = out();
            if (out.json()) {
                out.objects(List.of(s));
                return 0;
            }
            Table table = new Table("verdict", ">decisions", "");
            table.row("logged", number(s.logged()), String.format("as %,d activities", s.activities()));
            table.row("waiting", number(s.waiting()), "nobody outside is known");
            table.row("left out", number(s.leftOut()), reasons(s));
            table.row("unreadable", number(s.unreadable()), "");
            table.row("all", number(s.decisions()), "one for each item and source that showed it");
            out.table(table);
            out.say("");
            out.say(s.connections() + " connections, " + s.connecting() + " not read yet, " + s.troubled()
                    + " in trouble; "
                    + (s.reconsidering() + s.refetching() == 0
                            ? "nothing is being reconsidered"
                            : String.format(
                                    "%,d decisions being made again, %,d items being fetched again",
                                    s.reconsidering(), s.refetching())));
            return 0;
        }

        private static String number(long n) {
            return String.format("%,d", n);
        }

        private static String reasons(Summary s) {
            Map<String, Long> why = s.counts().stream()
                    .filter(c -> c.verdict().equals("left-out"))
                    .collect(Collectors.groupingBy(Count::words, Collectors.summingLong(Count::count)));
            return why.entrySet().stream()
                    .sorted(Map.Entry.<String, Long>comparingByValue().reversed())
                    .limit(3)
                    .map(e -> String.format("%,d %s", e.getValue(), e.getKey()))
                    .collect(Collectors.joining(", "));
        }
    }

    @Command(
            name = "records",
            description = "Finds contacts, leads, accounts and opportunities by a part of their name.")
    static final class Records extends Ask {
        @Parameters(arity = "0..1", paramLabel = "NAME", description = "A part of the name.")
        private String name = "";

        @Option(names = "--kind", description = "contact, lead, account or opportunity")
        private String kind = "";

        @Option(names = "--sort", description = "name, touch (last touch first), next (next meeting first) or activity")
        private String sort = "name";

        @Option(names = "--limit", description = "How many; 50 if not given.")
        private int limit = 50;

        @Override
        public Integer call() {
            RecordPage page = main().http()
                    .get(
                            "/api/records",
                            query("name", name, "kind", kind, "sort", sort, "limit", "" + limit),
                            RecordPage.class);
            Out out = out();
            if (out.json()) {
                out.objects(page.records());
                return page.records().isEmpty() ? Trouble.NO : 0;
            }
            Table table =
                    new Table("kind", "name", "account or stage", ">activities", "last touch", "next meeting", "id");
            page.records()
                    .forEach(r -> table.row(
                            r.kind(),
                            r.name(),
                            r.kind().equals("opportunity") ? r.stage() : r.accountName(),
                            r.activities(),
                            out.time(r.lastTouch()),
                            out.time(r.nextMeeting()),
                            r.id()));
            return listed(out, table, page.records().size(), page.total(), "records");
        }
    }

    @Command(name = "timeline", description = "The timeline of a record, newest first.")
    static final class Timeline extends Ask {
        @Parameters(paramLabel = "RECORD", description = "Its id, or its name if only one has it.")
        private String record = "";

        @Option(names = "--limit", description = "How many; 30 if not given.")
        private int limit = 30;

        @Option(names = "--csv", description = "All of it, as CSV.")
        private boolean csv;

        @Option(names = "--kind", description = "mail, meeting, call or follow-up")
        private String kind = "";

        @Option(names = "--direction", description = "in (received) or out (sent)")
        private String direction = "";

        @Option(names = "--with", description = "A part of the name or address of somebody who takes part.")
        private String with = "";

        @Option(names = "--attached", description = "Only messages with attachments.")
        private boolean attached;

        @Option(names = "--from", description = "First day, like 2026-03-31.")
        private String from = "";

        @Option(names = "--until", description = "Last day.")
        private String until = "";

        private Map<String, String> wanted() {
            return query(
                    "kind",
                    kind,
                    "direction",
                    direction,
                    "who",
                    with,
                    "attached",
                    attached ? "true" : "",
                    "from",
                    day(from, 0),
                    "until",
                    day(until, 1));
        }

        @Override
        public Integer call() throws IOException {
            Http http = main().http();
            Map<String, String> wanted = wanted();
            if (csv && wanted.values().stream().anyMatch(v -> !v.isEmpty())) {
                throw new Trouble(Trouble.USE, "--csv gives the whole timeline: leave the other options out");
            }
            RecordInfo found = record(http, record);
            if (csv) {
                http.copy("/api/records/" + found.id() + "/timeline.csv", Map.of(), out().stream());
                return 0;
            }
            Listing listing = pages(http, "/api/records/" + found.id() + "/timeline", wanted, limit);
            if (!out().json()) {
                out().say(found.name() + ", " + found.kind()
                        + (found.accountName().isEmpty() ? "" : " at " + found.accountName())
                        + (found.owner().isEmpty() ? "" : ", owned by " + found.owner()));
            }
            return print(out(), listing);
        }
    }

    @Command(
            name = "search",
            description = "Finds activities by what was written: subject, text, names of attachments, participants.")
    static final class Search extends Ask {
        private static final int LONGEST = 60;

        @Parameters(
                paramLabel = "WORD",
                arity = "1..*",
                description =
                        "All of them must fit: words, 'several words' that stand together, beginnings such as buo*, from:, to:"
                                + " and with: a name or an address, of: one of ours, in: a record, has:attachment, after: and before: a day such"
                                + " as 2026-05-04. With a minus before it, what must not fit; before a first such word put --.")
        private List<String> words = List.of();

        @Option(names = "--best", description = "The best of the newest 200 first, not the newest.")
        private boolean best;

        @Option(names = "--limit", description = "How many; 30 if not given.")
        private int limit = 30;

        @Override
        public Integer call() {
            List<FoundInfo> found = new ArrayList<>();
            SearchPage page;
            String next = "";
            do {
                Map<String, String> query =
                        query("words", words.stream().map(Search::quoted).collect(Collectors.joining(" ")));
                query.put("sort", best ? "best" : "newest");
                query.put("zone", ZoneId.systemDefault().getId());
                query.put("limit", String.valueOf(Math.max(1, Math.min(200, limit - found.size()))));
                query.put("next", next);
                page = main().http().get("/api/search", query, SearchPage.class);
                found.addAll(page.found());
                next = page.next();
            } while (!next.isEmpty() && found.size() < limit);
            return print(page, found);
        }

        /** What the shell took the quotes from was a phrase. */
        private static String quoted(String word) {
            if (!word.matches(".*\\s.*") || word.indexOf('"') >= 0) {
                return word;
            }
            int value = word.indexOf(':') + 1;
            int from =
                    value > 0 && word.substring(0, value).matches("-?[a-z]+:") ? value : word.startsWith("-") ? 1 : 0;
            return word.substring(0, from) + '"' + word.substring(from) + '"';
        }

        private int print(SearchPage page, List<FoundInfo> found) {
            Out out = out();
            if (out.json()) {
                out.objects(found);
                return found.isEmpty() ? Trouble.NO : 0;
            }
            Table table = new Table("when", "kind", "from", "subject", "text", "id");
            for (FoundInfo f : found) {
                ActivityInfo a = f.activity();
                table.row(
                        out.time(a.at(), a.allDay()),
                        a.sort().isEmpty() ? a.kind() : a.sort(),
                        with(a.people().stream()
                                .filter(p -> List.of("from", "organiser").contains(p.part()))
                                .toList()),
                        marked(a),
                        around(f),
                        a.id());
            }
            int code = Ask.listed(out, table, found.size(), page.total(), page.orMore(), "activities");
            if (page.catchingUp()) {
                out.say("Some of what was captured lately cannot be found yet.");
            }
            return code;
        }

        /** The beginning of the text, or from shortly before what was found in it. */
        private static String around(FoundInfo found) {
            String text = found.activity().snippet();
            int from =
                    found.inSnippet().isEmpty() ? 0 : found.inSnippet().get(0).from() - 15;
            int blank = from <= 0 ? -1 : text.indexOf(' ', from);
            String rest = blank < 0 ? text : "…" + text.substring(blank + 1);
            return rest.length() <= LONGEST ? rest : rest.substring(0, LONGEST - 1) + "…";
        }
    }

    private record Listing(List<ActivityInfo> activities, long total) {}

    private static Listing pages(Http http, String path, Map<String, String> query, int limit) {
        List<ActivityInfo> found = new ArrayList<>();
        String next = "";
        long total = 0;
        do {
            query.put("limit", String.valueOf(Math.max(1, Math.min(200, limit - found.size()))));
            query.put("next", next);
            TimelinePage page = http.get(path, query, TimelinePage.class);
            found.addAll(page.activities());
            next = page.next();
            total = page.total();
        } while (!next.isEmpty() && found.size() < limit);
        return new Listing(found, total);
    }

    private static int print(Out out, Listing listing) {
        if (out.json()) {
            out.objects(listing.activities());
            return listing.activities().isEmpty() ? Trouble.NO : 0;
        }
        Table table = new Table("when", "kind", "subject", "with", "whose", "id");
        for (ActivityInfo a : listing.activities()) {
            boolean full = a.visibility().equals("full");
            table.row(
                    out.time(a.at(), a.allDay()),
                    a.sort().isEmpty() ? a.kind() : a.sort(),
                    full ? marked(a) : "(outline only)",
                    full ? with(a.people()) : "",
                    a.owners().stream().map(o -> o.name()).collect(Collectors.joining(", ")),
                    a.id());
        }
        return Ask.listed(out, table, listing.activities().size(), listing.total(), "activities");
    }

    private static String marked(ActivityInfo a) {
        return a.mark().isEmpty() ? a.subject() : "[" + a.mark() + "] " + a.subject();
    }

    private static String with(List<PartyInfo> people) {
        return people.stream()
                .filter(p -> !p.part().equals("room"))
                .map(p -> p.name().isEmpty() ? p.address() : p.name())
                .distinct()
                .collect(Collectors.joining(", "));
    }

    @Command(name = "show", description = "Opens one activity.")
    static final class Show extends Ask {
        @Option(names = "--whole", description = "With the quoted history and the signature.")
        private boolean whole;

        @Parameters(paramLabel = "ACTIVITY", description = "Its id.")
        private String id = "";

        @Override
        public Integer call() {
            ActivityDetail d = main().http().get("/api/activities/" + id(id), Map.of(), ActivityDetail.class);
            Out out = out();
            if (out.json()) {
                out.objects(List.of(d));
                return 0;
            }
            ActivityInfo a = d.activity();
            out.say(
                    a.visibility().equals("full")
                            ? Table.printable(marked(a))
                            : "Outline only: who and what is for those who read it in full.");
            out.say((a.sort().isEmpty() ? a.kind() : a.sort()) + ", " + out.time(a.at(), a.allDay()) + ", seen by "
                    + a.owners().stream().map(o -> o.name()).collect(Collectors.joining(", ")));
            a.people()
                    .forEach(p ->
                            out.say("  " + p.part() + "  " + Table.printable(p.name()) + " <" + p.address() + ">"));
            if (!a.place().isEmpty()) {
                out.say("  place  " + Table.printable(a.place()));
            }
            d.attachments()
                    .forEach(x -> out.say("  attached  " + Table.printable(x.name()) + ", " + x.type() + ", "
                            + x.bytes() + " bytes"));
            if (d.forwarded() != null) {
                out.say("  passed on from  " + Table.printable(d.forwarded().name()) + " <"
                        + d.forwarded().address() + ">");
            }
            if (!d.phones().isEmpty()) {
                out.say("  telephone  " + String.join(", ", d.phones()));
            }
            if (!d.conversation().isEmpty()) {
                out.say("  in a conversation of  " + d.conversation().size() + " messages");
            }
            d.links()
                    .forEach(l -> out.say("  on the timeline of  " + Table.printable(l.name()) + " (" + l.kind()
                            + ", by " + l.evidence().replace('_', ' ') + ")"));
            String text = whole ? d.text() : d.newText();
            if (!text.isEmpty()) {
                out.say("");
                text.lines().forEach(line -> out.say(Table.printable(line)));
                if (text.strip().length() < d.text().strip().length()) {
                    out.say("");
                    out.say("(what was quoted and the signature are left out; --whole shows them)");
                }
            }
            d.decisions().forEach(x -> {
                out.say("");
                Explaining.print(out, x);
            });
            return 0;
        }
    }
}
