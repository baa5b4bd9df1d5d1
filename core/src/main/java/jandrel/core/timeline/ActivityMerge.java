package jandrel.core.timeline;

import jandrel.core.decide.Decision;
import jandrel.core.decide.Link;
import jandrel.core.decide.OwnPart;
import jandrel.core.decide.Reason;
import jandrel.core.decide.Rule;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Sketch;
import jandrel.core.policy.Differences;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.visibility.Readers;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Makes activities of all copies that name themselves alike: a pure function of the set, whatever order they came in.
 *
 * <p>Which copies are one item, {@link Copies} says. Of one item everybody reads the copy that they brought themselves; what others
 * read is the copy of the highest standing, as far as its own readers go. So a copy gives its bringer what that copy says, and nobody
 * anything more.
 */
public final class ActivityMerge {
    private static final Comparator<Logged> HIGHEST_FIRST = Comparator.comparing(ActivityMerge::standing)
            .thenComparing(l -> l.item().version(), Comparator.reverseOrder())
            .thenComparing(l -> l.item() instanceof MailItem m ? Sketch.letters(m.sketch()) : 0)
            .thenComparing(l -> l.item().toString())
            .thenComparing(Logged::person)
            .thenComparing(Logged::copy);
    private static final List<Rule> MARKS =
            List.of(Rule.CANCELLED_MARKED, Rule.GONE_MARKED, Rule.DECLINED_BY_ALL, Rule.MISSED_BY_WORD);

    private static final Readers NOBODY = Readers.only(Set.of());

    private ActivityMerge() {}

    private static int standing(Logged copy) {
        return switch (copy.decision().part()) {
            case AUTHOR -> 0;
            case NAMED -> 1;
            case BLIND, UNNAMED -> 2;
        };
    }

    /**
     * @param key what the copies name themselves by; the id of their activity where they are one item
     * @param copies all logged copies of it
     * @param rulings what people chose for their copies, by person
     * @return one for each item, the first of them with the key as its id; empty when there is no copy
     */
    public static List<Activity> combine(UUID key, Collection<Logged> copies, Map<UUID, Ruling> rulings) {
        if (copies.isEmpty()) {
            return List.of();
        }
        if (copies.size() == 1 && rulings.isEmpty()) {
            return List.of(alone(key, copies.iterator().next()));
        }
        List<List<Logged>> items = new ArrayList<>();
        for (List<Logged> item : Copies.apart(copies)) {
            items.add(item.stream().sorted(HIGHEST_FIRST).toList());
        }
        items.sort(Comparator.comparing((List<Logged> item) -> standing(item.get(0)))
                .thenComparing(
                        item -> -item.stream().map(Logged::person).distinct().count())
                .thenComparing(ActivityMerge::least));
        List<Activity> activities = new ArrayList<>(items.size());
        for (List<Logged> item : items) {
            activities.add(of(activities.isEmpty() ? key : id(key, least(item)), item, rulings));
        }
        return activities;
    }

    /** Whose copies are one item with a copy of one of these people. */
    public static Set<UUID> together(Collection<Logged> copies, Set<UUID> people) {
        Set<UUID> together = new TreeSet<>();
        if (!copies.isEmpty()) {
            for (List<Logged> item : Copies.apart(copies)) {
                if (item.stream().anyMatch(copy -> people.contains(copy.person()))) {
                    item.forEach(copy -> together.add(copy.person()));
                }
            }
        }
        return together;
    }

    /** Most items are seen once: the same result as for many, without the merging. */
    private static Activity alone(UUID key, Logged only) {
        Decision decision = only.decision();
        Set<UUID> owner = Set.of(only.person());
        Face face = new Face(
                only.item(),
                readers(decision, only.person()),
                owner,
                Set.of(),
                NOBODY,
                Set.of(only.copy()),
                only.content(),
                decision.part() == OwnPart.AUTHOR ? owner : Set.of(),
                marks(List.of(only)));
        return new Activity(
                key,
                List.of(face),
                decision.links().stream().sorted().toList(),
                List.of(only.person()),
                decision.insiders());
    }

    private static UUID least(List<Logged> item) {
        return item.stream().map(Logged::copy).min(Comparator.naturalOrder()).orElseThrow();
    }

    private static UUID id(UUID key, UUID copy) {
        return new UUID(
                key.getMostSignificantBits() ^ copy.getMostSignificantBits(),
                key.getLeastSignificantBits() ^ copy.getLeastSignificantBits());
    }

