package jandrel.core.decide;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.DirectorySlice.Pin;
import jandrel.core.directory.Exclusion;
import jandrel.core.directory.Insider;
import jandrel.core.directory.RecordKind;
import jandrel.core.item.Inside;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.ThreadHeaders;
import jandrel.core.policy.Direction;
import jandrel.core.policy.Handling;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.policy.Scope;
import jandrel.core.policy.Ties;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** For every rule that leaves something out: whatever can undo it is named by it, and so reopens what it left out. */
class ReopenedTest {
    private static final int CASES = 150_000;
    /** Of these nothing is ever asked again: the item itself is gone, or cannot be read. */
    private static final Set<Rule> FINAL = Set.of(Rule.GONE, Rule.UNREADABLE);

    /** All that a verdict rests on, as it can be chosen by chance. */
    private static final class Around implements Cloneable {
        private Optional<Policy> policy = Optional.empty();
        private Set<String> own = Set.of();
        private Set<String> addresses = Set.of();
        private Set<String> dotless = Set.of();
        private List<Exclusion> exclusions = List.of();
        private boolean pinned;
        private Instant since = World.NOON;
        private Instant until;
        private boolean calendar;
        private ManualOverride hand = ManualOverride.NONE;

        Around copy() {
            try {
                return (Around) clone();
            } catch (CloneNotSupportedException e) {
                throw new IllegalStateException(e);
            }
        }

        @Override
        public String toString() {
            return policy + " own " + own + " people " + addresses + " dotless " + dotless + " " + exclusions
                    + " pinned " + pinned + " " + since + " " + until + " calendar " + calendar + " " + hand;
        }

        Decision decide(Item item) {
            if (policy.isEmpty()) {
                return Decider.notCovered();
            }
            SourceContext vantage =
                    new SourceContext(World.REP.id(), null, since, until, Sharing.EVERYONE, false, calendar, hand);
            return Decider.decide(item, vantage, policy.get(), slice(item));
        }

        private DirectorySlice slice(Item item) {
            DirectorySlice.Builder slice = DirectorySlice.builder();
            addresses.forEach(a -> slice.person(a, new Insider(new UUID(3, a.hashCode()), a)));
            own.forEach(slice::ownDomain);
            dotless.forEach(slice::dotless);
            exclusions.forEach(slice::exclusion);
            slice.contact("bram@skarvik.example", World.BRAM);
            if (pinned) {
                slice.pin(item.identity(), new Pin(RecordKind.CONTACT, new UUID(4, 4), "Una Rask", "x"));
            }
            return slice.build();
        }
    }

    private static final String[] EVERYONE = {
        "tobias@corvane.example",
        "t.obias@corvane.example",
        "maren@corvane.example",
        "maren@aside.example",
        "bram@skarvik.example",
        "b.ram@skarvik.example",
        "una@rask.example"
    };

    /** One change of the world, and what of it is another then, as those who make the change say it. */
    private record Change(Around after, Set<Rule> reopened) {}

    @Test
    void whatUndoesARuleReopensIt() {
        Random random = new Random(16);
        Map<Rule, Integer> undone = new EnumMap<>(Rule.class);
        Set<Rule> seen = EnumSet.noneOf(Rule.class);
        for (int i = 0; i < CASES; i++) {
            Around before = around(random);
            Item item = item(random);
            Decision was = before.decide(item);
            if (was.verdict() != Verdict.LEFT_OUT) {
                continue;
            }
            Rule rule = was.trail().get(was.trail().size() - 1).rule();
            seen.add(rule);
            Change change = change(random, before);
            if (change.after().decide(item).verdict() != Verdict.LEFT_OUT) {
                assertThat(change.reopened())
                        .as("case %d: %s on %s, then %s", i, before, item, change.after())
                        .contains(rule);
                undone.merge(rule, 1, Integer::sum);
            }
        }
        Set<Rule> named = EnumSet.copyOf(Rule.LEAVING_OUT);
        named.removeAll(FINAL);
        // a rule that is never seen to be undone would be one that this test says nothing of
        assertThat(undone.keySet()).isEqualTo(named);
        assertThat(seen).isEqualTo(named);
    }

