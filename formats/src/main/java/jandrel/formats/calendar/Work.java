package jandrel.formats.calendar;

/**
 * What is left of the work that one calendar object may cause, all of its rules, zones, exceptions and UIDs together. What a file says in
 * a line can take hours to follow, so it is the following that is bounded. Used by one thread.
 */
final class Work {
    private final int most;
    private long left;

    Work(CalendarLimits limits) {
        most = limits.steps();
        left = most;
    }

    /** @throws UnreadableCalendar if that is more than is left */
    void spend(long steps) throws UnreadableCalendar {
        left -= steps;
        if (left < 0) {
            throw new UnreadableCalendar("its dates take more than " + most + " steps to follow");
        }
    }
}
