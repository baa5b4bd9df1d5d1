package jandrel.core.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.timeline.FreeTime.Hours;
import jandrel.core.timeline.FreeTime.Span;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class FreeTimeTest {
    private static final Hours OFFICE =
            new Hours(LocalTime.of(9, 0), LocalTime.of(17, 0), false, ZoneId.of("Europe/Oslo"));
    /** Friday 27 March 2026 in Oslo, UTC+1, to Monday 30 March, UTC+2 by then. */
    private static final Span WEEKEND =
            new Span(Instant.parse("2026-03-27T00:00:00Z"), Instant.parse("2026-03-31T00:00:00Z"));

    private static Span span(String from, String until) {
        return new Span(Instant.parse("2026-03-" + from + ":00Z"), Instant.parse("2026-03-" + until + ":00Z"));
    }

    @Test
    void theHoursAreThoseOfTheWallOnBothSidesOfTheEdge() {
        assertThat(FreeTime.free(List.of(), WEEKEND, OFFICE, Duration.ofHours(1)))
                .containsExactly(span("27T08:00", "27T16:00"), span("30T07:00", "30T15:00"));
    }

    @Test
    void aGapThatIsTooShortIsNone() {
        List<Span> busy =
                List.of(span("27T07:00", "27T10:00"), span("27T10:30", "27T12:00"), span("27T11:00", "27T15:00"));
        assertThat(FreeTime.free(busy, span("27T00:00", "28T00:00"), OFFICE, Duration.ofMinutes(45)))
                .containsExactly(span("27T15:00", "27T16:00"));
        assertThat(FreeTime.free(busy, span("27T00:00", "28T00:00"), OFFICE, Duration.ofMinutes(30)))
                .containsExactly(span("27T10:00", "27T10:30"), span("27T15:00", "27T16:00"));
    }

    /** Minute by minute: free is what is inside the hours and in no busy span. */
    @Test
    void itIsWhatCountingMinuteByMinuteGives() {
        for (long seed = 0; seed < 300; seed++) {
            SplittableRandom random = new SplittableRandom(seed);
            Instant from = Instant.parse("2026-03-27T00:00:00Z");
            List<Span> busy = new ArrayList<>();
            for (int i = random.nextInt(12); i > 0; i--) {
                Instant begins = from.plusSeconds(60L * random.nextInt(1440));
                busy.add(new Span(begins, begins.plusSeconds(60L * random.nextInt(200))));
            }
            List<Span> free =
                    FreeTime.free(busy, new Span(from, from.plusSeconds(86_400)), OFFICE, Duration.ofMinutes(1));
            for (int m = 0; m < 1440; m++) {
                Instant at = from.plusSeconds(60L * m);
                boolean inHours = m >= 8 * 60 && m < 16 * 60;
                boolean taken = busy.stream().anyMatch(b -> !at.isBefore(b.from()) && at.isBefore(b.until()));
                assertThat(free.stream().anyMatch(f -> !at.isBefore(f.from()) && at.isBefore(f.until())))
                        .as("seed %d, minute %d", seed, m)
                        .isEqualTo(inHours && !taken);
            }
        }
    }
}
