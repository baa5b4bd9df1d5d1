package jandrel.store.contacts;

import jandrel.core.contacts.CardGroups;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.SortedCard.Standing;
import jandrel.core.contacts.SortedCard.Why;
import jandrel.core.directory.ImportRejected;
import jandrel.core.journal.Entry.Thing;
import jandrel.core.policy.BookRules;
import jandrel.core.policy.BookRules.Gives;
import jandrel.core.policy.Direction;
import jandrel.store.connections.Connections.Source;
import jandrel.store.contacts.CardMapper.BookRow;
import jandrel.store.contacts.CardMapper.Row;
import jandrel.store.directory.Amending;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Kind;
import jandrel.store.kernel.RulesLock;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * How address books stand as wholes. Nothing of a book is exchanged until what it would begin with is small, or somebody has seen it and
 * approved it; another direction or other rules make that a new question.
 */
@Component
public class Books {
    private static final Duration PLANNED_AGAIN = Duration.ofMinutes(10);
    /** Whose details are read to see whether they meet conditions: the last touched ones. */
    private static final int MOST_LOOKED_AT = 100_000;

    private static final int AT_A_TIME = 500;
    private final CardMapper mapper;
    private final ContactStates states;
    private final Amending amending;
    private final Tying tying;
    private final NewAccounts newAccounts;
    private final Outbox outbox;
    private final RulesLock rules;
    private final Journal journal;
    private final Clock clock;

    Books(
            CardMapper mapper,
            ContactStates states,
            Amending amending,
            Tying tying,
            NewAccounts newAccounts,
            Outbox outbox,
            RulesLock rules,
            Journal journal,
            Clock clock) {
        this.mapper = mapper;
        this.states = states;
        this.amending = amending;
        this.tying = tying;
        this.newAccounts = newAccounts;
        this.outbox = outbox;
        this.rules = rules;
        this.journal = journal;
        this.clock = clock;
    }

    /** Categories that the owner of a connection calls private, in lower case. */
    public Set<String> privately(UUID connection) {
        return mapper.privateCategories(connection)
                .map(p -> (Set<String>) new TreeSet<>(List.of(p.privateCategories())))
                .orElse(Set.of());
    }

    /** Their cards are nobody else's business from now on, or are again. */
    @Transactional
    public void keepPrivate(UUID connection, Collection<String> categories, String account, String by) {
        Set<String> wanted = new TreeSet<>();
        categories.forEach(c -> wanted.add(ContactStates.line(c).toLowerCase(java.util.Locale.ROOT)));
        wanted.remove("");
        mapper.keepPrivate(connection, wanted.toArray(String[]::new));
        // which ones they are is private, too
        journal.add(
                by,
                "chose private categories of",
                new Thing("connection", connection.toString(), account),
                null,
                wanted.size());
    }

    /** What a book is exchanged by: another text, another question. */
    public static String fingerprint(BookRules rules, Direction direction, Set<String> privately) {
        return UUID.nameUUIDFromBytes((direction + Json.write(rules) + privately).getBytes(StandardCharsets.UTF_8))
                .toString();
    }

    /** Makes sure that the cards of a book are sorted under these rules: all of it is read anew where they are others. */
    @Transactional
    public void sortedUnder(int source, String fingerprint) {
        mapper.addBook(source);
        if (!mapper.book(source).map(BookRow::rules).orElse("").equals(fingerprint)) {
            mapper.sortAnew(source, fingerprint);
        }
    }

    /**
     * What is to be read once more, as exclusions have changed since the cards of a book were sorted.
     *
     * @param of which exclusions there are now; to be {@linkplain #sorted noted} once that is done
     */
    public record Again(List<String> hrefs, String of) {}

    public Again again(int source) {
        String now = mapper.exclusions();
        return new Again(
                now.equals(mapper.exclusionsSeen(source)) ? List.of() : mapper.concernedByExclusions(source), now);
    }

    @Transactional
    public void sorted(int source, Again again) {
        if (!again.of().equals(mapper.exclusionsSeen(source))) {
            mapper.sawExclusions(source, again.of());
        }
    }

    /** Where a book has lists of cards. */
    public List<String> groups(int source) {
        return mapper.groups(source);
    }

    /** By which groups the cards of a book were sorted last. */
    public boolean wereSortedBy(int source, CardGroups groups) {
        return mapper.groupsSeen(source).equals(digest(groups));
    }

    @Transactional
    public void sortedBy(int source, CardGroups groups) {
        mapper.sawGroups(source, digest(groups));
    }

    /** What stands in groups is not kept. */
    private static String digest(CardGroups groups) {
        return groups.text().isEmpty()
                ? ""
                : UUID.nameUUIDFromBytes(groups.text().getBytes(StandardCharsets.UTF_8))
                        .toString();
    }

    /** Cards that go out of a book next, as their contacts were removed here. */
    public List<String> leaving(int source) {
        return mapper.leaving(source);
    }

    /** Every href that a book showed. */
    public List<String> hrefs(int source) {
        return mapper.hrefs(source);
    }

