package jandrel.core.reconcile;

import static jandrel.core.reconcile.InvitationDiff.Sort.ASKED;
import static jandrel.core.reconcile.InvitationDiff.Sort.CHANGED;
import static jandrel.core.reconcile.InvitationDiff.Sort.WITHDRAWN;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.reconcile.Details.When;
import jandrel.core.reconcile.InvitationDiff.Letter;
import jandrel.core.reconcile.InvitationDiff.Told;
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

    private static List<Letter> owed(@Nullable Details meeting, Map<String, Told> told) {
        return InvitationDiff.owed(meeting, told, NOW);
    }

    @Test
    void everyGuestIsAskedOnceAndThenToldOfWhatIsWorthTelling() {
        assertThat(owed(MEETING, Map.of()))
                .containsExactly(new Letter("ann", ASKED, MEETING), new Letter("bob", ASKED, MEETING));
        Map<String, Told> told = Map.of("ann", new Told(MEETING, false), "bob", new Told(MEETING, false));
        assertThat(owed(MEETING, told)).isEmpty();
        Details later = MEETING.at(new When(NOW.plusSeconds(9000), NOW.plusSeconds(12_600), false, ""));
        assertThat(owed(later, told)).extracting(Letter::sort).containsExactly(CHANGED, CHANGED);
        // an answer, a reminder, and how busy it makes its owner are nothing to tell guests of
        Details answered = MEETING.answered(new TreeMap<>(Map.of("ann", Answer.ACCEPTED)));
        assertThat(owed(answered, told)).isEmpty();
    }

    @Test
    void whoIsTakenOffIsToldSoAndAskedAnewWhenTheyComeBack() {
        Map<String, Told> told =
                new HashMap<>(Map.of("ann", new Told(MEETING, false), "bob", new Told(MEETING, false)));
        Details without = MEETING.with(new TreeSet<>(Set.of("ann")));
        assertThat(owed(without, told)).containsExactly(new Letter("bob", WITHDRAWN, MEETING));
        told.put("bob", new Told(MEETING, true));
        assertThat(owed(without, told)).isEmpty();
        assertThat(owed(MEETING, told)).containsExactly(new Letter("bob", ASKED, MEETING));
    }

    @Test
    void whatIsCancelledOrDeletedIsWithdrawnFromThoseWhoKnewOfItAndNobodyElse() {
        Map<String, Told> told = Map.of("ann", new Told(MEETING, false));
        assertThat(owed(MEETING.cancel(), told)).containsExactly(new Letter("ann", WITHDRAWN, MEETING));
        assertThat(owed(null, told)).containsExactly(new Letter("ann", WITHDRAWN, MEETING));
        assertThat(owed(null, Map.of())).isEmpty();
    }

    @Test
    void whatIsOverIsToldToNobody() {
        Details over = MEETING.at(new When(NOW.minusSeconds(7200), NOW, false, ""));
        assertThat(owed(over, Map.of())).isEmpty();
        assertThat(owed(null, Map.of("ann", new Told(over, false)))).isEmpty();
    }

    /** However a meeting changes and however letters are cut off between, telling again ends, and leaves everybody knowing what is. */
    @ParameterizedTest
    @ValueSource(longs = {3, 77, 912})
    void tellingComesToAnEnd(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        for (int n = 0; n < 300; n++) {
            Map<String, Told> told = new HashMap<>();
            @Nullable Details meeting = MEETING;
            for (int step = 0; step < 12; step++) {
                meeting = changed(random);
                List<Letter> letters = new ArrayList<>(owed(meeting, told));
                for (Letter letter : letters.subList(0, random.nextInt(letters.size() + 1))) {
                    told.put(letter.guest(), new Told(letter.details(), letter.sort() == WITHDRAWN));
                }
            }
            for (Letter letter : owed(meeting, told)) {
                told.put(letter.guest(), new Told(letter.details(), letter.sort() == WITHDRAWN));
            }
            assertThat(owed(meeting, told)).as("seed %d, history %d", seed, n).isEmpty();
            Set<String> asked = new TreeSet<>();
            told.forEach((guest, t) -> {
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
