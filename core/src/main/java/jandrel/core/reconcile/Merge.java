package jandrel.core.reconcile;

import jandrel.core.reconcile.Preference.Wins;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * The three-way merge of one meeting: what both sides shall have, from what each has and what they last agreed on. A pure function.
 *
 * @param result what stands; null for nothing
 * @param deletedHere whether nothing stands because our side deleted it; else the calendar did
 */
public record Merge(@Nullable Details result, boolean deletedHere, List<Conflict> conflicts) {
    private static final String DELETED = "deleted";

    /**
     * What a side's changes are told from. Mostly the same for both; where an answer of the calendar was lost, each side's own: what
     * ours was when it was sent, and what was written there.
     */
    public record Base(Details here, Details there) {
        public static @Nullable Base of(@Nullable Details agreed) {
            return agreed == null ? null : new Base(agreed, agreed);
        }

        /** Whether our side had been told what the calendar had; else a change of ours was made without knowing it. */
        private boolean seen(Field field) {
            return field.of(here).equals(field.of(there));
        }
    }

    /** @param base what each side's changes are told from; null while there is nothing that they ever agreed on */
    public static Merge of(@Nullable Base base, Side here, Side there, Preference preference) {
        Details ours = here.details();
        Details theirs = there.details();
        if (ours == null && theirs == null) {
            return new Merge(null, true, List.of());
        }
        if (ours == null || theirs == null) {
            return oneSided(base, ours, theirs, preference);
        }
        List<Conflict> conflicts = new ArrayList<>(0);
        Details result = ours;
        boolean hereWins = hereWins(here, there, preference);
        for (Field field : Field.values()) {
            Object ourValue = field.of(ours);
            Object theirValue = field.of(theirs);
            if (ourValue.equals(theirValue)) {
                continue;
            }
            if (!preference.takesUp() && field != Field.ANSWERS) {
                if (base == null || !field.of(base.there()).equals(theirValue)) {
                    conflicts.add(conflict(field, true, ours, theirs));
                }
            } else if (field == Field.GUESTS) {
                result = result.with(guests(base, ours.guests(), theirs.guests()));
            } else if (field == Field.ANSWERS) {
                Answers merged = Answers.of(base, ours, theirs, hereWins);
                if (merged.clash()) {
                    conflicts.add(conflict(field, hereWins, ours, theirs));
                }
                result = result.answered(merged.given());
            } else if (base != null && field.of(base.here()).equals(ourValue)) {
                result = field.put(result, theirs);
            } else if (base == null
                    || !base.seen(field)
                    || !field.of(base.there()).equals(theirValue)) {
                conflicts.add(conflict(field, hereWins, ours, theirs));
                result = hereWins ? result : field.put(result, theirs);
            }
        }
        return new Merge(result, false, List.copyOf(conflicts));
    }

    /** One side has it, the other has not (yet), or not any more. */
    private static Merge oneSided(
            @Nullable Base base, @Nullable Details ours, @Nullable Details theirs, Preference preference) {
        boolean deletedHere = ours == null;
        Details left = Objects.requireNonNull(deletedHere ? theirs : ours);
        if (base == null) {
            return new Merge(left, false, List.of());
        }
        Details before = deletedHere ? base.there() : base.here();
        // a calendar that was told to mark ours as cancelled has not changed it
        boolean marked = deletedHere
                && preference.deletedHere() == Preference.Deleted.CANCEL
                && before.cancel().equals(left);
        boolean unseen = deletedHere && !base.here().equals(base.there());
        if ((before.equals(left) && !unseen) || marked) {
            return new Merge(null, deletedHere, List.of());
        }
        boolean hereWon = deletedHere == preference.deletionWins();
        String changed = changes(before, left);
        Conflict conflict = new Conflict(
                null,
                hereWon,
                deletedHere ? DELETED : changed,
                deletedHere ? changed : DELETED,
                preference.deletionWins() ? left : null);
        return new Merge(preference.deletionWins() ? null : left, deletedHere, List.of(conflict));
    }

    private static Conflict conflict(Field field, boolean hereWins, Details ours, Details theirs) {
        return new Conflict(field, hereWins, field.words(ours), field.words(theirs), hereWins ? theirs : ours);
    }

    /** Of each guest by themselves: one may have answered by mail while another did so in the calendar. */
    private record Answers(SortedMap<String, Answer> given, boolean clash) {
        static Answers of(@Nullable Base base, Details ours, Details theirs, boolean hereWins) {
            SortedMap<String, Answer> given = new TreeMap<>();
            boolean clash = false;
            SortedSet<String> all = new TreeSet<>(ours.answers().keySet());
            all.addAll(theirs.answers().keySet());
            for (String guest : all) {
                Answer here = ours.answers().get(guest);
                Answer there = theirs.answers().get(guest);
                Answer wasHere = base == null ? null : base.here().answers().get(guest);
                Answer wasThere = base == null ? null : base.there().answers().get(guest);
                Answer stands = here;
                if (here == wasHere) {
                    stands = there;
                } else if (here != there && (there != wasThere || wasHere != wasThere)) {
                    clash = true;
                    stands = hereWins ? here : there;
                }
                if (stands != null) {
                    given.put(guest, stands);
                }
            }
            return new Answers(given, clash);
        }
    }

    /** Where the times are the same, the calendar's stands: it is the one that others see. */
    private static boolean hereWins(Side here, Side there, Preference preference) {
        return preference.wins() == Wins.HERE
                || (preference.wins() == Wins.LATER && here.changedAt().isAfter(there.changedAt()));
    }

    /** Whom either side added is asked, whom either side took off is not. */
    private static SortedSet<String> guests(@Nullable Base base, SortedSet<String> ours, SortedSet<String> theirs) {
        SortedSet<String> all = new TreeSet<>(ours);
        all.addAll(theirs);
        if (base != null) {
            all.removeIf(guest -> (base.here().guests().contains(guest) && !ours.contains(guest))
                    || (base.there().guests().contains(guest) && !theirs.contains(guest)));
        }
        return all;
    }

    private static String changes(Details agreed, Details changed) {
        List<String> fields = new ArrayList<>();
        for (Field field : Field.values()) {
            if (!field.of(agreed).equals(field.of(changed))) {
                fields.add(field.name().toLowerCase(java.util.Locale.ROOT) + " " + field.words(changed));
            }
        }
        return String.join(", ", fields);
    }
}
