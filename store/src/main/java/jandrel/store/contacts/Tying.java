package jandrel.store.contacts;

import jandrel.core.address.EmailAddress;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.SortedCard.Standing;
import jandrel.core.contacts.SortedCard.Why;
import jandrel.core.reconcile.Base;
import jandrel.store.contacts.CardMapper.Row;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Kind;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Ties cards to contacts, and contacts to accounts. */
@Component
class Tying {
    /** What a card and a contact that meet for the first time agree on: each fills in what the other has not. */
    static final String FIRST = Json.write(new Base<>(ContactDetails.NOTHING, ContactDetails.NOTHING));

    private final CardMapper mapper;
    private final Outbox outbox;

    Tying(CardMapper mapper, Outbox outbox) {
        this.mapper = mapper;
        this.outbox = outbox;
    }

    /** @param made whether the contact was made of the card */
    void tie(Row row, UUID contact, boolean made) {
        mapper.settled(row.id(), Standing.TIED.name(), Why.FITS_ONE.name(), contact, FIRST, made);
        outbox.addAll(Kind.CARD, String.valueOf(row.source()), List.of(row.id()));
    }

    /** The one account that is called as a card's company is, or else whose domain its addresses have; its key, or null. */
    @Nullable
    String accountOf(ContactDetails card) {
        String[] domains = card.mails().keySet().stream()
                .flatMap(m -> EmailAddress.parse(m).stream())
                .flatMap(a -> a.domainKeys().stream())
                .distinct()
                .toArray(String[]::new);
        return (card.organisation().isBlank()
                        ? java.util.Optional.<String>empty()
                        : mapper.accountCalled(card.organisation()))
                .or(() -> mapper.accountOfDomains(domains))
                .orElse(null);
    }
}
