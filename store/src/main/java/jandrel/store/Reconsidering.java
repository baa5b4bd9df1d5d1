package jandrel.store;

import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Decides again what a change may have touched. The change itself marks those items, in its own transaction. */
@Component
public class Reconsidering {
    private static final int BATCH = 300;
    private final Rules rules;
    private final Standings standings;
    private final Recorder recorder;
    private final RecordMapper records;
    private final IntakeMapper mapper;
    private final Journal journal;

    Reconsidering(
            Rules rules,
            Standings standings,
            Recorder recorder,
            RecordMapper records,
            IntakeMapper mapper,
            Journal journal) {
        this.journal = journal;
        this.rules = rules;
        this.standings = standings;
        this.recorder = recorder;
        this.records = records;
        this.mapper = mapper;
    }

    /** Takes the next batch. @return how many sightings it held; 0 when nothing is left to do */
    @Transactional
    public int next() {
        if (rules.paused()) {
            return 0;
        }
        rules.withoutWaiting();
        rules.hold();
        UUID[] ids = mapper.takeSome(BATCH).toArray(UUID[]::new);
        if (ids.length == 0) {
            return 0;
        }
        // the locks come first: nobody may replace what is read next
        records.lock(mapper.items(ids).toArray(UUID[]::new));
        recorder.record(standings.decided(mapper.stored(ids), false), null);
        return ids.length;
    }

    public boolean paused() {
        return rules.paused();
    }

    /** Lets deciding again wait, or go on; what is new is captured all the while. */
    @Transactional
    public void pause(boolean paused, String by) {
        if (rules.paused() != paused) {
            rules.pause(paused);
            journal.add(
                    by,
                    paused ? "paused" : "let go on",
                    new jandrel.core.journal.Entry.Thing("background", "reconsider", "deciding again"),
                    !paused,
                    paused);
        }
    }

    /** How many sightings wait to be decided again. */
    public long left() {
        return mapper.toReconsider();
    }
}
