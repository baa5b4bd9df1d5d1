package jandrel.core.notice;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Optional;

/**
 * What of a meeting, call or follow-up says when somebody is reminded of it.
 *
 * @param begins of a whole day: its midnight in UTC
 * @param ownMinutes how long before it begins, as its maker set it; {@link NoticeChoice#NEVER} where nobody set anything
 * @param calendarRings whether the calendar that it stands in has the reminder
 */
public record Reminder(Instant begins, Instant ends, boolean allDay, int ownMinutes, boolean calendarRings) {
    /** Of one that takes no time: a call to make at ten is still to be made at half past. */
    private static final Duration AT_LEAST = Duration.ofHours(1);
    /** What takes the whole day is told of in the morning. */
    private static final LocalTime MORNING = LocalTime.of(8, 0);

    /** When it is due; nothing where it never is: another rings it, or nobody wants it. */
    public Optional<Instant> due(NoticeChoice choice) {
        if (calendarRings && !choice.besideCalendar()) {
            return Optional.empty();
        }
        if (ownMinutes != NoticeChoice.NEVER) {
            return Optional.of(start(choice.zone()).minus(Duration.ofMinutes(ownMinutes)));
        }
        if (choice.minutesBefore() == NoticeChoice.NEVER) {
            return Optional.empty();
        }
        return Optional.of(
                allDay
                        ? day(begins).atTime(MORNING).atZone(choice.zone()).toInstant()
                        : begins.minus(Duration.ofMinutes(choice.minutesBefore())));
    }

    /** From when on nobody needs to be reminded any more. */
    public Instant over(ZoneId zone) {
        if (allDay) {
            return day(ends.isAfter(begins) ? ends : begins.plus(Duration.ofDays(1)))
                    .atStartOfDay(zone)
                    .toInstant();
        }
        Instant least = begins.plus(AT_LEAST);
        return ends.isAfter(least) ? ends : least;
    }

    /** Whether it is due and not over. */
    public boolean isDue(NoticeChoice choice, Instant now) {
        return due(choice).filter(at -> !at.isAfter(now)).isPresent() && now.isBefore(over(choice.zone()));
    }

    private Instant start(ZoneId zone) {
        return allDay ? day(begins).atStartOfDay(zone).toInstant() : begins;
    }

    private static LocalDate day(Instant midnight) {
        return LocalDate.ofInstant(midnight, ZoneOffset.UTC);
    }
}
