package jandrel.client;

import jandrel.api.SessionApi.InvitePeople;
import jandrel.api.SessionApi.Invited;
import jandrel.api.SessionApi.NewSignIn;
import jandrel.api.SessionApi.NewToken;
import jandrel.api.SessionApi.PasswordChange;
import jandrel.api.SessionApi.RoleChoice;
import jandrel.api.SessionApi.SessionInfo;
import jandrel.api.SessionApi.SignInInfo;
import jandrel.api.SessionApi.Token;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Who gets in: everybody's sign-ins, and one's own password, sessions and tokens. */
final class SignInCommands {
    private SignInCommands() {}

    private static SignInInfo called(Http http, String login) {
        return Arrays.stream(http.get("/api/sign-ins", Map.of(), SignInInfo[].class))
                .filter(s -> s.login().equalsIgnoreCase(login))
                .findFirst()
                .orElseThrow(() ->
                        new Trouble(Trouble.NO, "there is no sign-in “" + login + "”; “jandrel sign-ins” lists them"));
    }

    private static String when(Out out, @Nullable Instant at) {
        return at == null ? "" : out.time(at);
    }

    @Command(name = "sign-ins", description = "Everybody who can sign in, and how each stands.")
    static final class All extends Ask {
        @Option(names = "--state", description = "active, elsewhere, invited, first-password, program or ended.")
        private String state = "";

        @Override
        public Integer call() {
            List<SignInInfo> all = List.of(main().http().get("/api/sign-ins", Map.of(), SignInInfo[].class));
            List<SignInInfo> shown = all.stream()
                    .filter(s -> state.isEmpty() || s.state().equals(state))
                    .toList();
            if (out().json()) {
                out().objects(shown);
                return shown.isEmpty() ? Trouble.NO : 0;
            }
            Table table = new Table("login", "name", "role", "looks after", "team", "state", "last seen", ">sessions");
            for (SignInInfo s : shown) {
                table.row(
                        s.login(),
                        s.name(),
                        s.role(),
                        oversight(s),
                        s.team(),
                        state(s),
                        when(out(), s.lastSeen()),
                        s.sessions());
            }
            return listed(out(), table, shown.size(), shown.size(), "sign-ins");
        }

        private static String oversight(SignInInfo s) {
            return s.teams() == null ? "" : String.join(", ", s.teams());
        }

        private String state(SignInInfo s) {
            String at = s.providers().isEmpty() ? "" : "signs in with " + String.join(", ", s.providers());
            return at.isEmpty() ? ownState(s) : s.state().equals("active") ? at + ", has a password" : at;
        }

        private String ownState(SignInInfo s) {
            return switch (s.state()) {
                case "active" -> "has a password";
                case "first-password" -> "has to choose a password";
                case "invited" ->
                    s.invitedUntil() == null ? "invitation is over" : "invited until " + out().time(s.invitedUntil());
                default -> s.state();
            };
        }
    }

    @Command(
            name = "invite",
            description =
                    "Invites people by mail: each chooses a password at an address that works once, within seven days.")
    static final class Invite extends Ask {
        @Parameters(paramLabel = "PERSON", arity = "0..*", description = "Keys or addresses.")
        private List<String> people = List.of();

        @Option(names = "--all", description = "Everybody who has no sign-in.")
        private boolean all;

        @Option(names = "--again", description = "Those who were invited already: the address before works no more.")
        private boolean again;

        @Option(
                names = "--role",
                description = "administrator, manager, rep or auditor; else what each is in the directory.")
        private String role = "";

        @Override
        public Integer call() {
            if (all != people.isEmpty() || (again && all)) {
                throw new Trouble(Trouble.USE, "give people, or --all; --again goes with people");
            }
            if (again) {
                for (String login : people) {
                    main().http()
                            .tell(
                                    "POST",
                                    "/api/sign-ins/"
                                            + called(main().http(), login).id() + "/invite",
                                    Map.of());
                    out().say("Another letter to " + login + " is on its way.");
                }
                return 0;
            }
            Invited[] outcomes = main().http()
                    .send(
                            "POST",
                            "/api/sign-ins/invite",
                            new InvitePeople(people, role.isEmpty() ? null : role),
                            Invited[].class);
            boolean problems = false;
            for (Invited one : outcomes) {
                problems |= !one.problem().isEmpty();
                out().say(
                                one.problem().isEmpty()
                                        ? "A letter to " + one.login() + " is on its way."
                                        : one.person() + " is not invited: " + one.problem() + ".");
            }
            if (outcomes.length == 0) {
                out().say("Everybody has a sign-in.");
            }
            return problems ? Trouble.NO : 0;
        }
    }

    @Command(
            name = "set-role",
            description = "Sets what somebody may do here; a manager or an auditor can be there for some teams alone.")
    static final class SetRole extends Ask {
        @Parameters(index = "0", paramLabel = "LOGIN", description = "Whose role.")
        private String login = "";

        @Parameters(index = "1", paramLabel = "ROLE", description = "administrator, manager, rep or auditor.")
        private String role = "";

        @Option(
                names = "--team",
                paramLabel = "TEAM",
                description = "Their lists hold this team alone; may be repeated.")
        private List<String> teams = List.of();

        @Override
        public Integer call() {
            SignInInfo signIn = called(main().http(), login);
            main().http()
                    .tell(
                            "PUT",
                            "/api/sign-ins/" + signIn.id() + "/role",
                            new RoleChoice(role, teams.isEmpty() ? null : teams));
            out().say(signIn.name() + " is " + role + " now"
                    + (teams.isEmpty() ? "." : "; their lists hold " + String.join(", ", teams) + "."));
            return 0;
        }
    }

