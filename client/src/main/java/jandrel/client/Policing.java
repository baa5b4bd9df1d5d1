package jandrel.client;

import jandrel.api.Policies.AudienceInfo;
import jandrel.api.Policies.ConditionRule;
import jandrel.api.Policies.CreationRules;
import jandrel.api.Policies.FolderRules;
import jandrel.api.Policies.KeepingRules;
import jandrel.api.Policies.PolicyChange;
import jandrel.api.Policies.PolicyInfo;
import jandrel.api.Policies.PolicyOrder;
import jandrel.api.Policies.PolicyRules;
import jandrel.api.Policies.VersionInfo;
import jandrel.api.Rehearsals.Change;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Policies, and who is covered by them. */
final class Policing {
    private Policing() {}

    private static ConditionRule condition(String text) {
        String[] words = text.strip().split("\\s+");
        if (words.length != 3 || !words[2].matches("\\d{1,9}")) {
            throw new Trouble(Trouble.USE, "“" + text + "” is no condition; write “meetings at-least 1”");
        }
        return new ConditionRule(words[0], words[1], Long.parseLong(words[2]));
    }

    static List<PolicyInfo> all(Http http) {
        return List.of(http.get("/api/policies", Map.of(), PolicyInfo[].class));
    }

    static PolicyInfo find(Http http, String name) {
        return all(http).stream()
                .filter(p -> p.rules().name().equalsIgnoreCase(name)
                        || p.id().toString().equals(name))
                .findFirst()
                .orElseThrow(
                        () -> new Trouble(Trouble.NO, "there is no policy “" + name + "”; see “jandrel policy list”"));
    }

    @Command(
            name = "policy",
            description = "Policies: what is captured for whom, and who reads it.",
            synopsisSubcommandLabel = "COMMAND",
            subcommands = {
                ListAll.class,
                Show.class,
                Add.class,
                SetRules.class,
                On.class,
                Off.class,
                Archive.class,
                Restore.class,
                Duplicate.class,
                Order.class,
                Versions.class,
                Back.class,
                PolicyFile.Export.class,
                PolicyFile.Apply.class
            })
    static final class Policy extends Asking.Ask {
        @Override
        public Integer call() {
            return list(this);
        }
    }

    private static int list(Asking.Ask ask) {
        List<PolicyInfo> all = all(ask.main().http());
        if (ask.out().json()) {
            ask.out().objects(all);
            return 0;
        }
        Table table = new Table(">order", "name", "covers", ">people", "is", ">version", "changed by", "when");
        int n = 1;
        for (PolicyInfo p : all) {
            table.row(
                    p.archived() ? "–" : n++,
                    p.rules().name(),
                    p.covers(),
                    p.people(),
                    p.archived() ? "archived" : p.enabled() ? "on" : "off",
                    p.version(),
                    p.changedBy(),
                    ask.out().time(p.changedAt()));
        }
        return Asking.listed(ask.out(), table, all.size(), all.size(), "policies");
    }

    @Command(name = "list", description = "All policies in their order: the first that has a person counts.")
    static final class ListAll extends Asking.Ask {
        @Override
        public Integer call() {
            return list(this);
        }
    }

    /** A command about one policy. */
    abstract static class OfOne extends Asking.Ask {
        @Parameters(paramLabel = "POLICY", description = "Its name.")
        String name = "";

        final PolicyInfo policy() {
            return find(main().http(), name);
        }

        final int say(PolicyInfo p) {
            if (out().json()) {
                out().objects(List.of(p));
                return 0;
            }
            out().say("Policy “" + p.rules().name() + "”, version " + p.version() + ", "
                    + (p.archived() ? "archived" : p.enabled() ? "on" : "off") + ", covering "
                    + Out.of(p.people(), p.people(), "people"));
            p.sentences().forEach(s -> out().say("  " + s));
            p.notActiveYet().forEach(s -> out().say("  ! " + s));
            return 0;
        }

        final int act(String what) {
            return say(main().http()
                    .send("POST", "/api/policies/" + policy().id() + "/" + what, Map.of(), PolicyInfo.class));
        }
    }

