package jandrel.core.visibility;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class VisibilityTest {
    private static final UUID ME = new UUID(1, 1);

    @ParameterizedTest
    @CsvSource({
        "ADMINISTRATOR, everyone, FULL", "ADMINISTRATOR, others, OUTLINE", "ADMINISTRATOR, me, FULL",
        "MANAGER, everyone, FULL", "MANAGER, others, OUTLINE", "MANAGER, me, FULL",
        "REP, everyone, FULL", "REP, others, OUTLINE", "REP, me, FULL",
        "AUDITOR, everyone, OUTLINE", "AUDITOR, others, OUTLINE", "AUDITOR, me, OUTLINE"
    })
    void aRoleGivesNoRightToRead(Role role, String readers, Visibility expected) {
        Readers who = switch (readers) {
            case "everyone" -> Readers.EVERYONE;
            case "me" -> Readers.only(Set.of(ME));
            default -> Readers.only(Set.of(new UUID(1, 2)));
        };
        assertThat(Visibility.of(new Viewer(role, ME), who)).isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource({"ADMINISTRATOR", "REP"})
    void aSignInThatIsNobodysReadsNoNarrowItem(Role role) {
        assertThat(Visibility.of(new Viewer(role, null), Readers.only(Set.of(ME))))
                .isEqualTo(Visibility.OUTLINE);
        assertThat(new Viewer(role, null).personOrNobody()).isNotEqualTo(ME);
    }
}