    @Command(
            name = "add-sign-in",
            description = "Adds a sign-in for somebody who is not of the company, or for a program.")
    static final class Add extends Ask {
        @Parameters(paramLabel = "LOGIN", description = "What it signs in with.")
        private String login = "";

        @Option(names = "--name", required = true, description = "Whose it is.")
        private String name = "";

        @Option(names = "--role", required = true, description = "administrator, manager, rep or auditor.")
        private String role = "";

        @Option(names = "--program", description = "It has tokens alone, and no password.")
        private boolean program;

        @Override
        public Integer call() {
            String password = program ? "" : Typed.secret(main(), "JANDREL_NEW_PASSWORD", "Password: ");
            main().http()
                    .send(
                            "POST",
                            "/api/sign-ins",
                            new NewSignIn(login, name, program ? null : password, role, null, program),
                            SignInInfo.class);
            out().say(
                            program
                                    ? name + " is added; “jandrel create-token LABEL --of " + login
                                            + " --may …” creates one for it."
                                    : name + " can sign in as " + login + ".");
            return 0;
        }
    }

    @Command(
            name = "end-sign-in",
            description = "Ends a sign-in: password, sessions, tokens and secret addresses stop at once.")
    static final class End extends Ask {
        @Parameters(paramLabel = "LOGIN", description = "Whose.")
        private String login = "";

        @Option(names = "--left", description = "The person has left: cover ends today, connections are paused.")
        private boolean left;

        @Override
        public Integer call() {
            SignInInfo signIn = called(main().http(), login);
            UUID person = signIn.person();
            if (left && person == null) {
                throw new Trouble(Trouble.NO, login + " is nobody of the company; leave --left out");
            }
            main().http()
                    .send("POST", left ? "/api/people/" + person + "/left" : "/api/sign-ins/" + signIn.id() + "/end");
            out().say(signIn.name() + (left ? " has left: no way in is open." : " cannot sign in any more."));
            return 0;
        }
    }

    @Command(name = "password", description = "Changes your password; every other session of yours ends.")
    static final class Password extends Ask {
        @Override
        public Integer call() {
            String current = Typed.secret(main(), "JANDREL_PASSWORD", "Current password: ");
            String wanted = Typed.secret(main(), "JANDREL_NEW_PASSWORD", "New password: ");
            main().http().tell("PUT", "/api/session/password", new PasswordChange(current, wanted));
            out().say("Your password is changed; every other session has ended.");
            return 0;
        }
    }

    /** One's own, or those of somebody else. */
    private static String path(Http http, String of) {
        return of.isEmpty()
                ? "/api/session/tokens"
                : "/api/sign-ins/" + called(http, of).id() + "/tokens";
    }

    @Command(name = "sessions", description = "What is signed in: consoles, clients and tokens.")
    static final class Sessions extends Ask {
        @Option(names = "--of", paramLabel = "LOGIN", description = "Somebody else's, for an administrator.")
        private String of = "";

        @Override
        public Integer call() {
            List<SessionInfo> all = List.of(main().http().get(path(main().http(), of), Map.of(), SessionInfo[].class));
            if (out().json()) {
                out().objects(all);
                return all.isEmpty() ? Trouble.NO : 0;
            }
            Table table = new Table("what", "may", "last used", "from", "ends", "id");
            for (SessionInfo s : all) {
                table.row(
                        s.kind()
                                + (s.label().isEmpty() ? "" : " “" + s.label() + "”")
                                + (s.current() ? " (this one)" : ""),
                        s.scopes().isEmpty() ? "everything you may" : String.join(", ", s.scopes()),
                        when(out(), s.lastUsed()),
                        s.place(),
                        out().time(s.expiresAt()),
                        s.id());
            }
            return listed(out(), table, all.size(), all.size(), "sessions");
        }
    }

    @Command(name = "end-session", description = "Ends one session or token.")
    static final class EndSession extends Ask {
        @Parameters(paramLabel = "ID", description = "As “jandrel sessions” lists it.")
        private String session = "";

        @Option(names = "--of", paramLabel = "LOGIN", description = "Somebody else's, for an administrator.")
        private String of = "";

        @Override
        public Integer call() {
            main().http().send("DELETE", path(main().http(), of) + "/" + id(session));
            out().say("Ended.");
            return 0;
        }
    }

    @Command(name = "create-token", description = "Creates a token for a program, and prints it this once.")
    static final class CreateToken extends Ask {
        @Parameters(paramLabel = "LABEL", description = "What it is for.")
        private String label = "";

        @Option(
                names = "--may",
                required = true,
                split = ",",
                description = "read, capture, directory, policy, scim, measures.")
        private List<String> scopes = List.of();

        @Option(names = "--days", defaultValue = "90", description = "Until it ends; 90 if not given, 366 at most.")
        private int days;

        @Option(names = "--of", paramLabel = "LOGIN", description = "A program's sign-in, for an administrator.")
        private String of = "";

        @Override
        public Integer call() {
            Token token =
                    main().http().send("POST", path(main().http(), of), new NewToken(label, days, scopes), Token.class);
            if (out().json()) {
                out().objects(List.of(token));
            } else {
                out().say(token.token());
            }
            return 0;
        }
    }
}