    @Command(name = "show", description = "What one policy says, in sentences.")
    static final class Show extends OfOne {
        @Override
        public Integer call() {
            return say(policy());
        }
    }

    @Command(name = "on", description = "Switches it on: from now on its people are captured.")
    static final class On extends OfOne {
        @Override
        public Integer call() {
            return act("on");
        }
    }

    @Command(name = "off", description = "Switches it off: nothing new is captured, what stands stays.")
    static final class Off extends OfOne {
        @Override
        public Integer call() {
            return act("off");
        }
    }

    @Command(name = "archive", description = "Puts it away: it covers nobody any more, what stands stays.")
    static final class Archive extends OfOne {
        @Override
        public Integer call() {
            return act("archive");
        }
    }

    @Command(name = "restore", description = "Takes it out of the archive.")
    static final class Restore extends OfOne {
        @Override
        public Integer call() {
            return act("restore");
        }
    }

    @Command(name = "duplicate", description = "Makes a copy of it that is off and covers nobody.")
    static final class Duplicate extends OfOne {
        @Override
        public Integer call() {
            return act("duplicate");
        }
    }

    @Command(name = "versions", description = "Every version of it: who changed what, and when.")
    static final class Versions extends OfOne {
        @Override
        public Integer call() {
            List<VersionInfo> all = List.of(
                    main().http().get("/api/policies/" + policy().id() + "/versions", Map.of(), VersionInfo[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            for (VersionInfo v : all) {
                out().say("Version " + v.version() + "  " + out().time(v.changedAt()) + "  " + v.changedBy());
                v.differences().forEach(d -> out().say("  " + d));
            }
            return 0;
        }
    }

    @Command(name = "back", description = "Makes an earlier version of it the newest again.")
    static final class Back extends OfOne {
        @Option(names = "--to", required = true, description = "The version.")
        private int version;

        @Override
        public Integer call() {
            return act("versions/" + version + "/back");
        }
    }

    @Command(name = "order", description = "Sets the order: the first policy that has a person counts.")
    static final class Order extends Asking.Ask {
        @Parameters(paramLabel = "POLICY", arity = "1..*", description = "All names, the first one first.")
        private List<String> names = List.of();

        @Override
        public Integer call() {
            Http http = main().http();
            List<UUID> ids = names.stream().map(n -> find(http, n).id()).toList();
            http.send("PUT", "/api/policies/order", new PolicyOrder(ids), PolicyInfo[].class);
            return list(this);
        }
    }

    /** The settings of a policy, as options; what is not given stays as it is. */
    abstract static class WithRules extends OfOne {
        @Option(names = "--name", description = "What it is called.")
        private String called = "";

        @Option(names = "--everyone", description = "It covers everyone.")
        private boolean everyone;

        @Option(names = "--teams", split = ",", description = "Teams it covers, with commas between.")
        private @Nullable List<String> teams;

        @Option(names = "--roles", split = ",", description = "Roles it covers.")
        private @Nullable List<String> roles;

        @Option(names = "--people", split = ",", description = "Keys of people it covers.")
        private @Nullable List<String> people;

        @Option(names = "--received", description = "on or off: mail that comes in")
        private String received = "";

        @Option(names = "--sent", description = "on or off: mail that our people write")
        private String sent = "";

        @Option(names = "--meetings", description = "none, in, out or both")
        private String meetings = "";

        @Option(names = "--back-days", description = "How many days before connecting are captured.")
        private int back = -1;

        @Option(names = "--ahead-days", description = "How many days ahead meetings are captured.")
        private int ahead = -1;

        @Option(names = "--private", description = "outline or leave-out")
        private String privateItems = "";

        @Option(names = "--cancelled", description = "keep, mark or remove")
        private String cancelled = "";

        @Option(names = "--deleted", description = "keep, mark or remove")
        private String deleted = "";

        @Option(
                names = "--deleted-mail",
                description = "for mail deleted or filed away by its owner: keep, mark or remove")
        private String deletedMail = "";

        @Option(
                names = "--logged-keyword",
                description = "an IMAP keyword that messages get in their mailbox once they are logged; \"\" for none")
        private @Nullable String loggedKeyword;

        @Option(
                names = "--forwarded",
                description = "on: the author of a message passed on by hand counts as if on it; off: they do not")
        private String forwarded = "";

        @Option(names = "--series", description = "each-occurrence or leave-out")
        private String series = "";

        @Option(names = "--tie-break", description = "owner-then-recent, most-recent, oldest, first or all")
        private String tieBreak = "";

        @Option(names = "--sharing", description = "everyone, team, those-on-it or owner")
        private String sharing = "";

        @Option(names = "--every-minutes", description = "Between two looks; 0 for the service's own pace.")
        private int minutes = -1;

        @Option(names = "--times", split = ",", description = "When it is looked at, such as 07:30 (UTC).")
        private @Nullable List<String> times;

        @Option(names = "--days", split = ",", description = "On which days, such as monday.")
        private @Nullable List<String> days;

        @Option(
                names = "--outward",
                split = ",",
                description = "What goes out to calendars of that which is made here: meeting, call, follow-up.")
        private @Nullable List<String> outward;

        @Option(
                names = "--calendar-title",
                description = "What it is called there, such as \"{title} ({account})\"; {with} are the guests.")
        private String title = "";

        @Option(names = "--calendar-rings", description = "on or off: the calendar rings the reminder")
        private String rings = "";

        @Option(names = "--wins", description = "Where both sides changed the same: here, calendar or later.")
        private String wins = "";

        @Option(names = "--deletion-wins", description = "on or off: a deletion stands against a change")
        private String deletionWins = "";

        @Option(names = "--deleted-here", description = "What becomes of the calendar’s own: remove, cancel or keep.")
        private String deletedHere = "";

        @Option(names = "--asks", description = "on or off: guests of what is made here are asked to it")
        private String asks = "";

        @Option(
                names = "--missed-words",
                split = ",",
                description = "Words of a title or a category that say that a meeting did not take place.")
        private @Nullable List<String> missed;

        @Option(
                names = "--folders",
                split = ",",
                description = "Which folders: inbox, sent, archive, and names with * for any characters.")
        private @Nullable List<String> folders;

        @Option(names = "--not-folders", split = ",", description = "And which of those not.")
        private @Nullable List<String> notFolders;

        @Option(names = "--makes", description = "What becomes of strangers by itself: nothing, contacts or leads.")
        private String makes = "";

        @Option(
                names = "--if",
                description =
                        "A condition for that, such as \"meetings at-least 1\" or \"two-way is 1\"; several times for several.")
        private @Nullable List<String> conditions;

        final PolicyRules over(PolicyRules now) {
            AudienceInfo a = now.audience();
            boolean some = teams != null || roles != null || people != null;
            AudienceInfo audience = everyone
                    ? new AudienceInfo(true, List.of(), List.of(), List.of())
                    : some
                            ? new AudienceInfo(
                                    false, or(people, a.people()), or(teams, a.teams()), or(roles, a.roles()))
                            : a;
            return new PolicyRules(
                    or(called, now.name()),
                    audience,
                    onOff(received, now.received()),
                    onOff(sent, now.sent()),
                    or(meetings, now.meetings()),
                    now.contacts(),
                    back < 0 ? now.backDays() : back,
                    ahead < 0 ? now.aheadDays() : ahead,
                    or(privateItems, now.privateItems()),
                    or(cancelled, now.cancelled()),
                    or(deleted, now.deleted()),
                    deletedMail.isEmpty() ? now.deletedMail() : deletedMail,
                    loggedKeyword == null ? now.loggedKeyword() : loggedKeyword,
                    or(series, now.series()),
                    now.matched(),
                    or(tieBreak, now.tieBreak()),
                    forwarded.isEmpty() ? now.forwarded() : Boolean.valueOf(forwarded.equals("on")),
                    or(sharing, now.sharing()),
                    minutes < 0 ? now.everyMinutes() : minutes,
                    or(days, now.days()),
                    or(times, now.times()),
                    or(outward, now.outward()),
                    kept(now.keeping()),
                    folders(now.folders()),
                    creation(now.creation()));
        }

        private @Nullable CreationRules creation(@Nullable CreationRules now) {
            if (makes.isEmpty() && conditions == null) {
                return now;
            }
            return new CreationRules(
                    makes.isEmpty() ? now == null ? "nothing" : now.makes() : makes,
                    conditions == null
                            ? now == null ? List.of() : now.conditions()
                            : conditions.stream()
                                    .filter(c -> !c.isBlank())
                                    .map(Policing::condition)
                                    .toList());
        }

        private @Nullable FolderRules folders(@Nullable FolderRules now) {
            if (folders == null && notFolders == null) {
                return now;
            }
            List<String> include = now == null ? List.of("inbox", "sent", "archive") : now.include();
            return new FolderRules(or(folders, include), or(notFolders, now == null ? List.of() : now.exclude()));
        }

        private @Nullable KeepingRules kept(@Nullable KeepingRules now) {
            KeepingRules is =
                    now == null ? new KeepingRules("{title}", true, "later", false, "remove", false, List.of()) : now;
            KeepingRules wanted = new KeepingRules(
                    or(title, is.title()),
                    onOff(rings, is.calendarRings()),
                    or(wins, is.wins()),
                    onOff(deletionWins, is.deletionWins()),
                    or(deletedHere, is.deletedHere()),
                    onOff(asks, Boolean.TRUE.equals(is.asks())),
                    or(missed, Objects.requireNonNullElse(is.missed(), List.of())));
            return wanted.equals(is) ? now : wanted;
        }

        private static String or(String given, String now) {
            return given.isEmpty() ? now : given;
        }

        private static List<String> or(@Nullable List<String> given, List<String> now) {
            return given == null
                    ? now
                    : given.stream().filter(g -> !g.isBlank()).toList();
        }

        private static boolean onOff(String text, boolean now) {
            return switch (text) {
                case "" -> now;
                case "on" -> true;
                case "off" -> false;
                default -> throw new Trouble(Trouble.USE, "“" + text + "” is neither on nor off");
            };
        }
    }

    @Command(
            name = "set",
            description = "Changes what is given of one policy; with --rehearse, only says what that would do.")
    static final class SetRules extends WithRules {
        @Option(names = "--rehearse", description = "Says what it would do, and does nothing.")
        private boolean rehearse;

        @Override
        public Integer call() {
            PolicyInfo now = policy();
            PolicyRules wanted = over(now.rules());
            if (rehearse) {
                return Rehearsing.rehearse(
                        main().http(),
                        out(),
                        new Change(now.id(), now.version(), wanted, null, null, null, null, null));
            }
            return say(
                    wanted.equals(now.rules())
                            ? now
                            : main().http()
                                    .send(
                                            "PUT",
                                            "/api/policies/" + now.id(),
                                            new PolicyChange(now.version(), wanted),
                                            PolicyInfo.class));
        }
    }

    @Command(
            name = "add",
            description = "Adds a policy before all others, switched off; what is not given is the safe default.")
    static final class Add extends WithRules {
        private static PolicyRules safe(String name) {
            return new PolicyRules(
                    name,
                    new AudienceInfo(false, List.of(), List.of(), List.of()),
                    true,
                    true,
                    "in",
                    "none",
                    90,
                    60,
                    "outline",
                    "remove",
                    "remove",
                    "keep",
                    "",
                    "each-occurrence",
                    List.of("contact", "lead", "account", "opportunity"),
                    "owner-then-recent",
                    false,
                    "everyone",
                    0,
                    List.of(),
                    List.of(),
                    List.of(),
                    null,
                    null,
                    null);
        }

        @Override
        public Integer call() {
            return say(main().http().send("POST", "/api/policies", over(safe(name)), PolicyInfo.class));
        }
    }
}
