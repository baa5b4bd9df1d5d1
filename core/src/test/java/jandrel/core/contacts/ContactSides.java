package jandrel.core.contacts;

import jandrel.core.contacts.ContactDetails.NameParts;
import jandrel.core.reconcile.Base;
import jandrel.core.reconcile.Conflict;
import jandrel.core.reconcile.Exchange;
import jandrel.core.reconcile.Exchange.Entry;
import jandrel.core.reconcile.Exchange.Found;
import jandrel.core.reconcile.Exchange.Outcome;
import jandrel.core.reconcile.Exchange.Sending;
import jandrel.core.reconcile.Preference;
import jandrel.core.reconcile.Preference.Deleted;
import jandrel.core.reconcile.Side;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * One contact of the directory and its cards in several books, each exchanged by itself: what one book changes reaches the others by the
 * directory. Some programs drop the mark that a write leaves on a card.
 */
final class ContactSides implements Exchange.Ledger<String, ContactDetails>, Exchange.Remote<String, ContactDetails> {
    private static final Instant MONDAY = Instant.parse("2026-03-02T09:00:00Z");
    private static final int MOST_ROUNDS = 12;

    private static final class NoAnswer extends RuntimeException {
        private static final long serialVersionUID = 1L;
    }

    private record Card(ContactDetails details, int tag, int changedAt, String mark) {
        Card changed(ContactDetails now, int next, int at, boolean drops) {
            return new Card(now, next, at, drops ? "" : mark);
        }
    }

    /** What somebody is asked about a removal, and what they answered. */
    private enum Asked {
        NOTHING,
        REMOVED_HERE,
        REMOVED_THERE,
        TO_REMOVE
    }

    private record Link(
            @Nullable Base<ContactDetails> base,
            @Nullable Sending<ContactDetails> sending,
            boolean detached,
            Asked asked) {
        boolean waits() {
            return asked == Asked.REMOVED_HERE || asked == Asked.REMOVED_THERE;
        }

        Link with(Asked now) {
            return new Link(base, sending, detached, now);
        }
    }

    private final Exchange<String, ContactDetails> exchange = new Exchange<>(ContactField.CONTACT, this, this);
    private final Preference preference;
    private final SplittableRandom random;
    private final Map<String, Link> links = new LinkedHashMap<>();
    private final Map<String, Card> cards = new LinkedHashMap<>();
    private @Nullable ContactDetails here;
    private int changedHere;
    private long version = 1;
    private int clock;
    private int tags;
    private int fault;
    final Set<Conflict<ContactDetails>> journal = new HashSet<>();
    /** What somebody entered, and what of it was taken away by somebody who saw it. */
    private final Set<String> entered = new HashSet<>();

    private final Set<String> replaced = new HashSet<>();

    final List<String> story = new ArrayList<>();
    final List<String> problems = new ArrayList<>();
    int writes;
    int receipts;
    int questions;

    ContactSides(Preference preference, SplittableRandom random, int books) {
        this.preference = preference;
        this.random = random;
        here = named("first");
        for (int b = 0; b < books; b++) {
            links.put("book" + b, new Link(null, null, false, Asked.NOTHING));
            if (!preference.gives()) {
                // what only comes in has come from there
                cards.put("book" + b, new Card(here, ++tags, 0, ""));
            }
        }
    }

    private static ContactDetails named(String name) {
        return ContactDetails.called(name, new NameParts("", name, "", "", ""));
    }

    /** One thing that happens, as a number tells. */
    void step(long dice) {
        SplittableRandom step = new SplittableRandom(dice);
        clock++;
        int what = step.nextInt(11);
        String book = "book" + step.nextInt(links.size());
        if (what < 3) {
            ContactDetails now = here;
            if (now != null) {
                here = edited(now, step, "here");
                changedHere = clock;
                version++;
            }
        } else if (what < 6) {
            Card card = cards.get(book);
            if (card != null) {
                cards.put(book, card.changed(edited(card.details(), step, book), ++tags, clock, step.nextInt(4) == 0));
                news(book);
            }
        } else if (what == 6 && step.nextInt(6) == 0) {
            story.add(book + " deletes");
            Card card = cards.remove(book);
            if (card != null) {
                seen(card.details(), null);
                news(book);
            }
        } else if (what == 7 && step.nextInt(8) == 0) {
            story.add("here deletes");
            if (here != null) {
                seen(here, null);
            }
            removedHere();
        } else if (what == 10) {
            answer(book, step);
        } else {
            fault = step.nextInt(6);
            story.add("settles " + book + " with fault " + fault);
            settle(book);
            fault = 0;
        }
    }

