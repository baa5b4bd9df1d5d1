package jandrel.service.capture;

import jandrel.sources.AddressBookServer;
import jandrel.store.connections.Connections.Connection;

/** The part of a sync run that address books take. */
public interface ContactSync {
    /**
     * Reads what is new in a person's address books, and brings both sides together.
     *
     * @return how many cards were read
     */
    long over(AddressBookServer server, Connection connection);
}
