package jandrel.formats.mail;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MailDateTest {
    private static final Instant RECEIVED = Instant.parse("2090-01-01T00:00:00Z");

    /** At any time and in any zone, in each of the usual forms. */
    @Test
    void itIsTheMomentThatWasWritten() {
        Random random = new Random(20_261_128);
        String[] forms = {"EEE, dd MMM yyyy HH:mm:ss xx", "EEE, d MMM yyyy HH:mm:ss xx", "d MMM yyyy HH:mm:ss xx"};
        for (int i = 0; i < 20_000; i++) {
            Instant at = Instant.ofEpochSecond(400_000_000L + random.nextInt(Integer.MAX_VALUE));
            ZoneOffset zone = ZoneOffset.ofTotalSeconds(60 * (random.nextInt(2 * 14 * 60) - 14 * 60));
            String written = DateTimeFormatter.ofPattern(forms[i % forms.length], Locale.ENGLISH)
                    .format(at.atOffset(zone));
            assertThat(MailDate.of(written, RECEIVED)).as(written).contains(at);
        }
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            Sat, 29 Feb 2020 10:00:00 +0000  | 2020-02-29T10:00:00Z
            Fri, 29 Feb 2019 10:00:00 +0000  |
            Mon, 31 Apr 2023 10:00:00 +0000  |
            Mon, 00 May 2023 10:00:00 +0000  |
            Mon, 01 Xyz 2023 10:00:00 +0000  |
            Mon, 01 May 2023 24:00:00 +0000  | 2023-05-02T00:00:00Z
            Mon, 01 May 2023 10:60:00 +0000  |
            Mon, 01 May 2023 10:00:60 +0000  | 2023-05-01T10:00:59Z
            Mon, 01 May 2023 10:00:00 -0530  | 2023-05-01T15:30:00Z
            Mon, 01 May 2023 10:00:00 +9900  | 2023-05-01T10:00:00Z
            Mon, 01 May 2023 10:00:00 GMT    | 2023-05-01T10:00:00Z
            Mon, 01 May 0023 10:00:00 +0000  |
            Mon, 0x May 2023 10:00:00 +0000  |
            Xxx, 01 May 2023 10:00:00 +0000  | 2023-05-01T10:00:00Z
            """)
    void whatCannotBeIsNotTakenForSomethingElse(String written, Instant expected) {
        assertThat(MailDate.of(written.strip(), RECEIVED).orElse(null)).isEqualTo(expected);
    }
}
