package jandrel.core.search;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MarksTest {
    private static List<String> marked(Marks.Line line) {
        return line.marks().stream()
                .map(m -> line.text().substring(m.from(), m.from() + m.length()))
                .toList();
    }

    private static Sought words(String... words) {
        return new Sought(Set.of(words), List.of());
    }

    @Test
    void ofAPhraseOnlyWhatStandsTogetherIsMarked() throws Exception {
        String text = "The buoys and the quay: the Quay of the buoys.";
        List<SearchQuery.Term> phrases =
                SearchQuery.parse("\"the quay of the bu*\"").terms();
        assertThat(marked(Marks.line(text, new Sought(Set.of("and"), phrases), 160)))
                .containsExactly("and", "the", "Quay", "of", "the", "buoys");
    }

    @Test
    void theLineIsAroundWhatWasFound() {
        String text = "Hello,\n\n" + "all is well here and there. ".repeat(20) + "The Büoys lie at the quay.\n"
                + "More. ".repeat(60);
        Marks.Line line = Marks.line(text, words("buoys", "quay"), 160);
        assertThat(marked(line)).containsExactly("Büoys", "quay");
        assertThat(line.text()).startsWith("…").endsWith("…").hasSizeLessThanOrEqualTo(162);
    }

    @Test
    void wordsTogetherComeBeforeOneAlone() {
        String text = "A quay. " + "Nothing of it. ".repeat(40) + "Buoys at the quay.";
        assertThat(marked(Marks.line(text, words("buoys", "quay"), 120))).containsExactly("Buoys", "quay");
    }

    @Test
    void whatIsFoundElsewhereLeavesTheBeginning() {
        assertThat(Marks.line("Good\n\nmorning", words("buoys"), 160))
                .isEqualTo(new Marks.Line("Good morning", List.of()));
    }

    @Test
    void accentsThatAreLettersOfTheirOwnAreMarkedWhole() {
        String text = "cafe\u0301 A\u0308rger";
        assertThat(marked(new Marks.Line(text, Marks.of(text, words("cafe", "arger")))))
                .containsExactly("cafe\u0301", "A\u0308rger");
    }

    /** Whatever the text, a line is bounded and its marks are words that were found. */
    @Test
    void marksAreWithinTheirLine() {
        Random random = new Random(7);
        for (int i = 0; i < 2_000; i++) {
            String text = random.ints(random.nextInt(400), 0, 12)
                    .mapToObj(c -> List.of(" ", "a", "b", "\n", "é", "\ud83d\ude00", "ß", "\u0301", "-", "c", " ", "x")
                            .get(c))
                    .collect(Collectors.joining());
            Set<String> found = Set.of("a", "ab", "ss", "e", "x");
            Marks.Line line = Marks.line(text, new Sought(found, List.of()), 60);
            assertThat(line.text().length()).isLessThanOrEqualTo(62);
            for (String word : marked(line)) {
                assertThat(Folding.words(word)).hasSize(1).allMatch(found::contains);
            }
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "We have the offer for you and will send it | ENGLISH",
                "Wir haben das Angebot für Sie geprüft und senden es | GERMAN",
                "Vi har ikke fått tilbudet fra dere, og jeg kan sende noe etter | NORWEGIAN",
                "Vi har inte fått offerten från er och jag kan skicka något | SWEDISH",
                "Nous avons reçu le devis et les plans pour vous | FRENCH",
                "We hebben de offerte voor u en het plan is klaar | DUTCH",
                "Buoys, lamps, chains | UNKNOWN",
                "2026 | UNKNOWN",
            })
    void aLanguageIsToldByItsSmallWords(String text, Language language) {
        assertThat(Language.of(text)).isEqualTo(language);
    }
}
