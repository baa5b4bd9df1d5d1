package jandrel.core.contacts;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class NameKeyTest {
    @ParameterizedTest
    @CsvSource({
        "R. Halvorsen, Runa Halvorsen, true",
        "'Halvorsen, R', Rúna Halvorsen, true",
        "J. R. Berg, Jon Rolf Berg, true",
        "J. Rolf Berg, Jon R. Berg, true",
        "J J Berg, Jon Jens Berg, true",
        // another initial, another last name, initials alone, one word more, the same
        "S. Halvorsen, Runa Halvorsen, false",
        "R. Halvorsen, Runa Haug, false",
        "R. H., Runa Halvorsen, false",
        "R. Halvorsen, Runa Marie Halvorsen, false",
        "Runa Halvorsen, Halvorsen Runa, false",
        "J K Berg, Jon Jens Berg, false",
        "Halvorsen, Halvorsen, false",
        "'', '', false",
    })
    void initialsMayBeShortForAName(String one, String other, boolean may) {
        assertThat(NameKey.of(one).mayBeShortFor(NameKey.of(other))).isEqualTo(may);
        assertThat(NameKey.of(other).mayBeShortFor(NameKey.of(one))).isEqualTo(may);
    }

    /** By a stranger who calls themselves so. */
    @Test
    void aNameOfVeryManyInitialsIsNobody() {
        String initials = IntStream.range(0, 3_000).mapToObj(i -> "a").collect(Collectors.joining(" "));
        String names = IntStream.range(0, 3_000).mapToObj(i -> "ab" + i).collect(Collectors.joining(" "));
        assertThat(NameKey.of(initials + " berg").mayBeShortFor(NameKey.of(names + " berg")))
                .isFalse();
    }
}
