package jandrel.service.capture;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LooksTest {
    private static final Instant NOW = Instant.parse("2026-05-04T12:00:00Z");

    @ParameterizedTest
    @CsvSource({
        "capturing, 0, PT30S",
        "needs-sign-in, 1, PT6H",
        "unreachable, 1, PT1M",
        "unreachable, 3, PT4M",
        "unreachable, 9, PT15M",
        "broken, 2147483647, PT15M"
    })
    void theLongerAServerFailsTheLongerItIsLeftAlone(String state, int failures, Duration wait) {
        assertThat(Looks.next(NOW, Duration.ofSeconds(30), state, failures)).isEqualTo(NOW.plus(wait));
    }

    @Test
    void aCursorIsReadBackAsItWasWritten() {
        assertThat(MailCursor.of("")).isEqualTo(new MailCursor(0, 1, -1, 0));
        assertThat(CalendarPass.href("/a/b%23c.ics#2026-05-04T09:00:00Z")).isEqualTo("/a/b%23c.ics");
        assertThat(MailCursor.of("12/4000000000")).isEqualTo(new MailCursor(12, 4_000_000_000L, -1, 0));
        assertThat(MailCursor.of("12/9/7/3")).isEqualTo(new MailCursor(12, 9, 7, 3));
        assertThat(MailCursor.of("12/9/7/3").read(12, 11)).hasToString("12/11/7/3");
        assertThat(MailCursor.of("12/9/7/3").read(13, 1)).hasToString("13/1");
    }
}
