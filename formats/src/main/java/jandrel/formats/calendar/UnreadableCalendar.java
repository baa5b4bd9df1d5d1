package jandrel.formats.calendar;

/** A calendar object that gives nothing to go by. The message holds none of its content. */
public final class UnreadableCalendar extends Exception {
    private static final long serialVersionUID = 1L;

    UnreadableCalendar(String why) {
        super(why);
    }
}
