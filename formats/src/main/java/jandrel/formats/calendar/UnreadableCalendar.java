package jandrel.formats.calendar;

/** A calendar object that gives nothing to go by. The message holds none of its content. */
public final class UnreadableCalendar extends Exception {
    private static final long serialVersionUID = 1L;

    /** Of what made a library fail in a way of its own. */
    static final String BROKEN = "it breaks the rules of its format";

    UnreadableCalendar(String why) {
        super(why);
    }
}
