package jandrel.store;

import jandrel.core.decide.Decider;
import jandrel.core.decide.Vantage;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.item.Item;
import jandrel.core.policy.Policy;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Decides again what a change may have touched. The change itself marks those items, in its own transaction. */
@Component
public class Reconsidering {
    private static final int BATCH = 300;
    private final Rules rules;
    private final Policies policies;
    private final Slices slices;
    private final Recorder recorder;
    private final RecordMapper records;
    private final IntakeMapper mapper;

    Reconsidering(
            Rules rules,
            Policies policies,
            Slices slices,
            Recorder recorder,
            RecordMapper records,
            IntakeMapper mapper) {
        this.rules = rules;
        this.policies = policies;
        this.slices = slices;
        this.recorder = recorder;
        this.records = records;
        this.mapper = mapper;
    }

    /** Takes the next batch. @return how many sightings it held; 0 when nothing is left to do */
    @Transactional
    public int next() {
        rules.withoutWaiting();
        rules.hold();
        UUID[] ids = mapper.takeSome(BATCH).toArray(UUID[]::new);
        if (ids.length == 0) {
            return 0;
        }
        // the locks come first: nobody may replace what is read next
        records.lock(mapper.items(ids).toArray(UUID[]::new));
        recorder.record(decided(mapper.stored(ids)), null);
        return ids.length;
    }

    /** How many sightings wait to be decided again. */
    public long left() {
        return mapper.toReconsider();
    }

    private List<Observed> decided(List<RecordMapper.Stored> rows) {
        Map<Integer, Instant> since = new HashMap<>();
        mapper.since(rows.stream().map(RecordMapper.Stored::source).distinct().toArray(Integer[]::new))
                .forEach(s -> since.put(s.source(), s.since()));
        List<Item> items = rows.stream().map(Reconsidering::facts).toList();
        DirectorySlice slice = slices.of(items);
        Policy policy = policies.current();
        List<Observed> observed = new ArrayList<>(rows.size());
        for (int i = 0; i < rows.size(); i++) {
            RecordMapper.Stored row = rows.get(i);
            Vantage vantage = new Vantage(row.person(), since.getOrDefault(row.source(), Instant.EPOCH));
            observed.add(Intake.again(row, items.get(i), Decider.decide(items.get(i), vantage, policy, slice)));
        }
        return observed;
    }

    private static Item facts(RecordMapper.Stored row) {
        return Json.item(row.kind(), String.valueOf(row.facts()));
    }
}
