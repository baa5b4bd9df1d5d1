package jandrel.core.policy;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.policy.Creation.Comparison;
import jandrel.core.policy.Creation.Condition;
import jandrel.core.policy.Creation.Field;
import jandrel.core.policy.Creation.Makes;
import jandrel.core.triage.Stranger;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CreationTest {
    private static final Instant NOON = Instant.parse("2026-05-04T12:00:00Z");

    /** Wrote three times, was answered twice, met once; at an account's domain. */
    private static final Stranger KNOWN =
            new Stranger("a@b.example", "b.example", "A", 3, 2, 1, 1, 7, 4, 2, NOON, NOON, false, true, false, false);

    private static boolean meets(Condition... conditions) {
        return new Creation(Makes.CONTACTS, List.of(conditions)).meets(KNOWN);
    }

    @ParameterizedTest
    @CsvSource({
        "TWO_WAY,IS,1,true", "TWO_WAY,IS,0,false", "AT_ACCOUNT,IS,1,true", "FREE_MAIL,IS,0,true",
        "MEETINGS,AT_LEAST,1,true", "MEETINGS,AT_LEAST,2,false", "RECEIVED,AT_MOST,3,true", "RECEIVED,AT_MOST,2,false",
        "SENT,IS,2,true", "ITEMS,AT_LEAST,7,true", "PEOPLE,AT_LEAST,3,false", "BULK,AT_MOST,0,true"
    })
    void eachFieldIsComparedAsItSays(Field field, Comparison comparison, long value, boolean meets) {
        assertThat(meets(new Condition(field, comparison, value))).isEqualTo(meets);
    }

    @Test
    void allMustBeMetAndWithNoneNobodyIsMadeAnything() {
        Condition met = new Condition(Field.MEETINGS, Comparison.AT_LEAST, 1);
        Condition not = new Condition(Field.PEOPLE, Comparison.AT_LEAST, 9);
        assertThat(meets(met, met)).isTrue();
        assertThat(meets(met, not)).isFalse();
        assertThat(meets()).isFalse();
        assertThat(new Creation(Makes.NOTHING, List.of(met)).meets(KNOWN)).isFalse();
        assertThat(Creation.NONE.words()).contains("Nobody");
        assertThat(new Creation(Makes.LEADS, List.of(met, not)).words())
                .isEqualTo("Strangers become leads by themselves when meetings at least 1 and people at least 9.");
    }
}
