package jandrel.store.capture;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Moves a source's cursor together with what was read up to there.
 *
 * @param from what it must still be; else somebody else read on, and nothing of the batch is recorded
 * @param expandedTo how far series have been followed; null to leave that as it is
 * @param leftToRead how many a first read still has before it
 */
public record CursorMove(
        int source, String from, String to, @Nullable Instant expandedTo, int leftToRead) {
    public CursorMove(int source, String from, String to, @Nullable Instant expandedTo) {
        this(source, from, to, expandedTo, 0);
    }
}
