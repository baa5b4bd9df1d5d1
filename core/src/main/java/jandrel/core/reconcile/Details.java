package jandrel.core.reconcile;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.MeetingItem.State;
import jandrel.core.item.MeetingItem.Transparency;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * What both sides can say of a meeting. Whatever else the calendar's own file holds is the calendar's alone.
 *
 * @param online the address to join online; may be empty
 * @param text what it is about; may be empty
 * @param busy whether it takes its owner's time (RFC 5545 §3.8.2.7)
 * @param reminder minutes before it begins; -1 for none
 * @param guests the addresses of those who are asked to it
 * @param answers of those guests who have answered
 */
public record Details(
        String title,
        When when,
        String place,
        String online,
        String text,
        boolean busy,
        Privacy privacy,
        int reminder,
        SortedSet<String> guests,
        SortedMap<String, Answer> answers,
        boolean cancelled) {
    /** No reminder. */
    public static final int NONE = -1;

    /**
     * One value: a beginning of the one side never meets an end of the other.
     *
     * @param zone the IANA zone that it is meant in; empty for UTC and for whole days
     */
    public record When(Instant begins, Instant ends, boolean allDay, String zone) {}

    public Details {
        guests = Collections.unmodifiableSortedSet(new TreeSet<>(guests));
        // what was kept before answers were has none
        TreeMap<String, Answer> given = answers == null ? new TreeMap<>() : new TreeMap<>(answers);
        given.keySet().retainAll(guests);
        answers = Collections.unmodifiableSortedMap(given);
    }

    public Details cancel() {
        return new Details(title, when, place, online, text, busy, privacy, reminder, guests, answers, true);
    }

    public Details titled(String named) {
        return new Details(named, when, place, online, text, busy, privacy, reminder, guests, answers, cancelled);
    }

    public Details with(SortedSet<String> asked) {
        return new Details(title, when, place, online, text, busy, privacy, reminder, asked, answers, cancelled);
    }

    public Details answered(SortedMap<String, Answer> given) {
        return new Details(title, when, place, online, text, busy, privacy, reminder, guests, given, cancelled);
    }

    public Details at(When moved) {
        return new Details(title, moved, place, online, text, busy, privacy, reminder, guests, answers, cancelled);
    }

    /** A meeting as these have it, made like the template. */
    public MeetingItem on(MeetingItem template, int sequence, Instant stamp) {
        List<Party> parties = new ArrayList<>();
        TreeSet<String> others = new TreeSet<>(guests);
        for (Party party : template.parties()) {
            String address = party.address().toString();
            if (!party.part().isGuest()) {
                parties.add(party);
            } else if (others.remove(address)) {
                Part part = party.part() == Part.GROUP ? Part.GROUP : part(address);
                parties.add(new Party(part, party.address(), party.name()));
            }
        }
        others.forEach(g -> parties.add(new Party(part(g), EmailAddress.of(g), "")));
        return new MeetingItem(
                template.identity(),
                template.uid(),
                template.recurrence(),
                when.begins(),
                when.ends(),
                when.allDay(),
                when.zone(),
                parties,
                title,
                place,
                online,
                privacy,
                cancelled ? State.CANCELLED : State.PLANNED,
                sequence,
                stamp.toEpochMilli(),
                template.categories(),
                template.sort(),
                busy ? Transparency.OPAQUE : Transparency.TRANSPARENT);
    }

    private Part part(String guest) {
        Answer answer = answers.get(guest);
        return answer == null ? Part.ATTENDEE : answer.part();
    }
}
