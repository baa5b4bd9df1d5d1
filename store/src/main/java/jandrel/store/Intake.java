package jandrel.store;

import jandrel.core.decide.Decider;
import jandrel.core.decide.Decision;
import jandrel.core.decide.Verdict;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.item.Item;
import jandrel.core.policy.Policy;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Where items come in: each batch is decided and recorded, and the source's cursor moved, in one transaction. */
@Component
public class Intake {
    private final Rules rules;
    private final Policies policies;
    private final Slices slices;
    private final ItemKeys keys;
    private final Recorder recorder;
    private final IntakeMapper mapper;

    Intake(Rules rules, Policies policies, Slices slices, ItemKeys keys, Recorder recorder, IntakeMapper mapper) {
        this.rules = rules;
        this.policies = policies;
        this.slices = slices;
        this.keys = keys;
        this.recorder = recorder;
        this.mapper = mapper;
    }

    /**
     * @param gone positions at which the source shows nothing any more; those never seen are passed over
     * @param move null when no cursor moves
     * @throws CursorMoved if another worker was faster; nothing is recorded then
     */
    @Transactional
    public void take(Place place, List<Seen> seen, Collection<String> gone, @Nullable CursorMove move) {
        rules.withoutWaiting();
        rules.hold();
        List<Observed> observed = new ArrayList<>(decided(place, seen));
        if (!gone.isEmpty()) {
            UUID[] ids =
                    gone.stream().map(p -> keys.sighting(place.source(), p)).toArray(UUID[]::new);
            mapper.known(ids).forEach(row -> observed.add(left(row)));
        }
        recorder.record(observed, move);
    }

    private List<Observed> decided(Place place, List<Seen> seen) {
        if (seen.isEmpty()) {
            return List.of();
        }
        Policy policy = policies.current();
        DirectorySlice slice = slices.of(seen.stream().map(Seen::item).toList());
        List<Observed> observed = new ArrayList<>(seen.size());
        for (Seen s : seen) {
            Decision decision = Decider.decide(s.item(), place.vantage(), policy, slice);
            boolean logged = decision.verdict() == Verdict.LOGGED;
            observed.add(Observed.of(
                    keys, place, s.position(), s.item(), logged ? Beside.made(s.content()) : null, decision));
        }
        return observed;
    }

    private static Observed left(IntakeMapper.Known row) {
        return new Observed(
                row.id(),
                row.source(),
                row.person(),
                row.position(),
                row.item(),
                row.kind(),
                row.at(),
                null,
                null,
                Decider.gone());
    }

    /** Decides a stored item again; what its decision needs is all in {@code facts}. */
    static Observed again(RecordMapper.Stored row, Item facts, Decision decision) {
        return new Observed(
                row.id(),
                row.source(),
                row.person(),
                row.position(),
                row.item(),
                row.kind(),
                row.at(),
                facts,
                null,
                decision);
    }
}
