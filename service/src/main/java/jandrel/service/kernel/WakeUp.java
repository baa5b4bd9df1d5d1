package jandrel.service.kernel;

import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.springframework.stereotype.Component;

/** Wakes this node's worker after a change. Only a matter of haste: other nodes, and a node that missed it, look by themselves. */
@Component
public class WakeUp {
    private final Semaphore changes = new Semaphore(0);

    public void rulesChanged() {
        changes.release();
    }

    /** Returns after a change, or when the time is over. */
    public void await(long millis) throws InterruptedException {
        if (changes.tryAcquire(millis, TimeUnit.MILLISECONDS)) {
            changes.drainPermits();
        }
    }
}
