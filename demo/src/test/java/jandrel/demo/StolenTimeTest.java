package jandrel.demo;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.demo.StolenTime.Ticks;
import java.time.Duration;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StolenTimeTest {
    @ParameterizedTest
    @CsvSource({
        // worked, idle, stolen: how many times slower
        "1000, 0, 0, 1.0",
        "1000, 1000, 0, 1.0",
        "500, 0, 1500, 4.0",
        "500, 1000, 500, 2.0",
        "10, 1000, 5, 1.0",
        "10, 1000, 1000, 12.0",
        "0, 1000, 1000, 12.0",
        "100, 0, 9900, 12.0"
    })
    void howSlowAMachineWasBetweenTwoMoments(long worked, long idle, long stolen, double slowness) {
        Ticks before = Ticks.of("cpu  100 20 30 4000 50 6 7 800 0 0");
        Ticks after =
                Ticks.of("cpu  " + (100 + worked) + " 20 30 " + (4000 + idle) + " 50 6 7 " + (800 + stolen) + " 0 0");
        assertThat(after.slowness(before)).isEqualTo(slowness);
    }

    @Test
    void whereNothingIsCountedNothingIsStretched() {
        assertThat(Ticks.of("cpu 1 2 3")).isEqualTo(Ticks.NONE);
        assertThat(Ticks.NONE.slowness(Ticks.NONE)).isEqualTo(1);
    }

    @Test
    void patienceIsNeverLess() {
        assertThat(StolenTime.patience(Duration.ofSeconds(4))).isBetween(Duration.ofSeconds(4), Duration.ofSeconds(48));
    }
}
