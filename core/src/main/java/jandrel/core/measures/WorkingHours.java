package jandrel.core.measures;

import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumMap;
import java.util.Map;
import java.util.Set;

/**
 * When the company works, for figures that count its hours.
 *
 * @param days those on which it works at all
 * @param holidays days of its zone on which it does not
 */
public record WorkingHours(ZoneId zone, Map<DayOfWeek, Hours> days, Set<LocalDate> holidays) {
    /** Until a company says otherwise. */
    public static final WorkingHours USUAL = usual();

    /** @param until later than {@code from}; midnight is the end of the day */
    public record Hours(LocalTime from, LocalTime until) {
        public Hours {
            if (!until.equals(LocalTime.MIDNIGHT) && !from.isBefore(until)) {
                throw new DateTimeException("a working day ends after it begins");
            }
        }
    }

    public WorkingHours {
        days = Map.copyOf(days);
        holidays = Set.copyOf(holidays);
    }

    private static WorkingHours usual() {
        Map<DayOfWeek, Hours> days = new EnumMap<>(DayOfWeek.class);
        for (DayOfWeek day = DayOfWeek.MONDAY; day != DayOfWeek.SATURDAY; day = day.plus(1)) {
            days.put(day, new Hours(LocalTime.of(9, 0), LocalTime.of(17, 0)));
        }
        return new WorkingHours(ZoneId.of("UTC"), days, Set.of());
    }

    /** How much of the time between two moments is worked, whatever the clocks do meanwhile; nothing where they are in no order. */
    public Duration between(Instant from, Instant until) {
        Duration worked = Duration.ZERO;
        LocalDate last = LocalDate.ofInstant(until, zone);
        for (LocalDate day = LocalDate.ofInstant(from, zone); !day.isAfter(last); day = day.plusDays(1)) {
            Hours hours = days.get(day.getDayOfWeek());
            if (hours != null && !holidays.contains(day)) {
                LocalDate end = hours.until().equals(LocalTime.MIDNIGHT) ? day.plusDays(1) : day;
                Instant begins =
                        later(from, day.atTime(hours.from()).atZone(zone).toInstant());
                Instant ends =
                        earlier(until, end.atTime(hours.until()).atZone(zone).toInstant());
                if (begins.isBefore(ends)) {
                    worked = worked.plus(Duration.between(begins, ends));
                }
            }
        }
        return worked;
    }

    private static Instant later(Instant a, Instant b) {
        return a.isAfter(b) ? a : b;
    }

    private static Instant earlier(Instant a, Instant b) {
        return a.isBefore(b) ? a : b;
    }
}
