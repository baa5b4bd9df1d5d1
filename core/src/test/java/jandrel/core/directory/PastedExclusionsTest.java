package jandrel.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.directory.Exclusion.Kind;
import jandrel.core.directory.PastedExclusions.Line;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PastedExclusionsTest {
    private static final Set<String> OWN = Set.of("@corvane.example");

    private static List<Line> read(String text) {
        return PastedExclusions.read(text, null, OWN);
    }

    private static Line one(String text) {
        List<Line> lines = read(text);
        assertThat(lines).hasSize(1);
        return lines.get(0);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            Bram@Port.EXAMPLE | ADDRESS | bram@port.example
            Bram Holm <bram@port.example> | ADDRESS | bram@port.example
            port.example | DOMAIN | @port.example
            @port.example | DOMAIN | @port.example
            *.port.example | DOMAIN | @port.example
            news-*@port.example | PATTERN | news-*@port.example
            domain-alone: port.example | DOMAIN_ALONE | @port.example
            header: X-Loop:   Tide | HEADER | x-loop: tide
            list: <buoys.lists.port.example> | LIST | buoys.lists.port.example
            category: Holiday | CATEGORY | holiday
            class: Private | CLASS | private
            title: 1:1, with  coach! | TITLE | 1 1 with coach""")
    void itIsReadAsItLooksOrAsItSays(String text, Kind kind, String what) {
        Line line = one(text);
        assertThat(line.problem()).isEmpty();
        assertThat(line.kind()).isEqualTo(kind);
        assertThat(line.what()).isEqualTo(what);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "not an address",
                "corvane.example",
                "domain-alone: corvane.example",
                "com",
                "co.uk",
                "*@*.example*",
                "*@*",
                "*@corvane.example",
                "class: secret",
                "header: no-value",
                "address: nobody",
                "title: !!!"
            })
    void whatDoesNotFitSaysWhyAndTakesNothing(String text) {
        assertThat(one(text).problem()).isNotEmpty();
        assertThat(one(text).what()).isEmpty();
    }

    @Test
    void severalStandOnALineAndLinesAreCounted() {
        assertThat(read("a@x.example, b@x.example;c.example\r\n\r\n  d@x.example"))
                .extracting(Line::line)
                .containsExactly(1, 1, 1, 3);
    }

    @Test
    void aTitleKeepsItsCommas() {
        assertThat(one("title: Lunch, then swim").what()).isEqualTo("lunch then swim");
        assertThat(PastedExclusions.read("Lunch, then swim", Kind.TITLE, OWN)).hasSize(1);
    }

    @Test
    void whatIsTooLongIsRefused() {
        assertThat(one("category: " + "x".repeat(201)).problem()).contains("longer");
    }

    /** Whatever is pasted, each line either fits, with something to exclude, or says why not. */
    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3})
    void noTextBreaksIt(int seed) {
        Random random = new Random(seed);
        String alphabet = "ab@.*?<>,;: \n\r\té\u0000-x1com";
        for (int i = 0; i < 2_000; i++) {
            StringBuilder text = new StringBuilder();
            for (int n = random.nextInt(40); n > 0; n--) {
                text.append(alphabet.charAt(random.nextInt(alphabet.length())));
            }
            for (Line line : read(text.toString())) {
                assertThat(line.fits())
                        .as(text.toString())
                        .isEqualTo(!line.what().isEmpty());
            }
        }
    }
}
