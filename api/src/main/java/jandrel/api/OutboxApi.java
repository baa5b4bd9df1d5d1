package jandrel.api;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** What waits to go out. */
public final class OutboxApi {
    private OutboxApi() {}

    /**
     * What of one kind waits to go out.
     *
     * @param kind {@code calendar}: managed meetings to their owners' calendars; {@code invitation}: letters to guests; {@code keyword}:
     *     keywords of logged messages into mailboxes; {@code notice}: mail of the service's own
     * @param failing how many of them have failed at least once; they are tried again
     * @param oldest since when the oldest waits; null when nothing does
     */
    public record OutboxKind(
            String kind,
            long waiting,
            long failing,
            @Nullable Instant oldest) {}
}
