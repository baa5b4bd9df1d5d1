package jandrel.store.contacts;

import jandrel.core.contacts.CardMatch;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.SortedCard;
import jandrel.core.contacts.SortedCard.Facts;
import jandrel.core.contacts.SortedCard.Standing;
import jandrel.core.contacts.SortedCard.Why;
import jandrel.core.policy.BookRules;
import jandrel.store.capture.CursorConflict;
import jandrel.store.capture.SourceRef;
import jandrel.store.contacts.CardMapper.Row;
import jandrel.store.directory.Slices;
import jandrel.store.kernel.ItemKeys;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Kind;
import jandrel.store.kernel.RulesLock;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Where cards come in: each batch is sorted and recorded in one transaction. Nothing of a card that is left out is kept. */
@Component
public class CardIntake {
    private final CardMapper mapper;
    private final Slices slices;
    private final RulesLock rules;
    private final ItemKeys keys;
    private final Outbox outbox;
    private final Clock clock;

    CardIntake(CardMapper mapper, Slices slices, RulesLock rules, ItemKeys keys, Outbox outbox, Clock clock) {
        this.mapper = mapper;
        this.slices = slices;
        this.rules = rules;
        this.keys = keys;
        this.outbox = outbox;
        this.clock = clock;
    }

    /**
     * A card as it was read.
     *
     * @param tag of the state that was read
     * @param facts null for one that cannot be read
     */
    public record FetchedCard(
            String href, String tag, @Nullable Facts facts) {}

    /**
     * By which rules the cards of a book are sorted.
     *
     * @param privately categories that its owner calls private, in lower case
     * @param first whether it is not known yet in which groups its cards are: what is to be settled is kept after that alone
     */
    public record Sorting(BookRules rules, UUID policy, Set<String> privately, boolean first) {
        public Sorting beforeGroups() {
            return new Sorting(rules, policy, privately, true);
        }
    }

    /**
     * @param gone hrefs at which nothing is any more
     * @return the hrefs of those that are to be read once more, where it is not known yet in which groups they are
     * @throws CursorConflict if the connection is at rest or what is captured has changed; nothing is recorded then
     */
    @Transactional
    public Set<String> take(SourceRef place, List<FetchedCard> cards, Collection<String> gone, Sorting sorting) {
        rules.withoutWaiting();
        rules.hold();
        CardMapper.Kept kept = mapper.keep(place.source()).orElseThrow(CursorConflict::byRest);
        if (kept.rests()) {
            throw CursorConflict.byRest();
        }
        if (kept.generation() != place.generation()) {
            throw CursorConflict.byChange();
        }
        Map<String, Row> known = new HashMap<>();
        mapper.at(place.source(), cards.stream().map(FetchedCard::href).toArray(String[]::new))
                .forEach(r -> known.put(r.href(), r));
        Map<String, SortedCard> sorted = sorted(place, cards, known, sorting);
        Set<String> again = new HashSet<>();
        Set<String> moved = record(place, cards, known, sorted, gone, sorting.first() ? again : null);
        if (gone.isEmpty()) {
            return again;
        }
        String[] left = gone.stream().filter(h -> !moved.contains(h)).toArray(String[]::new);
        outbox.addAll(
                Kind.CARD,
                String.valueOf(place.source()),
                mapper.at(place.source(), left).stream()
                        .filter(r -> r.standing().equals(Standing.TIED.name()) && !r.detached())
                        .map(Row::id)
                        .toList());
        mapper.gone(place.source(), left);
        mapper.reduced(place.source(), gone.toArray(String[]::new));
        mapper.forget(place.source(), gone.toArray(String[]::new));
        return again;
    }

    private Map<String, SortedCard> sorted(
            SourceRef place, List<FetchedCard> cards, Map<String, Row> known, Sorting sorting) {
        List<ContactDetails> details = cards.stream()
                .map(FetchedCard::facts)
                .filter(Objects::nonNull)
                .map(Facts::details)
                .toList();
        List<UUID> agreed = known.values().stream()
                .map(Row::contact)
                .filter(Objects::nonNull)
                .toList();
        LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
        CardLookup lookup = new CardLookup(mapper, slices, details, agreed, sorting.policy(), place.person(), today);
        Map<String, SortedCard> sorted = new HashMap<>();
        for (FetchedCard card : cards) {
            Row was = known.get(card.href());
            SortedCard now = sorted(card, was, sorting, lookup);
            // of one that is removed here, the exchange says what becomes of it, unless it is nobody else's business by
            // now
            if (was == null || !isRemovedHere(was, lookup) || now.isPrivate()) {
                sorted.put(card.href(), now);
            }
        }
        return sorted;
    }

    private static SortedCard sorted(FetchedCard card, @Nullable Row was, Sorting sorting, CardLookup lookup) {
        Facts facts = card.facts();
        if (facts == null) {
            return SortedCard.unreadable();
        }
        if (was != null && was.why().equals(Why.CHOSEN.name())) {
            return SortedCard.leftOut(Why.CHOSEN);
        }
        Optional<UUID> last = Optional.ofNullable(was)
                .filter(r -> r.standing().equals(Standing.TIED.name()))
                .map(Row::contact);
        return SortedCard.of(facts, last, sorting.rules(), sorting.privately(), lookup);
    }

    private static boolean isRemovedHere(Row was, CardLookup lookup) {
        UUID contact = was.contact();
        return was.standing().equals(Standing.TIED.name())
                && !was.detached()
                && was.base() != null
                && contact != null
                && lookup.now(contact).isEmpty();
    }

