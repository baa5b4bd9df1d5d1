package jandrel.service.capture;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class MailCursorTest {
    @ParameterizedTest
    @ValueSource(strings = {"5/11", "5/11/9/40", "5/11/9/0", "1/4294967295/0/18446744073709"})
    void itIsReadBackAsItWasWritten(String written) {
        assertThat(MailCursor.of(written)).hasToString(written);
    }

    @Test
    void beforeTheFirstRunNothingIsKnown() {
        MailCursor first = MailCursor.of("");
        assertThat(first.next()).isOne();
        assertThat(first.wasCompared()).isFalse();
    }

    @Test
    void underAnotherNumberingNothingWasCompared() {
        MailCursor compared = MailCursor.of("5/11/9/40");
        assertThat(compared.read(5, 20)).isEqualTo(new MailCursor(5, 20, 9, 40));
        assertThat(compared.read(6, 1).wasCompared()).isFalse();
        assertThat(compared.read(6, 1).changes()).isZero();
    }
}
