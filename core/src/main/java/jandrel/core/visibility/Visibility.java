package jandrel.core.visibility;

import java.util.Set;
import java.util.UUID;
import java.util.function.Predicate;

/** What one viewer gets of one activity. Decided here and nowhere else; every way out asks. */
public enum Visibility {
    /** All of it. */
    FULL,
    /** When, what kind and whose. */
    OUTLINE,
    /** Not even that there is one. */
    HIDDEN;

    /** How many people must be behind a number before it tells of items that the asker may not read. */
    public static final int SEVERAL = 3;

    /** An auditor proves that capture keeps to its rules, and needs nobody's words for that: never more than the outline. */
    public static Visibility of(Viewer viewer, Readers readers) {
        if (viewer.role() == Role.AUDITOR) {
            return OUTLINE;
        }
        return readers.has(viewer.ids()) ? FULL : OUTLINE;
    }

    /** Which of very many a viewer gets in full: what is the same for all of them is found out once. */
    public static Predicate<Readers> full(Viewer viewer) {
        if (of(viewer, Readers.EVERYONE) != FULL) {
            return readers -> false;
        }
        Set<UUID> ids = viewer.ids();
        return readers -> readers.has(ids);
    }
}
