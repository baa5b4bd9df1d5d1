package jandrel.service.capture;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MassChangeTest {
    @ParameterizedTest
    @CsvSource({
        "1, 1, false",
        "4, 20, false",
        "5, 19, false",
        "5, 50, false",
        "5, 49, true",
        "9, 24, true",
        "100, 5000, false",
        "101, 5000, true",
        "0, 5000, false"
    })
    void aTenthOfACalendarThatIsNotSmallOrMoreThanAHundred(int vanished, long known, boolean mass) {
        assertThat(MassChange.is(vanished, known)).isEqualTo(mass);
    }

    @org.junit.jupiter.api.Test
    void fiveHundredAreNamedAtMost() {
        assertThat(MassChange.listed(List.of("/a.ics", "/b.ics"))).containsExactly("/a.ics", "/b.ics");
        assertThat(MassChange.listed(java.util.Collections.nCopies(501, "/a.ics")))
                .hasSize(500);
    }
}
