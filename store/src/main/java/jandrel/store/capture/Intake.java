package jandrel.store.capture;

import jandrel.core.decide.Decider;
import jandrel.core.decide.Decision;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.item.Content;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.UnreadableItem;
import jandrel.store.directory.Slices;
import jandrel.store.kernel.ItemKeys;
import jandrel.store.kernel.RulesLock;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Where items come in: each batch is decided and recorded, and the source's cursor moved, in one transaction. */
@Component
public class Intake {
    static final String CANNOT_BE_KEPT = "it cannot be handled";
    private static final Logger LOG = LoggerFactory.getLogger(Intake.class);
    private static final Instant FIRST = Instant.parse("1900-01-01T00:00:00Z");
    private static final Instant LAST = Instant.parse("9000-01-01T00:00:00Z");
    private final RulesLock rules;
    private final Standings standings;
    private final Slices slices;
    private final ItemKeys keys;
    private final Recorder recorder;
    private final IntakeMapper mapper;
    private final Clock clock;
    private final TransactionTemplate transactions;
    private final TransactionTemplate snapshot;

    /** A batch that was decided before it is its turn to be recorded. */
    public static final class Prepared {
        private final List<FetchedItem> seen;
        private final long generation;
        private final List<DecidedItem> observed;
        private final Recorder.@Nullable Rows rows;

        /** @param generation of the rules by which it was decided */
        private Prepared(
                List<FetchedItem> seen, long generation, List<DecidedItem> observed, Recorder.@Nullable Rows rows) {
            this.seen = seen;
            this.generation = generation;
            this.observed = observed;
            this.rows = rows;
        }

        /** To be decided as it is recorded. */
        private static Prepared not(List<FetchedItem> seen) {
            return new Prepared(seen, 0, List.of(), null);
        }

        /** Whether what was decided is what would be decided now. */
        private boolean holds(long rulesNow) {
            return rows != null && generation == rulesNow;
        }
    }

    Intake(
            RulesLock rules,
            Standings standings,
            Slices slices,
            ItemKeys keys,
            Recorder recorder,
            IntakeMapper mapper,
            Clock clock,
            TransactionTemplate transactions) {
        this.transactions = transactions;
        snapshot = new TransactionTemplate(Objects.requireNonNull(transactions.getTransactionManager()));
        snapshot.setIsolationLevel(TransactionDefinition.ISOLATION_REPEATABLE_READ);
        snapshot.setReadOnly(true);
        this.clock = clock;
        this.rules = rules;
        this.standings = standings;
        this.slices = slices;
        this.keys = keys;
        this.recorder = recorder;
        this.mapper = mapper;
    }

    /**
     * What cannot be recorded, whatever is wrong with it, becomes unreadable, and the rest goes on: no item stops its source.
     *
     * @param gone positions at which the source shows nothing any more; those never seen are passed over
     * @param move null when no cursor moves
     * @throws CursorConflict if another worker was faster, the connection is at rest or what is captured has changed; nothing is recorded then
     */
    public void take(SourceRef place, List<FetchedItem> seen, Collection<String> gone, @Nullable CursorMove move) {
        take(place, Prepared.not(seen), gone, move);
    }

    /**
     * Decides by the rules as they are, while batches before this one are being recorded. Should they change until it is recorded, it is
     * decided once more then.
     */
    public Prepared prepare(SourceRef place, List<FetchedItem> seen) {
        try {
            return Objects.requireNonNull(snapshot.execute(t -> {
                long generation = rules.generation();
                List<DecidedItem> observed = decided(place, seen);
                return new Prepared(seen, generation, observed, Recorder.Rows.of(observed));
            }));
        } catch (RuntimeException failed) {
            // as it is recorded it will fail again, and be dealt with; the message of the failure may quote the item
            LOG.debug(
                    "source {}: nothing is decided ahead ({})",
                    place.source(),
                    failed.getClass().getName());
            return Prepared.not(seen);
        }
    }

    /** As {@link #take}, of what was decided ahead. */
    public void takePrepared(SourceRef place, Prepared batch, @Nullable CursorMove move) {
        take(place, batch, List.of(), move);
    }

