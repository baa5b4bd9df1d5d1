package jandrel.core.measures;

import jandrel.core.measures.Measure.By;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.time.zone.ZoneOffsetTransition;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A time, in whole days of a zone.
 *
 * @param until the first day that is not in it
 */
public record Span(LocalDate from, LocalDate until, ZoneId zone) {
    private static final long SECONDS_OF_A_DAY = 86_400;
    private static final long MICROS = 1_000_000;

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
        return month(day(at).toEpochDay());
    }

    /** @param day counted from 1970 on */
    static String month(long day) {
        return YearMonth.from(LocalDate.ofEpochDay(day)).toString();
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
        return week(day(at).toEpochDay());
    }

    /** @param day counted from 1970 on */
    static String week(long day) {
        return monday(LocalDate.ofEpochDay(day)).toString();
    }

    static Instant instant(long micros) {
        return Instant.EPOCH.plus(micros, ChronoUnit.MICROS);
    }

    /** Asked of very many, one after the other. */
    Days days() {
        return new Days();
    }

    /** Its days, counted from 1970 on. What comes in order of time is told without looking up the zone's rules each time. */
    final class Days {
        private final long first = from.toEpochDay();
        private final long end = until.toEpochDay();
        private long offsetSince = 0;
        private long offsetUntil = 0;
        private int offset;

        /** The day of the zone in which a moment lies, in microseconds since 1970. */
        long of(long micros) {
            long second = Math.floorDiv(micros, MICROS);
            if (second < offsetSince || second >= offsetUntil) {
                look(second);
            }
            return Math.floorDiv(second + offset, SECONDS_OF_A_DAY);
        }

        private void look(long second) {
            Instant then = Instant.ofEpochSecond(second);
            ZoneOffsetTransition before = zone.getRules().previousTransition(then.plusSeconds(1));
            ZoneOffsetTransition next = zone.getRules().nextTransition(then);
            offset = zone.getRules().getOffset(then).getTotalSeconds();
            offsetSince = before == null ? Long.MIN_VALUE : before.toEpochSecond();
            offsetUntil = next == null ? Long.MAX_VALUE : next.toEpochSecond();
        }

        boolean has(long day) {
            return day >= first && day < end;
        }
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

    /** When each month or week that it has a part of begins in it, by its key, in order; empty for lines that are no times. */
    public Map<String, Instant> begins(By by) {
        Map<String, Instant> begins = new LinkedHashMap<>();
        for (String key : lines(by)) {
            LocalDate first = by == By.MONTH ? YearMonth.parse(key).atDay(1) : LocalDate.parse(key);
            begins.put(
                    key,
                    (first.isBefore(from) ? from : first).atStartOfDay(zone).toInstant());
        }
        return begins;
    }

    /** Lines that stand there whether there is something in them or not: one without any is one, too. */
    List<String> lines(By by) {
        return switch (by) {
            case MONTH -> months();
            case WEEK -> weeks();
            default -> List.of();
        };
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
