package jandrel.core.item;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SketchTest {
    private static final String SAID =
            "The lantern at the north quay was out again on Tuesday; can the crew look at it?";

    @ParameterizedTest
    @ValueSource(
            strings = {
                "The lantern at the north quay was out\r\nagain on Tuesday; can the crew look at it?",
                "THE LANTERN at the north quay was out again on Tuesday -- can the crew look at it",
                SAID + "\n\n-- \nYou receive this as a member of quay-list",
            })
    void whatServersAndListsChangeLeavesItTheSame(String copy) {
        assertThat(Sketch.same(Sketch.of(SAID), Sketch.of(copy))).isTrue();
        assertThat(Sketch.same(Sketch.of(copy), Sketch.of(SAID))).isTrue();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "The lantern at",
                "The lantern at the north quay was out again on Monday; can the crew look at it? We shall wait for it.",
                "Nothing of the sort was said by anybody at all, on any day of that week or of another",
            })
    void anotherTextIsAnother(String other) {
        assertThat(Sketch.same(Sketch.of(SAID), Sketch.of(other))).isFalse();
        assertThat(Sketch.same(Sketch.of(SAID), Sketch.NONE)).isFalse();
    }

    /** Each letter counts, wherever it stands; beyond the first 2,000 none does. */
    @Test
    void oneLetterTellsTwoTextsApart() {
        String letters = "lænd7".repeat(500);
        for (int at : new int[] {0, 1, 2, 3, 15, 16, 17, 1_000, 1_998, 1_999}) {
            String other = letters.substring(0, at) + 'x' + letters.substring(at + 1);
            assertThat(Sketch.same(Sketch.of(letters), Sketch.of(other)))
                    .as("letter %d", at)
                    .isFalse();
        }
        assertThat(Sketch.of(letters.replace("7", " 7,\r\n"))).isEqualTo(Sketch.of(letters));
        assertThat(Sketch.of(letters + "and more")).isEqualTo(Sketch.of(letters));
    }

    @Test
    void itIsShort() {
        for (int length = 0; length < 3_000; length++) {
            assertThat(Sketch.of("x".repeat(length))).hasSizeBetween(1, 110);
        }
    }
}
