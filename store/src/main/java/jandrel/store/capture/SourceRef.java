package jandrel.store.capture;

import java.time.Instant;
import java.util.UUID;

/**
 * A source as its reader needs it.
 *
 * @param person whose it is
 * @param since nothing before this is captured there
 * @param generation of the connection when the look began; what is captured may not have changed since
 */
public record SourceRef(int source, UUID person, Instant since, long generation) {
    /** Not by a look, so whatever has changed is no matter. */
    public static final long ANY = -1;
}
