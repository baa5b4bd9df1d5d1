package jandrel.client;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** What somebody is told who asks how, or types what cannot be understood: no service is asked for that. */
class MisuseTest {
    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();

    private int run(String... arguments) {
        return JandrelClient.run(Map.of(), new PrintStream(out, true), new PrintStream(err, true), arguments);
    }

    private String printed() {
        return out.toString(StandardCharsets.UTF_8);
    }

    private String complained() {
        return err.toString(StandardCharsets.UTF_8);
    }

    static Stream<String> commands() {
        return JandrelClient.whole(Map.of(), System.out).getSubcommands().keySet().stream();
    }

    /** Each stands in one group, and its example is one that it takes. */
    @ParameterizedTest
    @MethodSource("commands")
    void aCommandHasItsPlaceInTheHelpAndAnExampleThatWorks(String name) {
        List<String> examples = HelpPages.GROUPS.values().stream()
                .filter(commands -> commands.containsKey(name))
                .map(commands -> commands.get(name))
                .toList();
        assertThat(examples).hasSize(1);
        List<String> words = new ArrayList<>();
        Matcher word = Pattern.compile("\"([^\"]*)\"|(\\S+)").matcher(examples.get(0));
        while (word.find()) {
            words.add(word.group(1) == null ? word.group(2) : word.group(1));
        }
        assertThat(words.get(0)).isEqualTo(name);
        JandrelClient.whole(Map.of(), System.out).parseArgs(words.toArray(String[]::new));
        assertThat(run("help", name)).isZero();
        assertThat(printed()).contains("Example", "jandrel " + examples.get(0));
    }

    @Test
    void theHelpHasHeadingsAndNothingThatIsNoCommand() {
        assertThat(run("help")).isZero();
        assertThat(printed())
                .contains("Look around", "Ask why", "Connections", "Exit codes")
                .doesNotContain("Commands:");
        List<String> known = commands().toList();
        HelpPages.GROUPS.values().forEach(group -> assertThat(known).containsAll(group.keySet()));
    }

    @ParameterizedTest
    @CsvSource({
        "timelin,there is no command “timelin”; did you mean timeline?",
        "exclud,there is no command “exclud”; did you mean exclude?",
        "qqqqqq,there is no command “qqqqqq”"
    })
    void anUnknownCommandSuggestsTheNearest(String wrong, String said) {
        assertThat(run(wrong)).isEqualTo(Trouble.USE);
        assertThat(complained()).contains(said, "see “jandrel help”");
    }

    @ParameterizedTest
    @CsvSource({
        "imports undo nonsense,ID: “nonsense” is no id; see “jandrel imports undo --help”",
        "journal list --limit x,--limit: “x” is no whole number that fits; see “jandrel journal list --help”",
        "journal list --limit 99999999999,--limit: “99999999999” is no whole number",
        "show,ACTIVITY is missing; see “jandrel help show”",
        "readers add x,--as is missing; see “jandrel readers add --help”",
        "help list,there is no command “list”; see “jandrel help”"
    })
    void whatCannotBeUnderstoodIsSaidPlainly(String typed, String said) {
        assertThat(run(typed.split(" ", -1))).isEqualTo(Trouble.USE);
        assertThat(complained()).contains(said);
    }
}
