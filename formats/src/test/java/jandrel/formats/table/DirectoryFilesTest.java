package jandrel.formats.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.OpportunityState;
import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import jandrel.formats.mail.Phones;
import java.io.StringReader;
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
                        new Phones("NO"))
                .get(0);
        assertThat(row.phones()).extracting(Object::toString).containsExactly("+4722550102", "+4722550199");
        assertThat(row.name()).isEqualTo("Holm, Bram");
        assertThat(row.key()).isEqualTo("c1");
        assertThat(row.addresses()).extracting(Object::toString).containsExactly("b@x.example", "b2@x.example");
        assertThat(row.lastActive()).isEqualTo("2026-02-03");
        assertThat(row.line()).isEqualTo(2);
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
                        new Phones("")));
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
