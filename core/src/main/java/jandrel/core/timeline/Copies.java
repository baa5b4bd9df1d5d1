package jandrel.core.timeline;

import jandrel.core.decide.OwnPart;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.Sketch;
import jandrel.core.item.Subjects;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;

/**
 * Says which copies that name themselves alike (by Message-ID, or by UID and RECURRENCE-ID) are one item. Such a name can be written
 * by anybody who has seen it, so it is not enough: two copies are one if they name the same author, and either the owner of each takes
 * part in the other, or both say the same. What a copy claims can therefore tie it to nothing whose own copies do not name its owner.
 */
final class Copies {
    private static final int MOST_COMPARED = 64;
    private final List<Logged> copies;
    private final int[] root;

    private Copies(Collection<Logged> copies) {
        this.copies = List.copyOf(copies);
        root = new int[copies.size()];
        for (int i = 0; i < root.length; i++) {
            root[i] = i;
        }
    }

    /** @return the copies, those together that are one item */
    static Collection<List<Logged>> apart(Collection<Logged> copies) {
        if (copies.size() == 1) {
            return List.of(List.copyOf(copies));
        }
        Copies all = new Copies(copies);
        all.joinOfOneOwner().values().forEach(all::joinMutual);
        all.joinAlike();
        return all.groups();
    }

    /** Copies of one person that differ in none of these are one. */
    private record Side(UUID person, String author, boolean own, boolean open) {}

    /** Whom the copies of one side name. */
    private record Claim(int copy, UUID person, Set<UUID> names) {}

    /** @return the claims of each person, by the author that they name */
    private Map<String, Map<UUID, List<Claim>>> joinOfOneOwner() {
        Map<Side, Integer> first = new HashMap<>();
        Map<String, Map<UUID, List<Claim>>> byAuthor = new HashMap<>();
        Map<Side, Claim> claims = new HashMap<>();
        for (int i = 0; i < root.length; i++) {
            Logged copy = copies.get(i);
            String author = author(copy.item());
            boolean open = copy.decision().part().isOpen();
            // the organiser of a meeting is that before and after it has guests, and under each of their addresses
            boolean own = copy.decision().part() == OwnPart.AUTHOR;
            Integer known = first.putIfAbsent(new Side(copy.person(), own ? "" : author, own, open), i);
            if (known != null) {
                join(known, i);
            }
            int n = i;
            claims.computeIfAbsent(new Side(copy.person(), author, own, open), s -> {
                        Claim claim = new Claim(n, copy.person(), new HashSet<>());
                        byAuthor.computeIfAbsent(author, a -> new HashMap<>())
                                .computeIfAbsent(copy.person(), p -> new ArrayList<>(2))
                                .add(claim);
                        return claim;
                    })
                    .names()
                    .addAll(copy.decision().insiders());
        }
        return byAuthor;
    }

    private void joinMutual(Map<UUID, List<Claim>> claims) {
        for (List<Claim> mine : claims.values()) {
            for (Claim claim : mine) {
                for (UUID other : claim.names()) {
                    claims.getOrDefault(other, List.of()).stream()
                            .filter(theirs -> theirs.names().contains(claim.person()))
                            .forEach(theirs -> join(claim.copy(), theirs.copy()));
                }
            }
        }
    }

    private record Words(String author, String subject, String sketch) {
        boolean same(Words other) {
            return author.equals(other.author)
                    && (subject.contains(other.subject) || other.subject.contains(subject))
                    && Sketch.same(sketch, other.sketch);
        }
    }

    private void joinAlike() {
        Map<Words, Integer> mail = new LinkedHashMap<>();
        Map<String, Integer> meetings = new HashMap<>();
        for (int i = 0; i < root.length; i++) {
            Item item = copies.get(i).item();
            Integer known = null;
            if (item instanceof MeetingItem meeting) {
                known = meetings.putIfAbsent(says(meeting), i);
            } else if (item instanceof MailItem m && !m.sketch().equals(Sketch.NONE)) {
                String subject = Subjects.bare(m.subject()).toLowerCase(Locale.ROOT);
                known = mail.putIfAbsent(new Words(author(item), subject, m.sketch()), i);
            }
            if (known != null) {
                join(known, i);
            }
        }
        // the same words to the letter are found however many copies somebody brings; small differences among a few
        if (mail.size() <= MOST_COMPARED) {
            List<Map.Entry<Words, Integer>> all = List.copyOf(mail.entrySet());
            for (int i = 0; i < all.size(); i++) {
                for (int k = i + 1; k < all.size(); k++) {
                    if (all.get(i).getKey().same(all.get(k).getKey())) {
                        join(all.get(i).getValue(), all.get(k).getValue());
                    }
                }
            }
        }
    }

    /** Whom it names as its author: an address, or nothing. */
    private static String author(Item item) {
        for (Party party : item.parties()) {
            if (party.part() == Part.FROM || party.part() == Part.ORGANISER) {
                return party.address().toString();
            }
        }
        return "";
    }

    /** All of what a meeting says but for answers, and what each calendar adds of its own. */
    static String says(MeetingItem m) {
        StringBuilder words = new StringBuilder(200);
        words.append(m.at())
                .append(m.ends())
                .append(m.allDay())
                .append(m.state())
                .append('\n');
        words.append(m.subject()).append('\n').append(m.place()).append('\n').append(m.online());
        Set<String> people = new TreeSet<>();
        for (Party party : m.parties()) {
            people.add((party.part() == Part.ORGANISER ? "by " : "") + party.address());
        }
        people.forEach(p -> words.append('\n').append(p));
        return words.toString();
    }

    private int find(int i) {
        int at = i;
        while (root[at] != at) {
            root[at] = root[root[at]];
            at = root[at];
        }
        return at;
    }

    private void join(int a, int b) {
        root[find(a)] = find(b);
    }

    private Collection<List<Logged>> groups() {
        Map<Integer, List<Logged>> groups = new LinkedHashMap<>();
        for (int i = 0; i < root.length; i++) {
            groups.computeIfAbsent(find(i), r -> new ArrayList<>()).add(copies.get(i));
        }
        return groups.values();
    }
}