    @Test
    void eachInputReopensSomething() {
        for (Input input : Input.values()) {
            assertThat(Rule.reopenedBy(input)).as("%s", input).isNotEmpty();
        }
    }

    private static Around around(Random random) {
        Around a = new Around();
        a.policy = random.nextInt(20) == 0 ? Optional.empty() : Optional.of(policy(random));
        a.own = some(random, "@corvane.example", "@aside.example", "@skarvik.example", "@rask.example");
        a.addresses = some(random, EVERYONE);
        a.dotless = some(random, "@corvane.example", "@skarvik.example");
        a.exclusions = exclusions(random);
        a.pinned = random.nextInt(6) == 0;
        a.since = World.NOON.minus(Duration.ofDays(random.nextInt(3) * 10L));
        a.until = random.nextInt(6) == 0 ? World.NOON.minus(Duration.ofDays(5)) : null;
        a.calendar = random.nextBoolean();
        a.hand = hand(random);
        return a;
    }

    private static ManualOverride hand(Random random) {
        return switch (random.nextInt(8)) {
            case 0 -> ManualOverride.count("x");
            case 1 -> ManualOverride.keepOut("x");
            default -> ManualOverride.NONE;
        };
    }

    private static Set<String> some(Random random, String... of) {
        Set<String> some = new TreeSet<>();
        for (String one : of) {
            if (random.nextInt(3) == 0) {
                some.add(one);
            }
        }
        return some;
    }

    private static List<Exclusion> exclusions(Random random) {
        List<Exclusion> exclusions = new ArrayList<>();
        String[] keys = {"bram@skarvik.example", "@skarvik.example", "@rask.example"};
        for (int i = 0; i < keys.length; i++) {
            if (random.nextInt(6) == 0) {
                UUID policy = random.nextBoolean() ? null : new UUID(0, 1 + random.nextInt(2));
                Exclusion e = Exclusion.of(new UUID(5, i), keys[i], "");
                exclusions.add(new Exclusion(e.id(), e.kind(), e.what(), "", new Exclusion.Limits(policy, null, null)));
            }
        }
        return exclusions;
    }

    private static Policy policy(Random random) {
        return Policy.first()
                .named(new UUID(0, 1 + random.nextInt(2)), 1, "P")
                .with(new Scope(
                        random.nextInt(3) > 0,
                        random.nextInt(3) > 0,
                        Direction.values()[random.nextInt(Direction.values().length)],
                        Direction.NONE,
                        random.nextInt(2) * 10,
                        60))
                .with(new Handling(
                        Handling.Private.values()[random.nextInt(2)],
                        Handling.Vanished.values()[random.nextInt(3)],
                        Handling.Vanished.values()[random.nextInt(3)],
                        Handling.Vanished.values()[random.nextInt(3)],
                        Handling.Series.values()[random.nextInt(2)],
                        ""))
                .with(new Ties(
                        random.nextBoolean() ? Ties.SAFE.kinds() : Set.of(RecordKind.ACCOUNT),
                        Ties.TieBreak.FIRST,
                        random.nextBoolean()));
    }

