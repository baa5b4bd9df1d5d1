package jandrel.service.timeline;

import jandrel.formats.mail.NewText;
import jandrel.service.kernel.Loop;
import jandrel.store.timeline.SearchIndex;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.springframework.stereotype.Component;

/** Indexes what was captured, so that it is found by its words. While much is being captured it takes little of the machine. */
@Component
class SearchLoop extends Loop {
    private static final long PAUSE_MILLIS = 1_000;
    private static final long BUSY_PAUSE_MILLIS = 3_000;

    private final SearchIndex index;
    private final Semaphore wanted = new Semaphore(0);
    private final CaptureRate rate = new CaptureRate();
    private boolean isTidy = true;

    SearchLoop(SearchIndex index) {
        super("search");
        this.index = index;
    }

    @Override
    protected void turn() throws InterruptedException {
        boolean busy = rate.isHigh(index.added(), System.nanoTime());
        int done = index.next(NewText::of);
        if (done > 0) {
            isTidy = false;
            if (busy) {
                await(BUSY_PAUSE_MILLIS);
            }
            return;
        }
        if (!isTidy) {
            index.tidy();
            isTidy = true;
        }
        await(PAUSE_MILLIS);
    }

    private void await(long millis) throws InterruptedException {
        if (wanted.tryAcquire(millis, TimeUnit.MILLISECONDS)) {
            wanted.drainPermits();
        }
    }

    @Override
    protected void wake() {
        wanted.release();
    }
}