    private void take(SourceRef place, Prepared batch, Collection<String> gone, @Nullable CursorMove move) {
        List<FetchedItem> seen = batch.seen;
        try {
            taken(place, batch, gone, move);
        } catch (RuntimeException failed) {
            if (seen.isEmpty() || !Poison.isIn(failed)) {
                throw failed;
            }
            // the message of the failure may quote the item
            LOG.warn(
                    "source {}: {} items cannot be recorded together ({})",
                    place.source(),
                    seen.size(),
                    failed.getClass().getName());
            if (seen.size() == 1) {
                taken(place, Prepared.not(List.of(unreadable(place, seen.get(0)))), gone, move);
                return;
            }
            int half = seen.size() / 2;
            take(place, seen.subList(0, half), List.of(), null);
            take(place, seen.subList(half, seen.size()), List.of(), null);
            taken(place, Prepared.not(List.of()), gone, move);
        }
    }

    private FetchedItem unreadable(SourceRef place, FetchedItem one) {
        Instant at = one.item().at();
        boolean can = at.isAfter(FIRST) && at.isBefore(LAST);
        UnreadableItem unreadable = new UnreadableItem(
                "unreadable:" + place.source() + "/" + one.position(), can ? at : clock.instant(), CANNOT_BE_KEPT);
        return new FetchedItem(one.position(), unreadable, () -> Content.EMPTY);
    }

    private void taken(SourceRef place, Prepared batch, Collection<String> gone, @Nullable CursorMove move) {
        transactions.executeWithoutResult(t -> {
            rules.withoutWaiting();
            record(place, batch, gone, move, false);
        });
    }

    /** The same, safe on the disk once it returns: for what nobody could fetch again. */
    @Transactional
    public void put(SourceRef place, List<FetchedItem> seen, Collection<String> gone, @Nullable CursorMove move) {
        record(place, Prepared.not(seen), gone, move, true);
    }

    private void record(
            SourceRef place, Prepared batch, Collection<String> gone, @Nullable CursorMove move, boolean evenAtRest) {
        rules.hold();
        // a pause in the middle of a backfill is one from the next batch on
        IntakeMapper.Kept kept = mapper.keep(place.source()).orElseThrow(CursorConflict::byRest);
        if (kept.rests() && !evenAtRest) {
            throw CursorConflict.byRest();
        }
        if (place.generation() != SourceRef.ANY && place.generation() != kept.generation()) {
            throw CursorConflict.byChange();
        }
        boolean holds = batch.holds(kept.rules());
        List<DecidedItem> observed = new ArrayList<>(holds ? batch.observed : decided(place, batch.seen));
        if (!gone.isEmpty()) {
            UUID[] ids =
                    gone.stream().map(p -> keys.sighting(place.source(), p)).toArray(UUID[]::new);
            observed.addAll(standings.decided(mapper.known(ids), true));
        }
        recorder.record(observed, holds ? batch.rows : null, move);
        noteLastMail(place.source(), batch.seen);
    }

    /** Mail has happened once it is there; which of the meetings have, another hour says. */
    private void noteLastMail(int source, List<FetchedItem> seen) {
        Instant now = clock.instant();
        seen.stream()
                .filter(s -> !(s.item() instanceof MeetingItem))
                .map(s -> s.item().at())
                .filter(at -> !at.isAfter(now))
                .max(Comparator.naturalOrder())
                .ifPresent(newest -> mapper.noteLastMail(source, newest));
    }

    private List<DecidedItem> decided(SourceRef place, List<FetchedItem> seen) {
        if (seen.isEmpty()) {
            return List.of();
        }
        DirectorySlice slice = slices.of(seen.stream().map(FetchedItem::item).toList());
        Standings.Standing standing = standings.of(List.of(place.source())).get(place.source());
        List<DecidedItem> observed = new ArrayList<>(seen.size());
        for (FetchedItem s : seen) {
            Decision decision =
                    standing == null ? Decider.notCovered() : standing.decide(s.item(), false, s.hand(), slice);
            boolean marked = standing != null && standing.marks(s.item());
            observed.add(DecidedItem.of(keys, place, s, marked, Dealings.of(s.item(), decision, slice), decision));
        }
        return observed;
    }
}
