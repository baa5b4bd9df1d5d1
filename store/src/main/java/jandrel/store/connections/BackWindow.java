package jandrel.store.connections;

import java.util.Collection;
import java.util.Map;
import java.util.UUID;

/** How far back a person's sources are read. */
public interface BackWindow {
    /** @return days before the day of connecting, by person; nothing for those whom no policy covers */
    Map<UUID, Integer> daysBack(Collection<UUID> people);
}
