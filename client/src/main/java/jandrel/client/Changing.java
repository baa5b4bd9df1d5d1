package jandrel.client;

import jandrel.api.DirectoryApi.CompanyDomains;
import jandrel.api.DirectoryApi.ImportOutcome;
import jandrel.api.ExclusionApi.AddedExclusions;
import jandrel.api.ExclusionApi.CheckedLines;
import jandrel.api.ExclusionApi.ExclusionInfo;
import jandrel.api.ExclusionApi.NewExclusions;
import jandrel.api.ExclusionApi.RemovedExclusions;
import jandrel.api.ExclusionApi.SuggestionInfo;
import jandrel.api.RehearsalApi.Change;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Commands that change the directory, the exclusions or the policy. */
final class Changing {
    private Changing() {}

    static byte[] file(Path file) {
        try {
            return file.toString().equals("-") ? System.in.readAllBytes() : Files.readAllBytes(file);
        } catch (IOException unreadable) {
            throw new Trouble(Trouble.USE, "the file " + file + " cannot be read");
        }
    }

    /** What a change moved, after what was done. */
    static String again(long reconsidering) {
        return switch ((int) Math.min(reconsidering, 2)) {
            case 0 -> "";
            case 1 -> "; 1 decision is being made again";
            default -> String.format("; %,d decisions are being made again", reconsidering);
        };
    }

    @Command(name = "import", description = "Imports a CSV file of the directory, whole or not at all.")
    static final class Import extends Ask {
        @Parameters(
                index = "0",
                paramLabel = "KIND",
                description =
                        "people, accounts, contacts, leads or opportunities; in this order they refer to each other.")
        private String kind = "";

        @Parameters(
                index = "1",
                paramLabel = "FILE",
                description = "CSV in UTF-8, its first line naming the columns; - for standard input.")
        private Path file = Path.of("-");

        @Override
        public Integer call() {
            ImportOutcome o = main().http().sendCsv("/api/directory/" + kind, file(file), ImportOutcome.class);
            if (out().json()) {
                out().objects(List.of(o));
            }
            out().say(String.format(
                    "%s: %,d added, %,d updated, %,d as they were%s",
                    o.kind(), o.added(), o.updated(), o.unchanged(), again(o.reconsidering())));
            return 0;
        }
    }

    @Command(name = "exclusions", description = "What is never captured, and how many items each exclusion keeps out.")
    static final class Exclusions extends Ask {
        @Option(names = "--suggest", description = "What our own data says could be excluded.")
        private boolean suggest;

        @Override
        public Integer call() {
            return suggest ? suggestions() : list();
        }

