package jandrel.service.timeline;

import jandrel.store.kernel.News;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.function.LongSupplier;

/**
 * What was told in the last minute, for a page that asked for what it shows before it could listen: what changed in between is told to it
 * as soon as it does. Bounded in time and number; what is not known any more counts as everything.
 */
final class RecentNews {
    static final long KEPT_MILLIS = 60_000;
    static final int MOST = 2_000;
    /** Any record, and any kind of things. */
    static final String ALL = News.MANY + " " + News.KIND + News.MANY;

    private record Told(long at, String words) {}

    private final LongSupplier nanos;
    private final Deque<Told> told = new ArrayDeque<>();
    private long since;

    /** @param nanos a clock that only goes forward, as {@link System#nanoTime} */
    RecentNews(LongSupplier nanos) {
        this.nanos = nanos;
        this.since = nanos.getAsLong();
    }

    /** Listening begins; what was told before is not known. */
    synchronized void begin() {
        told.clear();
        since = nanos.getAsLong();
    }

    synchronized void add(List<String> heard) {
        long now = nanos.getAsLong();
        heard.forEach(words -> told.add(new Told(now, words)));
        long oldest = now - TimeUnit.MILLISECONDS.toNanos(KEPT_MILLIS);
        while (!told.isEmpty() && (told.size() > MOST || told.getFirst().at() - oldest < 0)) {
            since = told.removeFirst().at() + 1;
        }
    }

    /** @return what was told in the last so many milliseconds, the oldest first; {@link #ALL} where that reaches back too far */
    synchronized List<String> ofLast(long millis) {
        long from = nanos.getAsLong() - TimeUnit.MILLISECONDS.toNanos(Math.min(millis, 2 * KEPT_MILLIS));
        if (from - since < 0) {
            return List.of(ALL);
        }
        return told.stream().filter(t -> t.at() - from >= 0).map(Told::words).toList();
    }
}
