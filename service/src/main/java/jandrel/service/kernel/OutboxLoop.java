package jandrel.service.kernel;

import jandrel.store.kernel.Outbox;
import java.util.List;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Delivers what waits in the outbox, of one kind. */
public abstract class OutboxLoop extends Loop {
    private static final Logger LOG = LoggerFactory.getLogger(OutboxLoop.class);
    private static final long PAUSE_MILLIS = 2_000;
    private final Outbox outbox;
    private final Outbox.Kind kind;
    private final Semaphore news = new Semaphore(0);

    protected OutboxLoop(String name, Outbox outbox, Outbox.Kind kind) {
        super(name);
        this.outbox = outbox;
        this.kind = kind;
    }

    /** Attempts one entry, and says to the outbox how that went. Ends well before the entry's lease does. */
    protected abstract void deliver(Outbox.Entry entry);

    /** Whether anything can be delivered at all; else entries wait as they are. */
    protected boolean isReady() {
        return true;
    }

    /** Something was added. Only a matter of haste. */
    public void soon() {
        news.release();
    }

    @Override
    protected void turn() throws InterruptedException {
        // one by one: the leases of more would run out while they wait for a slow server to take those before them
        List<Outbox.Entry> due = isReady() ? outbox.lease(kind, 1) : List.of();
        due.forEach(this::attempt);
        if (due.isEmpty() && news.tryAcquire(PAUSE_MILLIS, TimeUnit.MILLISECONDS)) {
            news.drainPermits();
        }
    }

    /** An entry that fails in a way nobody thought of keeps no other from going out. */
    private void attempt(Outbox.Entry entry) {
        try {
            deliver(entry);
        } catch (RuntimeException failed) {
            LOG.error("{} {} could not be delivered", kind, entry.subject(), failed);
            outbox.failed(entry, failed.getClass().getSimpleName());
        }
    }

    @Override
    protected void wake() {
        news.release();
    }
}