    /** What is new at a book that somebody was asked about is looked at in the usual way. */
    private void news(String book) {
        Link link = links.get(book);
        if (link.waits()) {
            links.put(book, link.with(Asked.NOTHING));
        }
    }

    private void answer(String book, SplittableRandom step) {
        Link link = links.get(book);
        if (!link.waits()) {
            return;
        }
        boolean removes = step.nextBoolean();
        story.add(
                book + ": " + link.asked() + ", somebody says to " + (removes ? "remove the other" : "keep the other"));
        if (removes && link.asked() == Asked.REMOVED_HERE) {
            links.put(book, link.with(Asked.TO_REMOVE));
            return;
        }
        if (removes && here != null) {
            seen(here, null);
            removedHere();
        }
        links.put(book, new Link(null, null, true, Asked.NOTHING));
    }

    /** Whom nobody has any more, nobody is asked about. */
    private void removedHere() {
        here = null;
        changedHere = clock;
        version++;
        links.replaceAll((book, l) -> l.asked() == Asked.REMOVED_THERE ? l.with(Asked.NOTHING) : l);
    }

    private ContactDetails edited(ContactDetails was, SplittableRandom step, String who) {
        ContactField field = ContactField.values()[step.nextInt(ContactField.values().length)];
        String value = "<" + who + clock + ">";
        ContactDetails other = other(was, value, step);
        ContactDetails now = field.put(was, other);
        story.add(who + " changes " + field + " to " + field.words(now));
        if (now.toString().contains(value)) {
            entered.add(value);
        }
        seen(was, now);
        return now;
    }

    private void seen(ContactDetails was, @Nullable ContactDetails now) {
        String before = was.toString();
        String after = String.valueOf(now);
        entered.stream().filter(e -> before.contains(e) && !after.contains(e)).forEach(replaced::add);
    }

    /** All parts otherwise: a single one has another value, a list one more member, one less, or one that is something else. */
    private static ContactDetails other(ContactDetails was, String value, SplittableRandom step) {
        TreeSet<String> categories = new TreeSet<>(was.categories());
        if (step.nextInt(3) == 0 && !categories.isEmpty()) {
            categories.remove(categories.first());
        } else {
            categories.add(value);
        }
        return new ContactDetails(
                value,
                new NameParts(value, "", "", "", ""),
                value,
                value,
                value,
                value,
                members(was.mails(), value, step),
                members(was.phones(), value, step),
                members(was.places(), value, step),
                members(was.urls(), value, step),
                value,
                value,
                categories);
    }

    private static SortedMap<String, String> members(
            SortedMap<String, String> was, String value, SplittableRandom step) {
        TreeMap<String, String> members = new TreeMap<>(was);
        int what = was.isEmpty() ? 0 : step.nextInt(4);
        switch (what) {
            case 2 -> members.remove(members.lastKey());
            case 3 -> members.put(members.firstKey(), step.nextInt(2) == 0 ? "work" : "home");
            default -> members.put(value, "");
        }
        return members;
    }

    private @Nullable Outcome settle(String book) {
        try {
            Preference removing = new Preference(
                    preference.wins(),
                    false,
                    preference.deletedThere(),
                    Deleted.REMOVE,
                    preference.takesUp(),
                    preference.gives());
            Outcome outcome = exchange.settle(book, links.get(book).asked() == Asked.TO_REMOVE ? removing : preference);
            writes += outcome == Outcome.SENT || outcome == Outcome.MERGED ? 1 : 0;
            receipts += outcome == Outcome.RECEIVED || outcome == Outcome.MERGED ? 1 : 0;
            return outcome;
        } catch (NoAnswer lost) {
            return null;
        }
    }

    /** Quiet now: after a few rounds nothing moves any more, and all that are in step have the same. */
    void end() {
        for (String book : links.keySet()) {
            settle(book);
            answer(book, random);
        }
        rest();
        // what came to rest may have been the answer that somebody else's removal waits for
        for (String book : links.keySet()) {
            answer(book, random);
        }
        rest();
        check();
    }

