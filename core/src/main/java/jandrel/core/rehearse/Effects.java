package jandrel.core.rehearse;

import jandrel.core.decide.Link;
import jandrel.core.decide.Rule;
import jandrel.core.directory.RecordKind;
import jandrel.core.rehearse.Turn.Effect;
import jandrel.core.rehearse.Turn.Side;
import jandrel.core.timeline.Activity;
import jandrel.core.visibility.Visibility;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * Adds up what a change would do. Memory is bounded by the numbers of people, accounts and rules, never by that of items.
 *
 * <p>A number can tell what an item says: a draft that excludes an address counts whose items have it. So what the asker may not read
 * counts only where several people are behind it, and is never among the examples.
 */
public final class Effects {
    private static final int EXAMPLES = 12;

    private final Predicate<Turn> readable;
    private final Map<Effect, Count> activities = new EnumMap<>(Effect.class);
    private final Map<Effect, List<Turn>> examples = new EnumMap<>(Effect.class);
    private final Map<UUID, Map<Effect, Count>> byPerson = new HashMap<>();
    private final Map<UUID, Map<Effect, Count>> byAccount = new HashMap<>();
    private final Map<Rule, Map<Effect, Count>> byRule = new EnumMap<>(Rule.class);
    private final Count items = new Count();
    private final Count decisions = new Count();

    /** @param readable whether the asker may read all that an item was and would be */
    public Effects(Predicate<Turn> readable) {
        this.readable = readable;
    }

    /** For somebody who may read everything. */
    public Effects() {
        this(turn -> true);
    }

    private static final class Count {
        private final Set<UUID> people = new HashSet<>(0);
        private long open;
        private long closed;

        void add(long n, boolean isOpen, Set<UUID> behind) {
            if (isOpen) {
                open += n;
                return;
            }
            closed += n;
            if (people.size() < Visibility.SEVERAL) {
                people.addAll(behind);
            }
        }

        boolean isHidden() {
            return closed > 0 && people.size() < Visibility.SEVERAL;
        }

        long shown() {
            return isHidden() ? open : open + closed;
        }
    }

    /** How many of each effect, for one of whatever is counted by. */
    public record Tally<K>(K key, Map<Effect, Long> effects) {
        long total() {
            return effects.values().stream().mapToLong(Long::longValue).sum();
        }
    }

    public void add(Turn turn) {
        boolean open = readable.test(turn);
        Set<UUID> behind = open ? Set.of() : owners(turn);
        items.add(1, open, behind);
        decisions.add(turn.sides().stream().filter(Side::changes).count(), open, behind);
        for (Effect effect : turn.effects()) {
            activities.computeIfAbsent(effect, e -> new Count()).add(1, open, behind);
            List<Turn> some = examples.computeIfAbsent(effect, e -> new ArrayList<>());
            if (open && some.size() < EXAMPLES && !some.contains(turn)) {
                some.add(turn);
            }
            people(turn).forEach(p -> count(byPerson, p, effect, open, Set.of(p)));
            accounts(turn).forEach(a -> count(byAccount, a, effect, open, behind));
            rules(turn).forEach(r -> count(byRule, r, effect, open, behind));
        }
    }

    private static <K> void count(
            Map<K, Map<Effect, Count>> into, K key, Effect effect, boolean open, Set<UUID> behind) {
        into.computeIfAbsent(key, k -> new EnumMap<>(Effect.class))
                .computeIfAbsent(effect, e -> new Count())
                .add(1, open, behind);
    }

    private static Set<UUID> owners(Turn turn) {
        Set<UUID> owners = new HashSet<>();
        turn.sides().forEach(side -> owners.add(side.person()));
        return owners;
    }

    private static Set<UUID> people(Turn turn) {
        Set<UUID> people = new HashSet<>();
        turn.before().forEach(a -> people.addAll(a.owners()));
        turn.after().forEach(a -> people.addAll(a.owners()));
        return people;
    }

    private static Set<UUID> accounts(Turn turn) {
        Set<UUID> accounts = new HashSet<>();
        turn.before().forEach(a -> accounts(a, accounts));
        turn.after().forEach(a -> accounts(a, accounts));
        return accounts;
    }

    private static void accounts(Activity activity, Set<UUID> into) {
        for (Link link : activity.links()) {
            if (link.kind() == RecordKind.ACCOUNT) {
                into.add(link.record());
            }
        }
    }

    private static Set<Rule> rules(Turn turn) {
        Set<Rule> rules = new HashSet<>();
        turn.sides().stream()
                .filter(Side::changes)
                .map(s -> s.after().trail())
                .forEach(trail -> rules.add(trail.get(trail.size() - 1).rule()));
        return rules;
    }

    /** Whether of every effect that has come up so far there are examples enough; false while none has. */
    public boolean hasExamples() {
        return !examples.isEmpty() && examples.values().stream().allMatch(some -> some.size() == EXAMPLES);
    }

    /** Items that the change touches. */
    public long items() {
        return items.shown();
    }

    /** Decisions that would differ. */
    public long decisions() {
        return decisions.shown();
    }

    public long activities(Effect effect) {
        Count number = activities.get(effect);
        return number == null ? 0 : number.shown();
    }

    /** Some of each effect, as they came. */
    public List<Turn> examples() {
        Set<UUID> shown = new HashSet<>();
        return examples.values().stream()
                .flatMap(List::stream)
                .filter(t -> shown.add(t.item()))
                .toList();
    }

    public List<Tally<UUID>> byPerson() {
        return most(byPerson);
    }

    public List<Tally<UUID>> byAccount() {
        return most(byAccount);
    }

    public List<Tally<Rule>> byRule() {
        return most(byRule);
    }

    /** Whether anything is left out of a number because too few people are behind it. */
    public boolean hidesSome() {
        return items.isHidden()
                || decisions.isHidden()
                || activities.values().stream().anyMatch(Count::isHidden)
                || Stream.of(byPerson, byAccount, byRule)
                        .flatMap(tallies -> tallies.values().stream())
                        .flatMap(numbers -> numbers.values().stream())
                        .anyMatch(Count::isHidden);
    }

    private static <K> List<Tally<K>> most(Map<K, Map<Effect, Count>> tallies) {
        return tallies.entrySet().stream()
                .map(e -> new Tally<>(e.getKey(), shown(e.getValue())))
                .filter(t -> t.total() > 0)
                .sorted(Comparator.comparing((Tally<K> t) -> -t.total())
                        .thenComparing(t -> t.key().toString()))
                .toList();
    }

    private static Map<Effect, Long> shown(Map<Effect, Count> numbers) {
        Map<Effect, Long> shown = new EnumMap<>(Effect.class);
        numbers.forEach((effect, number) -> {
            if (number.shown() > 0) {
                shown.put(effect, number.shown());
            }
        });
        return shown;
    }
}
