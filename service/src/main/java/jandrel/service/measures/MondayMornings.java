package jandrel.service.measures;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.temporal.TemporalAdjusters;

/** When what comes each week comes. */
final class MondayMornings {
    private static final LocalTime MORNING = LocalTime.of(7, 0);

    private MondayMornings() {}

    /** The Monday whose morning was the last to begin. */
    static LocalDate last(Instant now, ZoneId zone) {
        ZonedDateTime there = now.atZone(zone);
        LocalDate monday = there.toLocalDate().with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
        return there.isBefore(monday.atTime(MORNING).atZone(zone)) ? monday.minusWeeks(1) : monday;
    }
}
