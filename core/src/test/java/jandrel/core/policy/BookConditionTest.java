package jandrel.core.policy;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.policy.BookCondition.Comparison;
import jandrel.core.policy.BookCondition.Field;
import java.util.Collection;
import java.util.List;
import java.util.function.Function;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class BookConditionTest {
    private static final Function<BookCondition, Collection<String>> CARD = c -> switch (c.field()) {
        case ORGANISATION -> List.of("Port of Ås");
        case MAIL -> List.of("ada@port.example", "ADA@home.example");
        case CATEGORY -> List.of("Customers");
        case NOTE -> List.of("  ");
        case TELEPHONE -> List.of();
        case BIRTHDAY -> List.of("1980-05-17");
        case OWN -> c.own().equals("berths") ? List.of("12") : List.of();
        default -> List.of("");
    };

    @ParameterizedTest
    @CsvSource({
        "ORGANISATION, CONTAINS, port OF as, true",
        "ORGANISATION, CONTAINS, pier, false",
        "ORGANISATION, CONTAINS_NOT, pier, true",
        "ORGANISATION, CONTAINS_NOT, port, false",
        "ORGANISATION, IS, 'PORT OF ÅS ', true",
        "ORGANISATION, IS, Port, false",
        "MAIL, ENDS_WITH, @home.example, true",
        "MAIL, BEGINS_WITH, ada@, true",
        "MAIL, IS_NOT, ada@port.example, false",
        "MAIL, IS_NOT, bo@port.example, true",
        "CATEGORY, IS, customers, true",
        "NOTE, EMPTY, '', true",
        "NOTE, FILLED, ignored, false",
        "TELEPHONE, IS_NOT, 1, true",
        "TELEPHONE, CONTAINS, '', false",
        "TITLE, CONTAINS, x, false",
        "BIRTHDAY, AT_LEAST, 1980-05-17, true",
        "BIRTHDAY, AT_MOST, 1980-05-16, false",
        "BIRTHDAY, AT_LEAST, 1, false",
        "ORGANISATION, AT_MOST, 1, false"
    })
    void oneFieldIsCompared(Field field, Comparison comparison, String value, boolean holds) {
        assertThat(new BookCondition(field, comparison, value).meets(CARD)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "berths, AT_LEAST, 9, true",
        "berths, AT_LEAST, 12.0, true",
        "berths, AT_LEAST, 13, false",
        "berths, AT_MOST, 100, true",
        "berths, AT_MOST, 2026-01-01, false",
        "berths, IS, 12, true",
        "segment, EMPTY, '', true",
        "segment, AT_MOST, 5, false"
    })
    void aFieldOfTheCompanysOwnIsCompared(String key, Comparison comparison, String value, boolean holds) {
        BookCondition condition = BookCondition.own(key, comparison, value);
        assertThat(condition.meets(CARD)).isEqualTo(holds);
        assertThat(condition.fieldWord()).isEqualTo(key);
    }

    /** A stranger's card costs no more than another. */
    @Test
    void whatNobodyWritesIsNoNumber() {
        assertThat(BookCondition.compared("7".repeat(2_000_000), "7")).isEmpty();
        assertThat(BookCondition.compared("1e999999999", "1")).isEmpty();
        assertThat(BookCondition.compared("-0.50", "-0.5")).contains(0);
    }

    @Test
    void oneAlternativeIsEnoughAndInItEveryCondition() {
        BookCondition port = new BookCondition(Field.ORGANISATION, Comparison.CONTAINS, "Port");
        BookCondition pier = new BookCondition(Field.ORGANISATION, Comparison.CONTAINS, "Pier");
        BookCondition titled = new BookCondition(Field.TITLE, Comparison.FILLED, "");
        assertThat(BookCondition.meetOne(List.of(List.of(port)), CARD)).isTrue();
        assertThat(BookCondition.meetOne(List.of(List.of(port, titled)), CARD)).isFalse();
        assertThat(BookCondition.meetOne(List.of(List.of(port, titled), List.of(pier)), CARD))
                .isFalse();
        assertThat(BookCondition.meetOne(List.of(List.of(port, titled), List.of(port)), CARD))
                .isTrue();
        assertThat(BookCondition.meetOne(List.of(), CARD)).isFalse();
        assertThat(BookCondition.words(List.of(List.of(port, titled), List.of(pier))))
                .isEqualTo("organisation contains “Port” and title is filled in, or organisation contains “Pier”");
    }
}