    /** What all copies that say the same have in common. */
    private record Saying(Object words, @Nullable UUID content) {
        static Saying of(Logged copy) {
            Item item = copy.item();
            Object words = item instanceof MeetingItem m ? Copies.says(m) : openly(item);
            return new Saying(words, copy.content());
        }

        /** Without the blind copies, which the sender's copy alone names, and without what servers add. */
        private static Object openly(Item item) {
            if (!(item instanceof MailItem m)) {
                return item;
            }
            List<String> people = m.openly(Set.of()).parties().stream()
                    .map(p -> p.part() + " " + p.address())
                    .sorted()
                    .toList();
            return List.of(m.at(), m.subject(), people, m.strand(), m.inside());
        }
    }

    /** @param copies of one item, the highest first */
    private static Activity of(UUID id, List<Logged> copies, Map<UUID, Ruling> rulings) {
        Map<Saying, List<Logged>> sayings = new LinkedHashMap<>();
        copies.forEach(c ->
                sayings.computeIfAbsent(Saying.of(c), s -> new ArrayList<>(1)).add(c));
        List<List<Logged>> all = List.copyOf(sayings.values());
        Map<UUID, Integer> whose = new TreeMap<>();
        for (int i = 0; i < all.size(); i++) {
            for (Logged copy : all.get(i)) {
                whose.putIfAbsent(copy.person(), i);
            }
        }
        List<Readers> readers = new ArrayList<>(all.size());
        List<List<Reason>> trails = new ArrayList<>(all.size());
        List<Reason> marks = marks(weighty(copies));
        Set<Voice> voices = new java.util.LinkedHashSet<>();
        copies.forEach(c -> voices.add(
                new Voice(c.person(), c.decision().part().isOpen(), c.decision().sharing())));
        for (List<Logged> saying : all) {
            Set<Reason> trail = new java.util.LinkedHashSet<>(marks);
            readers.add(readersOf(saying, voices, rulings, trail));
            trails.add(List.copyOf(trail));
        }
        List<Face> faces = new ArrayList<>(all.size());
        Readers before = NOBODY;
        for (int i = 0; i < all.size(); i++) {
            Readers rivals = i == 0 ? together(readers.subList(1, all.size())) : before;
            before = together(List.of(before, readers.get(i)));
            Set<UUID> mine = new TreeSet<>();
            Set<UUID> elsewhere = new TreeSet<>();
            int face = i;
            whose.forEach((person, theirs) -> (theirs == face ? mine : elsewhere).add(person));
            Set<UUID> ids = new TreeSet<>();
            Set<UUID> authors = new TreeSet<>();
            for (Logged copy : all.get(i)) {
                ids.add(copy.copy());
                if (copy.decision().part() == OwnPart.AUTHOR) {
                    authors.add(copy.person());
                }
            }
            Logged highest = all.get(i).get(0);
            faces.add(new Face(
                    highest.item(),
                    readers.get(i),
                    mine,
                    elsewhere,
                    rivals,
                    ids,
                    highest.content(),
                    authors,
                    trails.get(i)));
        }
        Set<UUID> insiders = new TreeSet<>();
        all.get(0).forEach(c -> insiders.addAll(c.decision().insiders()));
        Set<UUID> owners = new TreeSet<>();
        // of mail, an owner who is not seen on it may have a blind copy; a meeting stands in calendars for all to see
        boolean meeting = copies.get(0).item() instanceof MeetingItem;
        (meeting ? copies : weighty(copies)).forEach(c -> owners.add(c.person()));
        return new Activity(id, faces, links(all.get(0), copies), List.copyOf(owners), insiders);
    }

    /** The copies of those who are seen to take part; all where nobody is, such as what came through a list. */
    private static List<Logged> weighty(List<Logged> copies) {
        if (copies.size() == 1) {
            return copies;
        }
        List<Logged> open =
                copies.stream().filter(c -> c.decision().part().isOpen()).toList();
        return open.isEmpty() ? copies : open;
    }

    /** What ties the copies that say what is shown; and to what somebody tied any of them. */
    private static List<Link> links(List<Logged> shown, List<Logged> copies) {
        Map<UUID, Link> links = new TreeMap<>();
        for (Logged copy : shown) {
            copy.decision().links().forEach(link -> links.merge(link.record(), link, ActivityMerge::stronger));
        }
        for (Logged copy : copies) {
            for (Link link : copy.decision().links()) {
                if (link.evidence() == Link.Evidence.RULING) {
                    links.merge(link.record(), link, ActivityMerge::stronger);
                }
            }
        }
        return links.values().stream().sorted().toList();
    }

