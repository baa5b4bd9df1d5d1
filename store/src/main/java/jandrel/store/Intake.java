package jandrel.store;

import jandrel.core.decide.Decider;
import jandrel.core.decide.Decision;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.item.Content;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.UnreadableItem;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Where items come in: each batch is decided and recorded, and the source's cursor moved, in one transaction. */
@Component
public class Intake {
    static final String CANNOT_BE_KEPT = "it cannot be handled";
    private static final Logger LOG = LoggerFactory.getLogger(Intake.class);
    private static final Instant FIRST = Instant.parse("1900-01-01T00:00:00Z");
    private static final Instant LAST = Instant.parse("9000-01-01T00:00:00Z");
    private final Rules rules;
    private final Standings standings;
    private final Slices slices;
    private final ItemKeys keys;
    private final Recorder recorder;
    private final IntakeMapper mapper;
    private final Clock clock;
    private final TransactionTemplate transactions;

    Intake(
            Rules rules,
            Standings standings,
            Slices slices,
            ItemKeys keys,
            Recorder recorder,
            IntakeMapper mapper,
            Clock clock,
            TransactionTemplate transactions) {
        this.transactions = transactions;
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
     * @throws Overtaken if another worker was faster, the connection is at rest or what is captured has changed; nothing is recorded then
     */
    public void take(Place place, List<Seen> seen, Collection<String> gone, @Nullable CursorMove move) {
        try {
            taken(place, seen, gone, move);
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
                taken(place, List.of(unreadable(place, seen.get(0))), gone, move);
                return;
            }
            int half = seen.size() / 2;
            take(place, seen.subList(0, half), List.of(), null);
            take(place, seen.subList(half, seen.size()), List.of(), null);
            taken(place, List.of(), gone, move);
        }
    }

    private Seen unreadable(Place place, Seen one) {
        Instant at = one.item().at();
        boolean can = at.isAfter(FIRST) && at.isBefore(LAST);
        UnreadableItem unreadable = new UnreadableItem(
                "unreadable:" + place.source() + "/" + one.position(), can ? at : clock.instant(), CANNOT_BE_KEPT);
        return new Seen(one.position(), unreadable, () -> Content.EMPTY);
    }

    private void taken(Place place, List<Seen> seen, Collection<String> gone, @Nullable CursorMove move) {
        transactions.executeWithoutResult(t -> {
            rules.withoutWaiting();
            record(place, seen, gone, move, false);
        });
    }

    /** The same, safe on the disk once it returns: for what nobody could fetch again. */
    @Transactional
    public void put(Place place, List<Seen> seen, Collection<String> gone, @Nullable CursorMove move) {
        record(place, seen, gone, move, true);
    }

    private void record(
            Place place, List<Seen> seen, Collection<String> gone, @Nullable CursorMove move, boolean evenAtRest) {
        rules.hold();
        // a pause in the middle of a backfill is one from the next batch on
        IntakeMapper.Kept kept = mapper.keep(place.source()).orElseThrow(Overtaken::byRest);
        if (kept.rests() && !evenAtRest) {
            throw Overtaken.byRest();
        }
        if (place.generation() != Place.ANY && place.generation() != kept.generation()) {
            throw Overtaken.byChange();
        }
        List<Observed> observed = new ArrayList<>(decided(place, seen));
        if (!gone.isEmpty()) {
            UUID[] ids =
                    gone.stream().map(p -> keys.sighting(place.source(), p)).toArray(UUID[]::new);
            observed.addAll(standings.decided(mapper.known(ids), true));
        }
        recorder.record(observed, move);
        noteLastMail(place.source(), seen);
    }

    /** Mail has happened once it is there; which of the meetings have, another hour says. */
    private void noteLastMail(int source, List<Seen> seen) {
        Instant now = clock.instant();
        seen.stream()
                .filter(s -> !(s.item() instanceof MeetingItem))
                .map(s -> s.item().at())
                .filter(at -> !at.isAfter(now))
                .max(Comparator.naturalOrder())
                .ifPresent(newest -> mapper.noteLastMail(source, newest));
    }

    private List<Observed> decided(Place place, List<Seen> seen) {
        if (seen.isEmpty()) {
            return List.of();
        }
        DirectorySlice slice = slices.of(seen.stream().map(Seen::item).toList());
        Standings.Standing standing = standings.of(List.of(place.source())).get(place.source());
        List<Observed> observed = new ArrayList<>(seen.size());
        for (Seen s : seen) {
            Decision decision =
                    standing == null ? Decider.notCovered() : standing.decide(s.item(), false, s.hand(), slice);
            Boolean tagged = standing == null ? null : standing.tagged(s.item(), decision, null);
            observed.add(Observed.of(keys, place, s, tagged, Dealings.of(s.item(), decision, slice), decision));
        }
        return observed;
    }
}
