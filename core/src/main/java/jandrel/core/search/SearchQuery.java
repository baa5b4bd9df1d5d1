package jandrel.core.search;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What somebody looks for.
 *
 * @param terms all of which have to fit
 * @param attached whether something has to be attached, or nothing; null for either
 * @param after the first day; null for the beginning
 * @param before the day after the last one; null for the end
 */
public record SearchQuery(
        List<Term> terms,
        @Nullable Boolean attached,
        @Nullable LocalDate after,
        @Nullable LocalDate before) {
    private static final int LONGEST = 400;
    private static final int MOST_TERMS = 20;
    private static final int LONGEST_WORD = 40;

    private static final Map<String, Field> FIELDS =
            Map.of("from", Field.FROM, "to", Field.TO, "with", Field.WITH, "of", Field.OF, "in", Field.IN);

    /** What a term is about. */
    public enum Field {
        /** What was written: subject, new text, names of attachments, participants. */
        TEXT,
        /** Who wrote or invited. */
        FROM,
        /** To whom it went, or who is invited. */
        TO,
        /** Anybody who takes part. */
        WITH,
        /** Whose mailbox or calendar of ours has it. */
        OF,
        /** On whose timeline it stands. */
        IN
    }

    /**
     * @param words folded; several stand one after another
     * @param begins whether the last one is only the beginning of a word
     * @param not whether it must not fit
     */
    public record Term(Field field, List<String> words, boolean begins, boolean not) {
        public Term {
            words = List.copyOf(words);
        }

        public boolean isPhrase() {
            return words.size() > 1;
        }
    }

    public SearchQuery {
        terms = List.copyOf(terms);
    }

    /**
     * Reads words, “phrases” in quotes, beginnings ({@code buo*}), {@code from:}, {@code to:}, {@code with:}, {@code of:}, {@code in:},
     * {@code has:attachment}, {@code after:} and {@code before:} (days as 2026-05-04), and each of them with {@code -} before it.
     */
    public static SearchQuery parse(String typed) throws InvalidSearch {
        if (typed.length() > LONGEST) {
            throw new InvalidSearch("A search has at most " + LONGEST + " characters.");
        }
        List<Term> terms = new ArrayList<>();
        Boolean attached = null;
        LocalDate after = null;
        LocalDate before = null;
        for (Token token : tokens(typed)) {
            switch (token.operator) {
                case "after" -> after = day(token);
                case "before" -> before = day(token);
                case "has" -> {
                    if (!List.of("attachment", "attachments").contains(token.value.toLowerCase(Locale.ROOT))) {
                        throw new InvalidSearch("“has:” knows one thing: has:attachment.");
                    }
                    attached = !token.not;
                }
                default -> {
                    List<String> words = Folding.words(token.value);
                    if (words.stream().anyMatch(w -> w.length() > LONGEST_WORD)) {
                        throw new InvalidSearch("A word of a search has at most " + LONGEST_WORD + " letters.");
                    }
                    Field field = FIELDS.getOrDefault(token.operator, Field.TEXT);
                    if (!words.isEmpty()) {
                        terms.add(new Term(field, words, token.value.endsWith("*"), token.not));
                    } else if (field != Field.TEXT) {
                        throw new InvalidSearch("“" + token.operator + ":” wants a name or an address.");
                    }
                }
            }
        }
        if (terms.size() > MOST_TERMS) {
            throw new InvalidSearch("A search has at most " + MOST_TERMS + " words and conditions.");
        }
        if (terms.stream().noneMatch(SearchQuery::finds)) {
            throw new InvalidSearch(
                    "Add a word to look for, or a person with from:, to: or with:. All else only narrows what is found.");
        }
        return new SearchQuery(terms, attached, after, before);
    }

    /** Whether it finds something by itself; all else narrows what is found. */
    private static boolean finds(Term term) {
        return !term.not && term.field != Field.OF && term.field != Field.IN;
    }

    private static LocalDate day(Token token) throws InvalidSearch {
        if (token.not) {
            throw new InvalidSearch(
                    "“-" + token.operator + ":” says nothing: use after: for before: and the other way round.");
        }
        try {
            return LocalDate.parse(token.value);
        } catch (DateTimeException unreadable) {
            throw new InvalidSearch("“" + token.operator + ":” wants a day such as 2026-05-04.");
        }
    }

    private record Token(String operator, String value, boolean not) {}

    private static List<Token> tokens(String typed) {
        List<Token> tokens = new ArrayList<>();
        int at = 0;
        while (at < typed.length()) {
            if (Character.isWhitespace(typed.charAt(at))) {
                at++;
                continue;
            }
            boolean not =
                    typed.charAt(at) == '-' && at + 1 < typed.length() && !Character.isWhitespace(typed.charAt(at + 1));
            int from = not ? at + 1 : at;
            String operator = operator(typed, from);
            int value = operator.isEmpty() ? from : from + operator.length() + 1;
            boolean quoted = value < typed.length() && isQuote(typed.charAt(value));
            int until = quoted ? closing(typed, value + 1) : blank(typed, value);
            tokens.add(new Token(operator, typed.substring(quoted ? value + 1 : value, until), not));
            at = quoted ? until + 1 : until;
        }
        return tokens;
    }

    /** A colon after any other word is a mark like others. */
    private static String operator(String typed, int from) {
        int colon = typed.indexOf(':', from);
        if (colon < 0 || colon - from > 8) {
            return "";
        }
        String word = typed.substring(from, colon).toLowerCase(Locale.ROOT);
        return FIELDS.containsKey(word) || List.of("has", "after", "before").contains(word) ? word : "";
    }

    private static boolean isQuote(char c) {
        return c == '"' || c == '“' || c == '”' || c == '„';
    }

    /** What is not closed goes on to the end. */
    private static int closing(String typed, int from) {
        int at = from;
        while (at < typed.length() && !isQuote(typed.charAt(at))) {
            at++;
        }
        return at;
    }

    private static int blank(String typed, int from) {
        int at = from;
        while (at < typed.length() && !Character.isWhitespace(typed.charAt(at))) {
            at++;
        }
        return at;
    }
}
