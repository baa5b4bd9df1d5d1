package jandrel.service.capture;

import jandrel.store.Positions;
import jandrel.store.Reconsidering;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;

/** Works off what is to be decided again, then has the sources asked for what is to be fetched once more. */
@Component
class ReconsiderLoop implements SmartLifecycle {
    private static final Logger LOG = LoggerFactory.getLogger(ReconsiderLoop.class);
    private static final long PAUSE_MILLIS = 2_000;
    private final Reconsidering reconsidering;
    private final Positions positions;
    private final Nudges nudges;
    private final Looks looks;
    private volatile boolean running;
    private Thread thread = new Thread(() -> {});

    ReconsiderLoop(Reconsidering reconsidering, Positions positions, Nudges nudges, Looks looks) {
        this.reconsidering = reconsidering;
        this.positions = positions;
        this.nudges = nudges;
        this.looks = looks;
    }

    @Override
    public void start() {
        running = true;
        thread = new Thread(this::run, "reconsider");
        thread.setDaemon(true);
        thread.start();
    }

    private void run() {
        long fetchedLast = 0;
        while (running) {
            try {
                while (running && reconsidering.next() > 0) {
                    // the next batch
                }
                long toFetch = positions.allToRefetch();
                if (toFetch != 0 && toFetch != fetchedLast) {
                    looks.nowWhereWanted();
                }
                fetchedLast = toFetch;
                nudges.await(PAUSE_MILLIS);
            } catch (InterruptedException stopped) {
                return;
            } catch (RuntimeException failed) {
                LOG.error("deciding again failed; it is tried once more", failed);
                pause();
            }
        }
    }

    private void pause() {
        try {
            Thread.sleep(PAUSE_MILLIS);
        } catch (InterruptedException stopped) {
            running = false;
        }
    }

    @Override
    public void stop() {
        running = false;
        nudges.rulesChanged();
        try {
            thread.join(15_000);
        } catch (InterruptedException hurried) {
            Thread.currentThread().interrupt();
        }
    }

    @Override
    public boolean isRunning() {
        return running;
    }
}
