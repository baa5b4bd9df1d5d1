package jandrel.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.directory.DirectoryFile.CellKind;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class ForeignRowsTest {
    private static final Map<CellKind, Map<String, String>> KEYS = Map.of(
            CellKind.PERSON, Map.of("maren aldous", "maren"), CellKind.ACCOUNT, Map.of("port of skarvik", "skarvik"));

    @Test
    void severalOfTheirsMakeOneOfOursAndNamesBecomeKeys() {
        ForeignRows rows = new ForeignRows(
                DirectoryFile.CONTACTS,
                OwnFields.NONE,
                List.of("", "name", "name", "account", "addresses", "phones", "phones"));
        assertThat(rows.missing()).isEmpty();
        assertThat(rows.columns()).containsExactly("key", "name", "addresses", "phones", "account");
        assertThat(rows.line(
                        List.of("7", "Ida", "Moe\n", "Port of Skarvik", "Ida@Skarvik.example", "+47 1", "+47 2"), KEYS))
                .isEqualTo(Map.of(
                        "key", "ida@skarvik.example",
                        "name", "Ida Moe",
                        "account", "skarvik",
                        "addresses", "Ida@Skarvik.example",
                        "phones", "+47 1; +47 2"));
        assertThat(rows.references(CellKind.ACCOUNT, List.of("7", "", "", " Port of Skarvik ", "", "", "")))
                .containsExactly("port of skarvik");
    }

    /** What nobody knows stays as it is: the line then says that there is no such person. */
    @Test
    void itsOwnKeyComesFirstAndStrangersStay() {
        ForeignRows rows =
                new ForeignRows(DirectoryFile.ACCOUNTS, OwnFields.NONE, List.of("key", "name", "domains", "owner"));
        assertThat(rows.line(List.of("A1", "Port", "https://www.port.example/x", "Nobody"), KEYS))
                .isEqualTo(Map.of("key", "A1", "name", "Port", "domains", "port.example", "owner", "Nobody"));
        assertThat(rows.line(List.of("", "Port", "", ""), KEYS)).containsEntry("key", "port");
    }

    @Test
    void whatIsNeededAndMatchedToNothingIsMissing() {
        assertThat(new ForeignRows(DirectoryFile.OPPORTUNITIES, OwnFields.NONE, List.of("value", "")).missing())
                .containsExactly("name", "account");
    }
}
