package jandrel.store.contacts;

import jandrel.core.contacts.ContactDetails;
import jandrel.store.kernel.ReadTimeout;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The contacts of a record, with all that is known of them. */
@Component
public class RecordContacts {
    private final CardMapper mapper;

    public record Known(UUID id, ContactDetails details) {}

    RecordContacts(CardMapper mapper) {
        this.mapper = mapper;
    }

    /**
     * Of a contact itself, of an account's own, or of those of an opportunity, by name.
     *
     * @return nothing where there is no such record
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Optional<List<Known>> of(UUID record, int most) {
        return mapper.canHaveContacts(record)
                ? Optional.of(mapper.sidesOf(record, most).stream()
                        .map(s -> new Known(s.id(), ContactStates.whole(s)))
                        .toList())
                : Optional.empty();
    }
}
