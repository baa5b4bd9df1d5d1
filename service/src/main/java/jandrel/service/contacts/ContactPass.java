package jandrel.service.contacts;

import jandrel.core.contacts.CardGroups;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactField;
import jandrel.core.contacts.SortedCard.Facts;
import jandrel.core.directory.ImportRejected;
import jandrel.core.policy.BookRules;
import jandrel.core.policy.BookRules.Removed;
import jandrel.core.policy.Direction;
import jandrel.core.policy.Policy;
import jandrel.core.reconcile.Exchange;
import jandrel.core.reconcile.Preference;
import jandrel.core.reconcile.Preference.Deleted;
import jandrel.formats.card.CardFile;
import jandrel.formats.card.UnreadableCard;
import jandrel.formats.mail.Phones;
import jandrel.service.capture.ContactSync;
import jandrel.service.capture.MassChange;
import jandrel.service.capture.Prefetch;
import jandrel.sources.AddressBookServer;
import jandrel.sources.AddressBookServer.AddressBook;
import jandrel.sources.DavChanges;
import jandrel.sources.SourceTrouble;
import jandrel.store.capture.CursorConflict;
import jandrel.store.capture.SourceRef;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Source;
import jandrel.store.contacts.Books;
import jandrel.store.contacts.CardIntake;
import jandrel.store.contacts.CardIntake.FetchedCard;
import jandrel.store.contacts.CardIntake.Sorting;
import jandrel.store.contacts.CardLedger;
import jandrel.store.people.People;
import jandrel.store.policy.Policies;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Reads what is new in the address books of one person, and brings both sides together as the policy says. */
@Component
public class ContactPass implements ContactSync {
    private static final Logger LOG = LoggerFactory.getLogger(ContactPass.class);
    private static final long LOT_BYTES = 2L * 1024 * 1024;
    private static final int MOST = 500;
    private static final int LONGEST_HREF = 1_000;
    private final Connections connections;
    private final Policies policies;
    private final People people;
    private final Books books;
    private final CardIntake intake;
    private final CardLedger ledger;
    private final Phones phones;
    private final Clock clock;
    private final ListedBooks listedBooks;

    ContactPass(
            Connections connections,
            Policies policies,
            People people,
            Books books,
            CardIntake intake,
            CardLedger ledger,
            Phones phones,
            Clock clock) {
        this.connections = connections;
        this.policies = policies;
        this.people = people;
        this.books = books;
        this.intake = intake;
        this.ledger = ledger;
        this.phones = phones;
        this.clock = clock;
        this.listedBooks = new ListedBooks(connections, books);
    }

    @Override
    public long over(AddressBookServer server, Connection connection) {
        Optional<Policy> policy = policies.of(connection.person());
        try {
            List<AddressBook> listed = listedBooks.of(server, connection);
            Direction direction = policy.map(p -> p.scope().contacts()).orElse(Direction.NONE);
            if (direction == Direction.NONE) {
                return 0;
            }
            Policy rules = policy.orElseThrow();
            String ownBook = direction.goesOut() ? rules.books().ownBook() : "";
            // where it has to be apart and cannot, nothing goes out, and all else goes on
            String onlyInto = ownBook.isEmpty() ? null : "";
            SourceTrouble notApart = null;
            if (!ownBook.isEmpty() && books.isOutgoingAt(connection.person(), connection.id())) {
                try {
                    onlyInto = listedBooks.apart(server, connection, ownBook);
                    listed = listedBooks.of(server, connection);
                } catch (SourceTrouble trouble) {
                    if (trouble.kind() != SourceTrouble.Kind.FORBIDDEN) {
                        throw trouble;
                    }
                    notApart = trouble;
                }
            }
            Map<String, Source> sources = new HashMap<>();
            connections.sources(connection.id()).forEach(s -> sources.put(s.name(), s));
            long read = 0;
            for (AddressBook book : listed) {
                Source source = Objects.requireNonNull(sources.get(book.href()));
                if (source.chosen()) {
                    boolean mayGoOut = onlyInto == null || onlyInto.equals(book.href());
                    read += new Pass(server, book, connection, source.id(), rules, mayGoOut).run();
                }
            }
            if (notApart != null) {
                throw notApart;
            }
            return read;
        } catch (SourceTrouble trouble) {
            listedBooks.forget(connection);
            throw trouble;
        }
    }

    /** One look at one book. */
    private final class Pass {
        private final AddressBookServer server;
        private final AddressBook book;
        private final Connection connection;
        private final Policy policy;
        private final BookRules rules;
        private final Direction direction;
        private final Source source;
        private final SourceRef place;
        private final Sorting sorting;
        private final boolean mayGoOut;
        private @Nullable CardGroups groups;

