package jandrel.core.search;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.LocalDate;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class SearchQueryTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            value = {
                "buoys harbour | TEXT buoys; TEXT harbour",
                "\"back to the quay\" | TEXT back to the quay",
                "“back to | TEXT back to",
                "buo* | TEXT buo*",
                "\"the buo*\" | TEXT the buo*",
                "-buoys quay | -TEXT buoys; TEXT quay",
                "from:bram | FROM bram",
                "from:bram@port.example | FROM bram port example",
                "To:\"Jo Moen\" x | TO jo moen; TEXT x",
                "-with:bram x | -WITH bram; TEXT x",
                "of:maren in:\"Port Hald\" x | OF maren; IN port hald; TEXT x",
                "Ærøskøbing Straße | TEXT aeroskobing; TEXT strasse",
                "re: offer | TEXT re; TEXT offer",
                "http://port.example | TEXT http port example",
                "3-phase - x | TEXT 3 phase; TEXT x",
                "x -- | TEXT x",
                "ＦＵＬＬ ２ | TEXT full; TEXT 2",
                "Привет МИР | TEXT привет; TEXT мир",
            })
    void readsWhatIsTyped(String typed, String terms) throws Exception {
        assertThat(SearchQuery.parse(typed).terms().stream()
                        .map(t -> (t.not() ? "-" : "")
                                + t.field()
                                + " "
                                + String.join(" ", t.words())
                                + (t.begins() ? "*" : ""))
                        .collect(Collectors.joining("; ")))
                .isEqualTo(terms);
    }

    @Test
    void daysAndAttachmentsNarrow() throws Exception {
        SearchQuery query = SearchQuery.parse("x has:attachment after:2026-05-04 before:2026-06-01");
        assertThat(query)
                .returns(true, SearchQuery::attached)
                .returns(LocalDate.of(2026, 5, 4), SearchQuery::after)
                .returns(LocalDate.of(2026, 6, 1), SearchQuery::before);
        assertThat(SearchQuery.parse("x -has:attachment").attached()).isFalse();
        assertThat(SearchQuery.parse("x").attached()).isNull();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "   ",
                "-x",
                "\"\"",
                "...",
                "has:attachment",
                "after:2026-05-04",
                "in:port",
                "of:maren",
                "x after:yesterday",
                "x after:2026-02-30",
                "x -after:2026-02-03",
                "x has:wings",
                "from:",
                "from:\"\"",
                "*",
                "-",
                "\"",
                "from:-"
            })
    void whatSaysNothingToLookForIsRefused(String typed) {
        assertThatThrownBy(() -> SearchQuery.parse(typed)).isInstanceOf(InvalidSearch.class);
    }

    @Test
    void whatIsLongIsRefused() {
        assertThatThrownBy(() -> SearchQuery.parse("x".repeat(41))).hasMessageContaining("40");
        assertThatThrownBy(() -> SearchQuery.parse("x ".repeat(30))).hasMessageContaining("20");
        assertThatThrownBy(() -> SearchQuery.parse("x ".repeat(300))).hasMessageContaining("400");
    }
}
