package jandrel.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.regex.Pattern;

/**
 * What a virtual machine's host takes from it (<em>steal</em> in proc(5)). A test that waits ten seconds for a page means ten seconds of a
 * machine that is there: where the host runs others for three quarters of the time, that is forty by the clock. Not for what is promised in
 * seconds.
 */
public final class StolenTime {
    private static final Path COUNTERS = Path.of("/proc/stat");
    private static final int MOST = 12;
    /** Ticks of a hundredth of a second that say nothing yet. */
    private static final int FEW = 20;

    private static final Duration BETWEEN = Duration.ofSeconds(2);
    private static final int KEPT = 150;
    private static final Deque<Ticks> SAMPLES = new ArrayDeque<>();

    static {
        Thread sampler = new Thread(StolenTime::sample, "stolen-time");
        sampler.setDaemon(true);
        sampler.start();
    }

    /** Since the machine started, of all its processors together. */
    record Ticks(long busy, long stolen) {
        private static final Pattern DIGITS = Pattern.compile("\\d+");
        static final Ticks NONE = new Ticks(0, 0);

        /** @param line the first of /proc/stat: user nice system idle iowait irq softirq steal … */
        static Ticks of(String line) {
            List<Long> n = DIGITS.matcher(line)
                    .results()
                    .map(found -> Long.valueOf(found.group()))
                    .toList();
            if (n.size() < 8) {
                return NONE;
            }
            return new Ticks(n.get(0) + n.get(1) + n.get(2) + n.get(5) + n.get(6), n.get(7));
        }

        static Ticks now() {
            try (var lines = Files.lines(COUNTERS)) {
                return lines.findFirst().map(Ticks::of).orElse(NONE);
            } catch (IOException | RuntimeException elsewhere) {
                return NONE;
            }
        }

        /** How many times longer work takes than it would by itself: 1 where nothing was taken. */
        double slowness(Ticks before) {
            long worked = busy - before.busy;
            long taken = stolen - before.stolen;
            return worked + taken < FEW ? 1 : Math.min(MOST, (double) (worked + taken) / Math.max(1, worked));
        }
    }

    private StolenTime() {}

    private static void sample() {
        while (true) {
            synchronized (SAMPLES) {
                SAMPLES.addLast(Ticks.now());
                if (SAMPLES.size() > KEPT) {
                    SAMPLES.removeFirst();
                }
            }
            try {
                Thread.sleep(BETWEEN.toMillis());
            } catch (InterruptedException ended) {
                return;
            }
        }
    }

    /** How slow the machine is: the most of the last ten seconds, the last minute and the last five. */
    private static double slowness() {
        Ticks now = Ticks.now();
        double most = 1;
        synchronized (SAMPLES) {
            int left = SAMPLES.size();
            for (Ticks then : SAMPLES) {
                if (left == 5 || left == 30 || left == SAMPLES.size()) {
                    most = Math.max(most, now.slowness(then));
                }
                left--;
            }
        }
        return most;
    }

    /** How long to wait by the clock for what may take so long on a machine that is there. */
    public static Duration patience(Duration ours) {
        return Duration.ofMillis((long) (ours.toMillis() * slowness()));
    }
}
