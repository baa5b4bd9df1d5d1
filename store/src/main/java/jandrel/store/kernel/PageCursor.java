package jandrel.store.kernel;

import java.time.Instant;
import java.util.UUID;

/** Where a page ends, and the next begins. */
public record PageCursor(Instant at, UUID id) {
    /** Before the newest. */
    public static final PageCursor TOP = new PageCursor(Instant.parse("9999-01-01T00:00:00Z"), new UUID(-1L, -1L));
}
