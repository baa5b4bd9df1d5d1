package jandrel.store.contacts;

import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactField;
import jandrel.core.directory.ImportRejected;
import jandrel.core.journal.Entry.Thing;
import jandrel.core.reconcile.Base;
import jandrel.core.reconcile.Conflict;
import jandrel.core.reconcile.Exchange;
import jandrel.core.reconcile.Side;
import jandrel.store.contacts.CardMapper.ConflictRow;
import jandrel.store.contacts.CardMapper.ContactSide;
import jandrel.store.contacts.CardMapper.Row;
import jandrel.store.directory.Retiring;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Kind;
import jandrel.store.kernel.RulesLock;
import jandrel.store.kernel.StoreException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Our side of the exchange of contacts with the cards of address books, by the card, and what either side lost in it. */
@Component
public class CardLedger implements Exchange.Ledger<UUID, ContactDetails> {
    private static final String BOOKS = "address books";
    private final CardMapper mapper;
    private final ContactStates states;
    private final Retiring retiring;
    private final RulesLock rules;
    private final Outbox outbox;
    private final Journal journal;

    CardLedger(
            CardMapper mapper,
            ContactStates states,
            Retiring retiring,
            RulesLock rules,
            Outbox outbox,
            Journal journal) {
        this.mapper = mapper;
        this.states = states;
        this.retiring = retiring;
        this.rules = rules;
        this.outbox = outbox;
        this.journal = journal;
    }

    @Override
    public Exchange.Entry<ContactDetails> read(UUID id) {
        Row r = row(id);
        Optional<ContactSide> side = side(r);
        return new Exchange.Entry<>(
                new Side<>(
                        side.map(ContactStates::here).orElse(null),
                        side.map(ContactSide::changedAt).orElse(Instant.EPOCH)),
                base(r),
                r.sending() == null ? null : Json.contactSending(r.sending()),
                r.detached() || r.isAsked() || !r.standing().equals("TIED"),
                version(r, side));
    }

    /** Of a card that is there and was never agreed on with this contact, each side fills in what the other has not. */
    private static @Nullable Base<ContactDetails> base(Row r) {
        if (r.base() != null) {
            return Json.contactBase(r.base());
        }
        return r.madeHere() && r.tag().isEmpty() ? null : Json.contactBase(Tying.FIRST);
    }

    private Row row(UUID id) {
        return mapper.one(id).orElseThrow(() -> new StoreException("there is no such card"));
    }

    /** What is being taken back has no contact any more, and one that is archived is removed here. */
    private Optional<ContactSide> side(Row r) {
        return r.undone()
                ? Optional.empty()
                : Optional.ofNullable(r.contact()).flatMap(mapper::side).filter(s -> !s.archived());
    }

    /** Changes with every change of the card's entry and of the contact, whoever made it. */
    private static long version(Row r, Optional<ContactSide> side) {
        String both = r.version() + "\n"
                + side.map(s -> s.version() + "\n" + ContactStates.here(s)).orElse("");
        return UUID.nameUUIDFromBytes(both.getBytes(StandardCharsets.UTF_8)).getMostSignificantBits();
    }

    @Override
    @Transactional
    public void note(UUID id, List<Conflict<ContactDetails>> conflicts) {
        if (conflicts.isEmpty()) {
            return;
        }
        Row row = row(id);
        Optional<ContactSide> side = side(row);
        String version = String.valueOf(version(row, side));
        for (Conflict<ContactDetails> c : conflicts) {
            String field = c.field() == null ? null : c.field().name();
            UUID conflict = UUID.nameUUIDFromBytes(
                    String.join("\n", id.toString(), version, String.valueOf(field), c.here(), c.there())
                            .getBytes(StandardCharsets.UTF_8));
            String lost = c.lost() == null ? null : Json.write(c.lost());
            if (mapper.conflict(conflict, id, row.contact(), field, c.hereWon(), c.here(), c.there(), lost) > 0) {
                journal.add(
                        "service",
                        "settled a conflict",
                        new Thing(
                                "contact",
                                String.valueOf(row.contact()),
                                side.map(ContactSide::name).orElse("")),
                        null,
                        new TreeMap<>(Map.of(
                                "conflict", conflict.toString(),
                                "field", field == null ? "deleted" : field.toLowerCase(Locale.ROOT),
                                "stands", c.hereWon() ? "here" : "book")));
            }
        }
    }