    private void rest() {
        int round = 0;
        for (boolean moves = true; moves; round++) {
            moves = false;
            for (String book : links.keySet()) {
                Outcome outcome = settle(book);
                moves |= outcome != Outcome.SAME;
            }
            if (round == MOST_ROUNDS) {
                problems.add("it does not come to rest");
                return;
            }
        }
    }

    private void check() {
        links.forEach((book, link) -> {
            Card card = cards.get(book);
            if (link.waits() && (card == null) == (here == null)) {
                problems.add(book + " asks about nothing: " + link.asked());
            }
            if (!link.detached()
                    && !link.waits()
                    && preference.gives()
                    && (card == null ? here != null : !card.details().equals(here))) {
                problems.add(book + " has " + card + ", here is " + here);
            }
        });
        String everything = here + " " + cards + " " + journal;
        entered.stream()
                .filter(e -> !replaced.contains(e) && !everything.contains(e))
                .forEach(e -> problems.add(e + " is lost"));
    }

    @Override
    public Entry<ContactDetails> read(String book) {
        Link link = links.get(book);
        return new Entry<>(
                new Side<>(here, MONDAY.plusSeconds(60L * changedHere)),
                link.base(),
                link.sending(),
                link.detached() || link.waits(),
                version);
    }

    @Override
    public void note(String book, List<Conflict<ContactDetails>> conflicts) {
        journal.addAll(conflicts);
    }

    @Override
    public void sending(
            String book,
            @Nullable Base<ContactDetails> base,
            @Nullable Sending<ContactDetails> sending,
            List<Conflict<ContactDetails>> conflicts) {
        note(book, conflicts);
        links.put(
                book,
                new Link(
                        base,
                        sending,
                        links.get(book).detached(),
                        links.get(book).asked()));
    }

    @Override
    public boolean agree(
            String book, long known, @Nullable ContactDetails now, @Nullable ContactDetails agreed, boolean detached) {
        if (known != version) {
            return false;
        }
        if (here != null && now == null) {
            removedHere();
        } else if (!java.util.Objects.equals(here, now)) {
            if (here == null) {
                links.replaceAll((b, l) -> l.asked() == Asked.REMOVED_HERE ? l.with(Asked.NOTHING) : l);
            }
            here = now;
            changedHere = clock;
            version++;
        }
        links.put(book, new Link(Base.of(agreed), null, detached, Asked.NOTHING));
        return true;
    }

    @Override
    public boolean ask(String book, long known, boolean deletedHere) {
        if (known != version) {
            return false;
        }
        questions++;
        links.put(
                book,
                new Link(links.get(book).base(), null, false, deletedHere ? Asked.REMOVED_HERE : Asked.REMOVED_THERE));
        return true;
    }

    @Override
    public Found<ContactDetails> find(String book) {
        Card card = cards.get(book);
        return card == null
                ? new Found<>(null, null, "", Instant.EPOCH)
                : new Found<>(
                        card.details(),
                        String.valueOf(card.tag()),
                        card.mark(),
                        MONDAY.plusSeconds(60L * card.changedAt()));
    }

    @Override
    public boolean write(String book, @Nullable ContactDetails details, @Nullable String tag, String mark) {
        int now = fault;
        fault = 0;
        if (!preference.gives()) {
            problems.add("written to " + book + ", which nothing goes out to");
        }
        if (now == 1) {
            story.add("the write is lost before it comes there");
            throw new NoAnswer();
        }
        if (now == 2 && cards.containsKey(book)) {
            Card changing = cards.get(book);
            cards.put(
                    book,
                    changing.changed(edited(changing.details(), random, book), ++tags, clock, random.nextInt(4) == 0));
        }
        if (now == 3 && here != null) {
            here = edited(here, random, "here");
            changedHere = clock;
            version++;
        }
        Card card = cards.get(book);
        if (!java.util.Objects.equals(card == null ? null : String.valueOf(card.tag()), tag)) {
            return false;
        }
        if (details == null) {
            cards.remove(book);
        } else {
            cards.put(book, new Card(details, ++tags, clock, mark));
        }
        if (now == 4) {
            story.add("its answer is lost");
            throw new NoAnswer();
        }
        return true;
    }
}
