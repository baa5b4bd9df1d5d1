package jandrel.core.decide;

import jandrel.core.directory.Exclusion;
import jandrel.core.policy.Policy;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/**
 * What a change makes worth deciding again. Each change of directory, policies, exclusions and overrides says it here, and nowhere
 * else; marking for capture and rehearsing both read it. Never too little; more than that costs time alone.
 *
 * <p>Of a kept item its facts are at hand. Of one that was left out nothing is, but for the rule: its source is asked once more.
 */
public sealed interface Reopened {
    /** What is kept and carries one of these keys: an address, or a domain with a leading {@code @}. */
    record Carrying(Set<String> keys) implements Reopened {
        public Carrying {
            keys = Set.copyOf(keys);
        }
    }

    /** What is kept and an exclusion that is not looked up by a key may cover. */
    record Fitting(Exclusion exclusion) implements Reopened {}

    /** All that is kept of these people's sources. */
    record Of(Set<UUID> people) implements Reopened {
        public Of {
            people = Set.copyOf(people);
        }
    }

    /** What one of these rules left out at these people's sources; at anybody's where there are no people. */
    record LeftOut(Set<Rule> rules, Set<UUID> people) implements Reopened {
        public LeftOut {
            rules = Set.copyOf(rules);
            people = Set.copyOf(people);
        }
    }

    /** What these exclusions keep out. */
    record ExcludedBy(Set<UUID> exclusions) implements Reopened {
        public ExcludedBy {
            exclusions = Set.copyOf(exclusions);
        }
    }

    /** All copies of one item: what is kept, and what one of these rules left out. */
    record Copies(UUID item, Set<Rule> rules) implements Reopened {
        public Copies {
            rules = Set.copyOf(rules);
        }
    }

    /** Records with these addresses or domains came, went or are now somebody else's. */
    static List<Reopened> records(Set<String> keys) {
        return keys.isEmpty() ? List.of() : List.of(new Carrying(keys));
    }

    /** People of ours have other addresses than before. */
    static List<Reopened> addresses(Set<String> before, Set<String> after) {
        return insiders(minus(after, before), minus(before, after), after);
    }

    /** The company's own domains and the public mail providers' are others now. */
    static List<Reopened> domains(Set<String> ownBefore, Set<String> own, Set<String> freeBefore, Set<String> free) {
        return insiders(minus(own, ownBefore), minus(ownBefore, own), difference(freeBefore, free));
    }

    private static List<Reopened> insiders(Set<String> more, Set<String> fewer, Set<String> others) {
        Set<String> keys = new HashSet<>(more);
        keys.addAll(fewer);
        keys.addAll(others);
        List<Reopened> reopened = new ArrayList<>(records(keys));
        if (!more.isEmpty()) {
            reopened.add(leftOut(Input.MORE_INSIDERS));
        }
        if (!fewer.isEmpty()) {
            reopened.add(leftOut(Input.FEWER_INSIDERS));
        }
        return reopened;
    }

    /** Other providers ignore dots now; keys with a leading {@code @}. */
    static List<Reopened> dotless(Set<String> before, Set<String> after) {
        Set<String> changed = difference(before, after);
        return changed.isEmpty() ? List.of() : List.of(new Carrying(changed), leftOut(Input.SAME_ADDRESSES));
    }

    static List<Reopened> excluded(Collection<Exclusion> added) {
        Set<String> keys = new HashSet<>();
        List<Reopened> reopened = new ArrayList<>();
        for (Exclusion exclusion : added) {
            if (exclusion.kind().byKey()) {
                keys.add(exclusion.what());
            } else {
                reopened.add(new Fitting(exclusion));
            }
        }
        reopened.addAll(records(keys));
        return reopened;
    }

    static List<Reopened> included(Set<UUID> removed) {
        return removed.isEmpty() ? List.of() : List.of(new ExcludedBy(removed));
    }

    /** People come under another policy, or another version of theirs. */
    static List<Reopened> moved(Optional<Policy> before, Policy after, Set<UUID> people) {
        Set<Rule> rules = Rule.reopenedBy(Input.changed(before, after));
        return rules.isEmpty() ? List.of(new Of(people)) : List.of(new Of(people), new LeftOut(rules, people));
    }

    /** The team of these people, the end of their cover or how much they share is another. */
    static List<Reopened> standing(Set<UUID> people) {
        return ofPeople(people, Input.COVER_END);
    }

    /** This person's calendar began or ceased to be captured. */
    static List<Reopened> calendar(UUID person) {
        return ofPeople(Set.of(person), Input.CALENDAR);
    }

    /** Somebody tied an item to a record, or no longer does. */
    static List<Reopened> pinned(UUID item) {
        return List.of(new Copies(item, Rule.reopenedBy(Input.PINS)));
    }

    private static List<Reopened> ofPeople(Set<UUID> people, Input changed) {
        return people.isEmpty() ? List.of() : List.of(new Of(people), new LeftOut(Rule.reopenedBy(changed), people));
    }

    private static Reopened leftOut(Input changed) {
        return new LeftOut(Rule.reopenedBy(changed), Set.of());
    }

    private static Set<String> difference(Set<String> before, Set<String> after) {
        Set<String> changed = minus(before, after);
        changed.addAll(minus(after, before));
        return changed;
    }

    private static Set<String> minus(Set<String> all, Set<String> without) {
        Set<String> rest = new HashSet<>(all);
        rest.removeAll(without);
        return rest;
    }
}