    @Override
    @Transactional
    public void sending(
            UUID id,
            @Nullable Base<ContactDetails> base,
            Exchange.@Nullable Sending<ContactDetails> sending,
            List<Conflict<ContactDetails>> conflicts) {
        note(id, conflicts);
        mapper.sending(id, base == null ? null : Json.write(base), sending == null ? null : Json.write(sending));
    }

    @Override
    @Transactional
    public boolean agree(
            UUID id, long version, @Nullable ContactDetails here, @Nullable ContactDetails agreed, boolean detached) {
        if (!Objects.equals(side(row(id)).map(ContactStates::here).orElse(null), here)) {
            // what a card changes in the directory has to do with decisions; what goes out to it has not
            rules.change();
        } else {
            // if this is lost, it is as if the answer had been
            rules.withoutWaiting();
        }
        Row row = mapper.locked(id).orElseThrow(() -> new StoreException("there is no such card"));
        Optional<ContactSide> side = side(row);
        if (version(row, side) != version) {
            return false;
        }
        ContactDetails was = side.map(ContactStates::here).orElse(null);
        // a card that is left where its contact is being taken back has no contact here
        boolean apart = detached || side.isEmpty();
        try {
            if (side.isPresent() && here == null) {
                retiring.archive(side.get().id(), BOOKS);
            } else if (side.isPresent() && here != null && !Objects.equals(was, here)) {
                states.change(side.get(), here, BOOKS);
            }
        } catch (ImportRejected rejected) {
            throw new StoreException("what the card says does not fit the directory");
        }
        mapper.agree(id, row.version(), agreed == null ? null : Json.write(new Base<>(agreed, agreed)), apart);
        outbox.cancel(Kind.CARD, List.of(id));
        if (row.undone() && agreed == null) {
            mapper.remove(id);
        }
        return true;
    }

    @Override
    @Transactional
    public boolean ask(UUID id, long version, boolean deletedHere) {
        rules.withoutWaiting();
        Row row = mapper.locked(id).orElseThrow(() -> new StoreException("there is no such card"));
        if (version(row, side(row)) != version) {
            return false;
        }
        mapper.removal(id, deletedHere ? CardMapper.REMOVED_HERE : CardMapper.REMOVED_THERE);
        outbox.cancel(Kind.CARD, List.of(id));
        return true;
    }

    /**
     * Nothing is at a card's place any more that could fill in what our side leaves open.
     *
     * @return whether our side is another for it
     */
    @Transactional
    public boolean begin(UUID id) {
        return side(row(id)).filter(s -> states.begin(List.of(s.id()))).isPresent();
    }

    /**
     * Makes what lost stand.
     *
     * @return the contact; nothing when there is nothing to bring back
     */
    @Transactional
    public Optional<UUID> bringBack(UUID conflict, String by) {
        rules.change();
        ConflictRow row = mapper.aConflict(conflict).orElse(null);
        if (row == null || row.lost() == null || row.contact() == null || row.field() == null) {
            return Optional.empty();
        }
        Optional<ContactSide> side = mapper.side(row.contact());
        if (side.isEmpty()) {
            return Optional.empty();
        }
        ContactDetails now = ContactStates.here(side.get());
        try {
            states.change(side.get(), ContactField.valueOf(row.field()).put(now, Json.contact(row.lost())), by);
        } catch (ImportRejected rejected) {
            throw new StoreException("what is to be brought back does not fit the directory");
        }
        mapper.broughtBack(conflict, by);
        return Optional.of(row.contact());
    }
}
