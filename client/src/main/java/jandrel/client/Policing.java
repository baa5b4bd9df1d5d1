package jandrel.client;

import jandrel.api.PolicyApi.AudienceInfo;
import jandrel.api.PolicyApi.PolicyChange;
import jandrel.api.PolicyApi.PolicyInfo;
import jandrel.api.PolicyApi.PolicyOrder;
import jandrel.api.PolicyApi.PolicyRules;
import jandrel.api.PolicyApi.VersionInfo;
import jandrel.api.RehearsalApi.Change;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Policies, and who is covered by them. */
final class Policing {
    private Policing() {}

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
                WouldOpenCommand.class,
                PolicyFile.Export.class,
                PolicyFile.Apply.class
            })
    static final class Policy extends Ask {
        @Override
        public Integer call() {
            return list(this);
        }
    }

    private static int list(Ask ask) {
        List<PolicyInfo> all = OnePolicy.all(ask.main().http());
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
        return Ask.listed(ask.out(), table, all.size(), all.size(), "policies");
    }

    @Command(name = "list", description = "All policies in their order: the first that has a person counts.")
    static final class ListAll extends Ask {
        @Override
        public Integer call() {
            return list(this);
        }
    }

    @Command(name = "show", description = "What one policy says, in sentences.")
    static final class Show extends OnePolicy {
        @Override
        public Integer call() {
            return say(policy());
        }
    }

    @Command(name = "on", description = "Switches it on: from now on its people are captured.")
    static final class On extends OnePolicy {
        @Override
        public Integer call() {
            return act("on");
        }
    }

    @Command(name = "off", description = "Switches it off: nothing new is captured, what stands stays.")
    static final class Off extends OnePolicy {
        @Override
        public Integer call() {
            return act("off");
        }
    }

    @Command(name = "archive", description = "Puts it away: it covers nobody any more, what stands stays.")
    static final class Archive extends OnePolicy {
        @Override
        public Integer call() {
            return act("archive");
        }
    }

    @Command(name = "restore", description = "Takes it out of the archive.")
    static final class Restore extends OnePolicy {
        @Override
        public Integer call() {
            return act("restore");
        }
    }

    @Command(name = "duplicate", description = "Makes a copy of it that is off and covers nobody.")
    static final class Duplicate extends OnePolicy {
        @Override
        public Integer call() {
            return act("duplicate");
        }
    }

    @Command(name = "versions", description = "Every version of it: who changed what, and when.")
    static final class Versions extends OnePolicy {
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
    static final class Back extends OnePolicy {
        @Option(names = "--to", required = true, description = "The version.")
        private int version;

        @Override
        public Integer call() {
            return act("versions/" + version + "/back");
        }
    }

    @Command(name = "order", description = "Sets the order: the first policy that has a person counts.")
    static final class Order extends Ask {
        @Parameters(paramLabel = "POLICY", arity = "1..*", description = "All names, the first one first.")
        private List<String> names = List.of();

        @Override
        public Integer call() {
            Http http = main().http();
            List<UUID> ids =
                    names.stream().map(n -> OnePolicy.find(http, n).id()).toList();
            http.send("PUT", "/api/policies/order", new PolicyOrder(ids), PolicyInfo[].class);
            return list(this);
        }
    }

    @Command(
            name = "set",
            description = "Changes what is given of one policy; with --rehearse, only says what that would do.")
    static final class SetRules extends PolicyOptions {
        @Option(names = "--rehearse", description = "Says what it would do, and does nothing.")
        private boolean rehearse;

        @Override
        public Integer call() {
            PolicyInfo now = policy();
            PolicyRules wanted = over(now.rules());
            if (rehearse) {
                return RehearsalCommands.rehearse(
                        main().http(),
                        out(),
                        new Change(now.id(), now.version(), wanted, null, null, null, null, null));
            }
            if (wanted.equals(now.rules())) {
                out().say("“" + now.rules().name() + "” says that already; nothing is changed.");
                return 0;
            }
            PolicyInfo changed = main().http()
                    .send(
                            "PUT",
                            "/api/policies/" + now.id(),
                            new PolicyChange(now.version(), wanted),
                            PolicyInfo.class);
            return out().json() ? say(changed) : sayDifferences(changed);
        }

        private int sayDifferences(PolicyInfo changed) {
            VersionInfo[] all =
                    main().http().get("/api/policies/" + changed.id() + "/versions", Map.of(), VersionInfo[].class);
            for (VersionInfo v : all) {
                if (v.version() == changed.version()) {
                    out().say("“" + changed.rules().name() + "” is at version " + v.version() + " now:");
                    v.differences().forEach(d -> out().say("  " + d));
                }
            }
            return 0;
        }
    }

    @Command(
            name = "add",
            description = "Adds a policy before all others, switched off; what is not given is the safe default.")
    static final class Add extends PolicyOptions {
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
