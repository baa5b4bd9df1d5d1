package jandrel.client;

import java.util.List;
import java.util.UUID;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import picocli.CommandLine;
import picocli.CommandLine.Model.ArgSpec;
import picocli.CommandLine.Model.OptionSpec;

/** Command lines that cannot be understood, in words. */
final class Misuse {
    /** As the library says it of what follows “help”. */
    private static final Pattern UNKNOWN = Pattern.compile("Unknown subcommand '(.*)'\\.?");

    private Misuse() {}

    /** What is wrong, and what may have been meant. */
    static String what(CommandLine.ParameterException wrong) {
        if (wrong instanceof CommandLine.UnmatchedArgumentException unmatched) {
            return unmatched(unmatched);
        }
        if (wrong instanceof CommandLine.MissingParameterException missing
                && !missing.getMissing().isEmpty()) {
            return missing.getMissing().stream().map(Misuse::named).collect(Collectors.joining(" and "))
                    + (missing.getMissing().size() == 1 ? " is missing" : " are missing");
        }
        ArgSpec of = wrong.getArgSpec();
        String typed = wrong.getValue();
        if (of != null && typed != null) {
            Class<?> type = of.auxiliaryTypes()[0];
            if (type == UUID.class) {
                return named(of) + ": “" + Table.printable(typed) + "” is no id";
            }
            if (type == int.class || type == Integer.class || type == long.class || type == Long.class) {
                return named(of) + ": “" + Table.printable(typed) + "” is no whole number that fits";
            }
        }
        Matcher unknown = UNKNOWN.matcher(String.valueOf(wrong.getMessage()));
        return unknown.matches()
                ? "there is no command “" + unknown.group(1) + "”"
                : String.valueOf(wrong.getMessage());
    }

    private static String unmatched(CommandLine.UnmatchedArgumentException unmatched) {
        List<String> suggestions = unmatched.getSuggestions();
        String first = unmatched.getUnmatched().get(0);
        String wrongly = unmatched.getCommandLine().getSubcommands().isEmpty() || first.startsWith("-")
                ? "there is nothing for “" + first + "” here"
                : "there is no command “" + first + "”";
        return suggestions.isEmpty() ? wrongly : wrongly + "; did you mean " + suggestions.get(0) + "?";
    }

    private static String named(ArgSpec of) {
        return of instanceof OptionSpec option ? option.longestName() : of.paramLabel();
    }

    /** What tells more: “jandrel help” knows the commands, and not what is within one. */
    static String help(CommandLine line) {
        String[] words = line.getCommandSpec().qualifiedName().split(" ", -1);
        return words.length > 2
                ? String.join(" ", words) + " --help"
                : words.length == 2 ? "jandrel help " + words[1] : "jandrel help";
    }
}
