package jandrel.store.contacts;

import jandrel.core.journal.Entry.Thing;
import jandrel.store.contacts.CardMapper.Row;
import jandrel.store.directory.Retiring;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Kind;
import jandrel.store.kernel.RulesLock;
import java.time.Instant;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What was removed on one side, where a person says whether the other goes, too. */
@Component
public class RemovedCards {
    /** The most that one answer is given for. */
    public static final int MOST = 500;

    private final CardMapper mapper;
    private final Retiring retiring;
    private final RulesLock rules;
    private final Outbox outbox;
    private final Journal journal;

    RemovedCards(CardMapper mapper, Retiring retiring, RulesLock rules, Outbox outbox, Journal journal) {
        this.mapper = mapper;
        this.retiring = retiring;
        this.rules = rules;
        this.outbox = outbox;
        this.journal = journal;
    }

    /**
     * What was removed on one side.
     *
     * @param contact null where it is the contact that was removed
     * @param here whether the contact was removed; else the card
     * @param at since when somebody is asked
     * @param elsewhere in how many other books the contact stands
     */
    public record Removed(
            UUID id,
            @Nullable UUID contact,
            boolean here,
            String name,
            Instant at,
            UUID connection,
            String personName,
            String label,
            long elsewhere) {}

    /**
     * @param person null for everybody's
     * @return those that wait longest first
     */
    public List<Removed> waiting(@Nullable UUID person, int most) {
        return mapper.removed(person, most).stream()
                .map(r -> new Removed(
                        r.id(),
                        r.contact(),
                        r.here(),
                        r.name().isEmpty() && !r.base().isEmpty()
                                ? Json.contactBase(r.base()).here().name()
                                : r.name(),
                        r.at(),
                        r.connection(),
                        r.personName(),
                        r.label(),
                        r.elsewhere()))
                .toList();
    }

    /**
     * Says what becomes of what the other side still has.
     *
     * @param cards at most {@value #MOST}; those that wait no more are passed over
     * @param removes whether the other goes, too: a contact is archived, a card is taken out of its book; else it stays, and the two have
     *     nothing to do with each other any more
     * @return those for which it was said
     */
    @Transactional
    public Set<UUID> answer(Collection<UUID> cards, boolean removes, String by) {
        rules.change();
        Set<UUID> answered = new HashSet<>();
        for (UUID id : cards.stream().sorted().toList()) {
            Row row = mapper.locked(id).filter(Row::isAsked).orElse(null);
            if (row == null) {
                continue;
            }
            boolean here = row.removal().equals(CardMapper.REMOVED_HERE);
            String name = row.base() == null
                    ? ""
                    : Json.contactBase(row.base()).here().name();
            if (removes && here) {
                mapper.removal(id, CardMapper.TO_REMOVE);
                outbox.addAll(Kind.CARD, String.valueOf(row.source()), List.of(id));
            } else {
                if (removes && row.contact() != null) {
                    retiring.archive(row.contact(), by);
                }
                mapper.letGo(id);
            }
            journal.add(
                    by,
                    "answered about a removal of",
                    new Thing("contact", String.valueOf(row.contact()), name),
                    null,
                    new TreeMap<>(Map.of("removed", here ? "here" : "book", "other", removes ? "removed" : "kept")));
            answered.add(id);
        }
        return answered;
    }
}
