package jandrel.store.directory;

import jandrel.core.directory.RecordKind;
import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * A file from elsewhere that was taken.
 *
 * @param by the login of who took it
 * @param undoneAt null for one that stands
 * @param undoneBy empty for one that stands
 */
public record ImportTaken(
        UUID id,
        RecordKind kind,
        String name,
        String by,
        Instant at,
        int added,
        int updated,
        @Nullable Instant undoneAt,
        String undoneBy) {}
