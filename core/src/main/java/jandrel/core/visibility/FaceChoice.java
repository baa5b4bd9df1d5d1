package jandrel.core.visibility;

import java.util.Collections;
import java.util.Set;
import java.util.UUID;

/**
 * Which of several faces of an activity a viewer gets, where its copies say different things.
 *
 * @param number 0 for the copy of highest standing
 * @param mine who brought a copy that says this
 * @param elsewhere who brought one that says something else
 * @param rivals who reads a later one (of the first), or an earlier one (of the others)
 */
public record FaceChoice(int number, Set<UUID> mine, Set<UUID> elsewhere, Readers rivals) {
    public FaceChoice {
        mine = Set.copyOf(mine);
        elsewhere = Set.copyOf(elsewhere);
    }

    /**
     * Whether it is the one that a viewer gets: the one that they brought, else the first that they read, else the first.
     *
     * @param ids what stands for the viewer among readers
     * @param readers who reads this one
     */
    public boolean isFor(Set<UUID> ids, Readers readers) {
        if (!Collections.disjoint(mine, ids)) {
            return true;
        }
        if (!Collections.disjoint(elsewhere, ids)) {
            return false;
        }
        return number == 0 ? readers.has(ids) || !rivals.has(ids) : readers.has(ids) && !rivals.has(ids);
    }
}
