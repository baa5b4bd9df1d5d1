package jandrel.core.policy;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TitlesTest {
    @ParameterizedTest
    @CsvSource({
        "{title}, Signing",
        "{title} ({account}), Signing (Port of Skarvik)",
        "{account}: {title}, Port of Skarvik: Signing",
        "[{with}] {title}, [Bram] Signing"
    })
    void whatIsPutAroundItIsTakenOffAgain(String pattern, String told) {
        Titles titles = Titles.of(pattern, "Port of Skarvik", "Bram");
        assertThat(titles.out("Signing")).isEqualTo(told);
        assertThat(titles.in(told)).isEqualTo("Signing");
        // somebody wrote a title of their own there
        assertThat(titles.in("Otherwise")).isEqualTo("Otherwise");
        assertThat(titles.in(titles.out(""))).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "{title}, true",
        "{title} {account} {with}, true",
        "no title, false",
        "{title} {title}, false",
        "{title} {secret}, false"
    })
    void aPatternNeedsTheTitleOnceAndNothingUnknown(String pattern, boolean fits) {
        assertThat(Titles.fits(pattern)).isEqualTo(fits);
    }

    @Test
    void aTitleThatIsOnlyAPartOfThePatternStays() {
        Titles titles = Titles.of("{title} – {account}", "Skarvik", "");
        assertThat(titles.in("–")).isEqualTo("–");
    }
}