    /** Whether this person's contacts go to this book. */
    public boolean isOutgoing(UUID person, int source) {
        return mapper.outgoing(person).filter(id -> id == source).isPresent();
    }

    /** Whether this person's contacts go to a book of this connection. */
    public boolean isOutgoingAt(UUID person, UUID connection) {
        return mapper.outgoingAt(person).filter(connection::equals).isPresent();
    }

    /** A book was made for contacts, whatever its server calls it. */
    @Transactional
    public void madeFor(UUID connection, String href, String name) {
        mapper.madeFor(connection, href, name);
    }

    /** The href of the book that was made for contacts under this name. */
    public Optional<String> bookMadeFor(UUID connection, String name) {
        return mapper.bookMadeFor(connection, name);
    }

    /** Who is to be put into a book, where that is to be looked for. */
    public List<UUID> wantedOut(UUID person, Source source, BookRules books) {
        BookRow book = mapper.book(source.id()).orElseThrow();
        Optional<Instant> planned = Optional.ofNullable(book.plannedAt());
        boolean due = planned.isEmpty()
                || book.askedAt() != null
                || book.granted() > 0
                || planned.get().isBefore(clock.instant().minus(PLANNED_AGAIN))
                || mapper.directoryChangedSince(planned.get());
        return due ? wantedOut(person, source, books, books.most()) : List.of();
    }

    private List<UUID> wantedOut(UUID person, Source source, BookRules books, int most) {
        Instant now = clock.instant();
        int room = Math.min(most, books.most() - mapper.outCount(source.id()));
        if (room <= 0) {
            return List.of();
        }
        boolean looked = books.gives() == Gives.CONDITIONS;
        List<UUID> wanted = mapper.wantedOut(
                person,
                books.gives().name(),
                now.minus(Duration.ofDays(books.recentDays())),
                now,
                looked ? MOST_LOOKED_AT : room);
        return looked ? meeting(wanted, books, room) : wanted;
    }

    /** The first of these of whom what is known meets the conditions. */
    private List<UUID> meeting(List<UUID> wanted, BookRules books, int most) {
        List<UUID> meeting = new ArrayList<>();
        for (int at = 0; at < wanted.size() && meeting.size() < most; at += AT_A_TIME) {
            List<UUID> some = wanted.subList(at, Math.min(wanted.size(), at + AT_A_TIME));
            Set<UUID> fit = mapper.sidesById(some.toArray(UUID[]::new)).stream()
                    .filter(side -> books.gives(ContactStates.known(side)))
                    .map(CardMapper.ContactSide::id)
                    .collect(Collectors.toSet());
            some.stream().filter(fit::contains).limit(most - meeting.size()).forEach(meeting::add);
        }
        return meeting;
    }

    /** The names of those, the first of them. */
    public List<String> namesOut(UUID person, Source source, BookRules books, int most) {
        List<UUID> ids = wantedOut(person, source, books, most);
        return mapper.fits(ids.toArray(UUID[]::new)).stream()
                .map(f -> f.name() + (f.account().isEmpty() ? "" : " (" + f.account() + ")"))
                .toList();
    }

    /**
     * Whether a book may be exchanged: what it brings at once is little, or somebody has seen it.
     *
     * @param writes how many cards would be put into it
     * @param creates whether new contacts come of it
     */
    @Transactional
    public boolean mayGoOn(int source, boolean creates, int writes, BookRules books) {
        BookRow book = mapper.bookAlone(source).orElseThrow();
        int fresh = creates ? mapper.newCount(source) : 0;
        boolean seen = book.granted() > 0 || book.askedAt() == null;
        // what somebody has seen may have grown a little since
        if (seen && fresh + writes <= books.askAbove() + book.granted()) {
            return true;
        }
        mapper.asks(source, fresh, writes, clock.instant());
        return false;
    }

    /** All that somebody approved has been done: what comes next is asked about anew. */
    @Transactional
    public void begun(int source) {
        mapper.begun(source);
    }

    /** Somebody has seen what a book would begin with. */
    @Transactional
    public boolean allow(Source source, String by) {
        Optional<BookRow> book = mapper.book(source.id()).filter(b -> b.askedAt() != null);
        book.ifPresent(b -> {
            mapper.allow(source.id());
            journal.add(
                    by,
                    "approved",
                    thing(source),
                    null,
                    new TreeMap<>(Map.of("contacts", b.creates(), "cards", b.writes())));
        });
        return book.isPresent();
    }

    private static Thing thing(Source source) {
        return new Thing("source", String.valueOf(source.id()), source.label());
    }

    /** The hrefs of cards that are nobody's yet. */
    public List<String> fresh(int source, int most) {
        return mapper.fresh(source, most);
    }

    /** Puts contacts into a book, each as a card that is to be written. */
    @Transactional
    public void putOut(Source source, List<UUID> contacts) {
        states.begin(contacts);
        UUID[] ids = contacts.stream().map(c -> UUID.randomUUID()).toArray(UUID[]::new);
        String folder = source.name().endsWith("/") ? source.name() : source.name() + "/";
        mapper.addOut(source.id(), folder, ids, contacts.toArray(UUID[]::new));
        outbox.addAll(Kind.CARD, String.valueOf(source.id()), List.of(ids));
        mapper.planned(source.id(), clock.instant());
    }

