package jandrel.service.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CaptureRateTest {
    private static final long MILLI = 1_000_000;

    /** What a loop sees that looks every so many milliseconds, while the database tells once a second of what was added. */
    private static List<Boolean> seen(long everyMillis, long perSecond, long forMillis) {
        CaptureRate rate = new CaptureRate();
        List<Boolean> seen = new ArrayList<>();
        for (long at = 0; at < forMillis; at += everyMillis) {
            seen.add(rate.isHigh(1_000_000 + at / 1_000 * perSecond, at * MILLI));
        }
        return seen;
    }

    @ParameterizedTest
    @ValueSource(longs = {20, 150, 990, 1_700})
    void aBackfillIsOneThroughoutHoweverOftenOneLooks(long every) {
        List<Boolean> seen = seen(every, 3_000, 60_000);
        assertThat(seen.subList((int) (2_000 / every) + 1, seen.size())).containsOnly(true);
    }

    @ParameterizedTest
    @ValueSource(longs = {20, 150, 990, 1_700})
    void theMailOfADayIsNone(long every) {
        assertThat(seen(every, 100, 60_000)).containsOnly(false);
    }

    @Test
    void whatWasThereBeforeTheFirstLookIsNoNews() {
        assertThat(new CaptureRate().isHigh(5_000_000, 17)).isFalse();
    }

    @Test
    void soonAfterItIsQuietAgain() {
        CaptureRate rate = new CaptureRate();
        rate.isHigh(0, 0);
        assertThat(rate.isHigh(600, 100 * MILLI)).isTrue();
        assertThat(rate.isHigh(600, 1_000 * MILLI)).isTrue();
        assertThat(rate.isHigh(600, 2_200 * MILLI)).isFalse();
    }
}
