package jandrel.sources;

import jandrel.sources.Multistatus.Answer;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;

/** CardDAV (RFC 6352), to read and to write. */
public final class CardDavServer extends DavCollections implements AddressBookServer {
    private static final DavWords WORDS =
            new DavWords("the address-book server", "address book", "contact", 16 * 1024 * 1024);
    private static final WebDav.Objects OBJECTS =
            new WebDav.Objects(Multistatus.CARDDAV, "addressbook-multiget", "address-data");

    private CardDavServer(WebDav dav) {
        super(dav, OBJECTS, "text/vcard; charset=utf-8");
    }

    /**
     * @param egress asked before each request, as what a name leads to may change
     * @throws SourceTrouble if the path leads to another server
     */
    public static CardDavServer open(
            Endpoint endpoint, ServerAccount account, Trust trust, Inward egress, Patience patience) {
        return new CardDavServer(WebDav.open(endpoint, account, trust, egress, patience, WORDS));
    }

    @Override
    public List<AddressBook> books() {
        String ask = "<d:propfind xmlns:d='DAV:'><d:prop><d:resourcetype/><d:displayname/><d:supported-report-set/>"
                + "<d:current-user-privilege-set/></d:prop></d:propfind>";
        List<AddressBook> found = new ArrayList<>();
        for (Answer answer : dav.send("PROPFIND", home(), "1", ask).answers()) {
            if (answer.is("addressbook")) {
                String name = answer.text("displayname");
                found.add(new AddressBook(
                        answer.href(),
                        name.isEmpty() ? "contacts" : name,
                        answer.said("report").contains("sync-collection"),
                        WebDav.isWritable(answer)));
            }
        }
        return found;
    }

    private java.net.URI home() {
        return dav.home("addressbook-home-set", Multistatus.CARDDAV);
    }

    @Override
    public DavChanges changes(AddressBook book, String token) {
        return dav.changes(book.href(), book.syncs(), token);
    }

    @Override
    public String make(String name) {
        String ask = "<d:mkcol xmlns:d='DAV:' xmlns:c='" + Multistatus.CARDDAV + "'><d:set><d:prop><d:resourcetype>"
                + "<d:collection/><c:addressbook/></d:resourcetype><d:displayname>" + Multistatus.escaped(name)
                + "</d:displayname></d:prop></d:set></d:mkcol>";
        return dav.make(home(), "contacts-" + UUID.randomUUID(), "MKCOL", ask);
    }
}