        /** @param mayGoOut whether contacts may be put into this one */
        Pass(
                AddressBookServer server,
                AddressBook book,
                Connection connection,
                int source,
                Policy policy,
                boolean mayGoOut) {
            this.mayGoOut = mayGoOut;
            this.server = server;
            this.book = book;
            this.connection = connection;
            this.policy = policy;
            this.rules = policy.books();
            this.direction = policy.scope().contacts();
            Set<String> privately = books.privately(connection.id());
            books.sortedUnder(source, Books.fingerprint(rules, direction, privately));
            // as its cursor is now
            this.source = connections.source(source).orElseThrow(CursorConflict::byRest);
            this.place = new SourceRef(source, connection.person(), connection.since(), connection.generation());
            this.sorting = new Sorting(rules, policy.id(), privately, false);
        }

        long run() {
            DavChanges changes = server.changes(book, source.cursor());
            Set<String> all = new HashSet<>();
            List<String> gone = changes.removed();
            if (changes.whole() || !gone.isEmpty()) {
                all.addAll(books.hrefs(source.id()));
            }
            if (changes.whole()) {
                Set<String> listed = new HashSet<>(changes.changed());
                gone = all.stream()
                        .filter(href -> !listed.contains(href))
                        .sorted()
                        .toList();
            }
            if (isTooMuch(gone, all)) {
                return 0;
            }
            Books.Again again = books.again(source.id());
            Set<String> wanted = new TreeSet<>(changes.changed());
            wanted.addAll(again.hrefs());
            gone.forEach(wanted::remove);
            List<String> toRead = new ArrayList<>(wanted);
            toRead.removeIf(href -> href.length() > LONGEST_HREF);
            readInGroups(toRead, gone, changes.whole() || source.cursor().isEmpty());
            books.sorted(source.id(), again);
            if (!changes.token().equals(source.cursor())) {
                intake.moveCursor(place, source.cursor(), changes.token());
            }
            exchange();
            return toRead.size();
        }

        /** Whether so much was removed at once, there or here, that somebody should say whether that is meant. */
        private boolean isTooMuch(List<String> gone, Set<String> all) {
            List<String> leaving = direction.goesOut() && rules.removedHere() == Removed.REMOVE
                    ? books.leaving(source.id())
                    : List.of();
            if (leaving.isEmpty()) {
                return MassChange.holds(connections, source, gone, all);
            }
            Set<String> both = new TreeSet<>(gone);
            both.addAll(leaving);
            return MassChange.holds(connections, source, List.copyOf(both), Set.copyOf(books.hrefs(source.id())));
        }

        /**
         * Who is in which group is known for certain when all that is new has been read. Until then nothing is kept of a card by which
         * somebody could see what is in it; then those are read once more whose groups are others than was thought.
         *
         * @param whole whether all of the book is read
         */
        private void readInGroups(List<String> hrefs, List<String> gone, boolean whole) {
            if (hrefs.isEmpty() && gone.isEmpty()) {
                return;
            }
            CardGroups known = knownGroups(gone);
            GroupsSeen seen = new GroupsSeen(known.askedFor(rules, sorting.privately()));
            Set<String> again = read(hrefs, gone, sorting.beforeGroups(), seen);
            seen.all.addAll(gone);
            CardGroups now = known.with(seen.all, seen.groups).askedFor(rules, sorting.privately());
            if (whole) {
                again.addAll(seen.othersBy(now));
            } else if (!books.wereSortedBy(source.id(), now)) {
                again.addAll(books.hrefs(source.id()));
            }
            read(again.stream().sorted().toList(), List.of(), sorting, new GroupsSeen(now));
            books.sortedBy(source.id(), now);
            groups = now;
        }

        /** Without news, they are read where a card is. */
        private CardGroups groups() {
            CardGroups now = groups;
            if (now == null) {
                now = knownGroups(List.of()).askedFor(rules, sorting.privately());
                groups = now;
            }
            return now;
        }

        private CardGroups knownGroups(List<String> gone) {
            List<String> hrefs = new ArrayList<>(books.groups(source.id()));
            hrefs.removeAll(Set.copyOf(gone));
            return GroupsSeen.at(server, book.href(), hrefs, phones);
        }

        /** @return the hrefs of those of which nothing was kept yet */
        private Set<String> read(List<String> hrefs, List<String> gone, Sorting by, GroupsSeen seen) {
            Set<String> again = new TreeSet<>();
            List<List<String>> batches = ReadCard.batches(hrefs);
            if (batches.isEmpty()) {
                if (!gone.isEmpty()) {
                    intake.take(place, List.of(), gone, by);
                }
                return again;
            }
            List<String> left = gone;
            try (Prefetch<String, List<ReadCard>> ahead = new Prefetch<>(
                    batches.iterator(),
                    batch -> LOT_BYTES,
                    batch -> server.objects(book.href(), batch),
                    (batch, objects) -> ReadCard.all(batch, objects, phones))) {
                for (List<ReadCard> cards = ahead.next(); cards != null; cards = ahead.next()) {
                    again.addAll(intake.take(place, seen.fetched(cards), left, by));
                    left = List.of();
                }
            }
            return again;
        }

