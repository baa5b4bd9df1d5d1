package jandrel.core.measures;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.core.measures.WorkingHours.Hours;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WorkingHoursTest {
    /** The clocks of Oslo go forward on Sunday, 29 March 2026, at two. */
    private static final WorkingHours HOURS = new WorkingHours(
            ZoneId.of("Europe/Oslo"),
            Map.of(
                    DayOfWeek.MONDAY,
                    new Hours(LocalTime.of(9, 0), LocalTime.of(17, 0)),
                    DayOfWeek.TUESDAY,
                    new Hours(LocalTime.of(9, 0), LocalTime.of(17, 0)),
                    DayOfWeek.FRIDAY,
                    new Hours(LocalTime.of(12, 0), LocalTime.MIDNIGHT),
                    DayOfWeek.SUNDAY,
                    new Hours(LocalTime.MIDNIGHT, LocalTime.of(6, 0))),
            Set.of(LocalDate.parse("2026-05-04")));

    @ParameterizedTest
    @CsvSource({
        // within a day, before it begins, after it has ended
        "2026-03-02T09:00:00Z, 2026-03-02T10:30:00Z, PT1H30M",
        "2026-03-02T02:00:00Z, 2026-03-02T09:00:00Z, PT1H",
        "2026-03-02T15:00:00Z, 2026-03-02T20:00:00Z, PT1H",
        "2026-03-02T18:00:00Z, 2026-03-02T20:00:00Z, PT0S",
        // over a night, and over days that are not worked
        "2026-03-02T15:30:00Z, 2026-03-03T08:15:00Z, PT45M",
        "2026-03-03T15:00:00Z, 2026-03-06T12:00:00Z, PT2H",
        // up to midnight, and not into the day after
        "2026-03-06T20:00:00Z, 2026-03-07T12:00:00Z, PT3H",
        // a night of five hours
        "2026-03-28T12:00:00Z, 2026-03-29T12:00:00Z, PT5H",
        // a day off
        "2026-05-04T07:00:00Z, 2026-05-05T08:00:00Z, PT1H",
        // in no order
        "2026-03-02T10:00:00Z, 2026-03-02T09:00:00Z, PT0S"
    })
    void whatIsWorkedBetweenTwoMoments(Instant from, Instant until, Duration worked) {
        assertThat(HOURS.between(from, until)).isEqualTo(worked);
    }

    @Test
    void aTimeInTwoPartsIsAsLongAsBothTogether() {
        Random random = new Random(7);
        Instant begin = Instant.parse("2026-03-20T00:00:00Z");
        for (int i = 0; i < 500; i++) {
            Instant from = begin.plusSeconds(random.nextInt(2_000_000));
            Instant middle = from.plusSeconds(random.nextInt(1_000_000));
            Instant until = middle.plusSeconds(random.nextInt(1_000_000));
            assertThat(HOURS.between(from, until))
                    .isEqualTo(HOURS.between(from, middle).plus(HOURS.between(middle, until)))
                    .isLessThanOrEqualTo(Duration.between(from, until));
        }
    }

    @Test
    void aDayEndsAfterItBegins() {
        assertThatThrownBy(() -> new Hours(LocalTime.NOON, LocalTime.NOON)).isInstanceOf(DateTimeException.class);
    }
}