    /** There is nobody to put into it for now. */
    @Transactional
    public void planned(int source) {
        mapper.planned(source, clock.instant());
    }

    /**
     * Makes contacts of those whom a book alone has.
     *
     * @param cards by href; those that are not new any more are passed over
     * @param makesAccounts whether their companies become accounts, where there are none like them
     */
    @Transactional(rollbackFor = ImportRejected.class)
    public void create(Source source, Map<String, ContactDetails> cards, boolean makesAccounts, String by)
            throws ImportRejected {
        rules.change();
        List<Row> rows = mapper.at(source.id(), cards.keySet().toArray(String[]::new)).stream()
                .filter(r -> r.standing().equals(Standing.NEW.name()))
                .toList();
        List<ContactDetails> details = new ArrayList<>();
        for (Row row : rows) {
            ContactDetails d = java.util.Objects.requireNonNull(cards.get(row.href()));
            details.add(d);
        }
        if (makesAccounts) {
            newAccounts.of(details, by);
        }
        List<@Nullable String> at = new ArrayList<>();
        details.forEach(d -> at.add(tying.accountOf(d)));
        List<UUID> made = states.create(details, at, by);
        for (int n = 0; n < rows.size(); n++) {
            tying.tie(rows.get(n), made.get(n), true);
        }
    }

    /** What is known of a contact, the directory's columns and all else; nothing where there is no such contact. */
    public Optional<ContactDetails> details(UUID contact) {
        return states.of(contact);
    }

    /** Where contacts only go out, what somebody wrote down themselves is not written over. */
    @Transactional
    public void leaveOwn(int source) {
        outbox.cancel(Kind.CARD, mapper.pendingOwn(source));
    }

    /** What is being taken back, and has yet to be. */
    public List<UUID> pendingUndone(int source, int most) {
        return mapper.pending(source, true, most);
    }

    /** What has yet to be settled with a book; what failed before comes last. */
    public List<UUID> pending(int source, int most) {
        return mapper.pending(source, false, most);
    }

    @Transactional
    public void trouble(UUID card, String trouble) {
        outbox.trouble(Kind.CARD, card, trouble);
    }

    /**
     * Where a card stands.
     *
     * @param unwritten whether nothing was ever written there, or tried to
     * @param undone whether what came of it is being taken back
     * @param goes whether somebody said that it is removed, as its contact was
     */
    public record Place(UUID card, int source, String href, boolean unwritten, boolean undone, boolean goes) {
        static Place of(Row r) {
            boolean unwritten = r.madeHere() && r.tag().isEmpty() && r.base() == null && r.sending() == null;
            return new Place(
                    r.id(),
                    r.source(),
                    r.href(),
                    unwritten,
                    r.undone(),
                    r.removal().equals(CardMapper.TO_REMOVE));
        }
    }

    /** A card has been taken out of its book. */
    @Transactional
    public void tookOut(UUID card) {
        mapper.tookOut(card);
    }

    public Optional<Place> place(UUID card) {
        return mapper.one(card).map(Place::of);
    }

    public List<Place> places(Collection<UUID> cards) {
        return mapper.some(cards.toArray(UUID[]::new)).stream().map(Place::of).toList();
    }

    /** What came of a book is taken back: contacts that it made, and cards that were written into it. */
    public record Undone(int contacts, int cards) {}

    /**
     * Contacts that something else counts on by now stay, and so do cards that their owner changed since. The book waits afterwards, as
     * it would bring the same once more.
     */
    @Transactional
    public Undone undo(Source source, String by) {
        List<Row> made = mapper.made(source.id());
        List<Row> contacts = made.stream().filter(Row::madeContact).toList();
        List<Row> cards = made.stream().filter(r -> !r.madeContact()).toList();
        List<String> keys = mapper.untouched(contacts.stream().map(Row::contact).toArray(UUID[]::new));
        Set<UUID> gone = new TreeSet<>(mapper.idsOf(keys.toArray(String[]::new)));
        for (Row row : contacts) {
            if (row.contact() != null && gone.contains(row.contact())) {
                mapper.settled(row.id(), Standing.NEW.name(), Why.FITS_NOBODY.name(), null, null, false);
                outbox.cancel(Kind.CARD, List.of(row.id()));
            }
        }
        List<String> accounts = mapper.accountsMadeFor(gone.toArray(UUID[]::new));
        amending.remove(keys, List.of(), accounts, List.of());
        mapper.undone(cards.stream().map(Row::id).toArray(UUID[]::new));
        outbox.addAll(
                Kind.CARD,
                String.valueOf(source.id()),
                cards.stream().map(Row::id).toList());
        mapper.disallow(source.id());
        Undone undone = new Undone(gone.size(), cards.size());
        journal.add(
                by,
                "took back",
                thing(source),
                null,
                new TreeMap<>(Map.of("contacts", undone.contacts(), "cards", undone.cards())));
        return undone;
    }
}
