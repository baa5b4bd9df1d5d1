package jandrel.store.connections;

import java.util.UUID;

/** How far back a person's sources are read. */
public interface BackWindow {
    /** @return days before the day of connecting; 0 where no policy covers the person */
    int daysBack(UUID person);
}
