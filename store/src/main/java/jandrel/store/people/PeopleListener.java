package jandrel.store.people;

import java.util.Collection;
import java.util.UUID;

/** Hears, in the transaction of the change, of people whose team, role, cover or sharing is another now. */
public interface PeopleListener {
    void changed(Collection<UUID> people);
}
