package jandrel.store.capture;

import jandrel.core.decide.Decider;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.RulesLock;
import java.util.List;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Decides again what a change may have touched. The change itself marks those items, in its own transaction. */
@Component
public class Reconsidering {
    private static final Logger LOG = LoggerFactory.getLogger(Reconsidering.class);
    private static final int BATCH = 300;
    private final RulesLock rules;
    private final Standings standings;
    private final Recorder recorder;
    private final RecordMapper records;
    private final IntakeMapper mapper;
    private final Journal journal;
    private final TransactionTemplate transactions;

    Reconsidering(
            RulesLock rules,
            Standings standings,
            Recorder recorder,
            RecordMapper records,
            IntakeMapper mapper,
            Journal journal,
            TransactionTemplate transactions) {
        this.transactions = transactions;
        this.journal = journal;
        this.rules = rules;
        this.standings = standings;
        this.recorder = recorder;
        this.records = records;
        this.mapper = mapper;
    }

    /**
     * Takes the next batch.
     *
     * @return how many sightings it held; 0 when nothing is left to do
     */
    public int next() {
        try {
            return taken(BATCH, false);
        } catch (RuntimeException failed) {
            if (!Poison.isIn(failed)) {
                throw failed;
            }
            LOG.warn(
                    "a batch could not be decided again ({}): one by one",
                    failed.getClass().getName());
            int done = 0;
            for (int one = one(); one > 0 && done < BATCH; one = one()) {
                done += one;
            }
            return Math.max(1, done);
        }
    }

    private int one() {
        try {
            return taken(1, false);
        } catch (RuntimeException failed) {
            if (!Poison.isIn(failed)) {
                throw failed;
            }
            // it is kept in sight with the reason, and stops nothing
            return taken(1, true);
        }
    }

    private int taken(int most, boolean unreadable) {
        Integer taken = transactions.execute(t -> {
            if (rules.paused()) {
                return 0;
            }
            rules.withoutWaiting();
            rules.hold();
            UUID[] ids = mapper.takeSome(most).toArray(UUID[]::new);
            if (ids.length == 0) {
                return 0;
            }
            // the locks come first: nobody may replace what is read next
            records.lock(mapper.items(ids).toArray(UUID[]::new));
            List<RecordMapper.Stored> rows = mapper.stored(ids);
            recorder.record(
                    unreadable
                            ? rows.stream()
                                    .map(row -> DecidedItem.unreadable(row, Decider.unreadable(Intake.CANNOT_BE_KEPT)))
                                    .toList()
                            : standings.decided(rows, false),
                    null);
            return ids.length;
        });
        return taken == null ? 0 : taken;
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
}
