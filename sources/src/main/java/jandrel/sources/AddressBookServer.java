package jandrel.sources;

import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** One person's address books at a server. Safe for several threads. Every method may throw {@link SourceTrouble}. */
public interface AddressBookServer extends AutoCloseable {
    /**
     * @param href its path at the server, which names it
     * @param syncs whether the server tells changes by RFC 6578
     * @param writable whether the person may put something into it (RFC 3744 §5.4)
     */
    record AddressBook(String href, String name, boolean syncs, boolean writable) {}

    /** The person's books (RFC 6352 §7.1.1). */
    List<AddressBook> books();

    /**
     * One request.
     *
     * @param token empty to ask for all
     */
    DavChanges changes(AddressBook book, String token);

    /** One request; those that have gone in the meantime are not among the answers. */
    List<DavObject> cards(String book, Collection<String> hrefs);

    /**
     * One request, asked once: when no answer comes, it may or may not have been carried out (RFC 6352 §6.3.2).
     *
     * @param tag of the state that is written over; null if there must be none yet
     * @return false if the card is in another state by now
     */
    boolean put(String href, byte[] card, @Nullable String tag);

    /** Likewise. */
    boolean delete(String href, String tag);

    /**
     * Makes a book (RFC 6352 §6.3.1, RFC 5689).
     *
     * @return its href
     */
    String make(String name);

    @Override
    void close();
}
