package jandrel.core.decide;

import java.time.Instant;
import java.util.UUID;

/**
 * Where an item was seen from.
 *
 * @param person whose source showed it
 * @param since nothing before this is captured at that source
 */
public record Vantage(UUID person, Instant since) {}
