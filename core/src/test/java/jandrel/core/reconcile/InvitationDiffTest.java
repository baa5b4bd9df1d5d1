package jandrel.core.reconcile;

import static jandrel.core.reconcile.InvitationDiff.Sort.ASKED;
import static jandrel.core.reconcile.InvitationDiff.Sort.CHANGED;
import static jandrel.core.reconcile.InvitationDiff.Sort.WITHDRAWN;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.reconcile.Details.When;
import jandrel.core.reconcile.InvitationDiff.LastLetter;
import jandrel.core.reconcile.InvitationDiff.Letter;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class InvitationDiffTest {
    private static final Instant NOW = Instant.parse("2026-05-04T08:00:00Z");
    private static final Details MEETING = new Details(
            "Signing",
            new When(NOW.plusSeconds(3600), NOW.plusSeconds(7200), false, ""),
            "Pier 3",
            "",
            "",
            true,
            Privacy.PUBLIC,
            Details.NONE,
            new TreeSet<>(Set.of("ann", "bob")),
            new TreeMap<>(),
            false);

    private static List<Letter> due(@Nullable Details meeting, Map<String, LastLetter> last) {
        return InvitationDiff.due(meeting, last, NOW);
    }

    @Test
    void everyGuestIsAskedOnceAndThenToldOfWhatIsWorthTelling() {
        assertThat(due(MEETING, Map.of()))
                .containsExactly(new Letter("ann", ASKED, MEETING), new Letter("bob", ASKED, MEETING));
        Map<String, LastLetter> last =
                Map.of("ann", new LastLetter(MEETING, false), "bob", new LastLetter(MEETING, false));
        assertThat(due(MEETING, last)).isEmpty();
        Details later = MEETING.at(new When(NOW.plusSeconds(9000), NOW.plusSeconds(12_600), false, ""));
        assertThat(due(later, last)).extracting(Letter::sort).containsExactly(CHANGED, CHANGED);
        // an answer, a reminder, and how busy it makes its owner are nothing to tell guests of
        Details answered = MEETING.answered(new TreeMap<>(Map.of("ann", Answer.ACCEPTED)));
        assertThat(due(answered, last)).isEmpty();
    }

    @Test
    void whoIsTakenOffIsToldSoAndAskedAnewWhenTheyComeBack() {
        Map<String, LastLetter> last =
                new HashMap<>(Map.of("ann", new LastLetter(MEETING, false), "bob", new LastLetter(MEETING, false)));
        Details without = MEETING.with(new TreeSet<>(Set.of("ann")));
        assertThat(due(without, last)).containsExactly(new Letter("bob", WITHDRAWN, MEETING));
        last.put("bob", new LastLetter(MEETING, true));
        assertThat(due(without, last)).isEmpty();
        assertThat(due(MEETING, last)).containsExactly(new Letter("bob", ASKED, MEETING));
    }

    @Test
    void whatIsCancelledOrDeletedIsWithdrawnFromThoseWhoKnewOfItAndNobodyElse() {
        Map<String, LastLetter> last = Map.of("ann", new LastLetter(MEETING, false));
        assertThat(due(MEETING.cancel(), last)).containsExactly(new Letter("ann", WITHDRAWN, MEETING));
        assertThat(due(null, last)).containsExactly(new Letter("ann", WITHDRAWN, MEETING));
        assertThat(due(null, Map.of())).isEmpty();
    }

    @Test
    void whatIsOverIsToldToNobody() {
        Details over = MEETING.at(new When(NOW.minusSeconds(7200), NOW, false, ""));
        assertThat(due(over, Map.of())).isEmpty();
        assertThat(due(null, Map.of("ann", new LastLetter(over, false)))).isEmpty();
    }

    /** However a meeting changes and however letters are cut off between, telling again ends, and leaves everybody knowing what is. */
    @ParameterizedTest
    @ValueSource(longs = {3, 77, 912})
    void tellingComesToAnEnd(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        for (int n = 0; n < 300; n++) {
            Map<String, LastLetter> last = new HashMap<>();
            @Nullable Details meeting = MEETING;
            for (int step = 0; step < 12; step++) {
                meeting = changed(random);
                List<Letter> letters = new ArrayList<>(due(meeting, last));
                for (Letter letter : letters.subList(0, random.nextInt(letters.size() + 1))) {
                    last.put(letter.guest(), new LastLetter(letter.details(), letter.sort() == WITHDRAWN));
                }
            }
            for (Letter letter : due(meeting, last)) {
                last.put(letter.guest(), new LastLetter(letter.details(), letter.sort() == WITHDRAWN));
            }
            assertThat(due(meeting, last)).as("seed %d, history %d", seed, n).isEmpty();
            Set<String> asked = new TreeSet<>();
            last.forEach((guest, t) -> {
                if (!t.withdrawn()) {
                    asked.add(guest);
                }
            });
            Set<String> expected = meeting == null || meeting.cancelled() ? Set.of() : meeting.guests();
            assertThat(asked).as("seed %d, history %d", seed, n).isEqualTo(expected);
        }
    }

    private static @Nullable Details changed(SplittableRandom random) {
        if (random.nextInt(8) == 0) {
            return null;
        }
        TreeSet<String> guests = new TreeSet<>();
        for (String guest : List.of("ann", "bob", "cleo")) {
            if (random.nextBoolean()) {
                guests.add(guest);
            }
        }
        Details details = MEETING.with(guests).titled("Signing " + random.nextInt(3));
        return random.nextInt(8) == 0 ? details.cancel() : details;
    }
}
