package jandrel.core.measures;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** An opportunity through time. */
public final class Deal {
    private final UUID id;
    private final List<Change> changes;
    private final Change now;
    private final Instant opened;
    private final @Nullable Instant closed;
    /** In seconds, so that those of another time are passed over at a glance. */
    private final long over;

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

    /** @param changes how it was from each moment on; at least one */
    public Deal(UUID id, List<Change> changes) {
        this.id = id;
        this.changes = changes.stream().sorted(Comparator.comparing(Change::at)).toList();
        if (changes.isEmpty()) {
            throw new IllegalArgumentException("an opportunity without a beginning");
        }
        now = this.changes.get(this.changes.size() - 1);
        opened = this.changes.get(0).at();
        closed = sinceClosed();
        over = closed == null ? Long.MAX_VALUE : closed.getEpochSecond();
    }

    public UUID id() {
        return id;
    }

    /** How it was from each moment on, in order. */
    List<Change> changes() {
        return changes;
    }

    Instant opened() {
        return opened;
    }

    /** As it is today. */
    public Change now() {
        return now;
    }

    /** As it was at a moment; nothing before it was opened. */
    public Optional<Change> at(Instant moment) {
        for (int i = changes.size() - 1; i >= 0; i--) {
            if (!changes.get(i).at().isAfter(moment)) {
                return Optional.of(changes.get(i));
            }
        }
        return Optional.empty();
    }

    /** Since when it is won or lost as it is now; nothing while it is open. */
    Optional<Instant> closed() {
        return Optional.ofNullable(closed);
    }

    /** Whether all of it was over by then. */
    boolean isOverBefore(Instant moment) {
        return over < moment.getEpochSecond();
    }

    private @Nullable Instant sinceClosed() {
        if (!now.isClosed()) {
            return null;
        }
        Means means = now.means();
        Instant since = now.at();
        for (int i = changes.size() - 1; i >= 0 && changes.get(i).means() == means; i--) {
            since = changes.get(i).at();
        }
        return since;
    }

    boolean isWon() {
        return now().means() == Means.WON;
    }
}
