package jandrel.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CompanyKeyTest {
    @ParameterizedTest
    @CsvSource({
        "Fjord Post AS, Fjordpost",
        "Fjordpost A/S, FJORDPOST",
        "Müller & Söhne GmbH & Co. KG, Muller Sohne",
        "Cordage S.p.A., Cordage",
        "Cordage S. à r. l., cordage",
        "'Lantern, Inc.', Lantern",
        "Lantern Pty Ltd, Lantern Limited"
    })
    void theseAreOneName(String one, String other) {
        assertThat(CompanyKey.of(one)).isEqualTo(CompanyKey.of(other));
    }

    @ParameterizedTest
    @CsvSource({"Lantern Marine, Lantern", "AS Lantern, Lantern", "Lantern 2, Lantern", "Co, Kg", "'Plan B', Plan"})
    void theseAreTwo(String one, String other) {
        assertThat(CompanyKey.of(one)).isNotEqualTo(CompanyKey.of(other));
    }

    @Test
    void ofAFormAloneTheFirstWordStays() {
        assertThat(CompanyKey.of("Co. KG").text()).isEqualTo("co");
        assertThat(CompanyKey.of("& – !").isEmpty()).isTrue();
        assertThat(CompanyKey.of("x ".repeat(100_000)).text()).hasSize(100_000);
    }
}
