package jandrel.sources;

import java.util.Collection;
import java.util.List;

/** One person's calendars at a server. Safe for several threads. Every method may throw {@link SourceTrouble}. */
public interface CalendarServer extends AutoCloseable {
    /** @param href its path at the server, which names it */
    record Calendar(String href, String name) {}

    /**
     * What is new in a calendar.
     *
     * @param token to ask with next time
     * @param changed hrefs of objects that are new or differ
     * @param removed hrefs of objects that have gone
     * @param whole whether {@code changed} lists all there is, as at the first time or after the server forgot the token
     */
    record Changes(String token, List<String> changed, List<String> removed, boolean whole) {}

    record CalendarObject(String href, byte[] bytes) {}

    /** The person's calendars that hold events. */
    List<Calendar> calendars();

    /** One request. @param token empty to ask for all */
    Changes changes(String calendar, String token);

    /** One request; those that have gone in the meantime are not among the answers. */
    List<CalendarObject> objects(String calendar, Collection<String> hrefs);

    @Override
    void close();
}
