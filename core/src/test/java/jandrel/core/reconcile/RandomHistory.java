package jandrel.core.reconcile;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.function.Predicate;

/** Steps that a model takes one by one, each a number that tells what happens. */
public final class RandomHistory {
    private static final int FEWEST = 5;
    private static final int LONGEST = 40;

    private RandomHistory() {}

    public static List<Long> steps(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        List<Long> steps = new ArrayList<>();
        for (int i = random.nextInt(FEWEST, LONGEST); i > 0; i--) {
            steps.add(random.nextLong());
        }
        return steps;
    }

    /** The fewest of the steps that still fail. */
    public static List<Long> fewest(List<Long> steps, Predicate<List<Long>> fails) {
        List<Long> fewest = new ArrayList<>(steps);
        for (int i = 0; i < fewest.size(); ) {
            List<Long> fewer = new ArrayList<>(fewest);
            fewer.remove(i);
            if (fails.test(fewer)) {
                fewest = fewer;
                i = 0;
            } else {
                i++;
            }
        }
        return fewest;
    }
}
