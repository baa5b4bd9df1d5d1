package jandrel.formats.calendar;

/**
 * @param steps occurrences that a rule may be followed for, inside the window or before it
 * @param occurrences that one calendar object may give
 * @param components events and zones in one calendar object
 * @param attendees on one event
 */
public record CalendarLimits(int steps, int occurrences, int components, int attendees) {
    public static final CalendarLimits USUAL = new CalendarLimits(100_000, 5_000, 2_000, 500);
}
