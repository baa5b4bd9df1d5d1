package jandrel.service.kernel;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.formats.table.WorkbookOut;
import java.io.IOException;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A table as a file, row by row: CSV (RFC 4180) or a workbook. */
public abstract class TableOut implements AutoCloseable {
    private TableOut() {}

    /**
     * @param format {@code csv} or {@code xlsx}
     * @param name of the file, without its ending
     */
    public static TableOut to(HttpServletResponse response, String format, String name, List<String> columns)
            throws IOException {
        response.setHeader("Content-Disposition", "attachment; filename=\"" + name + "." + format + "\"");
        return format.equals("csv") ? new Csv(response, columns) : new Book(response, name, columns);
    }

    /** @param cells a null is an empty one */
    public abstract void row(List<? extends @Nullable Object> cells) throws IOException;

    @Override
    public abstract void close() throws IOException;

    private static final class Csv extends TableOut {
        private final CsvOut out;

        Csv(HttpServletResponse response, List<String> columns) throws IOException {
            response.setContentType("text/csv;charset=UTF-8");
            out = new CsvOut(response.getWriter(), columns.toArray(String[]::new));
        }

        @Override
        public void row(List<? extends @Nullable Object> cells) throws IOException {
            out.row(cells.stream().map(c -> c == null ? "" : c).toArray());
        }

        @Override
        public void close() {
            // the response is the container's
        }
    }

    private static final class Book extends TableOut {
        private final WorkbookOut out;

        Book(HttpServletResponse response, String name, List<String> columns) throws IOException {
            response.setContentType("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet");
            out = new WorkbookOut(response.getOutputStream(), name, columns);
        }

        @Override
        public void row(List<? extends @Nullable Object> cells) throws IOException {
            out.row(cells);
        }

        @Override
        public void close() throws IOException {
            out.close();
        }
    }
}
