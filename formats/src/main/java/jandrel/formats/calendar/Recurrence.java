package jandrel.formats.calendar;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.function.Predicate;
import org.dmfs.rfc5545.DateTime;
import org.dmfs.rfc5545.recur.Freq;
import org.dmfs.rfc5545.recur.InvalidRecurrenceRuleException;
import org.dmfs.rfc5545.recur.RecurrenceRule;
import org.dmfs.rfc5545.recur.RecurrenceRule.Part;
import org.dmfs.rfc5545.recur.RecurrenceRuleIterator;
import org.jspecify.annotations.Nullable;

/**
 * Follows an RRULE in local time. The zone comes in only afterwards, so that one rule of ours settles gaps and doubled hours, and
 * UNTIL, which RFC 5545 §3.3.10 wants in UTC, is compared as an instant.
 */
final class Recurrence {
    private static final int LONGEST = 4_000;
    private static final int MOST_EACH = 10_000;
    private static final int LAST_YEAR = 3_000;
    private final RecurrenceRule rule;
    private final Moment start;
    private final Function<LocalDateTime, Instant> zone;
    private final @Nullable Moment until;
    private final Work work;
    private final long unit;
    private final long each;

    /** @throws UnreadableCalendar if the rule is none, or one that never comes true */
    Recurrence(String text, Moment start, Function<LocalDateTime, Instant> zone, Work work) throws UnreadableCalendar {
        if (text.length() > LONGEST) {
            throw new UnreadableCalendar("its recurrence rule is too long");
        }
        this.work = work;
        this.start = start;
        this.zone = zone;
        try {
            rule = new RecurrenceRule(text.strip(), RecurrenceRule.RfcMode.RFC5545_LAX);
            DateTime end = rule.getUntil();
            until = end == null ? null : Moment.of(end.toString());
            if (until != null) {
                // the library takes COUNT out together with UNTIL
                rule.setUntil(null);
            }
            // what comes so late comes never, and the library would count the years up to there one by one
            long never = (1L + Math.max(0, LAST_YEAR - start.local().getYear())) * 366 * 86_400;
            int most = (int) Math.min(Integer.MAX_VALUE, never / seconds(rule.getFreq()) + 1);
            rule.setInterval(Math.min(rule.getInterval(), most));
        } catch (InvalidRecurrenceRuleException | IllegalArgumentException broken) {
            throw new UnreadableCalendar("its recurrence rule is malformed");
        }
        unit = seconds(rule.getFreq()) * rule.getInterval();
        each = each(rule);
        if (each > MOST_EACH) {
            throw new UnreadableCalendar("its recurrence rule names too many times of one interval");
        }
    }

    private static long seconds(Freq frequency) {
        return switch (frequency) {
            case SECONDLY -> 1;
            case MINUTELY -> 60;
            case HOURLY -> 3_600;
            case DAILY -> 86_400;
            case WEEKLY -> 7 * 86_400;
            case MONTHLY -> 28 * 86_400;
            case YEARLY -> 365 * 86_400;
        };
    }

    /** How many times of one interval may have to be gone through, at the most: they are made before the first comes out. */
    private static long each(RecurrenceRule rule) {
        long days = switch (rule.getFreq()) {
            case YEARLY -> 366;
            case MONTHLY -> 31;
            case WEEKLY -> 7;
            default -> 1;
        };
        boolean namesDays = false;
        for (Part part : List.of(Part.BYWEEKNO, Part.BYYEARDAY, Part.BYMONTHDAY, Part.BYDAY)) {
            namesDays |= rule.hasPart(part);
        }
        long each = namesDays ? days : rule.hasPart(Part.BYMONTH) ? 12 : 1;
        for (Part part : List.of(Part.BYHOUR, Part.BYMINUTE, Part.BYSECOND)) {
            each *= rule.hasPart(part) ? Math.max(1, rule.getByPart(part).size()) : 1;
        }
        return each;
    }

    /** Local times, in order, that begin before {@code end}; the start itself is among them only if the rule says so. */
    List<LocalDateTime> upTo(LocalDateTime end) throws UnreadableCalendar {
        List<LocalDateTime> found = new ArrayList<>();
        follow(at -> at.isBefore(end) && found.add(at));
        return found;
    }

    /** Until the taker has enough. */
    private void follow(Predicate<LocalDateTime> taker) throws UnreadableCalendar {
        LocalDateTime last = start.local();
        try {
            RecurrenceRuleIterator iterator = rule.iterator(new DateTime(
                    last.getYear(),
                    last.getMonthValue() - 1,
                    last.getDayOfMonth(),
                    last.getHour(),
                    last.getMinute(),
                    last.getSecond()));
            while (iterator.hasNext()) {
                LocalDateTime at = local(iterator.nextDateTime());
                // intervals that were passed over without anything in them were work, too
                work.spend(1 + each * (Math.abs(ChronoUnit.SECONDS.between(last, at)) / unit));
                last = at;
                if (isPastUntil(at) || !taker.test(at)) {
                    return;
                }
            }
        } catch (IllegalArgumentException impossible) {
            throw new UnreadableCalendar("its recurrence rule never comes true");
        } catch (RuntimeException beyond) {
            throw new UnreadableCalendar("its recurrence rule cannot be followed");
        }
    }

    /** Whether anything comes at or after the moment given. */
    boolean goesOnAfter(LocalDateTime moment) {
        if (until != null && isPastUntil(moment)) {
            return false;
        }
        if (rule.getCount() == null) {
            return true;
        }
        boolean[] any = new boolean[1];
        try {
            follow(at -> {
                any[0] = !at.isBefore(moment);
                return !any[0];
            });
            return any[0];
        } catch (UnreadableCalendar tooMany) {
            return true;
        }
    }

    private boolean isPastUntil(LocalDateTime at) {
        if (until == null) {
            return false;
        }
        return until.utc()
                ? zone.apply(at).isAfter(until.in(java.time.ZoneOffset.UTC.getRules()))
                : untilLocal(until, at);
    }

    /** A date as UNTIL takes in the whole of that day. */
    private static boolean untilLocal(Moment until, LocalDateTime at) {
        return until.date() ? at.toLocalDate().isAfter(until.local().toLocalDate()) : at.isAfter(until.local());
    }

    private static LocalDateTime local(DateTime at) {
        return LocalDateTime.of(
                at.getYear(), at.getMonth() + 1, at.getDayOfMonth(), at.getHours(), at.getMinutes(), at.getSeconds());
    }
}
