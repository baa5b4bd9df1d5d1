package jandrel.store.contacts;

import jandrel.core.journal.Entry.Thing;
import jandrel.store.contacts.CardMapper.Row;
import jandrel.store.directory.Retiring;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Kind;
import jandrel.store.kernel.RulesLock;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
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
     * @param person null for everybody's
     * @return those that wait longest first, at most {@value #MOST}
     */
    public List<RemovedContact> waiting(@Nullable UUID person) {
        return mapper.removed(null, person, MOST);
    }

    /**
     * @param person null for everybody's
     * @return those of them that wait
     */
    public List<RemovedContact> waiting(Collection<UUID> ids, @Nullable UUID person) {
        return mapper.removed(ids.toArray(UUID[]::new), person, MOST);
    }

    /**
     * Says what becomes of what the other side still has.
     *
     * @param cards those that wait no more are passed over
     * @param removes whether the other goes, too: a contact is archived, a card is taken out of its book; else it stays, and the two have
     *     nothing to do with each other any more
     * @return those for which it was said
     */
    @Transactional
    public List<RemovedContact> answer(Collection<RemovedContact> cards, boolean removes, String by) {
        rules.change();
        return cards.stream()
                .sorted(Comparator.comparing(RemovedContact::id))
                .filter(r -> answer(r, removes, by))
                .toList();
    }

    private boolean answer(RemovedContact removed, boolean removes, String by) {
        // what was asked may have been another question meanwhile
        Row row = mapper.locked(removed.id())
                .filter(r -> r.removal().equals(removed.here() ? CardMapper.REMOVED_HERE : CardMapper.REMOVED_THERE))
                .orElse(null);
        if (row == null) {
            return false;
        }
        if (removes && removed.here()) {
            mapper.removal(row.id(), CardMapper.TO_REMOVE);
            outbox.addAll(Kind.CARD, String.valueOf(row.source()), List.of(row.id()));
        } else {
            mapper.letGo(row.id());
            if (removes && row.contact() != null) {
                retiring.archive(row.contact(), by);
            }
        }
        journal.add(
                by,
                "answered about a removal of",
                new Thing("contact", String.valueOf(row.contact()), removed.name()),
                null,
                new TreeMap<>(
                        Map.of("removed", removed.here() ? "here" : "book", "other", removes ? "removed" : "kept")));
        return true;
    }
}
