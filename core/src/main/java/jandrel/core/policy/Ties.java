package jandrel.core.policy;

import jandrel.core.directory.RecordKind;
import java.util.Set;

/**
 * What attendees and correspondents are tied to.
 *
 * @param kinds the kinds of record that links may lead to
 * @param forwarded whether the author of a message that was passed on by hand counts as if on it
 */
public record Ties(Set<RecordKind> kinds, TieBreak tieBreak, boolean forwarded) {
    /** To everything there is. */
    public static final Ties SAFE = new Ties(
            Set.of(RecordKind.CONTACT, RecordKind.LEAD, RecordKind.ACCOUNT, RecordKind.OPPORTUNITY),
            TieBreak.OWNER_THEN_RECENT,
            false);

    public Ties(Set<RecordKind> kinds, TieBreak tieBreak) {
        this(kinds, tieBreak, false);
    }

    /** Which of several contacts with one address. */
    public enum TieBreak {
        /** The one whose account's owner is on the item, else the most recently active. */
        OWNER_THEN_RECENT,
        MOST_RECENT,
        /** The first by key. */
        FIRST,
        /** The one that came here first. */
        OLDEST,
        ALL
    }

    public Ties {
        kinds = Set.copyOf(kinds);
    }
}
