package jandrel.store.contacts;

import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * A contact that one side removed, where somebody is asked what becomes of it on the other.
 *
 * @param id of its card
 * @param contact null where it is no more
 * @param here whether the contact was removed; else the card
 * @param at since when somebody is asked
 * @param elsewhere in how many other books the contact stands
 */
public record RemovedContact(
        UUID id,
        @Nullable UUID contact,
        boolean here,
        String name,
        Instant at,
        UUID connection,
        String personName,
        String label,
        long elsewhere) {}
