package jandrel.core.policy;

import jandrel.core.item.MeetingItem;
import jandrel.core.item.TitleWords;
import jandrel.core.reconcile.Preference;
import jandrel.core.reconcile.Preference.Deleted;
import java.util.List;
import java.util.Optional;

/**
 * How what is made here is kept in step with calendars.
 *
 * @param title how it is called there: a pattern with {@code {title}}, and perhaps {@code {account}} and {@code {with}}
 * @param rings whether the calendar rings the reminder
 * @param wins whose value stands where both sides changed the same
 * @param deletionWins whether a deletion stands against a change; else the change lives
 * @param deletedHere what becomes of the calendar's own when it is deleted here
 * @param asks whether the guests of what is made here are asked to it, unless its maker says otherwise
 * @param missed words of a title or a category that say that a meeting did not take place
 */
public record Keeping(
        String title,
        boolean rings,
        Stands wins,
        boolean deletionWins,
        DeletedHere deletedHere,
        boolean asks,
        List<String> missed) {
    /** By its own title, ringing there; the later change stands, a change lives, a deletion is one. */
    public static final Keeping SAFE =
            new Keeping(Titles.TITLE, true, Stands.LATER, false, DeletedHere.REMOVE, false, List.of());

    /** Whose value stands. The names are stored. */
    public enum Stands {
        HERE(Preference.Wins.HERE),
        CALENDAR(Preference.Wins.THERE),
        LATER(Preference.Wins.LATER);

        private final Preference.Wins wins;

        Stands(Preference.Wins wins) {
            this.wins = wins;
        }
    }

    /** What becomes of the calendar's own when it is deleted here. The names are stored. */
    public enum DeletedHere {
        REMOVE(Deleted.REMOVE),
        CANCEL(Deleted.CANCEL),
        KEEP(Deleted.KEEP);

        private final Deleted deleted;

        DeletedHere(Deleted deleted) {
            this.deleted = deleted;
        }
    }

    public Keeping {
        // what was written before there were such words has none
        missed = missed == null ? List.of() : List.copyOf(missed);
    }

    /** Whose value stands, as merging knows it. */
    Preference.Wins whoseWins() {
        return wins.wins;
    }

    /** The word by which a meeting says that it did not take place. A title holds it as a word of its own; a category is it. */
    public Optional<String> missed(MeetingItem meeting) {
        return missed.stream().filter(word -> TitleWords.in(meeting, word)).findFirst();
    }

    /** @param meetings where they only go out, nothing that the calendar changes is taken up, and what it deletes stays here */
    public Preference preference(Handling.Vanished deletedThere, Direction meetings) {
        Deleted there = switch (deletedThere) {
            case REMOVE -> Deleted.REMOVE;
            case MARK -> Deleted.CANCEL;
            case KEEP -> Deleted.KEEP;
        };
        boolean takesUp = meetings != Direction.OUT;
        return new Preference(wins.wins, deletionWins, takesUp ? there : Deleted.KEEP, deletedHere.deleted, takesUp);
    }
}
