package jandrel.core.measures;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SpanDaysTest {
    private static final int MOMENTS = 3_000;

    /** In any order, on both sides of the hours at which clocks change. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "UTC",
                "+05:45",
                "Europe/London",
                "America/Sao_Paulo",
                "Pacific/Apia",
                "Australia/Lord_Howe",
                "Africa/Casablanca"
            })
    void aDayOfManyIsTheDayOfEach(String zone) {
        Random random = new Random(zone.hashCode());
        Span span = new Span(LocalDate.parse("2026-03-01"), LocalDate.parse("2026-04-01"), ZoneId.of(zone));
        Span.Days days = span.days();
        long around = Instant.parse("2026-03-29T01:00:00Z").getEpochSecond();
        for (int i = 0; i < MOMENTS; i++) {
            if (random.nextInt(20) == 0) {
                around = Instant.parse("1960-01-01T00:00:00Z").getEpochSecond() + random.nextLong(2_500_000_000L);
                var next = span.zone().getRules().nextTransition(Instant.ofEpochSecond(around));
                around = next == null || random.nextBoolean() ? around : next.toEpochSecond();
            }
            Instant at = Instant.ofEpochSecond(around + random.nextInt(-100_000, 100_000) / (1 + random.nextInt(50)));
            long day = days.of(ContactHour.micros(at));
            assertThat(LocalDate.ofEpochDay(day)).as("%s in %s", at, zone).isEqualTo(span.day(at));
            assertThat(days.has(day)).isEqualTo(span.has(at));
            assertThat(Span.month(day)).isEqualTo(span.month(at));
            assertThat(Span.week(day)).isEqualTo(span.week(at));
        }
    }
}
