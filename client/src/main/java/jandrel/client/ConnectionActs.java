package jandrel.client;

import jandrel.api.ConnectionApi.ActOutcome;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.ManyConnections;
import jandrel.api.ConnectionApi.NewPassword;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What is done with connections that are there: one, some, or all of a team or a state. */
final class ConnectionActs {
    private static final String PATH = "/api/connections";

    private ConnectionActs() {}

    /** A command about some connections. */
    abstract static class OfSome extends Ask {
        @Parameters(
                paramLabel = "CONNECTION",
                arity = "0..*",
                description = "Ids, as “jandrel connections” lists them.")
        private List<UUID> ids = List.of();

        @Option(names = "--all", description = "All of them, or all in a state or of a team.")
        private boolean all;

        @Option(names = "--state", description = "With --all: those in this state alone, such as needs-sign-in.")
        private String state = "";

        @Option(names = "--team", description = "With --all: those of this team’s people alone.")
        private String team = "";

        final int act(String what, String done) {
            if (all != ids.isEmpty() || (!all && !(state + team).isEmpty())) {
                throw new Trouble(Trouble.USE, "give ids, or --all; --state and --team go with --all");
            }
            List<UUID> whose = all ? those() : ids;
            if (whose.isEmpty()) {
                throw new Trouble(Trouble.NO, "no connection fits");
            }
            ActOutcome[] outcomes =
                    main().http().send("POST", PATH + "/acts", new ManyConnections(whose, what), ActOutcome[].class);
            if (out().json()) {
                out().objects(List.of(outcomes));
            }
            long problems = 0;
            for (ActOutcome o : outcomes) {
                if (!o.problem().isEmpty()) {
                    problems++;
                    out().say((o.account().isEmpty() ? o.connection().toString() : o.account()) + ": " + o.problem()
                            + ".");
                }
            }
            long fine = outcomes.length - problems;
            out().say(String.format("%,d %s %s.", fine, fine == 1 ? "connection" : "connections", done));
            return problems > 0 ? Trouble.NO : 0;
        }

        private List<UUID> those() {
            return Arrays.stream(main().http().get(PATH, Map.of(), ConnectionInfo[].class))
                    .filter(c -> !c.kind().equals("here"))
                    .filter(c -> state.isEmpty() || c.state().equals(state))
                    .filter(c -> team.isEmpty() || c.team().equals(team))
                    .map(ConnectionInfo::id)
                    .toList();
        }
    }

    @Command(name = "look", description = "Syncs connections now.")
    static final class SyncNow extends OfSome {
        @Override
        public Integer call() {
            return act("sync", "synced now");
        }
    }

    @Command(name = "pause", description = "Pauses connections.")
    static final class Pause extends OfSome {
        @Override
        public Integer call() {
            return act("pause", "paused");
        }
    }

    @Command(name = "resume", description = "Resumes connections; what arrived meanwhile is caught up with.")
    static final class Resume extends OfSome {
        @Override
        public Integer call() {
            return act("resume", "captured again");
        }
    }

    @Command(name = "remind", description = "Asks people by mail to sign in where a connection waits for them.")
    static final class Remind extends OfSome {
        @Override
        public Integer call() {
            return act("remind", "reminded of");
        }
    }

    @Command(name = "accept", description = "Takes an account that is none of the person's known addresses as theirs.")
    static final class Accept extends ConnectionCommands.OfOne {
        @Override
        public Integer call() {
            ConnectionInfo now =
                    main().http().send("POST", PATH + "/" + id + "/accept", Map.of(), ConnectionInfo.class);
            if (out().json()) {
                out().objects(List.of(now));
            }
            out().say(now.account() + " is taken as " + now.personName() + "’s.");
            return 0;
        }
    }

    @Command(
            name = "new-password",
            description = "Gives a connection a new password; it comes from JANDREL_SECRET or the terminal.")
    static final class GivePassword extends ConnectionCommands.OfOne {
        @Override
        public Integer call() {
            String secret = Typed.secret(main(), "JANDREL_SECRET", "Password: ");
            main().http().tell("POST", PATH + "/" + id + "/password", new NewPassword(secret));
            out().say("It is tried now; “jandrel connections” says how it went.");
            return 0;
        }
    }
}
