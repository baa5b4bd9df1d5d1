package jandrel.store.contacts;

import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactField;
import jandrel.core.contacts.EnteredDetails;
import jandrel.core.directory.ImportRejected;
import jandrel.store.contacts.CardMapper.ContactSide;
import jandrel.store.kernel.RulesLock;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What is entered here of a contact besides the directory's columns. */
@Component
public class DetailsHere {
    private final CardMapper mapper;
    private final ContactStates states;
    private final RulesLock rules;

    DetailsHere(CardMapper mapper, ContactStates states, RulesLock rules) {
        this.mapper = mapper;
        this.states = states;
        this.rules = rules;
    }

    /** What is known of a contact, as a card of theirs would have it; nothing where there is no such contact. */
    public Optional<ContactDetails> of(UUID contact) {
        return mapper.side(contact).map(ContactStates::whole);
    }

    /**
     * What somebody changed from what they saw to what they want, or none of it.
     *
     * @param over what they put theirs in place of, though somebody else changed it meanwhile
     * @return with something overtaken, where nothing was changed; nothing at all where there is no such contact
     */
    @Transactional(rollbackFor = ImportRejected.class)
    public Optional<EnteredDetails> change(
            UUID contact, ContactDetails seen, ContactDetails wanted, Set<ContactField> over, String by)
            throws ImportRejected {
        rules.change();
        // what its card would begin with is kept from now on
        states.begin(List.of(contact));
        ContactSide side = mapper.side(contact).orElse(null);
        if (side == null) {
            return Optional.empty();
        }
        ContactDetails now = ContactStates.here(side);
        EnteredDetails entered = EnteredDetails.of(now, seen, wanted, over);
        if (entered.overtaken().isEmpty() && !entered.details().equals(now)) {
            states.change(side, entered.details(), by);
        }
        return Optional.of(entered);
    }
}
