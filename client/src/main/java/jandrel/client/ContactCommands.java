package jandrel.client;

import jandrel.api.ContactApi.BookInfo;
import jandrel.api.ContactApi.BookPreview;
import jandrel.api.ContactApi.BookUndone;
import jandrel.api.ContactApi.CardChoice;
import jandrel.api.ContactApi.CardConflict;
import jandrel.api.ContactApi.CardFits;
import jandrel.api.ContactApi.LikelyAccount;
import jandrel.api.ContactApi.NoAccount;
import jandrel.api.ContactApi.OpenCard;
import jandrel.api.ContactApi.PrivateCategories;
import jandrel.api.ContactApi.RemovedAnswer;
import jandrel.api.ContactApi.RemovedCard;
import jandrel.api.ContactApi.RemovedOutcome;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Address books, and how they are kept in step with contacts. */
final class ContactCommands {
    private static final String BOOKS = "/api/address-books/";

    private ContactCommands() {}

    @Command(
            name = "contacts",
            description = "Address books, and how they compare with the contacts here.",
            synopsisSubcommandLabel = "COMMAND",
            subcommands = {
                Books.class,
                Preview.class,
                Approve.class,
                TakeBackBook.class,
                Cards.class,
                SettleCard.class,
                Removed.class,
                AnswerRemoved.class,
                Homeless.class,
                CardConflicts.class,
                BringCardBack.class,
                Private.class,
                ContactDetailCommand.class
            })
    static final class Contacts extends Ask {
        @Override
        public Integer call() {
            return list(this);
        }
    }

    private static String count(long n, String many) {
        return Out.of(n, n, many);
    }

    private static List<BookInfo> all(Ask ask) {
        return List.of(ask.main().http().get("/api/address-books", Map.of(), BookInfo[].class));
    }

    private static int list(Ask ask) {
        List<BookInfo> all = all(ask);
        if (ask.out().json()) {
            ask.out().objects(all);
            return 0;
        }
        Table table = new Table(
                ">book",
                "person",
                "name",
                "direction",
                "is",
                ">in step",
                ">pending",
                ">to settle",
                ">removed",
                ">private",
                ">left out");
        all.forEach(b -> table.row(
                b.source(),
                b.personName(),
                b.label(),
                b.direction().equals("none") ? "off" : b.direction(),
                is(b),
                b.alike(),
                b.pending(),
                b.open(),
                b.asked(),
                b.privately(),
                b.leftOut() + b.unreadable()));
        int code = Ask.listed(ask.out(), table, all.size(), all.size(), "address books");
        if (all.stream().anyMatch(b -> b.asked() > 0)) {
            ask.out().say("“jandrel contacts removed” lists what was removed on one side and waits for an answer.");
        }
        all.stream()
                .filter(b -> b.waits() != null)
                .findFirst()
                .ifPresent(b -> ask.out()
                        .say("Where it waits, “jandrel contacts preview " + b.source()
                                + "” says what would happen, “jandrel contacts approve " + b.source()
                                + "” approves it."));
        return code;
    }

    private static String is(BookInfo b) {
        if (!b.held().isEmpty()) {
            return "held back: " + b.held() + " removed";
        }
        return b.waits() == null ? b.state() : "waits for approval";
    }

    @Command(name = "books", description = "All address books, and how each stands.")
    static final class Books extends Ask {
        @Override
        public Integer call() {
            return list(this);
        }
    }

    /** Of one book. */
    abstract static class OfBook extends Ask {
        @Parameters(index = "0", paramLabel = "BOOK", description = "Its number, as “contacts” lists it.")
        int book;
    }

    @Command(name = "preview", description = "What is in a book and why, and what would come of it.")
    static final class Preview extends OfBook {
        @Override
        public Integer call() {
            BookPreview preview = main().http().get(BOOKS + book + "/preview", Map.of(), BookPreview.class);
            if (out().json()) {
                out().objects(List.of(preview));
                return 0;
            }
            BookInfo b = preview.book();
            out().say(b.label() + " of " + b.personName() + ": " + is(b));
            if (b.waits() != null) {
                out().say("It would make " + count(b.creates(), "new contacts") + " and write "
                        + count(b.writes(), "cards") + " into the book.");
            }
            Table table = new Table(">cards", "what becomes of them");
            preview.cards().forEach(c -> table.row(c.count(), c.says()));
            out().table(table);
            named("Would become contacts:", preview.creates(), b.fresh());
            named("Would be put into the book:", preview.writes(), b.writes());
            return 0;
        }

