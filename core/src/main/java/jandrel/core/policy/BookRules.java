package jandrel.core.policy;

import jandrel.core.policy.BookCondition.Field;
import jandrel.core.reconcile.Preference;
import jandrel.core.reconcile.Preference.Deleted;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Which cards come in from people’s address books, and which contacts go out to them.
 *
 * @param takes which cards come in
 * @param categories of those cards, where only some do; without case
 * @param creates whether somebody who is in a book alone becomes a contact
 * @param gives which contacts go out
 * @param recentDays how many days back somebody exchanged mail or met with a contact, where only those go out
 * @param most how many contacts go out to one book at most, the last touched first
 * @param askAbove how many new contacts or cards a book may bring at once without anybody having seen it
 * @param removedThere what becomes of the contact when its card is removed from a book
 * @param removedHere what becomes of the cards when a contact is removed here
 * @param takesIf alternatives, of one of which a card must meet all, where only such cards come in
 * @param givesIf likewise of the contacts that go out
 * @param makesAccounts whether the company of somebody who becomes a contact so becomes an account, where none is like it
 * @param ownBook the name of a book of its own that contacts are put into, which is made where there is none; empty for the person's
 *     own book
 */
public record BookRules(
        Takes takes,
        List<String> categories,
        boolean creates,
        Gives gives,
        int recentDays,
        int most,
        int askAbove,
        Removed removedThere,
        Removed removedHere,
        List<List<BookCondition>> takesIf,
        List<List<BookCondition>> givesIf,
        boolean makesAccounts,
        String ownBook) {
    /** The most contacts that a policy may send to one book. */
    public static final int MOST = 20_000;

    /** Every card that is not private; out go the contacts of one’s own accounts; nothing is removed on the other side. */
    public static final BookRules SAFE = new BookRules(
            Takes.ALL,
            List.of(),
            true,
            Gives.OWN_ACCOUNTS,
            90,
            500,
            25,
            Removed.KEEP,
            Removed.KEEP,
            List.of(),
            List.of(),
            false,
            "");

    /** Which cards. The names are stored. */
    public enum Takes {
        ALL,
        CATEGORIES,
        /** Those that meet conditions. */
        CONDITIONS
    }

    /** Which contacts. The names are stored. */
    public enum Gives {
        ALL,
        /** Those of accounts that the book’s owner owns. */
        OWN_ACCOUNTS,
        /** Those whom the book’s owner exchanged mail or met with lately. */
        RECENT,
        /** Those that meet conditions. */
        CONDITIONS
    }

    /** What a removal on one side does on the other. The names are stored. */
    public enum Removed {
        KEEP(Deleted.KEEP),
        REMOVE(Deleted.REMOVE),
        /** Somebody is asked each time. */
        ASK(Deleted.ASK);

        private final Deleted deleted;

        Removed(Deleted deleted) {
            this.deleted = deleted;
        }
    }

    public BookRules {
        categories = categories.stream()
                .map(c -> c.strip().toLowerCase(Locale.ROOT))
                .filter(c -> !c.isEmpty())
                .distinct()
                .sorted()
                .toList();
        // policies of before have none
        ownBook = ownBook == null ? "" : ownBook.strip();
        takesIf =
                takesIf == null ? List.of() : takesIf.stream().map(List::copyOf).toList();
        givesIf =
                givesIf == null ? List.of() : givesIf.stream().map(List::copyOf).toList();
    }

    /** The same, but that contacts go into a book of that name. */
    public BookRules intoBook(String name) {
        return new BookRules(
                takes,
                categories,
                creates,
                gives,
                recentDays,
                most,
                askAbove,
                removedThere,
                removedHere,
                takesIf,
                givesIf,
                makesAccounts,
                name);
    }

    /**
     * Whether a card comes in, as far as what it says tells.
     *
     * @param values what it says of a field
     */
    public boolean takes(Function<Field, Collection<String>> values) {
        Function<BookCondition, Collection<String>> asked = c -> values.apply(c.field());
        return switch (takes) {
            case ALL -> true;
            case CATEGORIES -> meet(categories, values.apply(Field.CATEGORY));
            case CONDITIONS -> BookCondition.meetOne(takesIf, asked);
        };
    }

    /** Whether it makes a difference that a card is in this category. */
    public boolean asksForCategory(String name) {
        return switch (takes) {
            case ALL -> false;
            case CATEGORIES -> meet(categories, List.of(name));
            case CONDITIONS -> takesIf.stream().flatMap(List::stream).anyMatch(c -> c.field() == Field.CATEGORY);
        };
    }

    /**
     * Whether a contact goes out, as far as what is known of them tells.
     *
     * @param values what is known of the field that a condition asks for
     */
    public boolean gives(Function<BookCondition, Collection<String>> values) {
        return gives != Gives.CONDITIONS || BookCondition.meetOne(givesIf, values);
    }

    /** Whether one of them is among the others, without case. */
    public static boolean meet(Collection<String> these, Collection<String> those) {
        return those.stream()
                .map(c -> c.strip().toLowerCase(Locale.ROOT))
                .collect(Collectors.toCollection(TreeSet::new))
                .stream()
                .anyMatch(these::contains);
    }

    /** @param wins as for meetings */
    public Preference preference(Keeping wins, Direction contacts) {
        return new Preference(
                wins.whoseWins(),
                wins.deletionWins(),
                contacts.comesIn() ? removedThere.deleted : Deleted.KEEP,
                removedHere.deleted,
                contacts.comesIn(),
                contacts.goesOut());
    }

    /** As sentences, each with a space before it; empty where contacts do not flow. */
    String words(Direction contacts) {
        if (contacts == Direction.NONE) {
            return "";
        }
        return Stream.of(
                        "Cards that come in: "
                                + (contacts.comesIn()
                                        ? switch (takes) {
                                            case ALL -> "all that are not private";
                                            case CATEGORIES -> "those in " + String.join(", ", categories);
                                            case CONDITIONS -> "those whose " + BookCondition.words(takesIf);
                                        }
                                        : "none")
                                + "; "
                                + (contacts.comesIn() && creates
                                        ? "somebody who is nobody’s contact yet becomes one"
                                                + (makesAccounts
                                                        ? ", and their company an account if there is none like it"
                                                        : "")
                                        : "nobody becomes a contact by it")
                                + ".",
                        "Contacts that go out: "
                                + (contacts.goesOut()
                                        ? switch (gives) {
                                                    case ALL -> "all";
                                                    case OWN_ACCOUNTS -> "those of the accounts that one owns";
                                                    case RECENT ->
                                                        "those one exchanged mail or met with in the last " + recentDays
                                                                + " days";
                                                    case CONDITIONS -> "those whose " + BookCondition.words(givesIf);
                                                }
                                                + ", at most " + most
                                                + (ownBook.isEmpty()
                                                        ? ""
                                                        : ", into a book of their own, “" + ownBook + "”")
                                        : "none")
                                + ".",
                        "More than " + askAbove
                                + " new contacts or cards of one book at once wait until somebody has seen them.",
                        "A card that its owner removes "
                                + switch (removedThere) {
                                    case KEEP -> "leaves the contact as it is";
                                    case REMOVE -> "archives the contact";
                                    case ASK -> "leaves the contact until somebody says what becomes of it";
                                }
                                + "; a contact that is removed here "
                                + switch (removedHere) {
                                    case KEEP -> "leaves the cards as they are";
                                    case REMOVE -> "is removed from books, too";
                                    case ASK -> "leaves the cards until somebody says what becomes of them";
                                }
                                + ".")
                .map(sentence -> " " + sentence)
                .collect(Collectors.joining());
    }
}
