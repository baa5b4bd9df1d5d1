package jandrel.formats.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.OpportunityState;
import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.OwnField;
import jandrel.core.directory.OwnFields;
import jandrel.formats.mail.Phones;
import java.io.StringReader;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class DirectoryFilesTest {
    private static StringReader file(String... lines) {
        return new StringReader(String.join("\r\n", lines));
    }

    @Test
    void aFileIsReadWithItsOwnOrderOfColumns() throws ImportRejected {
        ContactRow row = DirectoryFiles.contacts(
                        file(
                                "\uFEFFname,Key,addresses,phones,last_active",
                                "\"Holm, Bram\",c1,B@x.example; b2@x.example,+47 22 55 01 02; 22 55 01 99,2026-02-03"),
                        new Phones("NO"),
                        OwnFields.NONE)
                .get(0);
        assertThat(row.phones()).extracting(Object::toString).containsExactly("+4722550102", "+4722550199");
        assertThat(row.name()).isEqualTo("Holm, Bram");
        assertThat(row.key()).isEqualTo("c1");
        assertThat(row.addresses()).extracting(Object::toString).containsExactly("b@x.example", "b2@x.example");
        assertThat(row.lastActive()).isEqualTo("2026-02-03");
        assertThat(row.line()).isEqualTo(2);
    }

    private static final OwnFields OWN = new OwnFields(List.of(
            new OwnField("berths", "Berths", OwnField.Kind.NUMBER, List.of()),
            new OwnField("segment", "Segment", OwnField.Kind.CHOICE, List.of("Gold", "Silver")),
            new OwnField("renewed", "Renewed on", OwnField.Kind.DATE, List.of()),
            new OwnField("harbour", "Harbour", OwnField.Kind.TEXT, List.of())));

    @Test
    void fieldsOfTheCompanysOwnAreReadWhereTheFileNamesThem() throws ImportRejected {
        List<ContactRow> rows = DirectoryFiles.contacts(
                file("key,name,berths,segment,renewed", "c1,A,007.50,gOLD,2026-02-03", "c2,B,,,"), new Phones(""), OWN);
        assertThat(rows.get(0).own()).isEqualTo(Map.of("berths", "7.5", "segment", "Gold", "renewed", "2026-02-03"));
        assertThat(rows.get(1).own()).isEqualTo(Map.of("berths", "", "segment", "", "renewed", ""));
        ImportRejected misfit = catchThrowableOfType(
                ImportRejected.class,
                () -> DirectoryFiles.contacts(
                        file("key,name,berths,segment,renewed", "c1,A,1e999999999,Bronze,2026-02-30"),
                        new Phones(""),
                        OWN));
        assertThat(misfit.problems())
                .extracting(ImportProblem::reason)
                .containsExactly(
                        "“1e999999999” is not a number like 12 or 3.5",
                        "“Bronze” is not one of Gold, Silver",
                        "“2026-02-30” is not a date like 2026-03-31");
        assertThat(catchThrowableOfType(
                                ImportRejected.class,
                                () -> DirectoryFiles.leads(file("key,name,addresses,berths", "l1,A,a@x.example,7")))
                        .problems())
                .as("contacts alone have them")
                .extracting(ImportProblem::column)
                .containsExactly("berths");
    }

    @Test
    void everythingThatDoesNotFitIsSaidAtOnceWithItsLine() {
        ImportRejected misfit = catchThrowableOfType(
                ImportRejected.class,
                () -> DirectoryFiles.contacts(
                        file(
                                "key,name,addresses,phones,last_active",
                                "c1,,nope,nil,2026-02-30",
                                "c2,B,,,",
                                "c2,C,,,",
                                "c3"),
                        new Phones(""),
                        OwnFields.NONE));
        assertThat(misfit.problems()).extracting(ImportProblem::line).containsExactly(2L, 2L, 2L, 2L, 4L, 5L);
        assertThat(misfit.problems())
                .extracting(ImportProblem::column)
                .contains("name", "addresses", "phones", "last_active", "key", "");
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "name", "key,name,colour", "key,key,name", "key,name\r\n\"broken"})
    void aFileWithoutAProperHeaderIsRefused(String text) {
        assertThatThrownBy(() -> DirectoryFiles.accounts(new StringReader(text)))
                .isInstanceOf(ImportRejected.class);
    }

    @Test
    void aSuffixIsNobodysDomain() {
        ImportRejected misfit = catchThrowableOfType(
                ImportRejected.class, () -> DirectoryFiles.accounts(file("key,name,domains", "a,A,co.uk")));
        assertThat(misfit.problems())
                .singleElement()
                .extracting(ImportProblem::column)
                .isEqualTo("domains");
    }

    @Test
    void statesAndAmountsAreChecked() throws ImportRejected {
        assertThat(DirectoryFiles.opportunities(file("key,name,account,state,value,currency", "o,O,a,Won,1250.50,eur")))
                .singleElement()
                .satisfies(o -> {
                    assertThat(o.state()).isEqualTo(OpportunityState.WON);
                    assertThat(o.currency()).isEqualTo("EUR");
                    assertThat(o.value()).isEqualByComparingTo("1250.5");
                });
        ImportRejected misfit = catchThrowableOfType(
                ImportRejected.class,
                () -> DirectoryFiles.opportunities(
                        file("key,name,account,state,value,currency", "o,O,a,maybe,much,euros")));
        assertThat(misfit.problems()).extracting(ImportProblem::column).containsExactly("state", "value", "currency");
    }
}
