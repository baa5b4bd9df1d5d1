package jandrel.service.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

class PrefetchTest {
    private static List<List<Long>> batches(int count) {
        return LongStream.range(0, count).mapToObj(List::of).toList();
    }

    @Test
    void batchesComeInOrderAndNoMoreThanThreeAreUnderWay() throws InterruptedException {
        AtomicInteger begun = new AtomicInteger();
        try (Prefetch<Long, Long> ahead = new Prefetch<>(
                batches(10).iterator(),
                b -> 1_000,
                b -> {
                    begun.incrementAndGet();
                    return b.get(0);
                },
                (b, fetched) -> fetched * 10)) {
            List<Long> found = new ArrayList<>();
            for (Long next = ahead.next(); next != null; next = ahead.next()) {
                Thread.sleep(2);
                found.add(next);
                assertThat(begun.get()).isLessThanOrEqualTo(found.size() + 3);
            }
            assertThat(found).containsExactly(0L, 10L, 20L, 30L, 40L, 50L, 60L, 70L, 80L, 90L);
        }
    }

    @Test
    void whatFailsUnderWayIsThrownAsItIs() {
        try (Prefetch<Long, Long> ahead = new Prefetch<>(
                batches(3).iterator(),
                b -> 1_000,
                b -> {
                    throw new IllegalArgumentException("gone");
                },
                (b, fetched) -> 1L)) {
            assertThatThrownBy(ahead::next)
                    .isInstanceOf(IllegalArgumentException.class)
                    .hasMessage("gone");
        }
    }

    @Test
    void whatIsLargeWaitsForRoomAndGivesItBack() {
        AtomicInteger inMemory = new AtomicInteger();
        AtomicInteger most = new AtomicInteger();
        // a third of all memory each: far more than all who read share, so that each is alone
        long huge = Runtime.getRuntime().maxMemory() / 3;
        for (int round = 0; round < 3; round++) {
            try (Prefetch<Long, Long> ahead = new Prefetch<>(
                    batches(6).iterator(),
                    b -> huge,
                    b -> {
                        most.accumulateAndGet(inMemory.incrementAndGet(), Math::max);
                        return b.get(0);
                    },
                    (b, fetched) -> fetched)) {
                int read = 0;
                while (read < 4 + round && ahead.next() != null) {
                    read++;
                    inMemory.decrementAndGet();
                }
            }
            inMemory.set(0);
        }
        assertThat(most.get()).isLessThanOrEqualTo(2);
    }
}
