package jandrel.service.policy;

import jandrel.api.PolicyApi.BookConditionRule;
import jandrel.api.PolicyApi.BookRule;
import jandrel.core.directory.OwnField;
import jandrel.core.directory.OwnFields;
import jandrel.core.policy.BookCondition;
import jandrel.core.policy.BookCondition.Comparison;
import jandrel.core.policy.BookCondition.Field;
import jandrel.core.policy.BookRules;
import jandrel.core.policy.BookRules.Gives;
import jandrel.core.policy.BookRules.Removed;
import jandrel.core.policy.BookRules.Takes;
import jandrel.core.policy.Scope;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What a policy says of address books, in the API's words, and back. */
final class BookWords {
    private static final int LONGEST_NAME = 100;
    private static final int MOST_WORDS = 30;

    private final OneWord one;
    private final OwnFields own;
    private final List<String> problems;

    /**
     * @param own fields that conditions of contacts may ask for
     * @param problems gets what does not fit
     */
    BookWords(OneWord one, OwnFields own, List<String> problems) {
        this.one = one;
        this.own = own;
        this.problems = problems;
    }

    static BookRule rule(BookRules b) {
        return new BookRule(
                OneWord.word(b.takes()),
                b.categories(),
                b.creates(),
                OneWord.word(b.gives()),
                b.recentDays(),
                b.most(),
                b.askAbove(),
                OneWord.word(b.removedThere()),
                OneWord.word(b.removedHere()),
                words(b.takesIf()),
                words(b.givesIf()),
                b.makesAccounts(),
                b.ownBook());
    }

    private static @Nullable List<List<BookConditionRule>> words(List<List<BookCondition>> alternatives) {
        return alternatives.isEmpty()
                ? null
                : alternatives.stream()
                        .map(all -> all.stream()
                                .map(c -> new BookConditionRule(c.fieldWord(), OneWord.word(c.comparison()), c.value()))
                                .toList())
                        .toList();
    }

    private List<List<BookCondition>> conditions(
            String field, @Nullable List<List<BookConditionRule>> given, boolean needed, OwnFields known) {
        // what a program sends may have nothing where something should be
        List<List<BookConditionRule>> alternatives = given == null
                ? List.of()
                : given.stream()
                        .map(all -> all == null
                                ? List.<BookConditionRule>of()
                                : all.stream().filter(Objects::nonNull).toList())
                        .toList();
        if (alternatives.isEmpty()) {
            if (needed) {
                problems.add("“" + field + "” has no conditions, so nothing would meet them.");
            }
            return List.of();
        }
        if (alternatives.size() > MOST_WORDS || alternatives.stream().anyMatch(a -> a.size() > MOST_WORDS)) {
            problems.add(
                    "“" + field + "” has at most " + MOST_WORDS + " alternatives of " + MOST_WORDS + " conditions.");
            return List.of();
        }
        if (alternatives.stream().anyMatch(List::isEmpty)) {
            problems.add("“" + field + "” has an alternative without a condition, which everything would meet.");
        }
        return alternatives.stream()
                .map(all -> all.stream().map(c -> condition(field, c, known)).toList())
                .toList();
    }

    private BookCondition condition(String field, BookConditionRule c, OwnFields known) {
        Comparison comparison = one.of(field + ".comparison", Comparison.class, c.comparison(), Comparison.CONTAINS);
        String value = c.value() == null ? "" : c.value();
        if (comparison.takesValue() && value.isBlank()) {
            problems.add("“" + field + "” compares with nothing: give a value, or ask whether it is empty.");
        }
        if (value.length() > LONGEST_NAME) {
            problems.add("A value in “" + field + "” has at most " + LONGEST_NAME + " characters.");
        }
        if (comparison.isOrder()
                && BookCondition.compared(value.strip(), value.strip()).isEmpty()) {
            problems.add("“" + field + "” compares with “" + value + "”: give a number, or a date like 2026-03-31.");
        }
        Optional<OwnField> asked = c.field() == null ? Optional.empty() : known.called(c.field());
        if (asked.isPresent()) {
            return BookCondition.own(asked.get().key(), comparison, asKept(field, asked.get(), comparison, value));
        }
        if (OneWord.word(Field.OWN).equals(c.field())) {
            problems.add("“" + field + ".field” names a field of your own by its key.");
        }
        return new BookCondition(one.of(field + ".field", Field.class, c.field(), Field.NAME), comparison, value);
    }

    /** What is compared as a whole, as it is kept: seven is 7, however it is written. */
    private String asKept(String field, OwnField own, Comparison comparison, String value) {
        boolean whole = comparison == Comparison.IS || comparison == Comparison.IS_NOT || comparison.isOrder();
        if (!whole || value.isBlank()) {
            return value;
        }
        return own.read(value).orElseGet(() -> {
            problems.add("“" + field + "”: “" + value + "” is not " + own.takes() + ".");
            return value;
        });
    }

    BookRules rules(@Nullable BookRule b) {
        if (b == null) {
            return BookRules.SAFE;
        }
        Takes takes = one.of("books.takes", Takes.class, b.takes(), Takes.ALL);
        boolean tooMany = b.categories().size() > MOST_WORDS
                || b.categories().stream().anyMatch(c -> c.isBlank() || c.length() > LONGEST_NAME);
        if (tooMany) {
            problems.add("“books.categories” has at most " + MOST_WORDS + " names, none of them empty.");
        }
        if (takes == Takes.CATEGORIES && b.categories().isEmpty()) {
            problems.add("“books.categories” names none, so no card would come in.");
        }
        Gives gives = one.of("books.gives", Gives.class, b.gives(), Gives.OWN_ACCOUNTS);
        List<List<BookCondition>> takesIf =
                conditions("books.takesIf", b.takesIf(), takes == Takes.CONDITIONS, OwnFields.NONE);
        List<List<BookCondition>> givesIf = conditions("books.givesIf", b.givesIf(), gives == Gives.CONDITIONS, own);
        between("books.recentDays", b.recentDays(), 1, Scope.MOST_DAYS);
        between("books.most", b.most(), 0, BookRules.MOST);
        between("books.askAbove", b.askAbove(), 0, BookRules.MOST);
        return new BookRules(
                takes,
                tooMany ? List.of() : b.categories(),
                b.creates(),
                gives,
                b.recentDays(),
                b.most(),
                b.askAbove(),
                one.of("books.removedThere", Removed.class, b.removedThere(), Removed.KEEP),
                one.of("books.removedHere", Removed.class, b.removedHere(), Removed.KEEP),
                takesIf,
                givesIf,
                Boolean.TRUE.equals(b.makesAccounts()),
                named(b.ownBook()));
    }

    private String named(@Nullable String book) {
        String name = book == null ? "" : book.strip();
        boolean fits = name.length() <= LONGEST_NAME && name.codePoints().noneMatch(Character::isISOControl);
        if (!fits) {
            problems.add("“books.ownBook” is a name of at most " + LONGEST_NAME + " characters.");
        }
        return fits ? name : "";
    }

    private void between(String field, int value, int least, int most) {
        if (value < least || value > most) {
            problems.add("“" + field + "” goes from " + least + " to " + most + ".");
        }
    }
}
