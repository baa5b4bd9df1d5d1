package jandrel.service.kernel;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CsvOutTest {
    @ParameterizedTest
    @ValueSource(strings = {"=HYPERLINK(\"https://evil.example\")", "+1", "-1", "@SUM(A1)", "\t=1"})
    void noCellIsAFormula(String cell) {
        assertThat(CsvOut.harmless(cell)).startsWith("'");
    }

    @Test
    void cellsWithQuotesAndLinesStayOneCell() throws IOException {
        StringBuilder out = new StringBuilder();
        new CsvOut(out, "a", "b").row("say \"hi\", now", "two\nlines");
        assertThat(out).hasToString("a,b\r\n\"say \"\"hi\"\", now\",\"two\nlines\"\r\n");
    }
}
