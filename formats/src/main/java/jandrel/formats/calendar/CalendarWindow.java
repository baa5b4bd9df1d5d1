package jandrel.formats.calendar;

import java.time.Instant;

/** Occurrences that end after {@code from} and begin before {@code until} are wanted. */
public record CalendarWindow(Instant from, Instant until) {
    boolean touches(Instant start, Instant end) {
        return start.isBefore(until) && !end.isBefore(from);
    }
}
