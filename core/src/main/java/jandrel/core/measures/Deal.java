package jandrel.core.measures;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * An opportunity through time.
 *
 * @param changes how it was from each moment on, in order; at least one
 */
public record Deal(UUID id, List<Change> changes) {
    /** What a stage, or an opportunity, comes to. */
    public enum Means {
        OPEN,
        /** They said yes, and have not signed. */
        AGREED,
        WON,
        LOST
    }

    /** @param period whether the value is once or every month */
    public record Worth(@Nullable BigDecimal value, String currency, String period) {}

    public record Change(
            Instant at,
            String stage,
            Means means,
            Worth worth,
            @Nullable UUID owner,
            UUID account,
            String channel) {
        public boolean isClosed() {
            return means == Means.WON || means == Means.LOST;
        }
    }

    public Deal {
        changes = changes.stream().sorted(Comparator.comparing(Change::at)).toList();
        if (changes.isEmpty()) {
            throw new IllegalArgumentException("an opportunity without a beginning");
        }
    }

    public Instant opened() {
        return changes.get(0).at();
    }

    /** As it is today. */
    public Change now() {
        return changes.get(changes.size() - 1);
    }

    /** As it was at a moment; nothing before it was opened. */
    public Optional<Change> at(Instant moment) {
        return changes.stream().filter(c -> !c.at().isAfter(moment)).reduce((before, after) -> after);
    }

    /** Since when it is won or lost as it is now; nothing while it is open. */
    public Optional<Instant> closed() {
        Means means = now().means();
        if (!now().isClosed()) {
            return Optional.empty();
        }
        Instant since = now().at();
        for (int i = changes.size() - 1; i >= 0 && changes.get(i).means() == means; i--) {
            since = changes.get(i).at();
        }
        return Optional.of(since);
    }

    boolean isWon() {
        return now().means() == Means.WON;
    }
}
