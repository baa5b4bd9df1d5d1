package jandrel.core.measures;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** Mean, median and quarters of some numbers; null where there are none. Between two of them they lie where a straight line does. */
record Spread(
        @Nullable Double mean,
        @Nullable Double quarter,
        @Nullable Double median,
        @Nullable Double threeQuarters) {
    static Spread of(List<Double> numbers) {
        if (numbers.isEmpty()) {
            return new Spread(null, null, null, null);
        }
        List<Double> sorted = numbers.stream().sorted().toList();
        return new Spread(
                sorted.stream().mapToDouble(n -> n).average().orElseThrow(),
                at(sorted, 0.25),
                at(sorted, 0.5),
                at(sorted, 0.75));
    }

    private static double at(List<Double> sorted, double share) {
        double place = share * (sorted.size() - 1);
        int below = (int) place;
        double low = sorted.get(below);
        double high = sorted.get(Math.min(below + 1, sorted.size() - 1));
        return low + (place - below) * (high - low);
    }
}
