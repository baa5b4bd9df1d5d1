package jandrel.store;

import java.time.Instant;
import java.util.UUID;

/**
 * A source as its reader needs it.
 *
 * @param person whose it is
 * @param since nothing before this is captured there
 */
public record Place(int source, UUID person, Instant since) {}
