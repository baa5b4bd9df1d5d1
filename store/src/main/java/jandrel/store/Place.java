package jandrel.store;

import jandrel.core.decide.Vantage;
import java.time.Instant;
import java.util.UUID;

/**
 * A source as deciding needs it.
 *
 * @param person whose it is
 * @param since nothing before this is captured there
 */
public record Place(int source, UUID person, Instant since) {
    Vantage vantage() {
        return new Vantage(person, since);
    }
}
