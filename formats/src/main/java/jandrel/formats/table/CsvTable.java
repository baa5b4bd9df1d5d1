package jandrel.formats.table;

import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/** Reads a CSV file with known columns, and gathers every problem before it gives up. */
final class CsvTable {
    private static final int MOST_PROBLEMS = 200;
    private final List<String> required;
    private final Set<String> optional;

    CsvTable(List<String> required, Set<String> optional) {
        this.required = required;
        this.optional = optional;
    }

    /** All of it, or nothing. */
    <R> List<R> read(Reader file, Function<Cells, R> row) throws ImportRejected {
        Parsed<R> parsed = parse(file, row, MOST_PROBLEMS);
        stopAtProblems(parsed.problems());
        return parsed.rows();
    }

    /**
     * What fits, and what does not.
     *
     * @param most problems; reading ends at so many
     * @throws ImportRejected if it has no lines to speak of: it is empty, or its first line names other columns
     */
    <R> Parsed<R> parse(Reader file, Function<Cells, R> row, int most) throws ImportRejected {
        List<ImportProblem> problems = new ArrayList<>();
        List<R> rows = new ArrayList<>();
        Set<String> keys = new HashSet<>();
        try (CSVParser parser =
                CSVFormat.RFC4180.builder().setIgnoreEmptyLines(true).get().parse(file)) {
            Iterator<CSVRecord> records = parser.iterator();
            if (!records.hasNext()) {
                throw new ImportRejected(
                        List.of(new ImportProblem(1, "", "the file is empty; its first line must name the columns")));
            }
            Map<String, Integer> columns = columns(records.next(), problems);
            stopAtProblems(problems);
            while (records.hasNext() && problems.size() < most) {
                CSVRecord record = records.next();
                Cells cells = new Cells(record, parser.getCurrentLineNumber(), columns, problems);
                int before = problems.size();
                if (cells.hasAllColumns(columns.size())) {
                    R read = row.apply(cells);
                    cells.refuseRepeatedKey(keys);
                    if (problems.size() == before) {
                        rows.add(read);
                    }
                }
            }
        } catch (IOException | UncheckedIOException | IllegalStateException broken) {
            problems.add(new ImportProblem(
                    0, "", "the file breaks off or its quotes do not close; it must be CSV in UTF-8"));
        }
        return new Parsed<>(rows, problems);
    }

    private static void stopAtProblems(List<ImportProblem> problems) throws ImportRejected {
        if (!problems.isEmpty()) {
            throw new ImportRejected(problems);
        }
    }

    private Map<String, Integer> columns(CSVRecord header, List<ImportProblem> problems) {
        Map<String, Integer> columns = new HashMap<>();
        for (int i = 0; i < header.size(); i++) {
            String name = header.get(i).replace("\uFEFF", "").strip().toLowerCase(Locale.ROOT);
            if (!required.contains(name) && !optional.contains(name)) {
                problems.add(new ImportProblem(1, name, "there is no such column here; known are " + known()));
            } else if (columns.put(name, i) != null) {
                problems.add(new ImportProblem(1, name, "the column is named twice"));
            }
        }
        for (String name : required) {
            if (!columns.containsKey(name)) {
                problems.add(new ImportProblem(1, name, "the column is missing"));
            }
        }
        return columns;
    }

    private String known() {
        List<String> all = new ArrayList<>(required);
        optional.stream().sorted().forEach(all::add);
        return String.join(", ", all);
    }
}
