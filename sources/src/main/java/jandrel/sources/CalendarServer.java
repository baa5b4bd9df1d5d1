package jandrel.sources;

import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** One person's calendars at a server. Safe for several threads. Every method may throw {@link SourceTrouble}. */
public interface CalendarServer extends AutoCloseable {
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

    /** One request; those that have gone in the meantime are not among the answers. */
    List<DavObject> objects(String calendar, Collection<String> hrefs);

    /**
     * One request, asked once: when no answer comes, it may or may not have been carried out (RFC 4791 §5.3.2).
     *
     * @param tag of the state that is written over; null if there must be none yet
     * @return false if the object is in another state by now
     */
    boolean put(String href, byte[] object, @Nullable String tag);

    /** Likewise. */
    boolean delete(String href, String tag);

    /**
     * Makes a calendar (RFC 4791 §5.3.1).
     *
     * @return its href
     */
    String make(String name);

    @Override
    void close();
}
