package jandrel.formats.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.core.address.PhoneNumber;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PhonesTest {
    private static final Phones ANYWHERE = new Phones("");

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                // the same line in Oslo, as people write it
                "NO|22 55 01 02|+4722550102",
                "NO|+47 22 55 01 02|+4722550102",
                "no|0047 22 55 01 02|+4722550102",
                "NO|(+47) 22-55-01-02|+4722550102",
                "NO|tel:+47-22-55-01-02|+4722550102",
                // a zero that is only dialled within the country
                "DE|+49 (0)30 901 820|+4930901820",
                "DE|030 901820|+4930901820",
                // Italy keeps its zero
                "NO|+39 06 698 12345|+390669812345",
                // without a country, digits are digits
                "''|22 55 01 02|22550102",
                "''|0047 22 55 01 02|004722550102",
                "''|+47 22 55 01 02|+4722550102",
                // too short for any country: as it is written
                "NO|110|''",
                "NO|1104|1104",
            })
    void aNumberIsReadHoweverItIsWritten(String country, String written, String number) {
        assertThat(new Phones(country).parse(written).map(PhoneNumber::text).orElse(""))
                .isEqualTo(number);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "+", "call me", "12 34 x 5", "+47 22 55 01 02 ext. 9", "1234567890123456", "٠١٢٣٤٥٦٧"})
    void whatIsNoNumberIsNone(String written) {
        assertThat(ANYWHERE.parse(written)).isEmpty();
    }

    @Test
    void aSignatureGivesItsNumbersAndTheHistoryBelowNone() {
        String text = """
                Order 4711-2200 is ready.

                Kind regards
                Ida Moe
                Phone: 022 55 01 02, mobile +47 900 11 223

                On Monday Ole wrote:
                > Ole Vik, +47 911 00 000
                """;
        assertThat(ANYWHERE.in(text)).extracting(PhoneNumber::text).containsExactly("022550102", "+4790011223");
        assertThat(new Phones("NO").in("Ida\n(22) 55 01 02")).isEqualTo(List.of(new PhoneNumber("+4722550102")));
    }

    @Test
    void aCountryThatIsNoneIsRefused() {
        assertThatThrownBy(() -> new Phones("Norway")).hasMessageContaining("two letters");
    }
}
