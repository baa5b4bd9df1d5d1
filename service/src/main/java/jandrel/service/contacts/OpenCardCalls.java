package jandrel.service.contacts;

import jandrel.api.ContactApi.CardChoice;
import jandrel.api.ContactApi.CardConflict;
import jandrel.api.ContactApi.CardFits;
import jandrel.api.ContactApi.LikelyAccount;
import jandrel.api.ContactApi.NoAccount;
import jandrel.api.ContactApi.OpenCard;
import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.contacts.CardMatch.Ground;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.SortedCard.Why;
import jandrel.core.directory.ImportRejected;
import jandrel.core.visibility.Role;
import jandrel.service.connections.SyncScheduler;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.connections.Connections;
import jandrel.store.contacts.BookStands;
import jandrel.store.contacts.CardLedger;
import jandrel.store.contacts.NewAccounts;
import jandrel.store.contacts.OpenCards;
import jandrel.store.contacts.OpenCards.Open;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Cards that a person is to settle, contacts at no account, and what both sides changed at once. */
@RestController
class OpenCardCalls {
    private static final int MOST = 200;
    private final OpenCards cards;
    private final BookStands stands;
    private final NewAccounts newAccounts;
    private final CardLedger ledger;
    private final Connections connections;
    private final SyncScheduler looks;

    OpenCardCalls(
            OpenCards cards,
            BookStands stands,
            NewAccounts newAccounts,
            CardLedger ledger,
            Connections connections,
            SyncScheduler looks) {
        this.cards = cards;
        this.stands = stands;
        this.newAccounts = newAccounts;
        this.ledger = ledger;
        this.connections = connections;
        this.looks = looks;
    }

    /** Whose cards somebody sees: an administrator everybody's, all others their own, as they are in nobody's directory yet. */
    static @Nullable UUID whose(SignedIn me) {
        if (me.role() == Role.ADMINISTRATOR) {
            return null;
        }
        return me.person() == null ? new UUID(0, 0) : me.person();
    }

    @GetMapping("/api/cards")
    List<OpenCard> open(@AuthenticationPrincipal SignedIn me) {
        return cards.open(null, whose(me), MOST).stream().map(this::shown).toList();
    }

    private OpenCard shown(Open open) {
        ContactDetails d = open.details();
        List<CardFits> fits = cards.fits(open).stream()
                .map(f -> new CardFits(
                        f.id(),
                        f.name(),
                        f.title(),
                        f.account(),
                        f.addresses(),
                        open.speaks().getOrDefault(f.id(), List.of()).stream()
                                .map(g -> CardSentences.of(Ground.valueOf(g)))
                                .toList()))
                .toList();
        return new OpenCard(
                open.id(),
                d.name(),
                d.organisation(),
                d.title(),
                List.copyOf(d.mails().keySet()),
                List.copyOf(d.phones().keySet()),
                CardSentences.of(Why.valueOf(open.why())).replaceFirst("^To settle: ", ""),
                open.personName(),
                open.label(),
                fits);
    }

    @PostMapping("/api/cards/{id}/settle")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void settle(@PathVariable("id") UUID id, @RequestBody CardChoice choice, @AuthenticationPrincipal SignedIn me)
            throws ImportRejected {
        Open open = cards.open(id, whose(me), 1).stream()
                .findFirst()
                .orElseThrow(() -> Refusal.notFound("card that is to be settled"));
        boolean settled = switch (choice.choice()) {
            case "contact" -> {
                UUID contact = choice.contact();
                if (contact == null || !open.fits().contains(contact)) {
                    throw Refusal.bad("The card does not fit this contact", "Choose one of those that it fits.");
                }
                yield cards.settle(id, contact, me.login());
            }
            case "new" -> cards.settleAsNew(id, me.login());
            case "leave-out" -> cards.settle(id, null, me.login());
            default ->
                throw Refusal.bad(
                        "There is no choice “" + choice.choice() + "”", "Choices are contact, new and leave-out.");
        };
        if (!settled) {
            throw Refusal.of(HttpStatus.CONFLICT, "The card is settled already", "Somebody was quicker; look again.");
        }
        looks.now(open.connection());
    }

    @GetMapping("/api/cards/no-account")
    List<NoAccount> noAccount(@AuthenticationPrincipal SignedIn me) {
        List<BookStands.NoAccount> found = stands.noAccount(me.oversight().limit());
        Map<UUID, List<BookStands.Likely>> likely = stands
                .likely(
                        found.stream().map(BookStands.NoAccount::id).toArray(UUID[]::new),
                        found.stream().map(BookStands.NoAccount::organisation).toArray(String[]::new))
                .stream()
                .collect(Collectors.groupingBy(BookStands.Likely::contact));
        Set<String> free = newAccounts
                .free(found.stream().flatMap(OpenCardCalls::mails).toList())
                .stream()
                .map(DomainName::toString)
                .collect(Collectors.toSet());
        return found.stream()
                .map(c -> new NoAccount(
                        c.id(),
                        c.name(),
                        c.organisation(),
                        c.addresses(),
                        domain(c, free),
                        c.version(),
                        likely.getOrDefault(c.id(), List.of()).stream()
                                .limit(3)
                                .map(l -> new LikelyAccount(l.key(), l.name(), l.byDomain() ? "domain" : "name"))
                                .toList()))
                .toList();
    }

    private static Stream<String> mails(BookStands.NoAccount contact) {
        return Stream.of(contact.addresses().split(" ", -1));
    }

    /** The one of a contact's domains that a new account may have; empty where there are several. */
    private static String domain(BookStands.NoAccount contact, Set<String> free) {
        List<String> its = mails(contact)
                .flatMap(m -> EmailAddress.parse(m).stream())
                .map(EmailAddress::domain)
                .distinct()
                .filter(free::contains)
                .toList();
        return its.size() == 1 ? its.get(0) : "";
    }

    @GetMapping("/api/card-conflicts")
    List<CardConflict> conflicts(@AuthenticationPrincipal SignedIn me) {
        return stands.conflicts(me.oversight().limit(), null).stream()
                .map(c -> shown(c, me))
                .toList();
    }

    private static boolean isTheirs(BookStands.Conflict c, SignedIn me) {
        return me.role() == Role.ADMINISTRATOR || c.person().equals(me.person());
    }

    /** What somebody's card says is for nobody but them and an administrator to read. */
    private static CardConflict shown(BookStands.Conflict c, SignedIn me) {
        String field = c.field();
        return new CardConflict(
                c.id(),
                c.contact(),
                c.contactName(),
                c.personName(),
                c.at(),
                field == null ? "deleted" : field.toLowerCase(Locale.ROOT),
                c.hereWon() ? "here" : "book",
                c.here(),
                isTheirs(c, me) ? c.book() : "(for its owner)",
                c.canComeBack() && isTheirs(c, me),
                c.broughtBackBy());
    }

    @PostMapping("/api/card-conflicts/{id}/bring-back")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void bringBack(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        BookStands.Conflict conflict = stands.conflicts(me.oversight().limit(), id).stream()
                .findFirst()
                .filter(c -> isTheirs(c, me))
                .orElseThrow(() -> Refusal.notFound("conflict"));
        if (ledger.bringBack(id, me.login()).isEmpty()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "There is nothing to bring back",
                    "It was brought back before, or was a removal.");
        }
        connections.of(conflict.person()).forEach(looks::now);
    }
}
