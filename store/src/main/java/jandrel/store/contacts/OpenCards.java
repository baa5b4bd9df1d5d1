package jandrel.store.contacts;

import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.SortedCard.Standing;
import jandrel.core.contacts.SortedCard.Why;
import jandrel.core.directory.ImportRejected;
import jandrel.core.journal.Entry.Thing;
import jandrel.store.contacts.CardMapper.Row;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.RulesLock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Cards of which nobody but a person can say whose they are. */
@Component
public class OpenCards {
    private final CardMapper mapper;
    private final ContactStates states;
    private final Tying tying;
    private final RulesLock rules;
    private final Journal journal;

    OpenCards(CardMapper mapper, ContactStates states, Tying tying, RulesLock rules, Journal journal) {
        this.mapper = mapper;
        this.states = states;
        this.tying = tying;
        this.rules = rules;
        this.journal = journal;
    }

    /** @param speaks by contact, the names of its grounds, the strongest first */
    public record Open(
            UUID id,
            String why,
            ContactDetails details,
            Map<UUID, List<String>> speaks,
            UUID connection,
            String personName,
            String label) {
        public Set<UUID> fits() {
            return speaks.keySet();
        }
    }

    /**
     * @param card null for all
     * @param person null for everybody's
     */
    public List<Open> open(@Nullable UUID card, @Nullable UUID person, int most) {
        return mapper.open(card, person, most).stream()
                .map(o -> new Open(
                        o.id(),
                        o.why(),
                        Json.contact(o.details()),
                        Json.grounds(o.speaks()),
                        o.connection(),
                        o.personName(),
                        o.label()))
                .toList();
    }

    public List<FittingContact> fits(Open card) {
        return mapper.fits(card.fits().toArray(UUID[]::new));
    }

    /**
     * Says whose an open card is.
     *
     * @param contact null for nobody's: it is left out from now on
     * @return false when it is open no more
     */
    @Transactional
    public boolean settle(UUID card, @Nullable UUID contact, String by) {
        Row row = mapper.locked(card)
                .filter(r -> r.standing().equals(Standing.OPEN.name()))
                .orElse(null);
        if (row == null) {
            return false;
        }
        if (contact == null) {
            mapper.settled(row.id(), Standing.LEFT_OUT.name(), Why.CHOSEN.name(), null, null, false);
        } else {
            tying.tie(row, contact, false);
        }
        journal.add(
                by,
                contact == null ? "left out a card" : "settled a card",
                new Thing("contact", contact == null ? "" : contact.toString(), ""),
                null,
                null);
        return true;
    }

    /** Makes a new contact of an open card. */
    @Transactional(rollbackFor = ImportRejected.class)
    public boolean settleAsNew(UUID card, String by) throws ImportRejected {
        rules.change();
        Row row = mapper.locked(card)
                .filter(r -> r.standing().equals(Standing.OPEN.name()) && r.details() != null)
                .orElse(null);
        if (row == null) {
            return false;
        }
        ContactDetails details = Json.contact(java.util.Objects.requireNonNull(row.details()));
        List<@Nullable String> at = new ArrayList<>();
        at.add(tying.accountOf(details));
        tying.tie(row, states.create(List.of(details), at, by).get(0), true);
        journal.add(
                by,
                "made a contact of a card",
                new Thing("contact", "", ContactStates.line(details.name())),
                null,
                null);
        return true;
    }
}
