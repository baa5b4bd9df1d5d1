package jandrel.client;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.api.PolicyApi.BookConditionRule;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class BookConditionsTest {
    @Test
    void conditionsAreReadAsTheyAreWritten() {
        assertThat(BookConditions.all(List.of(
                        "organisation contains \"Port and Pier\" AND mail filled", "name begins-with van der Berg")))
                .containsExactly(
                        List.of(
                                new BookConditionRule("organisation", "contains", "Port and Pier"),
                                new BookConditionRule("mail", "filled", "")),
                        List.of(new BookConditionRule("name", "begins-with", "van der Berg")));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "organisation", "organisation contains", "mail filled and", "and mail filled"})
    void whatIsNoConditionIsSaidToBeNone(String text) {
        assertThatThrownBy(() -> BookConditions.all(List.of(text)))
                .isInstanceOf(Trouble.class)
                .hasMessageContaining("is no condition");
    }
}
