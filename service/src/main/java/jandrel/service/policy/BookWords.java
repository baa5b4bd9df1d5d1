package jandrel.service.policy;

import jandrel.api.PolicyApi.BookRule;
import jandrel.core.policy.BookRules;
import jandrel.core.policy.BookRules.Gives;
import jandrel.core.policy.BookRules.Removed;
import jandrel.core.policy.BookRules.Takes;
import jandrel.core.policy.Scope;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What a policy says of address books, in the API's words, and back. */
final class BookWords {
    private static final int LONGEST_NAME = 100;
    private static final int MOST_WORDS = 30;

    private BookWords() {}

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
                OneWord.word(b.removedHere()));
    }

    /** @param problems gets what does not fit */
    static BookRules rules(@Nullable BookRule b, OneWord one, List<String> problems) {
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
        between("books.recentDays", b.recentDays(), 1, Scope.MOST_DAYS, problems);
        between("books.most", b.most(), 0, BookRules.MOST, problems);
        between("books.askAbove", b.askAbove(), 0, BookRules.MOST, problems);
        return new BookRules(
                takes,
                tooMany ? List.of() : b.categories(),
                b.creates(),
                one.of("books.gives", Gives.class, b.gives(), Gives.OWN_ACCOUNTS),
                b.recentDays(),
                b.most(),
                b.askAbove(),
                one.of("books.removedThere", Removed.class, b.removedThere(), Removed.KEEP),
                one.of("books.removedHere", Removed.class, b.removedHere(), Removed.KEEP));
    }

    private static void between(String field, int value, int least, int most, List<String> problems) {
        if (value < least || value > most) {
            problems.add("“" + field + "” goes from " + least + " to " + most + ".");
        }
    }
}