        private void named(String heading, List<String> names, long all) {
            if (!names.isEmpty()) {
                out().say(heading);
                names.forEach(n -> out().say("  " + n));
                if (all > names.size()) {
                    out().say("  and " + (all - names.size()) + " more");
                }
            }
        }
    }

    @Command(name = "approve", description = "Approves what a book would bring, so that it starts.")
    static final class Approve extends OfBook {
        @Override
        public Integer call() {
            main().http().tell("POST", BOOKS + book + "/approve", Map.of());
            out().say("Approved: it starts now; “jandrel contacts” says how it goes.");
            return 0;
        }
    }

    @Command(
            name = "take-back",
            description = "Takes back what came of a book: contacts made from it, and cards written into it.")
    static final class TakeBackBook extends OfBook {
        @Override
        public Integer call() {
            BookUndone undone = main().http().send("POST", BOOKS + book + "/take-back", Map.of(), BookUndone.class);
            if (out().json()) {
                out().objects(List.of(undone));
            }
            out().say("Took back " + count(undone.contacts(), "contacts") + " and " + count(undone.cards(), "cards")
                    + ". The book waits for approval now.");
            return 0;
        }
    }

    @Command(
            name = "cards",
            description = "Cards that fit several contacts, and wait until somebody says whose they are.")
    static final class Cards extends Ask {
        @Override
        public Integer call() {
            List<OpenCard> all = List.of(main().http().get("/api/cards", Map.of(), OpenCard[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("card", "book of", "may be", "at", "speaks for it", "contact", "id");
            for (OpenCard card : all) {
                for (CardFits f : card.fits()) {
                    table.row(
                            card.name(),
                            card.personName(),
                            f.name(),
                            f.account(),
                            String.join(", ", f.speaks()),
                            f.id(),
                            card.id());
                }
            }
            return Ask.listed(out(), table, all.size(), all.size(), "open cards");
        }
    }

    @Command(name = "settle", description = "Says whose a card is.")
    static final class SettleCard extends Ask {
        @Parameters(index = "0", paramLabel = "CARD", description = "Its id, as “contacts cards” lists it.")
        private String card = "";

        @Option(names = "--is", description = "The id of the contact that it is.")
        private @Nullable UUID contact;

        @Option(names = "--new", description = "It is somebody new.")
        private boolean fresh;

        @Option(names = "--leave-out", description = "It is left out from now on.")
        private boolean leaveOut;

        @Override
        public Integer call() {
            int said = (contact != null ? 1 : 0) + (fresh ? 1 : 0) + (leaveOut ? 1 : 0);
            if (said != 1) {
                throw new Trouble(Trouble.USE, "say one of --is CONTACT, --new and --leave-out");
            }
            CardChoice choice = new CardChoice(contact != null ? "contact" : fresh ? "new" : "leave-out", contact);
            main().http().tell("POST", "/api/cards/" + id(card) + "/settle", choice);
            out().say("Settled.");
            return 0;
        }
    }

    @Command(
            name = "removed",
            description = "Contacts that one side removed, where you say whether the other removes them, too.")
    static final class Removed extends Ask {
        @Override
        public Integer call() {
            List<RemovedCard> all = List.of(main().http().get("/api/cards/removed", Map.of(), RemovedCard[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("since", "contact", "removed from", "still in", ">other books", "id");
            all.forEach(r -> {
                String book = "“" + r.book() + "” of " + r.personName();
                boolean here = r.removed().equals("here");
                table.row(
                        out().time(r.since()),
                        r.name(),
                        here ? "the directory" : book,
                        here ? book : "the directory",
                        r.elsewhere(),
                        r.id());
            });
            return Ask.listed(out(), table, all.size(), all.size(), "open removals");
        }
    }

    @Command(
            name = "answer",
            description =
                    "Says whether what one side removed is removed on the other, too: a contact is archived, a card is taken"
                            + " out of its book.")
    static final class AnswerRemoved extends Ask {
        @Parameters(arity = "1..*", paramLabel = "ID", description = "As “contacts removed” lists them.")
        private List<String> ids = List.of();

        @Option(names = "--remove", description = "It is removed on the other side, too.")
        private boolean remove;

        @Option(
                names = "--keep",
                description = "It stays there, and the two have nothing to do with each other any more.")
        private boolean keep;

        @Override
        public Integer call() {
            if (remove == keep) {
                throw new Trouble(Trouble.USE, "say one of --remove and --keep");
            }
            RemovedAnswer answer = new RemovedAnswer(
                    ids.stream().map(id -> UUID.fromString(Ask.id(id))).toList(), remove ? "remove" : "keep");
            RemovedOutcome outcome = main().http().send("POST", "/api/cards/removed", answer, RemovedOutcome.class);
            if (out().json()) {
                out().objects(List.of(outcome));
            }
            out().say(count(outcome.answered(), "removals") + " answered.");
            return 0;
        }
    }

    @Command(
            name = "no-account",
            description = "Contacts that came by a card and are at no account, with those that they may be at.")
    static final class Homeless extends Ask {
        @Override
        public Integer call() {
            List<NoAccount> all = List.of(main().http().get("/api/cards/no-account", Map.of(), NoAccount[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("name", "company on the card", "addresses", "may be at", "id");
            all.forEach(c -> table.row(
                    c.name(),
                    c.organisation(),
                    c.addresses(),
                    c.likely().stream().map(LikelyAccount::name).collect(Collectors.joining(", ")),
                    c.id()));
            return Ask.listed(out(), table, all.size(), all.size(), "unplaced contacts");
        }
    }

    @Command(name = "conflicts", description = "What was changed here and in a book at once, with both values.")
    static final class CardConflicts extends Ask {
        @Override
        public Integer call() {
            List<CardConflict> all = List.of(main().http().get("/api/card-conflicts", Map.of(), CardConflict[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("when", "contact", "book of", "field", "here", "book", "kept", "id");
            all.forEach(c -> table.row(
                    out().time(c.at()),
                    c.contactName(),
                    c.personName(),
                    c.field(),
                    c.here(),
                    c.book(),
                    c.broughtBackBy() == null ? c.stands() : "brought back",
                    c.id()));
            return Ask.listed(out(), table, all.size(), all.size(), "conflicts");
        }
    }

    @Command(name = "bring-back", description = "Restores the value that lost in a conflict.")
    static final class BringCardBack extends Ask {
        @Parameters(index = "0", paramLabel = "ID", description = "As “contacts conflicts” lists it.")
        private String conflict = "";

        @Override
        public Integer call() {
            main().http().tell("POST", "/api/card-conflicts/" + id(conflict) + "/bring-back", Map.of());
            out().say("The other value stands now.");
            return 0;
        }
    }

    @Command(name = "private", description = "Categories whose cards stay private; says them, or sets them.")
    static final class Private extends OfBook {
        @Parameters(index = "1..*", paramLabel = "CATEGORY", description = "Such as family; \"\" for none.")
        private @Nullable List<String> categories;

        @Override
        public Integer call() {
            UUID connection = all(this).stream()
                    .filter(b -> b.source() == book)
                    .findFirst()
                    .map(BookInfo::connection)
                    .orElseThrow(() -> new Trouble(Trouble.NO, "there is no address book " + book));
            String path = "/api/connections/" + connection + "/private-categories";
            PrivateCategories now;
            if (categories == null) {
                now = main().http().get(path, Map.of(), PrivateCategories.class);
            } else {
                List<String> wanted = new ArrayList<>(categories);
                wanted.removeIf(String::isBlank);
                now = main().http().send("PUT", path, new PrivateCategories(wanted), PrivateCategories.class);
            }
            if (out().json()) {
                out().objects(List.of(now));
            }
            out().say(
                            now.categories().isEmpty()
                                    ? "No category is private; cards that are marked as private are."
                                    : "Private: " + String.join(", ", now.categories()) + ".");
            return 0;
        }
    }
}
