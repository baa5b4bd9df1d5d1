package jandrel.core.measures;

import java.util.Arrays;
import java.util.stream.DoubleStream;
import org.jspecify.annotations.Nullable;

/** Mean, median and quarters of some numbers; null where there are none. Between two of them they lie where a straight line does. */
record Spread(
        @Nullable Double mean,
        @Nullable Double quarter,
        @Nullable Double median,
        @Nullable Double threeQuarters) {
    static Spread of(DoubleStream numbers) {
        double[] sorted = numbers.sorted().toArray();
        if (sorted.length == 0) {
            return new Spread(null, null, null, null);
        }
        return new Spread(
                Arrays.stream(sorted).average().orElseThrow(), at(sorted, 0.25), at(sorted, 0.5), at(sorted, 0.75));
    }

    private static double at(double[] sorted, double share) {
        double place = share * (sorted.length - 1);
        int below = (int) place;
        double low = sorted[below];
        double high = sorted[Math.min(below + 1, sorted.length - 1)];
        return low + (place - below) * (high - low);
    }
}
