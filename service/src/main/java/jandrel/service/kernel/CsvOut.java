package jandrel.service.kernel;

import java.io.IOException;
import java.util.Arrays;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/** Writes CSV that a spreadsheet cannot mistake for formulas: mail is written by strangers. */
public final class CsvOut {
    private static final String RISKY = "=+-@\t\r";
    private final CSVPrinter printer;

    public CsvOut(Appendable out, String... columns) throws IOException {
        printer = new CSVPrinter(out, CSVFormat.RFC4180);
        printer.printRecord((Object[]) columns);
    }

    public void row(Object... cells) throws IOException {
        printer.printRecord(Arrays.stream(cells).map(CsvOut::harmless).toArray());
    }

    static String harmless(Object cell) {
        String text = String.valueOf(cell);
        return !text.isEmpty() && RISKY.indexOf(text.charAt(0)) >= 0 ? "'" + text : text;
    }
}
