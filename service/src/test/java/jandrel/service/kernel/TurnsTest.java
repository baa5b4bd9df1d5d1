package jandrel.service.kernel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import jakarta.servlet.FilterChain;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

class TurnsTest {
    private final ExecutorService threads = Executors.newCachedThreadPool();

    @AfterEach
    void close() {
        threads.shutdownNow();
    }

    private static void ask(Turns turns, FilterChain chain) throws Exception {
        HttpServletRequest request = mock(HttpServletRequest.class);
        when(request.getDispatcherType()).thenReturn(jakarta.servlet.DispatcherType.REQUEST);
        turns.doFilter(request, mock(HttpServletResponse.class), chain);
    }

    private Future<?> begin(Turns turns, FilterChain chain) {
        return threads.submit(() -> {
            ask(turns, chain);
            return null;
        });
    }

    @Test
    void noMoreAtOnceThanTurnsAndAllAreServed() throws Exception {
        // a machine that stands still for a moment ends nobody's turn here
        Turns turns = new Turns(2, Duration.ofMinutes(1), Duration.ofMinutes(1));
        AtomicInteger now = new AtomicInteger();
        AtomicInteger most = new AtomicInteger();
        List<Future<?>> all = new ArrayList<>();
        for (int i = 0; i < 20; i++) {
            all.add(begin(turns, (request, response) -> {
                most.accumulateAndGet(now.incrementAndGet(), Math::max);
                pause(10);
                now.decrementAndGet();
            }));
        }
        for (Future<?> one : all) {
            one.get(10, TimeUnit.SECONDS);
        }
        assertThat(most.get()).isEqualTo(2);
        turns.destroy();
    }

    @Test
    void oneThatTakesLongKeepsTheNextWaitingForAMomentAlone() throws Exception {
        Turns turns = new Turns(1);
        CountDownLatch ends = new CountDownLatch(1);
        Future<?> slow = begin(turns, (request, response) -> {
            try {
                ends.await();
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
            }
        });
        for (int i = 0; i < 3; i++) {
            long began = System.nanoTime();
            begin(turns, (request, response) -> {}).get(10, TimeUnit.SECONDS);
            assertThat(Duration.ofNanos(System.nanoTime() - began)).isLessThan(Duration.ofSeconds(2));
        }
        ends.countDown();
        slow.get(10, TimeUnit.SECONDS);
        turns.destroy();
    }

    @Test
    void aTurnIsGivenBackOnceWhateverBecomesOfIt() throws Exception {
        Turns turns = new Turns(1);
        for (int i = 0; i < 3; i++) {
            assertThatThrownBy(() -> ask(turns, (request, response) -> {
                        throw new IllegalStateException("failed");
                    }))
                    .isInstanceOf(IllegalStateException.class);
        }
        ask(turns, (request, response) -> pause(400));
        // were its turn given back twice, by the clock and at its end, two could be served at once
        noMoreThanOne(turns);
        turns.destroy();
    }

    private void noMoreThanOne(Turns turns) throws Exception {
        AtomicInteger now = new AtomicInteger();
        AtomicInteger most = new AtomicInteger();
        List<Future<?>> all = new ArrayList<>();
        for (int i = 0; i < 5; i++) {
            all.add(begin(turns, (request, response) -> {
                most.accumulateAndGet(now.incrementAndGet(), Math::max);
                pause(5);
                now.decrementAndGet();
            }));
        }
        for (Future<?> one : all) {
            one.get(10, TimeUnit.SECONDS);
        }
        assertThat(most.get()).isEqualTo(1);
    }

    private static void pause(int millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }
}
