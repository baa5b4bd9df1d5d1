package jandrel.service.contacts;

import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactField;
import jandrel.core.reconcile.Exchange;
import jandrel.formats.card.CardFile;
import jandrel.formats.card.UnreadableCard;
import jandrel.formats.mail.Phones;
import jandrel.sources.AddressBookServer;
import jandrel.sources.DavObject;
import jandrel.sources.SourceTrouble;
import jandrel.store.capture.CursorConflict;
import jandrel.store.connections.Connections.Source;
import jandrel.store.contacts.Books;
import jandrel.store.contacts.Books.Place;
import jandrel.store.contacts.CardLedger;
import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** The other side of an exchange of contacts: one address book at its server. For one look, by one thread. */
final class BookSide implements Exchange.Remote<UUID, ContactDetails> {
    private final AddressBookServer server;
    private final Source book;
    private final Books books;
    private final CardLedger ledger;
    private final boolean takesUp;
    private final Predicate<CardFile> isOwnBusiness;
    private final Phones phones;
    private final Clock clock;
    private final Map<UUID, DavObject> read = new HashMap<>();
    private final Map<UUID, DavObject> ahead = new HashMap<>();
    private final Set<UUID> unwritten = new HashSet<>();

    /**
     * @param takesUp whether what the book says comes in; else what is not known here is the book's own, and is left alone
     * @param isOwnBusiness whether a card has become its owner's alone since it was sorted: nothing of it is read or written
     */
    BookSide(
            AddressBookServer server,
            Source book,
            Books books,
            CardLedger ledger,
            boolean takesUp,
            Predicate<CardFile> isOwnBusiness,
            Phones phones,
            Clock clock) {
        this.server = server;
        this.book = book;
        this.books = books;
        this.ledger = ledger;
        this.takesUp = takesUp;
        this.isOwnBusiness = isOwnBusiness;
        this.phones = phones;
        this.clock = clock;
    }

    /**
     * Reads the cards of some in one request, for the first time that each is asked for. What changes there meanwhile is not written over,
     * as its tag is another then, and is in the next listing.
     */
    void ahead(Collection<UUID> cards) {
        ahead.clear();
        unwritten.clear();
        Map<String, UUID> wanted = new HashMap<>();
        for (Place place : books.places(cards)) {
            if (place.unwritten()) {
                unwritten.add(place.card());
            } else {
                wanted.put(place.href(), place.card());
            }
        }
        if (wanted.isEmpty()) {
            return;
        }
        for (DavObject object : server.objects(book.name(), wanted.keySet())) {
            UUID card = wanted.get(object.href());
            if (card != null) {
                ahead.put(card, object);
            }
        }
    }

    private Place place(UUID card) {
        Place place = books.place(card).orElseThrow(CursorConflict::byChange);
        if (place.source() != book.id()) {
            // a path in one book means nothing, or something else, in another
            throw CursorConflict.byChange();
        }
        return place;
    }

    @Override
    public Exchange.Found<ContactDetails> find(UUID card) {
        read.remove(card);
        if (unwritten.remove(card)) {
            // nobody else knows its name; should something be there all the same, the first write says so
            return new Exchange.Found<>(null, null, "", Instant.EPOCH);
        }
        Place place = place(card);
        Optional<DavObject> object = Optional.ofNullable(ahead.remove(card))
                .or(() -> server.objects(book.name(), List.of(place.href())).stream()
                        .findFirst());
        if (object.isEmpty()) {
            if (ledger.begin(card)) {
                throw CursorConflict.byChange();
            }
            return new Exchange.Found<>(null, null, "", Instant.EPOCH);
        }
        read.put(card, object.get());
        try {
            CardFile file = CardFile.read(object.get().bytes(), phones);
            stopAt(file);
            Instant now = clock.instant();
            Instant changed = file.changedAt().filter(at -> at.isBefore(now)).orElse(now);
            return new Exchange.Found<>(
                    known(card, file.details()), object.get().tag(), file.mark(), changed);
        } catch (UnreadableCard broken) {
            throw unreadable(broken);
        }
    }

    private void stopAt(CardFile file) {
        if (isOwnBusiness.test(file)) {
            throw new SourceTrouble(SourceTrouble.Kind.FORBIDDEN, "the card has been marked as private");
        }
    }

    private ContactDetails known(UUID card, ContactDetails there) {
        ContactDetails here = takesUp ? null : ledger.read(card).here().details();
        ContactDetails known = there;
        if (here != null) {
            for (ContactField field : ContactField.values()) {
                known = field.words(here).isBlank() ? field.put(known, ContactDetails.NOTHING) : known;
            }
        }
        return known;
    }

    private ContactDetails withOwn(ContactDetails details, ContactDetails there) {
        ContactDetails all = details;
        for (ContactField field : ContactField.values()) {
            all = !takesUp && field.words(all).isBlank() ? field.put(all, there) : all;
        }
        return all;
    }

    private static SourceTrouble unreadable(UnreadableCard broken) {
        return new SourceTrouble(SourceTrouble.Kind.FORBIDDEN, "the card cannot be read: " + broken.getMessage());
    }

    @Override
    public boolean write(UUID card, @Nullable ContactDetails details, @Nullable String tag, String mark) {
        Place place = place(card);
        DavObject object = read.get(card);
        if (details == null) {
            if (tag != null && !server.delete(place.href(), tag)) {
                return false;
            }
            books.tookOut(card);
            return true;
        }
        try {
            CardFile file =
                    object == null ? CardFile.fresh(card.toString(), phones) : CardFile.read(object.bytes(), phones);
            stopAt(file);
            file.put(object == null ? details : withOwn(details, file.details()), clock.instant(), mark);
            return server.put(place.href(), file.bytes(), tag);
        } catch (UnreadableCard broken) {
            throw unreadable(broken);
        }
    }
}
