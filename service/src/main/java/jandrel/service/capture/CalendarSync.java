package jandrel.service.capture;

import jandrel.core.item.Item;
import jandrel.sources.CalendarServer;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Source;
import java.util.List;
import java.util.Map;
import java.util.UUID;

/** The part of a sync run that calendars take: reading them, and what is managed here. */
public interface CalendarSync {
    /**
     * Reads what is new in a person's calendars.
     *
     * @return how many calendar objects were read
     */
    long over(CalendarServer server, Connection connection);

    /** Fetches items for a rehearsal and keeps nothing of them; what cannot be fetched is missing. */
    Map<String, Item> items(CalendarServer server, Connection connection, Source source, List<String> positions);

    /** Has what was made here decided again where that is wanted. */
    void showAgain(UUID person);
}
