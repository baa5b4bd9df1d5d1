package jandrel.core.timeline;

import jandrel.core.decide.Link;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.Party;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.visibility.Readers;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Stream;

/** Makes one activity of all sightings of an item: a pure function of the set, whatever order they came in. */
public final class Activities {
    private static final Comparator<Logged> CURRENT_FIRST = Comparator.comparing(
                    (Logged l) -> l.item().version())
            .reversed()
            .thenComparing(l -> l.item().toString())
            .thenComparing(Logged::person);
    private static final Comparator<Party> BY_PART = Comparator.comparing(Party::part)
            .thenComparing(p -> p.address().toString())
            .thenComparing(Party::name);

    private Activities() {}

    /**
     * @param sightings all logged sightings of one item
     * @return nothing when there is none
     */
    public static Optional<Activity> combine(Collection<Logged> sightings) {
        if (sightings.size() == 1) {
            return Optional.of(alone(sightings.iterator().next()));
        }
        return sightings.stream().min(CURRENT_FIRST).map(current -> combine(current, sightings));
    }

    /** Most items are seen once: the same result as for many, without the merging. */
    private static Activity alone(Logged only) {
        Set<UUID> owner = Set.of(only.person());
        Set<UUID> insiders = only.decision().insiders();
        return new Activity(
                only.item(),
                only.decision().links().stream().sorted().toList(),
                readers(only.decision().sharing(), owner, insiders),
                List.of(only.person()),
                insiders);
    }

    private static Activity combine(Logged current, Collection<Logged> sightings) {
        Set<UUID> owners = new TreeSet<>();
        Set<UUID> insiders = new TreeSet<>();
        Map<UUID, Link> links = new TreeMap<>();
        Sharing narrowest = Sharing.EVERYONE;
        for (Logged sighting : sightings) {
            owners.add(sighting.person());
            insiders.addAll(sighting.decision().insiders());
            sighting.decision().links().forEach(link -> links.merge(link.record(), link, Activities::stronger));
            Sharing sharing = sighting.decision().sharing();
            narrowest = sharing.compareTo(narrowest) > 0 ? sharing : narrowest;
        }
        return new Activity(
                merged(current.item(), sightings),
                links.values().stream().sorted().toList(),
                readers(narrowest, owners, insiders),
                List.copyOf(owners),
                insiders);
    }

    private static Link stronger(Link a, Link b) {
        return a.evidence().compareTo(b.evidence()) <= 0 ? a : b;
    }

    /** Who reads what one sighting, or several, let be read this widely. */
    public static Readers readers(Sharing sharing, Set<UUID> owners, Set<UUID> insiders) {
        return switch (sharing) {
            case EVERYONE -> Readers.EVERYONE;
            case THOSE_ON_IT -> {
                Set<UUID> all = new TreeSet<>(owners);
                all.addAll(insiders);
                yield Readers.only(all);
            }
            case OWNER -> Readers.only(owners);
        };
    }

    /** The sender's own copy alone names the blind copies: a message's parties are those of all its copies. */
    private static Item merged(Item current, Collection<Logged> sightings) {
        if (sightings.size() == 1 || !(current instanceof MailItem mail)) {
            return current;
        }
        Stream<Party> all = sightings.stream().flatMap(s -> s.item().parties().stream());
        List<Party> parties =
                List.copyOf(new LinkedHashSet<>(all.sorted(BY_PART).toList()));
        return new MailItem(mail.identity(), mail.at(), mail.dateFromHeader(), parties, mail.subject(), mail.nature());
    }
}