    /**
     * @param again gets the hrefs of those of which nothing is kept yet; null where all is
     * @return the hrefs of cards that only moved
     */
    private Set<String> record(
            SourceRef place,
            List<FetchedCard> cards,
            Map<String, Row> known,
            Map<String, SortedCard> sorted,
            Collection<String> gone,
            @Nullable Set<String> again) {
        Map<UUID, List<Row>> elsewhere = elsewhere(place, sorted);
        Map<String, UUID> doubles = doubles(sorted);
        Set<String> moved = new HashSet<>();
        List<UUID> pending = new ArrayList<>();
        List<Row> rows = new ArrayList<>();
        for (FetchedCard card : cards) {
            SortedCard s = sorted.get(card.href());
            Row was = known.get(card.href());
            if (s == null) {
                Row removed = Objects.requireNonNull(was);
                if (removed.isAsked() && removed.tag().equals(card.tag())) {
                    // somebody has yet to say
                    continue;
                }
                mapper.tagged(removed.id(), card.tag());
                pending.add(removed.id());
                continue;
            }
            if (was != null && was.detached() && !was.tag().isEmpty() && !s.isPrivate()) {
                // the two sides let go of each other, until the contact comes back
                mapper.tagged(was.id(), card.tag());
                continue;
            }
            UUID contact = s.contact().orElse(null);
            if (contact != null && (was == null || !contact.equals(was.contact()))) {
                List<Row> others = elsewhere.getOrDefault(contact, List.of()).stream()
                        .filter(r -> !r.href().equals(card.href()))
                        .toList();
                Optional<Row> left = others.stream()
                        .filter(r -> gone.contains(r.href()) || (r.tag().isEmpty() && !r.madeHere()))
                        // it moves once, though two came in its place
                        .filter(r -> !moved.contains(r.href()))
                        .findFirst();
                if (left.isPresent() && was == null && !left.get().detached()) {
                    mapper.moved(left.get().id(), card.href(), card.tag());
                    moved.add(left.get().href());
                    pending.add(left.get().id());
                    continue;
                }
                if (doubles.containsKey(card.href())
                        || others.stream().anyMatch(r -> !r.detached() && !gone.contains(r.href()))) {
                    s = s.doubled(contact);
                }
            }
            if (again != null && s.standing() == Standing.OPEN) {
                again.add(card.href());
                s = new SortedCard(Standing.NEW, s.why(), Optional.empty(), Map.of());
            }
            row(place, card, was, s, pending).ifPresent(rows::add);
        }
        mapper.put(place.source(), rows);
        outbox.addAll(Kind.CARD, String.valueOf(place.source()), pending);
        return moved;
    }

    /** Which cards of this book are of the same contacts already. */
    private Map<UUID, List<Row>> elsewhere(SourceRef place, Map<String, SortedCard> sorted) {
        UUID[] contacts = sorted.values().stream()
                .flatMap(s -> s.contact().stream())
                .distinct()
                .toArray(UUID[]::new);
        return contacts.length == 0
                ? Map.of()
                : mapper.ofContacts(place.source(), contacts).stream()
                        .collect(Collectors.groupingBy(r -> Objects.requireNonNull(r.contact())));
    }

    private static Map<String, UUID> doubles(Map<String, SortedCard> sorted) {
        Map<String, CardMatch> matches = new HashMap<>();
        sorted.forEach((href, s) -> {
            if (s.contact().isPresent()) {
                matches.put(href, new CardMatch(s.contact(), s.speaks()));
            }
        });
        return CardMatch.doubles(matches);
    }

    /** @return nothing where all stays as it was */
    private Optional<Row> row(SourceRef place, FetchedCard card, @Nullable Row was, SortedCard s, List<UUID> pending) {
        boolean tied = s.standing() == Standing.TIED;
        UUID contact = s.contact().orElse(null);
        boolean same = was != null
                && was.base() != null
                && Objects.equals(was.contact(), contact)
                && was.standing().equals(Standing.TIED.name());
        String base = !tied ? null : same ? Objects.requireNonNull(was).base() : Tying.FIRST;
        boolean open = s.standing() == Standing.OPEN;
        ContactDetails details =
                card.facts() == null ? ContactDetails.NOTHING : card.facts().details();
        UUID id = was == null ? keys.sighting(place.source(), card.href()) : was.id();
        boolean changed =
                tied && !(same && base != null && Json.contactBase(base).there().equals(details));
        if (same && !changed) {
            mapper.tagged(id, card.tag());
            return Optional.empty();
        }
        if (changed) {
            pending.add(id);
        } else if (was != null) {
            outbox.cancel(Kind.CARD, List.of(id));
        }
        return Optional.of(new Row(
                id,
                place.source(),
                card.href(),
                card.tag(),
                s.standing().name(),
                s.why().name(),
                contact,
                open ? ContactStates.line(details.name()) : "",
                open ? Json.write(details) : null,
                open ? Json.write(s.speaks()) : null,
                base,
                null,
                false,
                false,
                false,
                false,
                "",
                1));
    }

    /** What comes after this is told from there. */
    @Transactional
    public void moveCursor(SourceRef place, String from, String to) {
        if (mapper.moveCursor(place.source(), from, to) != 1) {
            throw CursorConflict.byChange();
        }
    }
}
