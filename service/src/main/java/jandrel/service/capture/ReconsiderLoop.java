package jandrel.service.capture;

import jandrel.service.connections.SyncScheduler;
import jandrel.service.kernel.Loop;
import jandrel.service.kernel.WakeUp;
import jandrel.store.capture.Positions;
import jandrel.store.capture.Reconsidering;
import org.springframework.stereotype.Component;

/** Works off what is to be decided again, then has the sources asked for what is to be fetched once more. */
@Component
class ReconsiderLoop extends Loop {
    private static final long PAUSE_MILLIS = 2_000;
    private final Reconsidering reconsidering;
    private final Positions positions;
    private final WakeUp nudges;
    private final SyncScheduler looks;
    private long fetchedLast;

    ReconsiderLoop(Reconsidering reconsidering, Positions positions, WakeUp nudges, SyncScheduler looks) {
        super("reconsider");
        this.reconsidering = reconsidering;
        this.positions = positions;
        this.nudges = nudges;
        this.looks = looks;
    }

    @Override
    protected void turn() throws InterruptedException {
        while (isRunning() && reconsidering.next() > 0) {
            // the next batch
        }
        long toFetch = positions.allToRefetch();
        if (toFetch != 0 && toFetch != fetchedLast) {
            looks.nowWhereWanted();
        }
        fetchedLast = toFetch;
        nudges.await(PAUSE_MILLIS);
    }

    @Override
    protected void wake() {
        nudges.rulesChanged();
    }
}
