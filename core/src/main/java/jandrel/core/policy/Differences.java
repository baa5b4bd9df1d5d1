package jandrel.core.policy;

import jandrel.core.directory.RecordKind;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;

/** A policy in sentences, and two versions of one compared sentence by sentence. */
public final class Differences {
    private Differences() {}

    /** What it says, one setting a sentence, always in the same order. */
    public static List<String> sentences(Policy p, ZoneId zone) {
        List<String> all = new ArrayList<>();
        all.add("It is called “" + p.name() + "” and covers " + p.audience().words() + ".");
        all.add("Mail received " + captured(p.scope().received()) + ".");
        all.add("Mail sent " + captured(p.scope().sent()) + ".");
        Folders folders = p.scope().folders();
        all.add("Of each mailbox it looks at " + listed(folders.include())
                + (folders.exclude().isEmpty() ? "" : ", but not at " + listed(folders.exclude()))
                + ", unless its owner chose otherwise.");
        all.add("Meetings: " + word(p.scope().meetings()) + ".");
        all.add("Contacts: " + word(p.scope().contacts()) + "."
                + p.books().words(p.scope().contacts()));
        all.add("It looks " + days(p.scope().backDays()) + " back.");
        all.add("It looks " + days(p.scope().aheadDays()) + " ahead.");
        all.add("Private items are "
                + (p.handling().privateItems() == Handling.Private.OUTLINE
                        ? "logged for their owner alone; others see when and whose"
                        : "left out")
                + ".");
        all.add("Cancelled meetings are " + vanished(p.handling().cancelled()) + ".");
        all.add("A meeting deleted from its calendar is "
                + vanished(p.handling().deleted()) + ".");
        all.add("Mail deleted or filed away by its owner is "
                + vanished(p.handling().deletedMail()) + ".");
        all.add(
                p.handling().loggedKeyword().isEmpty()
                        ? "Logged messages get no keyword in their mailbox."
                        : "Logged messages get the keyword “" + p.handling().loggedKeyword() + "” in their mailbox.");
        all.add("Recurring meetings are "
                + (p.handling().series() == Handling.Series.LEAVE_OUT
                        ? "left out"
                        : "captured, each occurrence by itself")
                + ".");
        all.add("People are matched to " + kinds(p) + ".");
        all.add("When contacts share an address: " + tieBreak(p.ties().tieBreak()) + ".");
        all.add("The author of a message passed on by hand "
                + (p.ties().forwarded() ? "counts as if on it" : "is shown, but does not count") + ".");
        all.add("Read in full by " + sharing(p.sharing()) + ".");
        all.add("Sources are visited " + p.rhythm().words(zone) + ".");
        all.add(
                p.outward().isEmpty()
                        ? "Nothing goes out to calendars."
                        : "Out to calendars goes " + word(new TreeSet<>(p.outward())) + ".");
        Keeping keeping = p.keeping();
        all.add("There it is called “" + keeping.title() + "”, and "
                + (keeping.rings() ? "the calendar rings the reminder" : "nothing rings") + ".");
        all.add("Where both sides changed the same, "
                + switch (keeping.wins()) {
                    case HERE -> "what was entered here stands";
                    case CALENDAR -> "the calendar’s stands";
                    case LATER -> "the later one stands";
                }
                + "; " + (keeping.deletionWins() ? "a deletion" : "a change")
                + " stands against " + (keeping.deletionWins() ? "a change" : "a deletion") + ".");
        all.add("What is deleted here "
                + switch (keeping.deletedHere()) {
                    case REMOVE -> "is deleted in the calendar, too";
                    case CANCEL -> "is marked as cancelled in the calendar";
                    case KEEP -> "stays in the calendar";
                }
                + ".");
        all.add(
                keeping.asks()
                        ? "Guests of what is made here are asked to it."
                        : "Guests of what is made here are asked to it only where its maker wants that.");
        all.add(
                keeping.missed().isEmpty()
                        ? "What has ended was held, unless somebody says otherwise."
                        : "What has ended was held, unless somebody says otherwise, or its title or a category says “"
                                + String.join("” or “", keeping.missed()) + "”.");
        all.add(p.creation().words());
        all.add(p.opening().sentences());
        return all;
    }

    /** The sentences that differ, each as it was and as it is. */
    public static List<String> between(Policy before, Policy after, ZoneId zone) {
        List<String> old = sentences(before, zone);
        List<String> now = sentences(after, zone);
        List<String> changed = new ArrayList<>();
        for (int i = 0; i < now.size(); i++) {
            if (!old.get(i).equals(now.get(i))) {
                changed.add(old.get(i) + " → " + now.get(i));
            }
        }
        return changed;
    }

    public static String sharing(Policy.Sharing sharing) {
        return switch (sharing) {
            case EVERYONE -> "everyone";
            case TEAM -> "the owner’s team and those on it";
            case THOSE_ON_IT -> "those on it";
            case OWNER -> "the owner alone";
        };
    }

    private static String captured(boolean is) {
        return is ? "is captured" : "is not captured";
    }

    private static String listed(List<String> words) {
        return words.isEmpty() ? "nothing" : "“" + String.join("”, “", words) + "”";
    }

    private static String days(int days) {
        return days == 1 ? "1 day" : String.format(Locale.ROOT, "%,d days", days);
    }

    private static String vanished(Handling.Vanished what) {
        return switch (what) {
            case KEEP -> "kept";
            case MARK -> "kept and marked";
            case REMOVE -> "taken off the timeline";
        };
    }

    private static String kinds(Policy p) {
        List<String> kinds =
                new TreeSet<>(p.ties().kinds()).stream().map(RecordKind::plural).toList();
        return kinds.isEmpty() ? "nothing" : String.join(", ", kinds);
    }

    private static String tieBreak(Ties.TieBreak tieBreak) {
        return switch (tieBreak) {
            case OWNER_THEN_RECENT -> "the one whose account owner is on the item, else the most recently active";
            case MOST_RECENT -> "the most recently active";
            case FIRST -> "the first by key";
            case OLDEST -> "the one that came here first";
            case ALL -> "all of them";
        };
    }

    private static String word(Object value) {
        return value.toString().toLowerCase(Locale.ROOT).replace('_', '-').replaceAll("[\\[\\]]", "");
    }
}
