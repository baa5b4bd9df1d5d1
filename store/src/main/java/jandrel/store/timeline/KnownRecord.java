package jandrel.store.timeline;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * A record with what its timeline amounts to.
 *
 * @param kind {@code contact}, {@code lead}, {@code account} or {@code opportunity}; what a kind lacks is null
 * @param detail a contact's title, a lead's company
 */
public record KnownRecord(
        String kind,
        UUID id,
        String key,
        String name,
        String detail,
        @Nullable UUID account,
        @Nullable String accountName,
        @Nullable String owner,
        @Nullable String stage,
        @Nullable String state,
        @Nullable BigDecimal value,
        @Nullable String currency,
        String[] addresses,
        String[] phones,
        boolean archived,
        long activities,
        @Nullable Instant lastTouch,
        @Nullable Instant nextMeeting) {}
