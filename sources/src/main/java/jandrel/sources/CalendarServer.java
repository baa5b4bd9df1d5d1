package jandrel.sources;

import java.util.List;

/** One person's calendars at a server. Safe for several threads. Every method may throw {@link SourceTrouble}. */
public interface CalendarServer extends CollectionServer {
    /**
     * @param href its path at the server, which names it
     * @param colour such as {@code #2e6f57}; empty when it has none
     * @param syncs whether the server tells changes by RFC 6578
     * @param writable whether the person may put something into it (RFC 3744 §5.4)
     */
    record Calendar(String href, String name, String colour, boolean syncs, boolean writable) {}

    /** Whether the server asks a meeting's guests by itself once it is in a calendar (RFC 6638 §2). One request. */
    boolean schedules();

    /** The person's calendars that hold events. */
    List<Calendar> calendars();

    /**
     * One request.
     *
     * @param token empty to ask for all
     */
    DavChanges changes(Calendar calendar, String token);
}
