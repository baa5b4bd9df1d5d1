package jandrel.core.measures;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.List;

/**
 * A time, in whole days of a zone.
 *
 * @param until the first day that is not in it
 */
public record Span(LocalDate from, LocalDate until, ZoneId zone) {
    private static final long SECONDS_OF_A_DAY = 86_400;

    public boolean has(Instant at) {
        LocalDate day = day(at);
        return !day.isBefore(from) && day.isBefore(until);
    }

    /** The day of the zone in which it lies, whatever the clocks do on it. */
    public LocalDate day(Instant at) {
        // asked of everything that figures count: an offset would make its rules anew each time
        ZoneOffset offset =
                zone instanceof ZoneOffset always ? always : zone.getRules().getOffset(at);
        return LocalDate.ofEpochDay(Math.floorDiv(at.getEpochSecond() + offset.getTotalSeconds(), SECONDS_OF_A_DAY));
    }

    /** Such as {@code 2026-11}. */
    String month(Instant at) {
        return YearMonth.from(day(at)).toString();
    }

    /** All that it has a part of. */
    List<String> months() {
        List<String> months = new ArrayList<>();
        for (YearMonth month = YearMonth.from(from); month.atDay(1).isBefore(until); month = month.plusMonths(1)) {
            months.add(month.toString());
        }
        return months;
    }

    /** Its Monday, such as {@code 2026-11-23}. */
    String week(Instant at) {
        return monday(day(at)).toString();
    }

    private static LocalDate monday(LocalDate day) {
        return day.with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
    }

    /** The Mondays of all weeks that it has a part of. */
    List<String> weeks() {
        List<String> weeks = new ArrayList<>();
        for (LocalDate week = monday(from); week.isBefore(until); week = week.plusWeeks(1)) {
            weeks.add(week.toString());
        }
        return weeks;
    }

    /** When it begins. */
    public Instant begin() {
        return from.atStartOfDay(zone).toInstant();
    }

    /** When it is over. */
    public Instant end() {
        return until.atStartOfDay(zone).toInstant();
    }

    /** As long a time, just before. */
    public Span before() {
        return new Span(from.minusDays(ChronoUnit.DAYS.between(from, until)), from, zone);
    }
}
