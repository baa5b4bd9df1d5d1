package jandrel.client;

import jandrel.api.PolicyApi.BookRule;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** What a policy says of address books, as options. */
final class BookOptions {
    private static final BookRule SAFE =
            new BookRule("all", List.of(), true, "own-accounts", 90, 500, 25, "keep", "keep", null, null, null, null);

    @Option(
            names = "--contacts",
            description = "Which way they flow between address books and here: none, in, out or both.")
    private String contacts = "";

    @Option(
            names = "--take-categories",
            split = ",",
            description = "Only cards in these categories come in; \"\" for all that are not private.")
    private @Nullable List<String> categories;

    @Option(
            names = "--take-if",
            paramLabel = "CONDITIONS",
            description =
                    "Only cards that meet these come in, such as \"organisation contains Port and mail filled\"; given again, those"
                            + " that meet the other ones come in, too. Fields: name, organisation, unit, title, role, mail, telephone, place,"
                            + " web-address, birthday, category, note. Comparisons: is, is-not, contains, contains-not, begins-with, ends-with,"
                            + " at-least, at-most, empty, filled.")
    private List<String> takesIf = List.of();

    @Option(
            names = "--give-if",
            paramLabel = "CONDITIONS",
            description =
                    "Only contacts that meet these go out; as --take-if, and with the company's own fields by their keys.")
    private List<String> givesIf = List.of();

    @Option(
            names = "--card-creates",
            description = "on or off: somebody who is in an address book alone becomes a contact")
    private String creates = "";

    @Option(
            names = "--card-makes-accounts",
            description = "on or off: their company becomes an account, where there is none like it")
    private String makesAccounts = "";

    @Option(names = "--give", description = "Which contacts go out: all, own-accounts, recent, or as --give-if says.")
    private String gives = "";

    @Option(names = "--recent-days", description = "How many days back, for recent.")
    private int recentDays = -1;

    @Option(names = "--most-contacts", description = "At most so many contacts go out to one book.")
    private int most = -1;

    @Option(
            names = "--ask-above",
            description = "How many new contacts and cards a book may bring at once without anybody having seen it.")
    private int askAbove = -1;

    @Option(
            names = "--removed-card",
            description = "What becomes of a contact whose card is removed: keep, remove or ask.")
    private String removedThere = "";

    @Option(
            names = "--removed-contact",
            description = "What becomes of the cards of a removed contact: keep, remove or ask.")
    private String removedHere = "";

    @Option(
            names = "--own-book",
            paramLabel = "NAME",
            description =
                    "Contacts go into a book of this name, which is made where there is none; “” for the person's own book.")
    private @Nullable String ownBook;

    String direction(String now) {
        return contacts.isEmpty() ? now : contacts;
    }

    @Nullable
    BookRule over(@Nullable BookRule now) {
        BookRule is = now == null ? SAFE : now;
        List<String> wanted = categories == null
                ? is.categories()
                : categories.stream().filter(c -> !c.isBlank()).toList();
        BookRule rule = new BookRule(
                takesIf.isEmpty() ? ofCategories(is, wanted) : "conditions",
                wanted,
                creates.isEmpty() ? is.creates() : creates.equals("on"),
                givesIf.isEmpty() ? gives.isEmpty() ? is.gives() : gives : "conditions",
                recentDays < 0 ? is.recentDays() : recentDays,
                most < 0 ? is.most() : most,
                askAbove < 0 ? is.askAbove() : askAbove,
                removedThere.isEmpty() ? is.removedThere() : removedThere,
                removedHere.isEmpty() ? is.removedHere() : removedHere,
                takesIf.isEmpty() ? is.takesIf() : BookConditions.all(takesIf),
                givesIf.isEmpty() ? is.givesIf() : BookConditions.all(givesIf),
                makesAccounts.isEmpty() ? is.makesAccounts() : Boolean.valueOf(makesAccounts.equals("on")),
                ownBook == null ? is.ownBook() : ownBook);
        return now == null && rule.equals(SAFE) ? null : rule;
    }

    private String ofCategories(BookRule is, List<String> wanted) {
        return categories == null ? is.takes() : wanted.isEmpty() ? "all" : "categories";
    }
}
