package jandrel.formats.calendar;

/**
 * How much of one calendar object is looked at, whatever it holds.
 *
 * @param steps of all that is followed in it: instances of rules, intervals without any, dates that are named
 * @param occurrences that it may give
 * @param components events and zones in it
 * @param attendees on one event
 * @param lines properties of all components
 * @param bytes of all of it
 */
public record CalendarLimits(int steps, int occurrences, int components, int attendees, int lines, int bytes) {
    public static final CalendarLimits USUAL = new CalendarLimits(300_000, 5_000, 2_000, 500, 30_000, 4 * 1024 * 1024);

    /** UIDs are shorter (RFC 7986 §5.3 says 255 octets); a longer one names nothing that anybody could keep. */
    static final int LONGEST_UID = 1_000;
}
