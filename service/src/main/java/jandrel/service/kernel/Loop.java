package jandrel.service.kernel;

import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;

/** A thread that works as long as the service runs. What fails is logged and tried again after a pause. */
public abstract class Loop implements SmartLifecycle {
    private static final Logger LOG = LoggerFactory.getLogger(Loop.class);
    private static final long PAUSE_MILLIS = 2_000;
    private static final long STOP_MILLIS = 15_000;
    private final String name;
    private volatile boolean running;
    private Thread thread = new Thread(() -> {});

    protected Loop(String name) {
        this.name = name;
    }

    /** Does what there is to do now, then waits for more. */
    protected abstract void turn() throws InterruptedException;

    /** Ends the waiting. */
    protected abstract void wake();

    @Override
    public void start() {
        running = true;
        thread = new Thread(this::run, name);
        thread.setDaemon(true);
        thread.start();
    }

    private void run() {
        while (running) {
            try {
                turn();
            } catch (InterruptedException stopped) {
                return;
            } catch (RuntimeException failed) {
                LOG.error("the loop “{}” failed; it is tried once more", name, failed);
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
        wake();
        try {
            thread.join(STOP_MILLIS);
        } catch (InterruptedException hurried) {
            Thread.currentThread().interrupt();
        }
    }

    /** All loops end at the same time: one after the other, each would wait for its own answer from a database that gives none. */
    @Override
    public void stop(Runnable ended) {
        Thread stopping = new Thread(
                () -> {
                    stop();
                    ended.run();
                },
                "end-of-" + name);
        stopping.setDaemon(true);
        stopping.start();
    }

    @Override
    public boolean isRunning() {
        return running;
    }
}
