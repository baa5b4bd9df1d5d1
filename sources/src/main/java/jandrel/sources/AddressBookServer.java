package jandrel.sources;

import java.util.List;

/** One person's address books at a server. Safe for several threads. Every method may throw {@link SourceTrouble}. */
public interface AddressBookServer extends CollectionServer {
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
}
