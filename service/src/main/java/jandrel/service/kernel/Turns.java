package jandrel.service.kernel;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Requests in the order in which they came. A crowd that is served all at once shares the processors, so that everybody waits for the
 * last; in turn, the first have their answer meanwhile. A request that takes long keeps the next one waiting for a moment alone.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 50)
// what fails is heard of elsewhere: by the channel, the next turn, or not at all on purpose
@SuppressWarnings("FutureReturnValueIgnored")
class Turns extends OncePerRequestFilter implements DisposableBean {
    private static final int A_PROCESSOR = 3;
    /** How long a request counts as being served, and how long the next one waits at most. */
    private static final Duration A_TURN = Duration.ofMillis(250);

    private static final Duration MOST_WAIT = Duration.ofMillis(400);
    private final Semaphore turns;
    private final Duration turn;
    private final Duration mostWait;
    private final ScheduledExecutorService clock = Executors.newSingleThreadScheduledExecutor(work -> {
        Thread t = new Thread(work, "turns");
        t.setDaemon(true);
        return t;
    });

    @Autowired
    Turns() {
        this(A_PROCESSOR * Runtime.getRuntime().availableProcessors());
    }

    Turns(int atOnce) {
        this(atOnce, A_TURN, MOST_WAIT);
    }

    /**
     * @param turn how long a request counts as being served
     * @param mostWait how long one waits for its turn
     */
    Turns(int atOnce, Duration turn, Duration mostWait) {
        turns = new Semaphore(atOnce, true);
        this.turn = turn;
        this.mostWait = mostWait;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        boolean mine = waited();
        AtomicBoolean held = new AtomicBoolean(mine);
        Runnable over = () -> {
            if (held.getAndSet(false)) {
                turns.release();
            }
        };
        if (mine) {
            clock.schedule(over, turn.toMillis(), TimeUnit.MILLISECONDS);
        }
        try {
            chain.doFilter(request, response);
        } finally {
            over.run();
        }
    }

    private boolean waited() {
        try {
            return turns.tryAcquire(mostWait.toMillis(), TimeUnit.MILLISECONDS);
        } catch (InterruptedException ending) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    @Override
    public void destroy() {
        clock.shutdownNow();
    }
}
