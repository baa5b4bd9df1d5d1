package jandrel.client;

import jandrel.api.PolicyApi.CoverEnd;
import jandrel.api.PolicyApi.CoverageInfo;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Who is covered by which policy. */
final class Covering {
    private Covering() {}

    @Command(
            name = "coverage",
            description = "Everybody: their policy and why, their connections, when they were last heard from.")
    static final class Coverage extends Ask {
        @Option(names = "--state", split = ",", description = "Only these states, such as not-connected,needs-sign-in.")
        private List<String> states = List.of();

        @Option(names = "--silent", description = "Only those with nothing new for so many days.")
        private int silent = -1;

        @Override
        public Integer call() {
            List<CoverageInfo> all = Arrays.asList(main().http().get("/api/coverage", Map.of(), CoverageInfo[].class));
            List<CoverageInfo> shown = all.stream()
                    .filter(c -> states.isEmpty() || states.contains(c.state()))
                    .filter(c -> silent < 0 || c.silentDays() == null || c.silentDays() >= silent)
                    .toList();
            if (out().json()) {
                out().objects(shown);
                return 0;
            }
            Table table =
                    new Table("person", "team", "role", "policy", "why", "state", "last item", ">silent days", "until");
            shown.forEach(c -> table.row(
                    c.name(),
                    c.team(),
                    c.role(),
                    c.policyName() == null ? "none" : c.policyName(),
                    c.why(),
                    c.state(),
                    out().time(c.lastItem()),
                    c.silentDays() == null ? "" : c.silentDays(),
                    c.coverUntil() == null ? "" : c.coverUntil()));
            int code = Ask.listed(out(), table, shown.size(), all.size(), "people");
            Map<String, Long> sums =
                    all.stream().collect(Collectors.groupingBy(CoverageInfo::state, Collectors.counting()));
            out().say(sums.entrySet().stream()
                    .sorted(Map.Entry.comparingByKey())
                    .map(e -> e.getValue() + " " + e.getKey())
                    .collect(Collectors.joining(", ")));
            return code;
        }
    }

    @Command(name = "cover-until", description = "Ends somebody's cover on a day; without a day, it has no end.")
    static final class CoverUntil extends Ask {
        @Parameters(index = "0", paramLabel = "PERSON", description = "Key or address.")
        private String person = "";

        @Parameters(index = "1", paramLabel = "DAY", arity = "0..1", description = "Such as 2026-12-31.")
        private @Nullable String day;

        @Override
        public Integer call() {
            CoverageInfo found = Arrays.stream(main().http().get("/api/coverage", Map.of(), CoverageInfo[].class))
                    .filter(c ->
                            c.key().equals(person) || c.addresses().contains(person.toLowerCase(java.util.Locale.ROOT)))
                    .findFirst()
                    .orElseThrow(() -> new Trouble(Trouble.NO, "nobody has the key or address “" + person + "”"));
            CoverageInfo now = main().http()
                    .send("PUT", "/api/people/" + found.id() + "/cover", new CoverEnd(day), CoverageInfo.class);
            if (out().json()) {
                out().objects(List.of(now));
            }
            out().say(
                            now.coverUntil() == null
                                    ? now.name() + "’s cover has no end."
                                    : "From " + now.coverUntil() + " on nothing of " + now.name() + " is captured.");
            return 0;
        }
    }
}
