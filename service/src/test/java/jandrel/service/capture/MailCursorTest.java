package jandrel.service.capture;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class MailCursorTest {
    @ParameterizedTest
    @ValueSource(
            strings = {"5/11", "5/11/9/40", "5/11/9/0", "5/11/-1/0/7", "5/11/9/40/7", "1/4294967295/0/18446744073709"})
    void itIsReadBackAsItWasWritten(String written) {
        assertThat(MailCursor.of(written)).hasToString(written);
    }

    @Test
    void whatIsWrittenMeansWhatItSays() {
        assertThat(MailCursor.of("")).isEqualTo(new MailCursor(0, 1, -1, 0, 0));
        assertThat(MailCursor.of("12/4000000000")).isEqualTo(new MailCursor(12, 4_000_000_000L, -1, 0, 0));
        assertThat(MailCursor.of("12/9/7/3")).isEqualTo(new MailCursor(12, 9, 7, 3, 0));
        assertThat(MailCursor.of("12/9/7/3/5")).isEqualTo(new MailCursor(12, 9, 7, 3, 5));
        assertThat(MailCursor.of("12/9/7/3").read(11)).hasToString("12/11/7/3");
    }

    @Test
    void beforeTheFirstRunNothingIsKnown() {
        MailCursor first = MailCursor.of("");
        assertThat(first.next()).isOne();
        assertThat(first.wasCompared()).isFalse();
    }

    @Test
    void underAnotherNumberingNothingWasCompared() {
        assertThat(MailCursor.of("5/11/9/40").read(20)).isEqualTo(new MailCursor(5, 20, 9, 40, 0));
        assertThat(MailCursor.first(6, 1, false).wasCompared()).isFalse();
        assertThat(MailCursor.first(6, 1, false).changes()).isZero();
    }

    @Test
    void aFirstReadGrowsAtBothEnds() {
        MailCursor begun = MailCursor.first(5, 100, true);
        assertThat(begun.hasOlder()).isTrue();
        assertThat(begun.readBack(60).read(103)).hasToString("5/103/-1/0/60");
        assertThat(begun.readBack(60).readBack(0)).hasToString("5/100");
        assertThat(MailCursor.first(5, 100, false).hasOlder()).isFalse();
    }
}
