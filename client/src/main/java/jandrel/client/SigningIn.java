package jandrel.client;

import jandrel.api.SessionApi.Credentials;
import jandrel.api.SessionApi.Token;
import java.io.BufferedReader;
import java.io.Console;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
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

        @Override
        public Integer call() {
            String who = login.isEmpty() ? ask("Login: ") : login;
            String password = main().home().variable("JANDREL_PASSWORD");
            String secret = password.isEmpty() ? askSecretly() : password;
            Token token = new Http(new Home.SignIn(url, ""))
                    .send("POST", "/api/tokens", new Credentials(who, secret, "client"), Token.class);
            String file =
                    main().home().keep(new Home.SignIn(url, token.token())).toString();
            jandrel.client.Out out = main().out();
            out.say("Signed in as " + who + " until " + out.time(token.expiresAt()) + "; the token is kept in " + file
                    + ".");
            return 0;
        }

        private static String ask(String prompt) {
            Console console = System.console();
            if (console == null) {
                throw new Trouble(Trouble.USE, "give --login: there is no terminal to ask on");
            }
            return String.valueOf(console.readLine(prompt));
        }

        /** From a terminal, else one line of standard input: never from the command line, where others can read it. */
        private static String askSecretly() {
            Console console = System.console();
            if (console != null) {
                char[] typed = console.readPassword("Password: ");
                return typed == null ? "" : new String(typed);
            }
            try {
                String line = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8)).readLine();
                if (line != null) {
                    return line;
                }
            } catch (IOException closed) {
                // said below
            }
            throw new Trouble(Trouble.USE, "give the password in JANDREL_PASSWORD or on standard input");
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
