package jandrel.store.timeline;

import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Empty and null members do not filter.
 *
 * @param policy under which its person is now: decisions follow that
 * @param address an address, or a domain with a leading {@code @}
 */
public record DecisionFilter(
        String verdict,
        String kind,
        String rule,
        @Nullable UUID person,
        @Nullable UUID policy,
        @Nullable UUID exclusion,
        @Nullable UUID item,
        Instant from,
        Instant until,
        String address) {
    /** The earliest and the latest that anything can be dated. */
    public static final Instant FIRST = Instant.parse("1900-01-01T00:00:00Z");

    public static final Instant LAST = Instant.parse("9999-01-01T00:00:00Z");

    /** Whether a kept tally says how many there are. */
    boolean isTallied() {
        return isOfMany() && from.equals(FIRST) && until.equals(LAST);
    }

    /** Whether nothing rare is asked for, by which alone it would be found. */
    boolean isOfMany() {
        return exclusion == null && item == null && address.isEmpty();
    }
}