        private int suggestions() {
            List<SuggestionInfo> all =
                    List.of(main().http().get("/api/exclusions/suggestions", Map.of(), SuggestionInfo[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("kind", "what", ">items", ">people", "why");
            all.forEach(s -> table.row(s.kind(), s.what(), s.items(), s.people(), s.why()));
            return Ask.listed(out(), table, all.size(), all.size(), "suggestions");
        }

        private int list() {
            List<ExclusionInfo> all = List.of(main().http().get("/api/exclusions", Map.of(), ExclusionInfo[].class));
            Out out = out();
            if (out.json()) {
                out.objects(all);
                return 0;
            }
            Table table = new Table("kind", "what", ">items kept out", "reason", "last day", "added by", "when");
            all.forEach(e -> table.row(
                    e.kind(),
                    e.what(),
                    e.items(),
                    e.reason(),
                    e.lastDay() == null ? "" : e.lastDay(),
                    e.addedBy(),
                    out.time(e.addedAt())));
            return Ask.listed(out, table, all.size(), all.size(), "exclusions");
        }
    }

    @Command(name = "exclude", description = "Adds exclusions; what they cover leaves the timelines.")
    static final class Exclude extends Ask {
        @Parameters(
                paramLabel = "WHAT",
                arity = "0..*",
                description = "Addresses and domains; a domain takes in all below it.")
        private List<String> what = List.of();

        @Option(names = "--file", description = "One or more a line; - for standard input.")
        private @Nullable Path file;

        @Option(names = "--reason", description = "Why, in your words.")
        private String reason = "";

        @Option(
                names = "--kind",
                description = "pattern, header, list, category, class, title, domain-alone; else by looks.")
        private @Nullable String kind;

        @Option(names = "--policy", description = "Counts under this policy alone.")
        private String policy = "";

        @Option(names = "--until", description = "Covers nothing dated after this day, such as 2026-12-31.")
        private @Nullable String until;

        @Option(names = "--check", description = "Says of each line whether it fits, and adds none.")
        private boolean check;

        @Option(names = "--rehearse", description = "Says what it would do, and adds none.")
        private boolean rehearse;

        @Option(names = "--mine", description = "For your own mailbox and calendar alone.")
        private boolean mine;

        @Override
        public Integer call() {
            String text = String.join("\n", what)
                    + (file == null ? "" : "\n" + new String(file(file), java.nio.charset.StandardCharsets.UTF_8));
            NewExclusions wanted = new NewExclusions(
                    text.strip(),
                    reason,
                    kind,
                    policy.isEmpty()
                            ? null
                            : OnePolicy.find(main().http(), policy).id(),
                    until);
            if (check) {
                return checked(wanted);
            }
            if (rehearse) {
                return RehearsalCommands.rehearse(
                        main().http(), out(), new Change(null, null, null, null, wanted, null, null, null));
            }
            AddedExclusions added = main().http()
                    .send("POST", mine ? "/api/exclusions/mine" : "/api/exclusions", wanted, AddedExclusions.class);
            if (out().json()) {
                out().objects(List.of(added));
            }
            out().say(String.format(
                    "%,d added, %,d excluded already%s",
                    added.added().size(), added.known().size(), again(added.reconsidering())));
            return 0;
        }

        private int checked(NewExclusions wanted) {
            CheckedLines lines = main().http().send("POST", "/api/exclusions/check", wanted, CheckedLines.class);
            if (out().json()) {
                out().objects(lines.lines());
                return lines.problems() == 0 ? 0 : Trouble.NO;
            }
            lines.lines().stream()
                    .filter(l -> !l.problem().isEmpty())
                    .forEach(l -> out().say("line " + l.line() + ": “" + l.text() + "”: " + l.problem()));
            out().say(String.format(
                    "%,d fit (%,d of them excluded already), %,d do not; nothing was added",
                    lines.fits(), lines.known(), lines.problems()));
            return lines.problems() == 0 ? 0 : Trouble.NO;
        }
    }

    @Command(
            name = "include",
            description = "Removes exclusions, all or none; what they kept out is fetched and decided again.")
    static final class Include extends Ask {
        @Parameters(
                arity = "1..*",
                paramLabel = "WHAT",
                description = "Addresses or domains, as “jandrel exclusions” lists them.")
        private List<String> wanted = List.of();

        @Override
        public Integer call() {
            Http http = main().http();
            List<ExclusionInfo> all = List.of(http.get("/api/exclusions", Map.of(), ExclusionInfo[].class));
            List<ExclusionInfo> found = new ArrayList<>();
            for (String what : wanted) {
                List<ExclusionInfo> these = all.stream()
                        .filter(e -> e.what().equalsIgnoreCase(what))
                        .toList();
                if (these.isEmpty()) {
                    throw new Trouble(
                            Trouble.NO,
                            "“" + what + "” is not excluded, so none was removed; see “jandrel exclusions”");
                }
                found.addAll(these);
            }
            List<UUID> ids = found.stream().map(ExclusionInfo::id).distinct().toList();
            http.tell("POST", "/api/exclusions/removal", new RemovedExclusions(ids));
            found.stream()
                    .distinct()
                    .forEach(e -> out().say(e.what() + " is no longer excluded; " + e.items()
                            + (e.items() == 1 ? " item is" : " items are") + " being fetched and decided again"));
            return 0;
        }
    }

    @Command(
            name = "company",
            description = "The company's own domains and the public mail providers; changes them with options.")
    static final class Company extends Ask {
        @Option(names = "--own", split = ",", description = "All domains of the company, with commas between.")
        private @Nullable List<String> own;

        @Option(names = "--add-free-mail", split = ",", description = "Domains where anybody can have an address.")
        private List<String> freeMail = List.of();

        @Option(
                names = "--ignores-dots",
                split = ",",
                description = "All domains whose provider ignores dots before the @; \"\" for none.")
        private @Nullable List<String> dotless;

        @Override
        public Integer call() {
            Http http = main().http();
            CompanyDomains now = http.get("/api/company", Map.of(), CompanyDomains.class);
            if (own != null || !freeMail.isEmpty() || dotless != null) {
                List<String> more = new java.util.ArrayList<>(now.freeMail());
                more.addAll(freeMail);
                now = http.send(
                        "PUT",
                        "/api/company",
                        new CompanyDomains(
                                own == null ? now.own() : own,
                                more,
                                dotless == null
                                        ? now.dotless()
                                        : dotless.stream()
                                                .filter(d -> !d.isBlank())
                                                .toList()),
                        CompanyDomains.class);
            }
            if (out().json()) {
                out().objects(List.of(now));
            }
            out().say("Our own domains    "
                    + (now.own().isEmpty()
                            ? "none yet: nothing is known to be inside; set them with --own"
                            : String.join(", ", now.own())));
            out().say("Free-mail domains  " + String.join(", ", now.freeMail()));
            out().say("Ignore dots        "
                    + (now.dotless() == null || now.dotless().isEmpty() ? "none" : String.join(", ", now.dotless())));
            return 0;
        }
    }
}
