package jandrel.core.directory;

import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * One that is open.
 *
 * @param contacts who has a part in it
 */
public record Opportunity(UUID id, String name, @Nullable UUID owner, Set<UUID> contacts) {
    public Opportunity {
        contacts = Set.copyOf(contacts);
    }

    public Opportunity(UUID id, String name) {
        this(id, name, null, Set.of());
    }
}
