package jandrel.core.timeline;

import jandrel.core.decide.Decision;
import jandrel.core.decide.Link;
import jandrel.core.decide.Reason;
import jandrel.core.decide.Rule;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.Party;
import jandrel.core.policy.Differences;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.visibility.Readers;
import java.util.ArrayList;
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
    private static final List<Rule> MARKS =
            List.of(Rule.CANCELLED_MARKED, Rule.GONE_MARKED, Rule.DECLINED_BY_ALL, Rule.MISSED_BY_WORD);
    private static final Comparator<Party> BY_PART = Comparator.comparing(Party::part)
            .thenComparing(p -> p.address().toString())
            .thenComparing(Party::name);

    private Activities() {}

    /**
     * @param sightings all logged sightings of one item
     * @param ruling what somebody chose for this item, if anybody did
     * @return nothing when there is no sighting
     */
    public static Optional<Activity> combine(Collection<Logged> sightings, Optional<Ruling> ruling) {
        if (sightings.size() == 1 && ruling.isEmpty()) {
            return Optional.of(alone(sightings.iterator().next()));
        }
        return sightings.stream().min(CURRENT_FIRST).map(current -> combine(current, sightings, ruling));
    }

    /** As nobody ruled otherwise. */
    public static Optional<Activity> combine(Collection<Logged> sightings) {
        return combine(sightings, Optional.empty());
    }

    /** Most items are seen once: the same result as for many, without the merging. */
    private static Activity alone(Logged only) {
        Set<UUID> owner = Set.of(only.person());
        Decision decision = only.decision();
        return new Activity(
                only.item(),
                decision.links().stream().sorted().toList(),
                readers(decision.sharing(), owner, decision.insiders(), teams(List.of(only))),
                List.of(only.person()),
                decision.insiders(),
                marks(List.of(only)));
    }

    private static Activity combine(Logged current, Collection<Logged> sightings, Optional<Ruling> ruling) {
        Set<UUID> owners = new TreeSet<>();
        Set<UUID> insiders = new TreeSet<>();
        Map<UUID, Link> links = new TreeMap<>();
        Sharing narrowest = Sharing.EVERYONE;
        Set<Sharing> widths = new TreeSet<>();
        for (Logged sighting : sightings) {
            owners.add(sighting.person());
            insiders.addAll(sighting.decision().insiders());
            sighting.decision().links().forEach(link -> links.merge(link.record(), link, Activities::stronger));
            narrowest = narrowest.narrower(sighting.decision().sharing());
            widths.add(sighting.decision().sharing());
        }
        List<Reason> trail = new ArrayList<>(marks(sightings));
        if (widths.size() > 1) {
            trail.add(new Reason(Rule.NARROWEST_COUNTS, Map.of("readers", Differences.sharing(narrowest))));
        }
        Readers readers = readers(narrowest, owners, insiders, teams(sightings));
        ruling.ifPresent(r ->
                trail.add(new Reason(r.opens() ? Rule.OPENED_BY : Rule.CLOSED_BY, Map.of("by", r.by(), "to", r.to()))));
        return new Activity(
                merged(current.item(), sightings),
                links.values().stream().sorted().toList(),
                ruling.map(r -> ruled(r, readers, owners)).orElse(readers),
                List.copyOf(owners),
                insiders,
                List.copyOf(trail));
    }

    /** What is cancelled or deleted at every source that showed it, where the policies mark that. */
    private static List<Reason> marks(Collection<Logged> sightings) {
        List<Reason> marks = new ArrayList<>(0);
        for (Rule mark : MARKS) {
            if (sightings.stream().allMatch(s -> s.decision().trail().stream().anyMatch(r -> r.rule() == mark))) {
                marks.add(new Reason(mark, Map.of()));
            }
        }
        return marks;
    }

    private static Readers ruled(Ruling ruling, Readers readers, Set<UUID> owners) {
        if (ruling.opens() && readers.everyone()) {
            return readers;
        }
        Set<UUID> all = new TreeSet<>(ruling.opens() ? readers.people() : owners);
        all.addAll(ruling.readers());
        return Readers.only(all);
    }

    /** The teams whose members read because one of the sightings lets them. */
    private static Set<UUID> teams(Collection<Logged> sightings) {
        Set<UUID> teams = new TreeSet<>();
        sightings.forEach(s -> {
            if (s.decision().team() != null) {
                teams.add(s.decision().team());
            }
        });
        return teams;
    }

    private static Link stronger(Link a, Link b) {
        return a.evidence().compareTo(b.evidence()) <= 0 ? a : b;
    }

    /** Who reads what one sighting, or several, let be read this widely. */
    public static Readers readers(Sharing sharing, Set<UUID> owners, Set<UUID> insiders, Set<UUID> teams) {
        if (sharing == Sharing.EVERYONE) {
            return Readers.EVERYONE;
        }
        Set<UUID> all = new TreeSet<>(owners);
        if (sharing != Sharing.OWNER) {
            all.addAll(insiders);
        }
        if (sharing == Sharing.TEAM) {
            all.addAll(teams);
        }
        return Readers.only(all);
    }

    /** The sender's own copy alone names the blind copies: a message's parties are those of all its copies. */
    private static Item merged(Item current, Collection<Logged> sightings) {
        if (sightings.size() == 1 || !(current instanceof MailItem mail)) {
            return current;
        }
        Stream<Party> all = sightings.stream().flatMap(s -> s.item().parties().stream());
        List<Party> parties =
                List.copyOf(new LinkedHashSet<>(all.sorted(BY_PART).toList()));
        return mail.with(parties);
    }
}
