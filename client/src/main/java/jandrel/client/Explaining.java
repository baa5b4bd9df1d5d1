package jandrel.client;

import static jandrel.client.Ask.id;
import static jandrel.client.Ask.listed;
import static jandrel.client.Ask.query;

import jandrel.api.DecisionApi.DecisionChange;
import jandrel.api.DecisionApi.DecisionInfo;
import jandrel.api.DecisionApi.DecisionPage;
import jandrel.api.PolicyApi.OpeningInfo;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Commands that say what became of items, and why. */
final class Explaining {
    private Explaining() {}

    @Command(name = "decisions", description = "Every item that was seen, with the decision on it.")
    static final class Decisions extends Ask {
        @Option(names = "--verdict", description = "logged, waiting, left-out or unreadable")
        private String verdict = "";

        @Option(names = "--person", description = "Whose source showed it: key or address.")
        private String person = "";

        @Option(names = "--policy", description = "Under which its person is, by name.")
        private String policy = "";

        @Option(names = "--address", description = "An address or a domain that is on it.")
        private String address = "";

        @Option(names = "--from", description = "First day, like 2026-03-31.")
        private String from = "";

        @Option(names = "--until", description = "Last day.")
        private String until = "";

        @Option(names = "--rule", description = "The rule it rests on, as “why --json” names it, such as excluded.")
        private String rule = "";

        @Option(names = "--limit", description = "How many; 30 if not given, 200 at most.")
        private int limit = 30;

        @Option(names = "--csv", description = "All of them, as CSV.")
        private boolean csv;

        @Override
        public Integer call() throws IOException {
            Http http = main().http();
            Map<String, String> query = query(
                    "verdict", verdict, "address", address, "rule", rule, "from", day(from, 0), "until", day(until, 1));
            if (!person.isEmpty()) {
                query.put("person", person(http));
            }
            if (!policy.isEmpty()) {
                query.put("policy", OnePolicy.find(http, policy).id().toString());
            }
            if (csv) {
                http.copy("/api/decisions.csv", query, out().stream());
                return 0;
            }
            query.put("limit", String.valueOf(limit));
            DecisionPage page = http.get("/api/decisions", query, DecisionPage.class);
            Out out = out();
            if (out.json()) {
                out.objects(page.decisions());
                return page.decisions().isEmpty() ? Trouble.NO : 0;
            }
            Table table = new Table("when", "verdict", "kind", "whose", "subject", "why", "id");
            page.decisions()
                    .forEach(d -> table.row(
                            out.time(d.at()),
                            d.verdict(),
                            d.kind(),
                            d.personName(),
                            d.subject(),
                            d.trail().get(d.trail().size() - 1),
                            d.id()));
            return listed(out, table, page.decisions().size(), page.total(), page.orMore(), "decisions");
        }

        private String person(Http http) {
            for (var p : http.get("/api/people", Map.of(), jandrel.api.DirectoryApi.PersonInfo[].class)) {
                if (p.key().equals(person) || p.addresses().contains(person.toLowerCase(java.util.Locale.ROOT))) {
                    return p.id().toString();
                }
            }
            throw new Trouble(Trouble.NO, "nobody has the key or address “" + person + "”");
        }
    }

    @Command(name = "why", description = "Why something was logged, waits, or was left out.")
    static final class Why extends Ask {
        @Parameters(paramLabel = "ITEM", description = "The id of a decision, or of an activity.")
        private String id = "";

        @Override
        public Integer call() {
            Http http = main().http();
            List<DecisionInfo> found = http.get("/api/decisions", query("item", id(id)), DecisionPage.class)
                    .decisions();
            List<DecisionInfo> all =
                    found.isEmpty() ? List.of(http.get("/api/decisions/" + id, Map.of(), DecisionInfo.class)) : found;
            Out out = out();
            if (out.json()) {
                out.objects(all);
                return 0;
            }
            for (int i = 0; i < all.size(); i++) {
                out.stream().print(i == 0 ? "" : "\n");
                print(out, all.get(i));
                changed(http, out, all.get(i));
            }
            all.stream()
                    .filter(d -> d.kind().equals("meeting") && d.visibility().equals("full") && d.activity() != null)
                    .findFirst()
                    .ifPresent(d -> opened(http, out, id(id)));
            return 0;
        }

        /** What it was before, if it was decided again. */
        private static void changed(Http http, Out out, DecisionInfo d) {
            for (DecisionChange c :
                    http.get("/api/decisions/" + d.id() + "/changes", Map.of(), DecisionChange[].class)) {
                String by = Stream.of(
                                Table.printable(c.why()),
                                c.policy().isEmpty()
                                        ? ""
                                        : "policy “" + Table.printable(c.policy()) + "”, version " + c.version())
                        .filter(t -> !t.isEmpty())
                        .collect(Collectors.joining("; "));
                out.say("  until " + out.time(c.at()) + ": " + c.before() + ", then " + c.after()
                        + (by.isEmpty() ? "" : " (" + by + ")"));
            }
        }

        private static void opened(Http http, Out out, String item) {
            OpeningInfo did = http.get("/api/items/" + item + "/opening", Map.of(), OpeningInfo.class);
            String what = switch (did.did()) {
                case "" -> "";
                case "undone" -> "What it opened was taken back.";
                case "leads" -> "Its guests became leads.";
                case "nothing" -> "It opened no opportunity.";
                case "waits" -> "It is looked at again tomorrow.";
                default -> "It " + did.did() + " “" + Table.printable(did.name()) + "”.";
            };
            if (!what.isEmpty()) {
                out.say("\n" + what + " " + Table.printable(did.why()) + " By the policy “"
                        + Table.printable(did.policy()) + "”.");
            }
        }
    }

    static void print(Out out, DecisionInfo d) {
        String subject = d.subject().isEmpty() ? "" : " “" + Table.printable(d.subject()) + "”";
        out.say(d.verdict().toUpperCase(java.util.Locale.ROOT) + "  " + d.kind() + subject + ", " + out.time(d.at())
                + ", seen " + (d.source().isEmpty() ? "by " : "in “" + Table.printable(d.source()) + "” of ")
                + d.personName()
                + (d.pending() ? "  (being fetched again)" : ""));
        for (int i = 0; i < d.trail().size(); i++) {
            out.say(String.format("  %d. %s", i + 1, Table.printable(d.trail().get(i))));
        }
    }
}
