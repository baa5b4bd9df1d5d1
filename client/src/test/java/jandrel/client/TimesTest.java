package jandrel.client;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class TimesTest {
    @ParameterizedTest
    @CsvSource({"1h, PT1H", "90m, PT1H30M", "1h30m, PT1H30M", "2d, PT48H", "1d2h, PT26H"})
    void lengthsAreReadAsPeopleTypeThem(String text, Duration length) {
        assertThat(Times.length(text)).isEqualTo(length);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "soon", "1", "h", "-1h", "1h 30m"})
    void whatIsNoLengthIsSaidToBeNone(String text) {
        assertThatThrownBy(() -> Times.length(text)).isInstanceOf(Trouble.class).hasMessageContaining("1h");
    }

    @Test
    void aTimeIsOnTheWallOfItsZone() {
        assertThat(Times.at("2026-07-01 09:00", ZoneId.of("Europe/Oslo"))).isEqualTo("2026-07-01T07:00:00Z");
        assertThatThrownBy(() -> Times.at("tomorrow", ZoneId.of("UTC"))).isInstanceOf(Trouble.class);
    }

    @Test
    void inAnHourIsAtTheNextFiveMinutes() {
        assertThat(Times.rounded(Instant.parse("2026-05-04T10:01:00Z"))).isEqualTo("2026-05-04T10:05:00Z");
        assertThat(Times.rounded(Instant.parse("2026-05-04T10:05:00Z"))).isEqualTo("2026-05-04T10:05:00Z");
    }
}
