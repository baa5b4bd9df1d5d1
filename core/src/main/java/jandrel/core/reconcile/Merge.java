package jandrel.core.reconcile;

import jandrel.core.reconcile.Preference.Wins;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * The three-way merge of one thing: what both sides shall have, from what each has and what they last agreed on. A pure function.
 *
 * @param result what stands; null for nothing
 * @param deletedHere whether nothing stands because our side deleted it; else the other did
 */
public record Merge<D>(@Nullable D result, boolean deletedHere, List<Conflict<D>> conflicts) {
    private static final String DELETED = "deleted";

    /** @param base what each side's changes are told from; null while there is nothing that they ever agreed on */
    public static <D> Merge<D> of(
            Shape<D> shape, @Nullable Base<D> base, Side<D> here, Side<D> there, Preference preference) {
        D ours = here.details();
        D theirs = there.details();
        if (ours == null && theirs == null) {
            return new Merge<>(null, true, List.of());
        }
        if (ours == null || theirs == null) {
            return oneSided(shape, base, ours, theirs, preference);
        }
        List<Conflict<D>> conflicts = new ArrayList<>(0);
        D result = ours;
        boolean hereWins = hereWins(here, there, preference);
        for (Part<D> part : shape.parts()) {
            Object ourValue = part.of(ours);
            Object theirValue = part.of(theirs);
            if (ourValue.equals(theirValue)) {
                continue;
            }
            if (!preference.takesUp() && !part.isTheirs()) {
                if (base == null || !part.of(base.there()).equals(theirValue)) {
                    conflicts.add(conflict(part, true, ours, theirs));
                }
                continue;
            }
            Part.Combined<D> combined = part.combine(base, ours, theirs, hereWins);
            if (combined != null) {
                if (combined.clash()) {
                    conflicts.add(conflict(part, hereWins, ours, theirs));
                }
                result = part.put(result, combined.value());
            } else if (base != null && part.of(base.here()).equals(ourValue)) {
                result = part.put(result, theirs);
            } else if (base == null
                    || !part.of(base.here()).equals(part.of(base.there())) // ours was made without knowing theirs
                    || !part.of(base.there()).equals(theirValue)) {
                conflicts.add(conflict(part, hereWins, ours, theirs));
                result = hereWins ? result : part.put(result, theirs);
            }
        }
        return new Merge<>(result, false, List.copyOf(conflicts));
    }

    /** One side has it, the other has not (yet), or not any more. */
    private static <D> Merge<D> oneSided(
            Shape<D> shape, @Nullable Base<D> base, @Nullable D ours, @Nullable D theirs, Preference preference) {
        boolean deletedHere = ours == null;
        D left = Objects.requireNonNull(deletedHere ? theirs : ours);
        if (base == null) {
            return new Merge<>(left, false, List.of());
        }
        D before = deletedHere ? base.there() : base.here();
        // one that was told to mark ours as cancelled has not changed it
        boolean marked = deletedHere
                && preference.deletedHere() == Preference.Deleted.CANCEL
                && shape.cancel(before).equals(left);
        boolean unseen = deletedHere && !base.here().equals(base.there());
        if ((before.equals(left) && !unseen) || marked) {
            return new Merge<>(null, deletedHere, List.of());
        }
        boolean hereWon = deletedHere == preference.deletionWins();
        String changed = changes(shape, before, left);
        Conflict<D> conflict = new Conflict<>(
                null,
                hereWon,
                deletedHere ? DELETED : changed,
                deletedHere ? changed : DELETED,
                preference.deletionWins() ? left : null);
        return new Merge<>(preference.deletionWins() ? null : left, deletedHere, List.of(conflict));
    }

    private static <D> Conflict<D> conflict(Part<D> part, boolean hereWins, D ours, D theirs) {
        return new Conflict<>(part, hereWins, part.words(ours), part.words(theirs), hereWins ? theirs : ours);
    }

    /** Where the times are the same, the other's stands: it is the one that others see. */
    private static boolean hereWins(Side<?> here, Side<?> there, Preference preference) {
        return preference.wins() == Wins.HERE
                || (preference.wins() == Wins.LATER && here.changedAt().isAfter(there.changedAt()));
    }

    private static <D> String changes(Shape<D> shape, D agreed, D changed) {
        List<String> parts = new ArrayList<>();
        for (Part<D> part : shape.parts()) {
            if (!part.of(agreed).equals(part.of(changed))) {
                parts.add(part.name().toLowerCase(java.util.Locale.ROOT) + " " + part.words(changed));
            }
        }
        return String.join(", ", parts);
    }
}
