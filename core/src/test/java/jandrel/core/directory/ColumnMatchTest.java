package jandrel.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ColumnMatchTest {
    /** @param cells one sample for each heading, with bars between */
    private static String matched(DirectoryFile file, String headings, String cells) {
        List<List<String>> samples =
                Arrays.stream(cells.split("\\|", -1)).map(List::of).toList();
        return String.join("|", ColumnMatch.match(file, OwnFields.NONE, List.of(headings.split("\\|", -1)), samples));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "CONTACTS; key|name|addresses|since; 1|Ida|i@a.example|2026-01-01; key|name|addresses|since",
                "CONTACTS; Contact ID|First Name|Last Name|E-mail|Mobile; 7|Ida|Moe|i@a.example|+47 22 55 01 02; "
                        + "key|name|name|addresses|phones",
                // an address with a street in it is no mail address, whatever its heading says
                "CONTACTS; Name|Address|Work email; Ida|Quay 3, Skarvik|i@a.example; name||addresses",
                "CONTACTS; Name|Nothing we know|Company; Ida|i@a.example|Port; name|addresses|account",
                "LEADS; Name|Company|Status|Mail; Ida|Port|hot|i@a.example; name|company||addresses",
                "ACCOUNTS; Account Name|Website|Account Owner|Parent Account; Port|https://www.port.example/en|Maren|; "
                        + "name|domains|owner|part_of",
                "OPPORTUNITIES; Deal Name|Amount|Stage|Account Name|Owner; Buoys|1,250.00|won|Port|Maren; "
                        + "name|value|stage|account|owner",
                "PEOPLE; E-post|Fornavn|Etternavn|Team; i@a.example|Ida|Moe|North; addresses|name|name|team",
                "ACCOUNTS; a|b; x|y; |",
            })
    void theLikeliestOfOurs(DirectoryFile file, String headings, String cells, String ours) {
        assertThat(matched(file, headings, cells)).isEqualTo(ours == null ? "" : ours);
    }

    @Test
    void onlyWhatCanBePutTogetherIsTakenTwice() {
        assertThat(matched(DirectoryFile.CONTACTS, "Title|Job Title|Email|Other email", "a|b|i@a.example|j@a.example"))
                .isEqualTo("title||addresses|addresses");
    }

    @Test
    void whatTheCompanyMadeForItselfIsKnownByItsKeyAndByItsName() {
        OwnFields own = new OwnFields(List.of(
                new OwnField("segment", "Customer segment", OwnField.Kind.CHOICE, List.of("Gold")),
                new OwnField("berths", "Berths", OwnField.Kind.NUMBER, List.of())));
        List<String> headings = List.of("Name", "E-Mail", "customer SEGMENT", "Berths");
        List<List<String>> samples = List.of(List.of("Ada"), List.of("ada@x.example"), List.of("Gold"), List.of("7"));
        assertThat(ColumnMatch.match(DirectoryFile.CONTACTS, own, headings, samples))
                .containsExactly("name", "addresses", "segment", "berths");
        assertThat(ColumnMatch.match(DirectoryFile.LEADS, own, headings, samples))
                .as("contacts alone have them")
                .containsExactly("name", "addresses", "", "");
    }

    @Test
    void aSlipOfTheFileDoesNotHideWhatAColumnIs() {
        assertThat(ColumnMatch.match(
                        DirectoryFile.LEADS,
                        OwnFields.NONE,
                        List.of("Name", "E-mail"),
                        List.of(List.of("a", "b", "c"), List.of("i@a.example", "none", "", "j@a.example"))))
                .containsExactly("name", "addresses");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "1,250.00;1250.00",
                "1.250,50;1250.50",
                "12,5;12.5",
                "1250;1250",
                "€ 1 250;1250",
                "twelve;twelve",
                "-1,250;-1250",
            })
    void amountsAsPeopleWriteThem(String theirs, String ours) {
        assertThat(ForeignRows.amount(theirs)).isEqualTo(ours);
    }

    @ParameterizedTest
    @CsvSource({"12.3.2026,2026-03-12", "2026-03-12T10:00,2026-03-12", "03/12/2026,03/12/2026", "soon,soon"})
    void daysThatCanBeTold(String theirs, String ours) {
        assertThat(ForeignRows.day(theirs)).isEqualTo(ours);
    }
}
