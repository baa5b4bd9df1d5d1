package jandrel.formats.calendar;

import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import org.dmfs.rfc5545.DateTime;
import org.dmfs.rfc5545.recur.InvalidRecurrenceRuleException;
import org.dmfs.rfc5545.recur.RecurrenceRule;
import org.dmfs.rfc5545.recur.RecurrenceRuleIterator;
import org.jspecify.annotations.Nullable;

/**
 * Follows an RRULE in local time. The zone comes in only afterwards, so that one rule of ours settles gaps and doubled hours, and
 * UNTIL, which RFC 5545 §3.3.10 wants in UTC, is compared as an instant.
 */
final class Recurrence {
    private final RecurrenceRule rule;
    private final Moment start;
    private final Function<LocalDateTime, Instant> zone;
    private final @Nullable Moment until;

    /** @throws UnreadableCalendar if the rule is none, or one that never comes true */
    Recurrence(String text, Moment start, Function<LocalDateTime, Instant> zone) throws UnreadableCalendar {
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
        } catch (InvalidRecurrenceRuleException | IllegalArgumentException broken) {
            throw new UnreadableCalendar("its recurrence rule is malformed");
        }
    }

    /** Local times, in order, that begin before {@code end}; the start itself is among them only if the rule says so. */
    List<LocalDateTime> upTo(LocalDateTime end, int mostSteps) throws UnreadableCalendar {
        List<LocalDateTime> found = new ArrayList<>();
        LocalDateTime from = start.local();
        try {
            RecurrenceRuleIterator iterator = rule.iterator(new DateTime(
                    from.getYear(),
                    from.getMonthValue() - 1,
                    from.getDayOfMonth(),
                    from.getHour(),
                    from.getMinute(),
                    from.getSecond()));
            for (int steps = 0; iterator.hasNext(); steps++) {
                if (steps >= mostSteps) {
                    throw new UnreadableCalendar("its recurrence rule gives more than " + mostSteps + " occurrences");
                }
                LocalDateTime at = local(iterator.nextDateTime());
                if (!at.isBefore(end) || isPastUntil(at)) {
                    break;
                }
                found.add(at);
            }
        } catch (IllegalArgumentException impossible) {
            throw new UnreadableCalendar("its recurrence rule never comes true");
        }
        return found;
    }

    /** Whether anything comes at or after the moment given. */
    boolean goesOnAfter(LocalDateTime moment, int mostSteps) {
        if (until != null && isPastUntil(moment)) {
            return false;
        }
        if (rule.getCount() == null) {
            return true;
        }
        try {
            return upTo(LocalDateTime.MAX, mostSteps).stream().anyMatch(at -> !at.isBefore(moment));
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
