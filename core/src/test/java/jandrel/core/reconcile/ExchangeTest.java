package jandrel.core.reconcile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.fail;

import jandrel.core.reconcile.Preference.Deleted;
import jandrel.core.reconcile.Preference.Wins;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Random histories of two sides. A failure names its seed, and the fewest of its steps that still fail. */
class ExchangeTest {
    private static final int HISTORIES = 2_000;

    @ParameterizedTest
    @ValueSource(longs = {11, 223, 4_049, 80_021, 1_600_033})
    void twoSidesAlwaysAgreeInTheEndAndLoseNothing(long block) {
        int conflicts = 0;
        int writes = 0;
        int receipts = 0;
        for (int n = 0; n < HISTORIES; n++) {
            long seed = block * 1_000_003 + n;
            List<Long> steps = RandomHistory.steps(seed);
            TwoSides sides = played(seed, steps);
            if (!sides.problems.isEmpty()) {
                List<Long> fewest = RandomHistory.fewest(
                        steps, some -> !played(seed, some).problems.isEmpty());
                TwoSides again = played(seed, fewest);
                fail("seed %d: %s%n%s", seed, again.problems, String.join("\n", again.story));
            }
            conflicts += sides.journal.values().stream()
                    .mapToInt(java.util.Set::size)
                    .sum();
            writes += sides.writes;
            receipts += sides.receipts;
        }
        // a model in which nothing ever happens would agree, too
        assertThat(conflicts).isGreaterThan(HISTORIES / 10);
        assertThat(writes).isGreaterThan(HISTORIES * 2);
        assertThat(receipts).isGreaterThan(HISTORIES);
    }

    private static TwoSides played(long seed, List<Long> steps) {
        SplittableRandom random = new SplittableRandom(~seed);
        Preference preference = new Preference(
                Wins.values()[random.nextInt(3)],
                random.nextInt(4) == 0,
                Deleted.values()[random.nextInt(3)],
                Deleted.values()[random.nextInt(3)],
                random.nextInt(4) > 0);
        TwoSides sides = new TwoSides(preference, random);
        steps.forEach(sides::step);
        sides.end();
        return sides;
    }
}
