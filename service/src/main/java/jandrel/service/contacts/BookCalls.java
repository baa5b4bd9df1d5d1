package jandrel.service.contacts;

import jandrel.api.ContactApi.BookInfo;
import jandrel.api.ContactApi.BookPreview;
import jandrel.api.ContactApi.BookUndone;
import jandrel.api.ContactApi.CardCount;
import jandrel.api.ContactApi.PrivateCategories;
import jandrel.core.contacts.SortedCard.Why;
import jandrel.core.policy.Direction;
import jandrel.core.policy.Policy;
import jandrel.core.visibility.Role;
import jandrel.service.connections.Connecting;
import jandrel.service.connections.SyncScheduler;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Source;
import jandrel.store.contacts.BookStands;
import jandrel.store.contacts.Books;
import jandrel.store.policy.Policies;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** How address books stand with contacts: one's own, for a rep; all of them for everybody else. */
@RestController
class BookCalls {
    private static final int MOST_CATEGORIES = 30;
    private static final int LONGEST_CATEGORY = 100;
    private static final int NAMED = 20;
    private final BookStands stands;
    private final Books books;
    private final Policies policies;
    private final Connections connections;
    private final Connecting connecting;
    private final SyncScheduler looks;
    private final CardPeek peek;

    BookCalls(
            BookStands stands,
            Books books,
            Policies policies,
            Connections connections,
            Connecting connecting,
            SyncScheduler looks,
            CardPeek peek) {
        this.stands = stands;
        this.books = books;
        this.policies = policies;
        this.connections = connections;
        this.connecting = connecting;
        this.looks = looks;
        this.peek = peek;
    }

    @GetMapping("/api/address-books")
    List<BookInfo> all(@AuthenticationPrincipal SignedIn me) {
        List<BookStands.Book> shown = stands.books(me.oversight().limit());
        Map<UUID, Policy> covering =
                policies.of(shown.stream().map(BookStands.Book::person).collect(Collectors.toSet()));
        return shown.stream()
                .filter(BookStands.Book::chosen)
                .map(b -> info(b, covering.get(b.person()), me))
                .toList();
    }

    private static BookInfo info(BookStands.Book b, @Nullable Policy policy, SignedIn me) {
        Direction direction = policy == null ? Direction.NONE : policy.scope().contacts();
        return new BookInfo(
                b.source(),
                b.label(),
                b.connection(),
                b.person(),
                b.personName(),
                b.account(),
                b.state(),
                b.lastRun(),
                direction.name().toLowerCase(Locale.ROOT),
                b.outgoing() && direction.goesOut(),
                b.heldCount() == 0 ? "" : b.heldCount() + " of " + b.heldKnown(),
                b.alike(),
                b.pending(),
                b.stuck(),
                b.apart(),
                b.fresh(),
                b.open(),
                b.asked(),
                b.privately(),
                b.leftOut(),
                b.unreadable(),
                b.askedAt(),
                b.creates(),
                b.writes(),
                b.made(),
                me.role() == Role.ADMINISTRATOR || b.person().equals(me.person()));
    }

    private BookInfo one(int source, SignedIn me) {
        return all(me).stream()
                .filter(b -> b.source() == source)
                .findFirst()
                .orElseThrow(() -> Refusal.notFound("address book"));
    }

    /** What is in a book, and what would come of it. */
    @GetMapping("/api/address-books/{source}/preview")
    BookPreview preview(@PathVariable("source") int source, @AuthenticationPrincipal SignedIn me) {
        BookInfo book = one(source, me);
        List<CardCount> cards = stands.whys(source).stream()
                .collect(Collectors.groupingBy(
                        w -> CardSentences.of(Why.valueOf(w.why())),
                        Collectors.summingLong(BookStands.WhyCount::count)))
                .entrySet()
                .stream()
                .map(e -> new CardCount(e.getKey(), e.getValue()))
                .sorted(Comparator.comparingLong(CardCount::count).reversed().thenComparing(CardCount::says))
                .toList();
        // somebody else's card is nobody's business until it has become a contact
        List<String> creates = book.mayChange() ? peek.names(book, NAMED) : List.of();
        return new BookPreview(book, cards, creates, peek.writes(book, NAMED));
    }

    private Source changed(int source, SignedIn me) {
        one(source, me);
        Source book = connections.source(source).orElseThrow(() -> Refusal.notFound("address book"));
        connecting.mayChange(book.connection(), me);
        return book;
    }

    /** Somebody has seen what a book would bring: it starts. */
    @PostMapping("/api/address-books/{source}/approve")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void approve(@PathVariable("source") int source, @AuthenticationPrincipal SignedIn me) {
        Source book = changed(source, me);
        if (!books.allow(book, me.login())) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "Nothing waits there",
                    "It goes on by itself, or somebody approved it before.");
        }
        looks.now(book.connection());
    }

    /** Takes back what came of a book. */
    @PostMapping("/api/address-books/{source}/take-back")
    BookUndone takeBack(@PathVariable("source") int source, @AuthenticationPrincipal SignedIn me) {
        Source book = changed(source, me);
        Books.Undone undone = books.undo(book, me.login());
        looks.now(book.connection());
        return new BookUndone(undone.contacts(), undone.cards());
    }

    @GetMapping("/api/connections/{id}/private-categories")
    PrivateCategories privately(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        return new PrivateCategories(
                List.copyOf(books.privately(connecting.mayChange(id, me).id())));
    }

    @PutMapping("/api/connections/{id}/private-categories")
    PrivateCategories keepPrivate(
            @PathVariable("id") UUID id, @RequestBody PrivateCategories wanted, @AuthenticationPrincipal SignedIn me) {
        Connection connection = connecting.mayChange(id, me);
        if (wanted.categories().size() > MOST_CATEGORIES
                || wanted.categories().stream().anyMatch(c -> c.length() > LONGEST_CATEGORY)) {
            throw Refusal.bad(
                    "These are too many categories, or too long ones",
                    "At most " + MOST_CATEGORIES + ", each of at most " + LONGEST_CATEGORY + " characters.");
        }
        books.keepPrivate(id, wanted.categories(), connection.account(), me.login());
        looks.now(id);
        return new PrivateCategories(List.copyOf(books.privately(id)));
    }
}
