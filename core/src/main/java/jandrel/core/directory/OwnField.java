package jandrel.core.directory;

import jandrel.core.directory.DirectoryFile.CellKind;
import jandrel.core.directory.DirectoryFile.Column;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * A field of contacts that the company made for itself.
 *
 * @param key how files and programs name it; see {@link #isKey}
 * @param name as people read it
 * @param choices of a {@link Kind#CHOICE}, in order; empty for others
 */
public record OwnField(String key, String name, Kind kind, List<String> choices) {
    private static final Pattern KEY = Pattern.compile("[a-z][a-z0-9_]{0,39}");
    private static final Pattern BLANKS = Pattern.compile("[\\s\\p{Cntrl}]+");
    private static final int MOST_DIGITS = 16;
    private static final int MOST_DECIMALS = 6;

    /** What it holds. The names are stored. */
    public enum Kind {
        TEXT(CellKind.TEXT),
        NUMBER(CellKind.NUMBER),
        DATE(CellKind.DAY),
        CHOICE(CellKind.CHOICE);

        private final CellKind cell;

        Kind(CellKind cell) {
            this.cell = cell;
        }

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    public OwnField {
        choices = List.copyOf(choices);
    }

    /** Up to 40 small letters, digits and underscores, a letter first. */
    public static boolean isKey(String text) {
        return KEY.matcher(text).matches();
    }

    Column column() {
        return new Column(key, kind.cell, false);
    }

    /**
     * What somebody wrote, as it is kept: a number without needless zeros, a choice as the list has it.
     *
     * @param text not blank
     * @return nothing for what does not fit
     */
    public Optional<String> read(String text) {
        String line = BLANKS.matcher(text).replaceAll(" ").strip();
        return switch (kind) {
            case TEXT -> Optional.of(line);
            case NUMBER -> number(line);
            case DATE -> date(line);
            case CHOICE ->
                choices.stream().filter(c -> c.equalsIgnoreCase(line)).findFirst();
        };
    }

    private static Optional<String> number(String text) {
        try {
            BigDecimal number = new BigDecimal(text);
            boolean fits = number.precision() - number.scale() <= MOST_DIGITS && number.scale() <= MOST_DECIMALS;
            return fits
                    ? Optional.of(
                            number.signum() == 0
                                    ? "0"
                                    : number.stripTrailingZeros().toPlainString())
                    : Optional.empty();
        } catch (NumberFormatException malformed) {
            return Optional.empty();
        }
    }

    private static Optional<String> date(String text) {
        try {
            LocalDate date = LocalDate.parse(text);
            // what the database and others can sort
            return date.getYear() > 0 && date.getYear() <= 9999 ? Optional.of(date.toString()) : Optional.empty();
        } catch (DateTimeException malformed) {
            return Optional.empty();
        }
    }

    /** What {@link #read} takes, such as {@code a number like 12 or 3.5}. */
    public String takes() {
        return switch (kind) {
            case TEXT -> "text";
            case NUMBER -> "a number like 12 or 3.5";
            case DATE -> "a date like 2026-03-31";
            case CHOICE -> "one of " + String.join(", ", choices);
        };
    }
}
