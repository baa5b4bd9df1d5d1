package jandrel.core.policy;

import java.text.Normalizer;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * What a card or a contact must be, such as {@code organisation contains Port}; without case and accents.
 *
 * @param value what it is compared with; empty for {@link Comparison#EMPTY} and {@link Comparison#FILLED}
 */
public record BookCondition(Field field, Comparison comparison, String value) {
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
        NOTE;

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
        EMPTY,
        FILLED;

        /** Whether it is compared with something. */
        public boolean takesValue() {
            return this != EMPTY && this != FILLED;
        }

        private boolean holds(Collection<String> values, String than) {
            return switch (this) {
                case IS -> values.contains(than);
                case IS_NOT -> !values.contains(than);
                case CONTAINS -> values.stream().anyMatch(v -> v.contains(than));
                case CONTAINS_NOT -> values.stream().noneMatch(v -> v.contains(than));
                case BEGINS_WITH -> values.stream().anyMatch(v -> v.startsWith(than));
                case ENDS_WITH -> values.stream().anyMatch(v -> v.endsWith(than));
                case EMPTY -> values.isEmpty();
                case FILLED -> !values.isEmpty();
            };
        }

        private String words() {
            return switch (this) {
                case CONTAINS_NOT -> "does not contain";
                case EMPTY -> "is empty";
                case FILLED -> "is filled in";
                default -> name().toLowerCase(Locale.ROOT).replace('_', ' ');
            };
        }
    }

    public BookCondition {
        value = comparison.takesValue() ? value.strip() : "";
    }

    /** @param values what there is of a field */
    boolean meets(Function<Field, Collection<String>> values) {
        List<String> there = values.apply(field).stream()
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
    static boolean meetOne(List<List<BookCondition>> alternatives, Function<Field, Collection<String>> values) {
        return alternatives.stream().anyMatch(all -> all.stream().allMatch(c -> c.meets(values)));
    }

    /** Such as {@code organisation contains “Port” and title is filled in, or category is “customers”}. */
    static String words(List<List<BookCondition>> alternatives) {
        return alternatives.stream()
                .map(all -> all.stream().map(BookCondition::words).collect(Collectors.joining(" and ")))
                .collect(Collectors.joining(", or "));
    }

    private String words() {
        return field.word().replace('-', ' ') + " " + comparison.words()
                + (comparison.takesValue() ? " “" + value + "”" : "");
    }

    private static String folded(String text) {
        return MARKS.matcher(Normalizer.normalize(text, Normalizer.Form.NFKD))
                .replaceAll("")
                .toLowerCase(Locale.ROOT)
                .strip();
    }
}
