package jandrel.core.policy;

import jandrel.core.reconcile.Preference;
import jandrel.core.reconcile.Preference.Deleted;
import jandrel.core.reconcile.Preference.Wins;

/**
 * How what is made here is kept in step with calendars.
 *
 * @param title how it is called there: a pattern with {@code {title}}, and perhaps {@code {account}} and {@code {with}}
 * @param rings whether the calendar rings the reminder
 * @param wins whose value stands where both sides changed the same
 * @param deletionWins whether a deletion stands against a change; else the change lives
 * @param deletedHere what becomes of the calendar's own when it is deleted here
 */
public record Keeping(String title, boolean rings, Wins wins, boolean deletionWins, Deleted deletedHere) {
    /** By its own title, ringing there; the later change stands, a change lives, a deletion is one. */
    public static final Keeping SAFE = new Keeping(Titles.TITLE, true, Wins.LATER, false, Deleted.REMOVE);

    public Preference preference(Handling.Vanished deletedThere) {
        Deleted there = switch (deletedThere) {
            case REMOVE -> Deleted.REMOVE;
            case MARK -> Deleted.CANCEL;
            case KEEP -> Deleted.KEEP;
        };
        return new Preference(wins, deletionWins, there, deletedHere);
    }
}
