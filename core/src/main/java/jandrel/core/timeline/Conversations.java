package jandrel.core.timeline;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.MailItem;
import jandrel.core.item.Party;
import jandrel.core.item.Subjects;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Tells which messages are one conversation: by what they answer (RFC 5322 §3.6.4), and where an answer does not say what it
 * answers, by its subject and the people on it. A pure function of the messages given, in any order.
 */
public final class Conversations {
    private static final Duration LONGEST_SILENCE = Duration.ofDays(60);

    private final Map<String, List<MailItem>> byStrand = new HashMap<>();
    private final Map<String, List<MailItem>> bySubject = new HashMap<>();

    private Conversations(List<MailItem> all) {
        for (MailItem mail : all) {
            strands(mail)
                    .forEach(s ->
                            byStrand.computeIfAbsent(s, k -> new ArrayList<>()).add(mail));
            bySubject.computeIfAbsent(subject(mail), k -> new ArrayList<>()).add(mail);
        }
    }

    /**
     * @param of one of them
     * @return its conversation, the message itself among it, the oldest first
     */
    public static List<MailItem> of(MailItem of, List<MailItem> among) {
        List<MailItem> all = new ArrayList<>(among);
        if (!all.contains(of)) {
            all.add(of);
        }
        return new Conversations(all).of(of);
    }

    /** @return each message in exactly one conversation, those of one the oldest first */
    public static List<List<MailItem>> all(List<MailItem> among) {
        Conversations conversations = new Conversations(among);
        Set<MailItem> told = new HashSet<>();
        List<List<MailItem>> all = new ArrayList<>();
        for (MailItem mail : among) {
            if (!told.contains(mail)) {
                List<MailItem> one = conversations.of(mail);
                told.addAll(one);
                all.add(one);
            }
        }
        return all;
    }

    private List<MailItem> of(MailItem of) {
        Set<MailItem> found = new LinkedHashSet<>(List.of(of));
        Deque<MailItem> next = new ArrayDeque<>(found);
        while (!next.isEmpty()) {
            for (MailItem other : related(next.poll())) {
                if (found.add(other)) {
                    next.add(other);
                }
            }
        }
        return found.stream()
                .sorted(java.util.Comparator.comparing(MailItem::at).thenComparing(MailItem::identity))
                .toList();
    }

    private Set<MailItem> related(MailItem mail) {
        Set<MailItem> related = new LinkedHashSet<>();
        strands(mail).forEach(s -> related.addAll(byStrand.getOrDefault(s, List.of())));
        for (MailItem other : bySubject.getOrDefault(subject(mail), List.of())) {
            if (answersBySubject(mail, other) || answersBySubject(other, mail)) {
                related.add(other);
            }
        }
        return related;
    }

    private static List<String> strands(MailItem mail) {
        List<String> strands = new ArrayList<>(mail.strand().before());
        if (!mail.strand().own().isEmpty()) {
            strands.add(mail.strand().own());
        }
        return strands;
    }

    private static String subject(MailItem mail) {
        return Subjects.bare(mail.subject()).toLowerCase(Locale.ROOT);
    }

    /** A last resort: an answer that names nothing it answers, to somebody who was on what it may answer. */
    private static boolean answersBySubject(MailItem answer, MailItem to) {
        return answer.strand().reply()
                && answer.strand().before().isEmpty()
                && !subject(answer).isBlank()
                && to.at().isBefore(answer.at())
                && Duration.between(to.at(), answer.at()).compareTo(LONGEST_SILENCE) <= 0
                && people(to).contains(answer.parties().get(0).address())
                && people(answer).contains(to.parties().get(0).address());
    }

    private static Set<EmailAddress> people(MailItem mail) {
        return mail.parties().stream().map(Party::address).collect(Collectors.toCollection(HashSet::new));
    }
}
