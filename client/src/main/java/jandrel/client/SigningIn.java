package jandrel.client;

import jandrel.api.SessionApi.Credentials;
import jandrel.api.SessionApi.Token;
import java.io.Console;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** Signing in and out. */
final class SigningIn {
    private SigningIn() {}

    @Command(
            name = "sign-in",
            description = "Signs in once; the token is kept in your config folder, readable by you alone.")
    static final class In extends Ask {
        @Option(names = "--url", required = true, description = "Where the service is, such as http://127.0.0.1:8740")
        private String url = "";

        @Option(names = "--login", description = "Your login; asked for if not given.")
        private String login = "";

        @Option(
                names = "--token",
                description =
                        "With a token from “Your sign-in” in the console, in place of a password; asked for, or JANDREL_TOKEN.")
        private boolean token;

        @Option(
                names = "--code",
                description = "With a code of the second factor besides the password; asked for, or JANDREL_CODE.")
        private boolean code;

        @Override
        public Integer call() {
            if (token) {
                return withToken();
            }
            String who = login.isEmpty() ? ask("Login: ") : login;
            String secret = Typed.secret(main(), "JANDREL_PASSWORD", "Password: ");
            Token token = new Http(new Home.SignIn(url, ""))
                    .send(
                            "POST",
                            "/api/tokens",
                            new Credentials(
                                    who,
                                    secret,
                                    "",
                                    main().home().device(url),
                                    code ? Typed.secret(main(), "JANDREL_CODE", "Code: ") : null),
                            Token.class);
            main().home().keepDevice(url, token.device());
            String file =
                    main().home().keep(new Home.SignIn(url, token.token())).toString();
            jandrel.client.Out out = main().out();
            out.say("Signed in as " + who + " until " + out.time(token.expiresAt()) + "; the token is kept in " + file
                    + ".");
            return 0;
        }

        private int withToken() {
            Home.SignIn signIn = new Home.SignIn(url, Typed.secret(main(), "JANDREL_TOKEN", "Token: "));
            var me = new Http(signIn).get("/api/session", Map.of(), jandrel.api.SessionApi.Whoami.class);
            main().out()
                    .say("Signed in as " + me.login() + " by a token, which is kept in "
                            + main().home().keep(signIn) + ".");
            return 0;
        }

        private static String ask(String prompt) {
            Console console = System.console();
            if (console == null) {
                throw new Trouble(Trouble.USE, "give --login: there is no terminal to ask on");
            }
            return String.valueOf(console.readLine(prompt));
        }
    }

    @Command(name = "whoami", description = "Says who is signed in.")
    static final class Whoami extends Ask {
        @Override
        public Integer call() {
            var me = main().http().get("/api/session", Map.of(), jandrel.api.SessionApi.Whoami.class);
            if (main().out().json()) {
                main().out().objects(List.of(me));
            }
            main().out()
                    .say(me.name() + " (" + me.login() + "), " + me.role() + ", at "
                            + main().home().signIn().url());
            return 0;
        }
    }

    @Command(name = "sign-out", description = "Signs out: the service forgets the token, and so does this machine.")
    static final class Out extends Ask {
        @Override
        public Integer call() {
            main().http().send("DELETE", "/api/tokens/current");
            main().home().forget();
            main().out().say("Signed out.");
            return 0;
        }
    }
}
