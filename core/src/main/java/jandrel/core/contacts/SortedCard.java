package jandrel.core.contacts;

import jandrel.core.contacts.CardMatch.Ground;
import jandrel.core.policy.BookCondition.Field;
import jandrel.core.policy.BookRules;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;

/**
 * What becomes of a card of a person’s book, and why. A pure function of the card, the rules and the part of the directory that it is about.
 *
 * @param contact whose card it is; nothing unless it is {@link Standing#TIED}
 * @param speaks for each contact that it fits
 */
public record SortedCard(Standing standing, Why why, Optional<UUID> contact, Map<UUID, List<Ground>> speaks) {
    /** How a card stands. The names are stored. */
    public enum Standing {
        /** It is a contact’s. */
        TIED,
        /** Of somebody who is in no directory yet. */
        NEW,
        /** It fits several contacts, or another card of the book fits the same: a person says whose it is. */
        OPEN,
        /** Nothing of it is kept. */
        LEFT_OUT,
        /** Nothing can be told of it. */
        UNREADABLE
    }

    /** The names are stored. */
    public enum Why {
        /** Its owner marked it as not for others (RFC 2426 §3.7.1). */
        PRIVATE,
        /** In a category, or a group, that its owner calls private. */
        PRIVATE_CATEGORY,
        /** A list of other cards (RFC 6350 §6.1.4). */
        GROUP,
        /** In none of the categories or groups that come in, or it meets no condition. */
        NOT_CHOSEN,
        /** Somebody of ours. */
        COLLEAGUE,
        /** An address of it is never captured. */
        EXCLUDED,
        /** It has no name, no address and no telephone. */
        EMPTY,
        /** The policy makes nobody a contact by a card. */
        NOT_CREATED,
        /** Its contact is out of the lists. */
        ARCHIVED,
        /** Somebody chose to leave it out, or took back what had come of it. */
        CHOSEN,
        FITS_NOBODY,
        FITS_ONE,
        FITS_SEVERAL,
        /** Another card of the same book fits the same contact. */
        DOUBLE,
        UNREADABLE
    }

    /**
     * What a card tells by itself.
     *
     * @param isPrivate whether its owner marked it so
     * @param groups the names of the groups in which it is, as far as they make a difference
     */
    public record Facts(ContactDetails details, boolean isPrivate, boolean isGroup, Set<String> groups) {
        public Facts {
            groups = Set.copyOf(groups);
        }

        /** Its own categories, and the names of its groups. */
        public Set<String> categories() {
            Set<String> all = new TreeSet<>(details.categories());
            all.addAll(groups);
            return all;
        }
    }

    public SortedCard {
        speaks = Map.copyOf(speaks);
    }

    /** Nobody else's business than its owner's. */
    public boolean isPrivate() {
        return why == Why.PRIVATE || why == Why.PRIVATE_CATEGORY;
    }

    /** One of which nothing is kept. */
    public static SortedCard leftOut(Why why) {
        return new SortedCard(Standing.LEFT_OUT, why, Optional.empty(), Map.of());
    }

    /** One that is no card. */
    public static SortedCard unreadable() {
        return new SortedCard(Standing.UNREADABLE, Why.UNREADABLE, Optional.empty(), Map.of());
    }

    /** One that fits the same contact as another. */
    public SortedCard doubled(UUID contact) {
        return new SortedCard(
                Standing.OPEN, Why.DOUBLE, Optional.empty(), speaks.isEmpty() ? Map.of(contact, List.of()) : speaks);
    }

    /**
     * @param agreed whose card it was last
     * @param privately the categories that its owner calls private, in lower case
     */
    public static SortedCard of(
            Facts card, Optional<UUID> agreed, BookRules rules, Set<String> privately, CardIndex index) {
        ContactDetails details = card.details();
        Collection<String> categories = card.categories();
        if (card.isGroup()) {
            return leftOut(Why.GROUP);
        }
        if (card.isPrivate()) {
            return leftOut(Why.PRIVATE);
        }
        if (BookRules.meet(privately, categories)) {
            return leftOut(Why.PRIVATE_CATEGORY);
        }
        if (!rules.takes(f -> f == Field.CATEGORY ? categories : details.of(f)) && agreed.isEmpty()) {
            return leftOut(Why.NOT_CHOSEN);
        }
        if (details.mails().keySet().stream().anyMatch(index::isInside)) {
            return leftOut(Why.COLLEAGUE);
        }
        if (details.mails().keySet().stream().anyMatch(index::isExcluded)) {
            return leftOut(Why.EXCLUDED);
        }
        if (details.name().isBlank() && details.phones().isEmpty()) {
            return leftOut(Why.EMPTY);
        }
        CardMatch match = CardMatch.of(details, agreed, index);
        if (match.contact().isPresent()) {
            return new SortedCard(Standing.TIED, Why.FITS_ONE, match.contact(), match.speaks());
        }
        if (match.isOpen()) {
            return new SortedCard(Standing.OPEN, Why.FITS_SEVERAL, Optional.empty(), match.speaks());
        }
        if (CardMatch.fitsArchived(details, index)) {
            return leftOut(Why.ARCHIVED);
        }
        return rules.creates()
                ? new SortedCard(Standing.NEW, Why.FITS_NOBODY, Optional.empty(), Map.of())
                : leftOut(Why.NOT_CREATED);
    }
}