        private void exchange() {
            boolean outgoing = direction.goesOut() && mayGoOut && books.isOutgoing(connection.person(), source.id());
            List<UUID> wanted = outgoing ? books.wantedOut(connection.person(), source, rules) : List.of();
            boolean creates = direction.comesIn() && rules.creates();
            if (!books.mayGoOn(source.id(), creates, wanted.size(), rules)) {
                // what somebody takes back goes, whatever waits
                settle(books.pendingUndone(source.id(), MOST));
                return;
            }
            if (creates) {
                create();
            }
            if (outgoing) {
                putOut(wanted);
            }
            books.begun(source.id());
            if (!direction.comesIn()) {
                books.leaveOwn(source.id());
            }
            Set<UUID> tried = new HashSet<>();
            for (List<UUID> pending = pending(tried); !pending.isEmpty(); pending = pending(tried)) {
                tried.addAll(pending);
                settle(pending);
            }
        }

        /** What could not be settled waits for the next look. */
        private List<UUID> pending(Set<UUID> tried) {
            return books.pending(source.id(), MOST).stream()
                    .filter(card -> !tried.contains(card))
                    .toList();
        }

        private void putOut(List<UUID> wanted) {
            if (wanted.isEmpty()) {
                books.planned(source.id());
            } else {
                books.putOut(source, wanted);
            }
        }

        /** What is new is read once more: nothing of it was kept. */
        private void create() {
            String by = "the address book of "
                    + people.one(connection.person()).map(People.Person::name).orElse("somebody");
            int before = -1;
            for (List<String> fresh = books.fresh(source.id(), ReadCard.BATCH);
                    !fresh.isEmpty() && fresh.size() != before;
                    fresh = books.fresh(source.id(), ReadCard.BATCH)) {
                Map<String, ContactDetails> cards = new HashMap<>();
                List<FetchedCard> read = new GroupsSeen(groups())
                        .fetched(ReadCard.all(fresh, server.objects(book.href(), fresh), phones));
                // much may have changed since they were sorted: what is excluded by now, or somebody's, is no longer
                // new
                intake.take(place, read, List.of(), sorting);
                for (FetchedCard card : read) {
                    Facts facts = card.facts();
                    if (facts != null) {
                        cards.put(card.href(), facts.details());
                    }
                }
                before = cards.size() == fresh.size() ? -1 : fresh.size();
                try {
                    books.create(source, cards, rules.makesAccounts(), by);
                } catch (ImportRejected rejected) {
                    LOG.warn("book {}: contacts could not be made of {} cards", source.id(), cards.size());
                    return;
                }
            }
        }

        private void settle(List<UUID> cards) {
            BookSide side = new BookSide(
                    server, source, books, ledger, direction.comesIn(), this::isOwnBusiness, phones, clock);
            Exchange<UUID, ContactDetails> exchange = new Exchange<>(ContactField.CONTACT, ledger, side);
            Preference usual = rules.preference(policy.keeping(), direction);
            Preference back = new Preference(usual.wins(), false, Deleted.KEEP, Deleted.REMOVE, true, true);
            // a card that changed since somebody said so lives
            Preference goes = new Preference(
                    usual.wins(), false, usual.deletedThere(), Deleted.REMOVE, usual.takesUp(), usual.gives());
            for (int n = 0; n < cards.size(); n++) {
                UUID card = cards.get(n);
                if (n % ReadCard.BATCH == 0) {
                    side.ahead(cards.subList(n, Math.min(cards.size(), n + ReadCard.BATCH)));
                }
                stillAtWork();
                try {
                    Books.Place place = books.place(card).orElse(null);
                    // asked for each: somebody may take back what is under way
                    exchange.settle(card, place == null ? usual : place.undone() ? back : place.goes() ? goes : usual);
                } catch (SourceTrouble trouble) {
                    LOG.warn("card {}: {}", card, trouble.getMessage());
                    books.trouble(card, String.valueOf(trouble.getMessage()));
                    if (trouble.kind() != SourceTrouble.Kind.FORBIDDEN) {
                        throw trouble;
                    }
                }
            }
        }

        private boolean isOwnBusiness(CardFile card) {
            try {
                return ReadCard.of(card, "", "").isOwnBusiness(sorting.privately(), groups());
            } catch (UnreadableCard broken) {
                return false;
            }
        }

        /** Nothing goes out any more from the moment that somebody puts it to rest. */
        private void stillAtWork() {
            Connection now = connections.connection(connection.id()).orElseThrow(CursorConflict::byRest);
            if (now.isAtRest()) {
                throw CursorConflict.byRest();
            }
            if (now.generation() != connection.generation()) {
                throw CursorConflict.byChange();
            }
        }
    }
}
