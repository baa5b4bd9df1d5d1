package jandrel.core.contacts;

import jandrel.core.contacts.CardIndex.Known;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Who in the directory a card is of. The strongest ground decides, and only if it points to one contact: what points to several is for a
 * person to settle, with what speaks for each. A pure function: neither the order of cards nor that of contacts counts.
 *
 * @param contact nothing where nobody fits, or several do
 * @param speaks for each that fits, by its grounds, the strongest first
 */
public record CardMatch(Optional<UUID> contact, Map<UUID, List<Ground>> speaks) {
    /** What speaks for a contact, the strongest first. The names are stored. */
    public enum Ground {
        /** Both sides agreed on it before. */
        AGREED,
        /** An address that is the same. */
        ADDRESS,
        /** A telephone and the name. */
        TELEPHONE_AND_NAME,
        /** The name, at one account. */
        NAME_AT_ACCOUNT
    }

    private static final CardMatch NOBODY = new CardMatch(Optional.empty(), Map.of());

    public CardMatch {
        speaks = java.util.Collections.unmodifiableMap(new LinkedHashMap<>(speaks));
    }

    /** Whether somebody has to say who it is. */
    public boolean isOpen() {
        return contact.isEmpty() && !speaks.isEmpty();
    }

    /** @param agreed whom the card was of last; nothing for one that is new */
    public static CardMatch of(ContactDetails card, Optional<UUID> agreed, CardIndex index) {
        Optional<UUID> same = agreed.flatMap(index::now);
        if (same.isPresent()) {
            return new CardMatch(same, Map.of(same.get(), List.of(Ground.AGREED)));
        }
        return decided(found(card, index, false));
    }

    /** Whether a card that fits nobody else is of somebody who was archived. */
    static boolean fitsArchived(ContactDetails card, CardIndex index) {
        return found(card, index, true).values().stream().anyMatch(ids -> !ids.isEmpty());
    }

    private static Map<Ground, Set<UUID>> found(ContactDetails card, CardIndex index, boolean archived) {
        Map<Ground, Set<UUID>> found = new EnumMap<>(Ground.class);
        NameKey name = NameKey.of(card.name());
        found.put(
                Ground.ADDRESS,
                ids(card.mails().keySet().stream().flatMap(mail -> index.byMail(mail).stream()), archived));
        found.put(
                Ground.TELEPHONE_AND_NAME,
                ids(
                        card.phones().keySet().stream()
                                .flatMap(phone -> index.byPhone(phone).stream())
                                .filter(known -> !name.isEmpty() && known.name().equals(name)),
                        archived));
        found.put(Ground.NAME_AT_ACCOUNT, name.isWhole() ? atAccount(card, name, index, archived) : Set.of());
        return found;
    }

    private static Set<UUID> atAccount(ContactDetails card, NameKey name, CardIndex index, boolean archived) {
        List<Known> called = index.byName(name);
        if (called.isEmpty()) {
            return Set.of();
        }
        Collection<UUID> accounts = index.accounts(card);
        return ids(
                called.stream()
                        .filter(known ->
                                known.account().filter(accounts::contains).isPresent()),
                archived);
    }

    private static Set<UUID> ids(Stream<Known> known, boolean archived) {
        return known.filter(k -> k.archived() == archived)
                .map(Known::id)
                .collect(Collectors.toCollection(TreeSet::new));
    }

    private static CardMatch decided(Map<Ground, Set<UUID>> found) {
        Optional<Set<UUID>> strongest =
                found.values().stream().filter(ids -> !ids.isEmpty()).findFirst();
        if (strongest.isEmpty()) {
            return NOBODY;
        }
        Map<UUID, List<Ground>> speaks = new TreeMap<>();
        found.forEach((ground, ids) -> ids.forEach(
                id -> speaks.computeIfAbsent(id, i -> new ArrayList<>()).add(ground)));
        // another, weaker ground for somebody else is no reason to doubt the stronger one
        return strongest.get().size() == 1
                ? new CardMatch(Optional.of(strongest.get().iterator().next()), speaks)
                : new CardMatch(Optional.empty(), speaks);
    }

    /**
     * The cards of one book that a book may not have side by side: two that are of one contact. Whoever agreed on one before keeps it; of
     * several that did not, none is taken for the contact’s until somebody says which.
     *
     * @param matches by what names a card, in any order
     * @return those that are open after all, by what names them, with the contact that they fit
     */
    public static <K> Map<K, UUID> doubles(Map<K, CardMatch> matches) {
        Map<UUID, List<K>> claims = new TreeMap<>();
        Map<UUID, List<K>> agreed = new TreeMap<>();
        matches.forEach((card, match) -> match.contact().ifPresent(contact -> {
            claims.computeIfAbsent(contact, c -> new ArrayList<>()).add(card);
            if (match.speaks().getOrDefault(contact, List.of()).contains(Ground.AGREED)) {
                agreed.computeIfAbsent(contact, c -> new ArrayList<>()).add(card);
            }
        }));
        Map<K, UUID> open = new LinkedHashMap<>();
        claims.forEach((contact, cards) -> {
            List<K> keeps = agreed.getOrDefault(contact, List.of());
            if (cards.size() > 1) {
                cards.stream()
                        .filter(card -> keeps.size() != 1 || !keeps.contains(card))
                        .forEach(card -> open.put(card, contact));
            }
        });
        return open;
    }
}
