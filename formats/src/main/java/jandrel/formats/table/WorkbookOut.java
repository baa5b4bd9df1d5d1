package jandrel.formats.table;

import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;

/** Writes a table as an .xlsx workbook (ECMA-376), every cell as text: nothing in it is a formula. */
public final class WorkbookOut implements AutoCloseable {
    private static final int FLUSH = 1_000;
    private static final int LONGEST = 32_767;
    private final Workbook book;
    private final Worksheet sheet;
    private int rows;

    public WorkbookOut(OutputStream out, String name, List<String> columns) throws IOException {
        book = new Workbook(out, "Jandrel", "1.0");
        sheet = book.newWorksheet(name);
        row(columns);
        sheet.freezePane(0, 1);
    }

    public void row(List<String> cells) throws IOException {
        for (int i = 0; i < cells.size(); i++) {
            String text = cells.get(i);
            // characters that XML 1.0 has no place for
            String fit = text.replaceAll("[\\x00-\\x08\\x0B\\x0C\\x0E-\\x1F\\uFFFE\\uFFFF]", "");
            sheet.value(rows, i, fit.length() > LONGEST ? fit.substring(0, LONGEST) : fit);
        }
        rows++;
        if (rows % FLUSH == 0) {
            sheet.flush();
        }
    }

    @Override
    public void close() throws IOException {
        sheet.finish();
        book.finish();
    }
}
