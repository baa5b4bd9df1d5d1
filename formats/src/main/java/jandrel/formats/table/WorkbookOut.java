package jandrel.formats.table;

import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;

/** Writes a table as an .xlsx workbook (ECMA-376), every cell as a number or as text: nothing in it is a formula. */
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

    /** @param cells numbers as such, all else as text; a null is an empty one */
    public void row(List<? extends @Nullable Object> cells) throws IOException {
        for (int i = 0; i < cells.size(); i++) {
            Object cell = cells.get(i);
            if (cell instanceof Number number) {
                sheet.value(rows, i, number);
            } else if (cell != null) {
                sheet.value(rows, i, fit(cell.toString()));
            }
        }
        rows++;
        if (rows % FLUSH == 0) {
            sheet.flush();
        }
    }

    private static String fit(String text) {
        // characters that XML 1.0 has no place for
        String fit = text.replaceAll("[\\x00-\\x08\\x0B\\x0C\\x0E-\\x1F\\uFFFE\\uFFFF]", "");
        return fit.length() > LONGEST ? fit.substring(0, LONGEST) : fit;
    }

    @Override
    public void close() throws IOException {
        sheet.finish();
        book.finish();
    }
}
