package jandrel.client;

import java.io.BufferedReader;
import java.io.Console;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;

/** What somebody types when asked. */
final class Typed {
    /** Several secrets may come on standard input, a line each. */
    private static final BufferedReader LINES =
            new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));

    private Typed() {}

    /**
     * From the environment, a terminal, or else a line of standard input: never from the command line, where others can read it.
     *
     * @param variable of the environment
     */
    static String secret(ClientContext main, String variable, String prompt) {
        String given = main.home().variable(variable);
        if (!given.isEmpty()) {
            return given;
        }
        Console console = System.console();
        if (console != null) {
            char[] typed = console.readPassword(prompt);
            return typed == null ? "" : new String(typed);
        }
        try {
            String line = LINES.readLine();
            if (line != null) {
                return line;
            }
        } catch (IOException closed) {
            // said below
        }
        throw new Trouble(Trouble.USE, "give it in " + variable + ", or on standard input");
    }
}
