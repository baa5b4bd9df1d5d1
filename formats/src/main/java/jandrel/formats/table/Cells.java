package jandrel.formats.table;

import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.OwnField;
import jandrel.core.directory.OwnFields;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.apache.commons.csv.CSVRecord;
import org.jspecify.annotations.Nullable;

/** The cells of one line; what does not fit is noted, with line and column, and reading goes on. */
final class Cells {
    private static final int LONGEST = 1_000;
    private final CSVRecord record;
    private final long line;
    private final Map<String, Integer> columns;
    private final List<ImportProblem> problems;

    Cells(CSVRecord record, long line, Map<String, Integer> columns, List<ImportProblem> problems) {
        this.record = record;
        this.line = line;
        this.columns = columns;
        this.problems = problems;
    }

    long line() {
        return line;
    }

    void problem(String column, String reason) {
        problems.add(new ImportProblem(line, column, reason));
    }

    boolean hasAllColumns(int expected) {
        if (record.size() == expected) {
            return true;
        }
        problem("", "the line has " + record.size() + " cells where the header names " + expected);
        return false;
    }

    void refuseRepeatedKey(Set<String> known) {
        String key = text("key");
        if (!key.isEmpty() && !known.add(key)) {
            problem("key", "“" + key + "” stands on an earlier line too");
        }
    }

    String text(String column) {
        Integer index = columns.get(column);
        String value = index == null ? "" : record.get(index).strip();
        if (value.length() > LONGEST || value.indexOf('\0') >= 0) {
            problem(column, "the cell is longer than " + LONGEST + " characters or holds a zero byte");
            return "";
        }
        return value;
    }

    String key() {
        return required("key");
    }

    String required(String column) {
        String value = text(column);
        if (value.isEmpty()) {
            problem(column, "the cell is empty");
        }
        return value;
    }

    /** Separated by white space, commas or semicolons. */
    <T> List<T> list(String column, String what, Function<String, Optional<T>> parse) {
        return list(column, "[;,\\s]+", what, parse);
    }

    /** Separated by commas or semicolons, as each may have spaces within. */
    <T> List<T> spacedList(String column, String what, Function<String, Optional<T>> parse) {
        return list(column, "[;,]", what, parse);
    }

    private <T> List<T> list(String column, String between, String what, Function<String, Optional<T>> parse) {
        List<T> values = new ArrayList<>();
        for (String part : text(column).split(between, 0)) {
            if (!part.isBlank()) {
                parse.apply(part.strip())
                        .ifPresentOrElse(values::add, () -> problem(column, "“" + part.strip() + "” is not " + what));
            }
        }
        return values;
    }

    /** Of the fields that the company made for itself, those that the file names. */
    Map<String, String> own(OwnFields fields) {
        if (fields.all().isEmpty()) {
            return Map.of();
        }
        Map<String, String> own = new HashMap<>();
        for (OwnField field : fields.all()) {
            if (columns.containsKey(field.key())) {
                String cell = text(field.key());
                own.put(
                        field.key(),
                        cell.isEmpty()
                                ? ""
                                : field.read(cell).orElseGet(() -> {
                                    problem(field.key(), "“" + cell + "” is not " + field.takes());
                                    return "";
                                }));
            }
        }
        return own;
    }

    @Nullable
    LocalDate date(String column) {
        String value = text(column);
        try {
            return value.isEmpty() ? null : LocalDate.parse(value);
        } catch (DateTimeException malformed) {
            problem(column, "“" + value + "” is not a date like 2026-03-31");
            return null;
        }
    }

    /** A moment with its offset (RFC 3339), or a day for its beginning in UTC; the epoch when it is neither. */
    Instant moment(String column) {
        String value = required(column);
        try {
            return value.length() == 10
                    ? LocalDate.parse(value).atStartOfDay(ZoneOffset.UTC).toInstant()
                    : OffsetDateTime.parse(value).toInstant();
        } catch (DateTimeException malformed) {
            if (!value.isEmpty()) {
                problem(
                        column,
                        "“" + value + "” is not a day like 2026-03-31 or a moment like 2026-03-31T09:30:00+02:00");
            }
            return Instant.EPOCH;
        }
    }

    @Nullable
    BigDecimal amount(String column) {
        String value = text(column);
        try {
            BigDecimal amount = value.isEmpty() ? null : new BigDecimal(value);
            if (amount != null && (amount.precision() - amount.scale() > 16 || amount.scale() > 4)) {
                throw new NumberFormatException();
            }
            return amount;
        } catch (NumberFormatException malformed) {
            problem(column, "“" + value + "” is not an amount like 1250 or 1250.50");
            return null;
        }
    }

    String currency(String column) {
        String value = text(column).toUpperCase(Locale.ROOT);
        if (!value.isEmpty() && !value.matches("[A-Z]{3}")) {
            problem(column, "“" + value + "” is not a currency code of three letters (ISO 4217)");
        }
        return value;
    }

    <E extends Enum<E>> E oneOf(String column, Class<E> type, E fallback) {
        String value = text(column);
        if (value.isEmpty()) {
            return fallback;
        }
        return Arrays.stream(type.getEnumConstants())
                .filter(e -> e.name().equalsIgnoreCase(value))
                .findFirst()
                .orElseGet(() -> {
                    String known = Arrays.stream(type.getEnumConstants())
                            .map(e -> e.name().toLowerCase(Locale.ROOT))
                            .collect(Collectors.joining(", "));
                    problem(column, "“" + value + "” is none of " + known);
                    return fallback;
                });
    }
}
