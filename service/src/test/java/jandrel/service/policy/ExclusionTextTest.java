package jandrel.service.policy;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import jandrel.api.ExclusionApi.CheckedLine;
import jandrel.api.ExclusionApi.NewExclusions;
import jandrel.core.directory.Exclusion;
import jandrel.service.kernel.Refusal;
import jandrel.store.directory.Company;
import jandrel.store.policy.Exclusions;
import jandrel.store.policy.Policies;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ExclusionTextTest {
    private final Exclusions exclusions = mock();
    private final Company company = mock();
    private final Policies policies = mock();
    private final ExclusionText text = new ExclusionText(exclusions, company, policies);

    @BeforeEach
    void ours() {
        when(company.ownDomains()).thenReturn(List.of("@corvane.example"));
        when(exclusions.known(any(), any())).thenReturn(Set.of());
    }

    private static NewExclusions pasted(String lines) {
        return new NewExclusions(lines, null, null, null, null);
    }

    @Test
    void eachLineIsAnAddressOrADomainAndTwiceIsOnce() {
        List<Exclusion> read = text.read(pasted("news@letters.example\nLetters.example\nletters.example\n"), null);
        assertThat(read).extracting(Exclusion::what).containsExactly("news@letters.example", "@letters.example");
    }

    @Test
    void oneLineThatDoesNotFitTakesNoneAndIsNamed() {
        Refusal refusal = catchThrowableOfType(
                Refusal.class, () -> text.read(pasted("letters.example\nnot an address\n@\n"), null));
        assertThat(refusal).hasMessageContaining("Nothing was added");
        assertThat(refusal.problems())
                .extracting(p -> p.line())
                .contains(2L, 3L)
                .doesNotContain(1L);
    }

    @Test
    void onesOwnDomainIsNoExclusion() {
        assertThatThrownBy(() -> text.read(pasted("corvane.example"), null)).isInstanceOf(Refusal.class);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "\n\n", "   "})
    void nothingIsNothingToAdd(String lines) {
        assertThatThrownBy(() -> text.read(pasted(lines), null)).hasMessageContaining("nothing to add");
    }

    @Test
    void checkingSaysWhichAreThereAlready() {
        when(exclusions.known(any(), any())).thenReturn(Set.of("DOMAIN @letters.example"));
        assertThat(text.checked(pasted("letters.example\nother.example\nx y")))
                .extracting(
                        CheckedLine::what, CheckedLine::known, l -> l.problem().isEmpty())
                .startsWith(
                        org.assertj.core.groups.Tuple.tuple("letters.example", true, true),
                        org.assertj.core.groups.Tuple.tuple("other.example", false, true))
                .last()
                .matches(t -> t.toList().get(2).equals(false));
    }

    private void refused(
            @Nullable String reason,
            @Nullable String kind,
            @Nullable UUID policy,
            @Nullable String lastDay,
            String said) {
        NewExclusions wanted = new NewExclusions("letters.example", reason, kind, policy, lastDay);
        assertThatThrownBy(() -> text.read(wanted, null)).hasMessageContaining(said);
    }

    @Test
    void whatStandsBesideTheLinesIsCheckedToo() {
        UUID policy = UUID.randomUUID();
        when(policies.find(policy)).thenReturn(Optional.empty());
        refused("x".repeat(301), null, null, null, "reason is too long");
        refused(null, "colour", null, null, "“colour”");
        refused(null, null, policy, null, "policy");
        refused(null, null, null, "tomorrow", "“tomorrow”");
    }

    @Test
    void whatIsSaidOfThemHoldsForAllOfThem() {
        UUID person = UUID.randomUUID();
        NewExclusions wanted = new NewExclusions("a.example\nb.example", " newsletters ", null, null, "2026-12-31");
        assertThat(text.read(wanted, person)).hasSize(2).allSatisfy(e -> {
            assertThat(e.reason()).isEqualTo("newsletters");
            assertThat(e.limits().person()).isEqualTo(person);
            assertThat(e.limits().lastDay()).isEqualTo(LocalDate.of(2026, 12, 31));
        });
    }

    @Test
    void moreThanIsReasonableIsNotRead() {
        assertThatThrownBy(() -> text.read(pasted("a.example\n".repeat(50_001)), null))
                .hasMessageContaining("too many");
    }
}
