package jandrel.core.directory;

import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Somebody who may become a contact.
 *
 * @param key the directory's own key
 * @param owner the person of ours who looks after the lead
 */
public record Lead(
        UUID id, String key, String name, @Nullable UUID owner) {}
