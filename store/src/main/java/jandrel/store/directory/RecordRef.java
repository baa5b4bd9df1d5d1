package jandrel.store.directory;

import java.util.UUID;

/**
 * A record, as others refer to it.
 *
 * @param kind {@code contact}, {@code lead}, {@code account} or {@code opportunity}
 * @param key of its file, or as it was created with
 */
public record RecordRef(String kind, UUID id, String key, String name) {}
