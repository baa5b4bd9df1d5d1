package jandrel.core.rehearse;

import jandrel.core.decide.Link;
import jandrel.core.decide.Rule;
import jandrel.core.directory.RecordKind;
import jandrel.core.rehearse.Turn.Effect;
import jandrel.core.rehearse.Turn.Side;
import jandrel.core.timeline.Activity;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;

/** Adds up what a change would do. Memory is bounded by the numbers of people, accounts and rules, never by that of items. */
public final class Effects {
    private static final int EXAMPLES = 12;

    private final Map<Effect, Long> activities = new EnumMap<>(Effect.class);
    private final Map<Effect, List<Turn>> examples = new EnumMap<>(Effect.class);
    private final Map<UUID, Map<Effect, Long>> byPerson = new HashMap<>();
    private final Map<UUID, Map<Effect, Long>> byAccount = new HashMap<>();
    private final Map<Rule, Map<Effect, Long>> byRule = new EnumMap<>(Rule.class);
    private long items;
    private long decisions;

    /** How many of each effect, for one of whatever is counted by. */
    public record Tally<K>(K key, Map<Effect, Long> effects) {
        long total() {
            return effects.values().stream().mapToLong(Long::longValue).sum();
        }
    }

    public void add(Turn turn) {
        items++;
        decisions += turn.sides().stream().filter(Side::changes).count();
        for (Effect effect : turn.effects()) {
            activities.merge(effect, 1L, Long::sum);
            List<Turn> some = examples.computeIfAbsent(effect, e -> new ArrayList<>());
            if (some.size() < EXAMPLES) {
                some.add(turn);
            }
            people(turn).forEach(p -> count(byPerson, p, effect));
            accounts(turn).forEach(a -> count(byAccount, a, effect));
            rules(turn).forEach(r -> count(byRule, r, effect));
        }
    }

    private static <K> void count(Map<K, Map<Effect, Long>> into, K key, Effect effect) {
        into.computeIfAbsent(key, k -> new EnumMap<>(Effect.class)).merge(effect, 1L, Long::sum);
    }

    private static Set<UUID> people(Turn turn) {
        Set<UUID> people = new HashSet<>();
        turn.before().ifPresent(a -> people.addAll(a.owners()));
        turn.after().ifPresent(a -> people.addAll(a.owners()));
        return people;
    }

    private static Set<UUID> accounts(Turn turn) {
        Set<UUID> accounts = new HashSet<>();
        turn.before().ifPresent(a -> accounts(a, accounts));
        turn.after().ifPresent(a -> accounts(a, accounts));
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
        return items;
    }

    /** Decisions that would differ. */
    public long decisions() {
        return decisions;
    }

    public long activities(Effect effect) {
        return activities.getOrDefault(effect, 0L);
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

    private static <K> List<Tally<K>> most(Map<K, Map<Effect, Long>> tallies) {
        return tallies.entrySet().stream()
                .map(e -> new Tally<>(e.getKey(), Map.copyOf(e.getValue())))
                .sorted(Comparator.comparing((Tally<K> t) -> -t.total())
                        .thenComparing(t -> t.key().toString()))
                .toList();
    }
}