    /** Something of what is around becomes what it is in another. */
    private static Change change(Random random, Around was) {
        Around other = around(random);
        Around is = was.copy();
        Set<UUID> people = Set.of(new UUID(1, 1));
        switch (random.nextInt(9)) {
            case 0 -> {
                Policy after = other.policy.orElseGet(Policy::first);
                is.policy = Optional.of(was.policy.isPresent() ? oneThing(random, was.policy.get(), after) : after);
                Set<Input> changed = Input.changed(was.policy, is.policy.get());
                // the first day moves with the policy alone
                is.since = changed.contains(Input.SINCE) ? other.since : was.since;
                return new Change(is, rules(Reopened.moved(was.policy, is.policy.get(), people)));
            }
            case 1 -> {
                is.own = other.own;
                return new Change(is, rules(Reopened.domains(was.own, is.own, Set.of(), Set.of())));
            }
            case 2 -> {
                is.addresses = other.addresses;
                return new Change(is, rules(Reopened.addresses(was.addresses, is.addresses)));
            }
            case 3 -> {
                is.dotless = other.dotless;
                return new Change(is, rules(Reopened.dotless(was.dotless, is.dotless)));
            }
            case 4 -> {
                is.exclusions = List.of();
                Set<UUID> gone = was.exclusions.stream().map(Exclusion::id).collect(Collectors.toSet());
                return new Change(is, rules(Reopened.included(gone)));
            }
            case 5 -> {
                is.pinned = !was.pinned;
                return new Change(is, rules(Reopened.pinned(new UUID(1, 1))));
            }
            case 6 -> {
                is.until = other.until;
                return new Change(is, rules(Reopened.standing(people)));
            }
            case 7 -> {
                is.calendar = !was.calendar;
                return new Change(is, rules(Reopened.calendar(new UUID(1, 1))));
            }
            default -> {
                // what somebody chose comes with the item, which is then seen again as a whole
                is.hand = other.hand;
                return new Change(is, Rule.reopenedBy(Input.HAND));
            }
        }
    }

    private static Policy oneThing(Random random, Policy now, Policy other) {
        return switch (random.nextInt(4)) {
            case 0 -> now.with(other.scope());
            case 1 -> now.with(other.handling());
            case 2 -> now.with(other.ties());
            default -> other;
        };
    }

    private static Set<Rule> rules(List<Reopened> reopened) {
        Set<Rule> rules = EnumSet.noneOf(Rule.class);
        for (Reopened r : reopened) {
            if (r instanceof Reopened.LeftOut out) {
                rules.addAll(out.rules());
            } else if (r instanceof Reopened.Copies copies) {
                rules.addAll(copies.rules());
            } else if (r instanceof Reopened.ExcludedBy) {
                rules.add(Rule.EXCLUDED);
            }
        }
        return rules;
    }

    private static Item item(Random random) {
        Instant at = World.NOON.minus(Duration.ofDays(random.nextInt(25)));
        List<Party> parties = new ArrayList<>();
        if (random.nextBoolean()) {
            parties.add(party(random, Part.FROM));
            for (int i = 0; i < random.nextInt(3); i++) {
                parties.add(party(random, random.nextInt(5) == 0 ? Part.BCC : Part.TO));
            }
            Nature.Kind kind = random.nextInt(3) > 0
                    ? Nature.Kind.ORDINARY
                    : Nature.Kind.values()[random.nextInt(Nature.Kind.values().length)];
            Nature nature = new Nature(kind, "");
            return new MailItem(
                    "mail:1", at, true, parties, "x", nature, List.of(), ThreadHeaders.NONE, inside(random), "");
        }
        parties.add(party(random, Part.ORGANISER));
        parties.add(party(random, Part.ATTENDEE));
        return new MeetingItem(
                "meeting:1",
                "1",
                random.nextBoolean() ? null : at,
                at,
                at.plusSeconds(3600),
                false,
                "",
                parties,
                "x",
                "",
                "",
                MeetingItem.Privacy.values()[random.nextInt(3)],
                MeetingItem.State.values()[random.nextInt(2)],
                0,
                0,
                List.of(),
                MeetingItem.Sort.MEETING,
                MeetingItem.Transparency.OPAQUE);
    }

    private static Inside inside(Random random) {
        return switch (random.nextInt(4)) {
            case 0 -> new Inside(new Inside.Carried("REQUEST", "1"), null, false);
            case 1 -> new Inside(null, new Inside.Forwarded(EmailAddress.of(any(random)), ""), false);
            default -> Inside.NOTHING;
        };
    }

    private static Party party(Random random, Part part) {
        return new Party(part, EmailAddress.of(any(random)), "");
    }

    private static String any(Random random) {
        return EVERYONE[random.nextInt(EVERYONE.length)];
    }
}
