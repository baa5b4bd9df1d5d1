package jandrel.store.capture;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.store.StoreContext;
import jandrel.store.capture.Lateness.Measured;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LatenessTest {
    @ParameterizedTest
    @CsvSource({"-5000, 1", "0, 1", "1000, 1", "1001, 2", "59999, 60", "60001, 90", "9999999999, 604800"})
    void aMessageCountsAtTheLeastBoundThatItKept(long millis, int bound) {
        assertThat(Lateness.bound(Duration.ofMillis(millis))).isEqualTo(bound);
    }

    @Test
    void aMedianAndAPercentileAreBoundsThatWereKept() throws Exception {
        try (StoreContext store = new StoreContext("test_lateness")) {
            store.run("TRUNCATE lateness");
            Lateness lateness = store.get(Lateness.class);
            assertThat(lateness.last(30)).isEqualTo(new Measured(0, 0, 0));
            Instant now = Instant.now();
            List<Instant> arrivals = new ArrayList<>();
            for (int i = 0; i < 94; i++) {
                arrivals.add(now.minusMillis(1_500));
            }
            lateness.arrived(arrivals);
            lateness.arrived(List.of(now.minusSeconds(40), now.minusSeconds(40), now.minusSeconds(500)));
            assertThat(lateness.last(30)).isEqualTo(new Measured(97, 2, 2));
            lateness.arrived(List.of(now.minusSeconds(40), now.minusSeconds(40), now.minusSeconds(40)));
            assertThat(lateness.last(30)).isEqualTo(new Measured(100, 2, 45));
            store.run("UPDATE lateness SET day = day - 40");
            assertThat(lateness.last(30).messages()).isZero();
        }
    }
}
