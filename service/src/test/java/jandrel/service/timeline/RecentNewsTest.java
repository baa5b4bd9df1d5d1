package jandrel.service.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Collections;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

class RecentNewsTest {
    private long now = Long.MAX_VALUE - 5_000_000_000L;
    private final RecentNews recent = new RecentNews(() -> now);

    private void pass(long millis) {
        now += TimeUnit.MILLISECONDS.toNanos(millis);
    }

    @Test
    void isToldFromTheMomentAskedForOn() {
        pass(3_000);
        recent.add(List.of("a", "#policy"));
        pass(3_000);
        recent.add(List.of("b"));
        pass(500);
        assertThat(recent.ofLast(0)).isEmpty();
        assertThat(recent.ofLast(500)).containsExactly("b");
        assertThat(recent.ofLast(3_499)).containsExactly("b");
        assertThat(recent.ofLast(3_500)).containsExactly("a", "#policy", "b");
    }

    @Test
    void isEverythingWhereThatReachesBackTooFar() {
        pass(1_000);
        assertThat(recent.ofLast(1_000)).isEmpty();
        assertThat(recent.ofLast(1_001)).containsExactly("* #*");
        assertThat(recent.ofLast(Long.MAX_VALUE)).containsExactly("* #*");
        recent.add(List.of("a"));
        recent.begin();
        assertThat(recent.ofLast(0)).isEmpty();
        assertThat(recent.ofLast(1)).containsExactly("* #*");
    }

    @Test
    void keepsAMinuteAndNoMoreThanSoMany() {
        recent.add(List.of("a"));
        pass(RecentNews.KEPT_MILLIS + 1);
        recent.add(List.of("b"));
        assertThat(recent.ofLast(RecentNews.KEPT_MILLIS)).containsExactly("b");
        assertThat(recent.ofLast(RecentNews.KEPT_MILLIS + 1)).containsExactly("* #*");
        recent.add(Collections.nCopies(RecentNews.MOST, "c"));
        pass(1);
        recent.add(List.of("d"));
        assertThat(recent.ofLast(0)).containsExactly("d");
        assertThat(recent.ofLast(10)).containsExactly("* #*");
    }
}