    private static Link stronger(Link a, Link b) {
        Link stronger = a.evidence().compareTo(b.evidence()) <= 0 ? a : b;
        return a.blind() != b.blind() && stronger.blind()
                ? new Link(stronger.kind(), stronger.record(), stronger.evidence())
                : stronger;
    }

    private static Readers together(Collection<Readers> several) {
        if (several.stream().anyMatch(Readers::everyone)) {
            return Readers.EVERYONE;
        }
        Set<UUID> all = new TreeSet<>();
        several.forEach(r -> all.addAll(r.people()));
        return Readers.only(all);
    }

    /** Who reads what several copies say alike: those who may read it by one of them. */
    private static Readers readersOf(
            List<Logged> saying, Set<Voice> voices, Map<UUID, Ruling> rulings, Set<Reason> trail) {
        List<Readers> each = new ArrayList<>(saying.size());
        for (Logged copy : saying) {
            each.add(readersOf(copy, voices, rulings, trail));
        }
        return each.size() == 1 ? each.get(0) : together(each);
    }

    /** The narrowest of what the owners of this copy and of those that count for it let be read. */
    private static Readers readersOf(Logged copy, Set<Voice> voices, Map<UUID, Ruling> rulings, Set<Reason> trail) {
        Set<UUID> owner = Set.of(copy.person());
        Decision decision = copy.decision();
        Sharing narrowest = decision.sharing();
        Sharing widest = narrowest;
        for (Voice other : voices) {
            if (counts(other, copy)) {
                Sharing theirs = other.sharing();
                widest = widest.narrower(theirs) == theirs ? widest : theirs;
                narrowest = narrowest.narrower(theirs);
            }
        }
        if (narrowest != widest) {
            trail.add(new Reason(Rule.NARROWEST_COUNTS, Map.of("readers", Differences.sharing(narrowest))));
        }
        Readers readers = readers(narrowest, owner, decision.insiders(), decision.teams());
        if (rulings.isEmpty()) {
            return readers;
        }
        boolean closed = false;
        for (Map.Entry<UUID, Ruling> chosen : rulings.entrySet()) {
            Ruling ruling = chosen.getValue();
            if (!ruling.opens()
                    && voices.stream().anyMatch(v -> v.person().equals(chosen.getKey()) && counts(v, copy))) {
                trail.add(new Reason(Rule.CLOSED_BY, Map.of("by", ruling.by(), "to", ruling.to())));
                Set<UUID> left = new TreeSet<>(ruling.readers());
                if (closed) {
                    left.retainAll(readers.people());
                }
                left.addAll(owner);
                readers = Readers.only(left);
                closed = true;
            }
        }
        Ruling own = rulings.get(copy.person());
        if (own != null && own.opens() && !closed) {
            trail.add(new Reason(Rule.OPENED_BY, Map.of("by", own.by(), "to", own.to())));
            if (!readers.everyone()) {
                Set<UUID> more = new TreeSet<>(readers.people());
                more.addAll(own.readers());
                readers = Readers.only(more);
            }
        }
        return readers;
    }

    /** What the owner of a copy lets be read, which may count for other copies of the item, too. */
    private record Voice(UUID person, boolean open, Sharing sharing) {}

    /** Whether the owner of one copy has a say in who reads another: who takes part in it has; who is seen on neither, too. */
    private static boolean counts(Voice one, Logged other) {
        return one.person().equals(other.person())
                || other.decision().insiders().contains(one.person())
                || (!one.open() && !other.decision().part().isOpen());
    }

    /** What is cancelled or deleted at every source that showed it, where the policies mark that. */
    private static List<Reason> marks(Collection<Logged> copies) {
        List<Reason> marks = new ArrayList<>(0);
        for (Rule mark : MARKS) {
            if (copies.stream().allMatch(s -> s.decision().trail().stream().anyMatch(r -> r.rule() == mark))) {
                marks.add(new Reason(mark, Map.of()));
            }
        }
        return marks;
    }

    /** Who reads what one decision alone lets be read. */
    public static Readers readers(Decision decision, UUID person) {
        return readers(decision.sharing(), Set.of(person), decision.insiders(), decision.teams());
    }

    /** Who reads what one copy, or several, let be read this widely. */
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
}
