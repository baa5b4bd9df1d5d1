package jandrel.core.policy;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class PolicyTest {
    private static final CoveredPerson INA = new CoveredPerson(new UUID(1, 1), "ina", "North", "rep");

    private static Policy policy(String name, Audience audience) {
        return Policy.first().named(UUID.randomUUID(), 1, name).with(audience);
    }

    @Test
    void theFirstPolicyWhoseAudienceHasThePersonCounts() {
        Policy all = policy("all", Audience.EVERYONE);
        Policy north = policy("north", Audience.ofTeams("North"));
        Policy leads = policy("leads", new Audience(false, Set.of(), Set.of(), Set.of("lead")));
        assertThat(Covered.of(INA, List.of(leads, north, all))).contains(new Covered(north, "team North"));
        assertThat(Covered.of(INA, List.of(all, north))).contains(new Covered(all, "everyone"));
        assertThat(Covered.of(INA, List.of(leads))).isEmpty();
        assertThat(Audience.ofTeams("North").words()).isEqualTo("team North");
    }

    @Test
    void aNamedPersonIsCoveredAsNamed() {
        Audience named = new Audience(false, Set.of("ina"), Set.of("North"), Set.of());
        assertThat(named.has(INA)).contains("named");
        assertThat(new Audience(false, Set.of(), Set.of(), Set.of()).words()).isEqualTo("nobody");
    }

    @Test
    void whatIsNotActiveYetSaysSo() {
        assertThat(Policy.first().notActiveYet()).isEmpty();
        Policy both = Policy.first().with(new Scope(true, true, Direction.BOTH, Direction.IN, 90, 60));
        assertThat(both.notActiveYet()).isEmpty();
        // what goes out needs a way out
        Policy contrary = new Policy(
                both.id(),
                1,
                "Contrary",
                both.audience(),
                Scope.SAFE,
                both.handling(),
                both.ties(),
                both.sharing(),
                both.rhythm(),
                Set.of(Policy.OutwardKind.CALL),
                Keeping.SAFE,
                Creation.NONE,
                BookRules.SAFE,
                Opening.NONE);
        assertThat(contrary.notActiveYet()).singleElement().asString().contains("“both”");
        assertThat(contrary.sends(Policy.OutwardKind.CALL)).isFalse();
    }

    @Test
    void theDifferenceIsToldInSentences() {
        Policy before = Policy.first();
        Policy after =
                before.with(Policy.Sharing.TEAM).with(new Scope(true, true, Direction.IN, Direction.NONE, 365, 60));
        assertThat(Differences.between(before, after, ZoneOffset.UTC))
                .containsExactly(
                        "It looks 90 days back. → It looks 365 days back.",
                        "Read in full by everyone. → Read in full by the owner’s team and those on it.");
        assertThat(Differences.between(before, before, ZoneOffset.UTC)).isEmpty();
    }

    @Test
    void theRhythmIsMinutesOrTimesOnDays() {
        ZonedDateTime friday = ZonedDateTime.of(2026, 11, 27, 18, 0, 0, 0, ZoneId.of("Europe/Oslo"));
        Duration usual = Duration.ofMinutes(5);
        assertThat(Rhythm.SAFE.next(friday, usual)).isEqualTo(friday.plusMinutes(5));
        assertThat(new Rhythm(30, Set.of(), List.of()).next(friday, usual)).isEqualTo(friday.plusMinutes(30));
        Rhythm mornings = new Rhythm(
                0, Set.of(DayOfWeek.MONDAY, DayOfWeek.FRIDAY), List.of(LocalTime.of(7, 30), LocalTime.of(12, 0)));
        assertThat(mornings.next(friday, usual)).isEqualTo(friday.plusDays(3).with(LocalTime.of(7, 30)));
        assertThat(mornings.next(friday.plusDays(3).with(LocalTime.of(7, 30)), usual))
                .isEqualTo(friday.plusDays(3).with(LocalTime.of(12, 0)));
        assertThat(mornings.words(ZoneId.of("Europe/Oslo"))).isEqualTo("at 07:30, 12:00 on Mon, Fri (Europe/Oslo)");
        assertThatThrownBy(() -> new Rhythm(-1, Set.of(), List.of())).isInstanceOf(IllegalArgumentException.class);
    }
}
