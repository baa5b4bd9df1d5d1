package jandrel.core.rehearse;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.decide.Decider;
import jandrel.core.decide.Decision;
import jandrel.core.decide.Rule;
import jandrel.core.decide.SourceContext;
import jandrel.core.decide.Verdict;
import jandrel.core.decide.World;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.item.MailItem;
import jandrel.core.policy.Policy;
import jandrel.core.rehearse.Turn.Effect;
import jandrel.core.timeline.Activity;
import jandrel.core.timeline.ActivityMerge;
import jandrel.core.timeline.Logged;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class EffectsTest {
    private static final MailItem MAIL = World.mail("bram@skarvik.example", "tobias@corvane.example");
    private static final UUID ME = World.REP.id();

    private static Decision decide(Policy policy, DirectorySlice slice) {
        return Decider.decide(MAIL, new SourceContext(ME, Instant.EPOCH), policy, slice);
    }

    private static List<Activity> activity(Decision d) {
        return d.verdict() == Verdict.LOGGED
                ? ActivityMerge.combine(ME, List.of(new Logged(ME, ME, MAIL, null, d)), Map.of())
                : List.of();
    }

    private static Turn turn(Decision before, Decision after) {
        return new Turn(
                World.id(90),
                "mail",
                MAIL.at(),
                List.of(new Turn.Side(World.id(91), ME, before, after)),
                activity(before),
                activity(after));
    }

    private static final Decision LOGGED =
            decide(Policy.first(), World.directory().build());
    private static final Decision EXCLUDED =
            decide(Policy.first(), World.excluding("@skarvik.example").build());
    private static final Decision SHY =
            decide(Policy.first().with(Policy.Sharing.OWNER), World.directory().build());

    @Test
    void eachEffectIsToldByWhatStandsOnTimelines() {
        assertThat(turn(LOGGED, EXCLUDED).effects()).containsExactly(Effect.VANISHES);
        assertThat(turn(EXCLUDED, LOGGED).effects()).containsExactly(Effect.APPEARS);
        assertThat(turn(LOGGED, SHY).effects()).containsExactly(Effect.READERS);
        assertThat(turn(LOGGED, LOGGED).effects()).isEmpty();
        assertThat(turn(EXCLUDED, EXCLUDED).effects()).isEmpty();
    }

    @Test
    void effectsAreCountedByPersonAccountAndRule() {
        Effects effects = new Effects();
        effects.add(turn(LOGGED, EXCLUDED));
        effects.add(turn(LOGGED, EXCLUDED));
        effects.add(turn(LOGGED, SHY));
        effects.add(turn(LOGGED, LOGGED));
        assertThat(effects.items()).isEqualTo(4);
        assertThat(effects.decisions()).isEqualTo(3);
        assertThat(effects.activities(Effect.VANISHES)).isEqualTo(2);
        assertThat(effects.byPerson())
                .containsExactly(new Effects.Tally<>(ME, Map.of(Effect.VANISHES, 2L, Effect.READERS, 1L)));
        assertThat(effects.byAccount().get(0).key()).isEqualTo(World.PORT.id());
        assertThat(effects.byRule().get(0)).isEqualTo(new Effects.Tally<>(Rule.EXCLUDED, Map.of(Effect.VANISHES, 2L)));
        assertThat(effects.examples()).hasSize(1);
    }

    @Test
    void whatTheAskerMayNotReadCountsOnlyWhereSeveralPeopleAreBehindIt() {
        Effects effects = new Effects(turn -> false);
        for (int n = 1; n <= 3; n++) {
            UUID person = new UUID(3, n);
            assertThat(effects.activities(Effect.VANISHES)).isZero();
            assertThat(effects.items()).isZero();
            Turn turn = turn(LOGGED, EXCLUDED);
            effects.add(new Turn(
                    new UUID(4, n),
                    "mail",
                    turn.at(),
                    List.of(new Turn.Side(new UUID(5, n), person, LOGGED, EXCLUDED)),
                    turn.before(),
                    turn.after()));
            assertThat(effects.hidesSome()).isTrue();
        }
        assertThat(effects.activities(Effect.VANISHES)).isEqualTo(3);
        assertThat(effects.items()).isEqualTo(3);
        assertThat(effects.byPerson()).as("each is one person's").isEmpty();
        assertThat(effects.examples()).isEmpty();
    }
}
