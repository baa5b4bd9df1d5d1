package jandrel.core.policy;

import java.math.BigDecimal;
import java.text.Normalizer;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * What a card or a contact must be, such as {@code organisation contains Port}; without case and accents.
 *
 * @param value what it is compared with; empty for {@link Comparison#EMPTY} and {@link Comparison#FILLED}
 * @param own the key of the company's own field, where the field is {@link Field#OWN}; empty for others
 */
public record BookCondition(Field field, Comparison comparison, String value, String own) {
    private static final Pattern DATE = Pattern.compile("\\d{4}-\\d{2}-\\d{2}");
    /** As long as people write them: reading a longer one would take more than it is worth. */
    private static final Pattern NUMBER = Pattern.compile("[+-]?\\d{1,30}(\\.\\d{1,30})?");

    private static final Pattern MARKS = Pattern.compile("\\p{M}+");

    /** What is looked at. The names are stored. */
    public enum Field {
        NAME,
        ORGANISATION,
        UNIT,
        TITLE,
        ROLE,
        MAIL,
        TELEPHONE,
        PLACE,
        WEB_ADDRESS,
        BIRTHDAY,
        CATEGORY,
        NOTE,
        /** One that the company made for itself. */
        OWN;

        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    /** How it is compared. Of what there may be several, one that fits is enough; or, with a not, none may fit. The names are stored. */
    public enum Comparison {
        IS,
        IS_NOT,
        CONTAINS,
        CONTAINS_NOT,
        BEGINS_WITH,
        ENDS_WITH,
        AT_LEAST,
        AT_MOST,
        EMPTY,
        FILLED;

        /** Whether it is compared with something. */
        public boolean takesValue() {
            return this != EMPTY && this != FILLED;
        }

        /** Whether what is compared has an order: numbers, or dates. */
        public boolean isOrder() {
            return this == AT_LEAST || this == AT_MOST;
        }

        private boolean holds(Collection<String> values, String than) {
            return switch (this) {
                case IS -> values.contains(than);
                case IS_NOT -> !values.contains(than);
                case CONTAINS -> values.stream().anyMatch(v -> v.contains(than));
                case CONTAINS_NOT -> values.stream().noneMatch(v -> v.contains(than));
                case BEGINS_WITH -> values.stream().anyMatch(v -> v.startsWith(than));
                case ENDS_WITH -> values.stream().anyMatch(v -> v.endsWith(than));
                case AT_LEAST -> values.stream().anyMatch(v -> compared(v, than).orElse(-1) >= 0);
                case AT_MOST -> values.stream().anyMatch(v -> compared(v, than).orElse(1) <= 0);
                case EMPTY -> values.isEmpty();
                case FILLED -> !values.isEmpty();
            };
        }

        private String words() {
            return switch (this) {
                case CONTAINS_NOT -> "does not contain";
                case AT_LEAST -> "is at least";
                case AT_MOST -> "is at most";
                case EMPTY -> "is empty";
                case FILLED -> "is filled in";
                default -> name().toLowerCase(Locale.ROOT).replace('_', ' ');
            };
        }
    }

    public BookCondition {
        value = comparison.takesValue() ? value.strip() : "";
        // rules of before know of no such fields
        own = own == null ? "" : own;
    }

    public BookCondition(Field field, Comparison comparison, String value) {
        this(field, comparison, value, "");
    }

    /** Of a field that the company made for itself. */
    public static BookCondition own(String key, Comparison comparison, String value) {
        return new BookCondition(Field.OWN, comparison, value, key);
    }

    /** How files and programs name the field. */
    public String fieldWord() {
        return field == Field.OWN ? own : field.word();
    }

    /**
     * Whether two texts can be put in order, and which comes first: as numbers, or as dates.
     *
     * @return nothing where one is neither, or one is a number and the other a date
     */
    public static Optional<Integer> compared(String one, String other) {
        if (DATE.matcher(one).matches() && DATE.matcher(other).matches()) {
            return Optional.of(one.compareTo(other));
        }
        boolean numbers = NUMBER.matcher(one).matches() && NUMBER.matcher(other).matches();
        return numbers ? Optional.of(new BigDecimal(one).compareTo(new BigDecimal(other))) : Optional.empty();
    }

    /** @param values what there is of the field that a condition asks for */
    boolean meets(Function<BookCondition, Collection<String>> values) {
        List<String> there = values.apply(this).stream()
                .map(BookCondition::folded)
                .filter(v -> !v.isEmpty())
                .toList();
        return comparison.holds(there, folded(value));
    }

    /**
     * Whether one of several alternatives is met: all of its conditions.
     *
     * @return false where there is none
     */
    static boolean meetOne(List<List<BookCondition>> alternatives, Function<BookCondition, Collection<String>> values) {
        return alternatives.stream().anyMatch(all -> all.stream().allMatch(c -> c.meets(values)));
    }

    /** Such as {@code organisation contains “Port” and title is filled in, or category is “customers”}. */
    static String words(List<List<BookCondition>> alternatives) {
        return alternatives.stream()
                .map(all -> all.stream().map(BookCondition::words).collect(Collectors.joining(" and ")))
                .collect(Collectors.joining(", or "));
    }

    private String words() {
        return fieldWord().replace('-', ' ').replace('_', ' ') + " " + comparison.words()
                + (comparison.takesValue() ? " “" + value + "”" : "");
    }

    private static String folded(String text) {
        return MARKS.matcher(Normalizer.normalize(text, Normalizer.Form.NFKD))
                .replaceAll("")
                .toLowerCase(Locale.ROOT)
                .strip();
    }
}
