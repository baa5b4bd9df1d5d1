package jandrel.core.contacts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.fail;

import jandrel.core.reconcile.Preference;
import jandrel.core.reconcile.Preference.Deleted;
import jandrel.core.reconcile.Preference.Wins;
import jandrel.core.reconcile.RandomHistory;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Random histories of a contact and its cards. A failure names its seed, and the fewest of its steps that still fail. */
class ContactSidesTest {
    private static final int HISTORIES = 2_500;

    @ParameterizedTest
    @ValueSource(longs = {7, 131, 2_203, 40_009})
    void theDirectoryAndEveryBookAgreeInTheEnd(long block) {
        int conflicts = 0;
        int writes = 0;
        int receipts = 0;
        int questions = 0;
        for (int n = 0; n < HISTORIES; n++) {
            long seed = Long.getLong("jandrel.seed", block * 1_000_003 + n);
            List<Long> steps = RandomHistory.steps(seed);
            ContactSides sides = played(seed, steps);
            if (!sides.problems.isEmpty()) {
                ContactSides again = played(
                        seed,
                        RandomHistory.fewest(
                                steps, some -> !played(seed, some).problems.isEmpty()));
                fail("seed %d: %s%n%s", seed, again.problems, String.join("\n", again.story));
            }
            conflicts += sides.journal.size();
            writes += sides.writes;
            receipts += sides.receipts;
            questions += sides.questions;
        }
        // a model in which nothing ever happens would agree, too
        assertThat(conflicts).isGreaterThan(HISTORIES / 10);
        assertThat(writes).isGreaterThan(HISTORIES);
        assertThat(receipts).isGreaterThan(HISTORIES);
        assertThat(questions).isGreaterThan(HISTORIES / 20);
    }

    private static ContactSides played(long seed, List<Long> steps) {
        SplittableRandom random = new SplittableRandom(~seed);
        Deleted[] deleted = {Deleted.REMOVE, Deleted.KEEP, Deleted.ASK};
        Preference preference = new Preference(
                Wins.values()[random.nextInt(3)],
                random.nextInt(4) == 0,
                deleted[random.nextInt(3)],
                deleted[random.nextInt(3)],
                random.nextInt(4) > 0,
                true);
        if (preference.takesUp() && random.nextInt(4) == 0) {
            preference = new Preference(
                    preference.wins(),
                    preference.deletionWins(),
                    preference.deletedThere(),
                    preference.deletedHere(),
                    true,
                    false);
        }
        ContactSides sides = new ContactSides(preference, random, 1 + random.nextInt(3));
        steps.forEach(sides::step);
        sides.end();
        return sides;
    }
}
