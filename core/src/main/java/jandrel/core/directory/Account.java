package jandrel.core.directory;

import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * @param owner the person of ours who looks after the account
 * @param above the account that it is a part of
 */
public record Account(
        UUID id,
        String name,
        @Nullable UUID owner,
        @Nullable Account above) {
    public Account(UUID id, String name, @Nullable UUID owner) {
        this(id, name, owner, null);
    }
}
