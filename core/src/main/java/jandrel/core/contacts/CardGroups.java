package jandrel.core.contacts;

import jandrel.core.policy.BookRules;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * The lists of cards that an address book has (RFC 6350 §6.1.4), as far as rules ask for them: a card in one counts as in a category of its
 * name.
 */
public final class CardGroups {
    public static final CardGroups NONE = new CardGroups(Map.of());
    private static final String UUID_URN = "urn:uuid:";
    private static final String MAILTO = "mailto:";

    private final Map<String, Group> byHref;
    private final Map<String, Set<String>> byMember = new HashMap<>();

    /**
     * A list of cards.
     *
     * @param members by their UIDs, or as {@code mailto:} and an address (RFC 6350 §6.6.5)
     */
    public record Group(String name, Set<String> members) {
        public Group {
            members = members.stream().map(CardGroups::same).collect(Collectors.toUnmodifiableSet());
        }
    }

    private CardGroups(Map<String, Group> byHref) {
        this.byHref = Map.copyOf(byHref);
        byHref.values()
                .forEach(g -> g.members()
                        .forEach(m -> byMember.computeIfAbsent(m, k -> new TreeSet<>())
                                .add(g.name())));
    }

    /** A UID is one with {@code urn:uuid:} before it and without, in capitals and in small letters. */
    private static String same(String member) {
        String low = member.strip().toLowerCase(Locale.ROOT);
        return low.startsWith(UUID_URN) ? low.substring(UUID_URN.length()) : low;
    }

    /**
     * With what was read since.
     *
     * @param seen all hrefs that were read, or at which nothing is any more
     * @param groups those of them at which there are groups
     */
    public CardGroups with(Collection<String> seen, Map<String, Group> groups) {
        Map<String, Group> all = new HashMap<>(byHref);
        all.keySet().removeAll(seen);
        all.putAll(groups);
        return new CardGroups(all);
    }

    /**
     * Those alone that make a difference.
     *
     * @param privately categories that the book's owner calls private, in lower case
     */
    public CardGroups askedFor(BookRules rules, Set<String> privately) {
        return new CardGroups(byHref.entrySet().stream()
                .filter(e -> BookRules.meet(privately, Set.of(e.getValue().name()))
                        || rules.asksForCategory(e.getValue().name()))
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue)));
    }

    /** The names of the groups in which a card is. */
    public Set<String> of(String uid, Collection<String> mails) {
        if (byMember.isEmpty()) {
            return Set.of();
        }
        Set<String> names = new HashSet<>();
        Stream.concat(Stream.of(same(uid)), mails.stream().map(m -> MAILTO + m))
                .filter(m -> !m.isEmpty())
                .forEach(m -> names.addAll(byMember.getOrDefault(m, Set.of())));
        return names;
    }

    /** A text that is another where a group has another name or other members; empty where there are none. */
    public String text() {
        Map<String, Set<String>> sorted = new TreeMap<>();
        byHref.values()
                .forEach(g ->
                        sorted.computeIfAbsent(g.name(), n -> new TreeSet<>()).addAll(g.members()));
        return sorted.isEmpty() ? "" : sorted.toString();
    }
}
