package jandrel.store.directory;

import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Whose rows are taken in: a file's, which change nothing that somebody set here; or those that somebody changes here.
 *
 * @param changed by key, the columns that somebody changes; null for a file's rows
 * @param marks by key, the columns that count as set by hand afterwards, where that is not those of before and the changed ones
 */
record Hand(@Nullable Map<String, Set<String>> changed, Map<String, Set<String>> marks) {
    static final Hand FILE = new Hand(null, Map.of());

    /** Not a file's. */
    boolean isSomebodys() {
        return changed != null;
    }

    boolean changes(String key, String column) {
        return changed != null && changed.getOrDefault(key, Set.of()).contains(column);
    }

    /** What a row comes to, with what was there before it. */
    <S extends DirectoryState<S>> S settled(S row, @Nullable S was, Set<String> columns) {
        if (changed == null) {
            return was == null ? row : row.keeping(was, Set.of(was.byHand())).marked(was.byHand());
        }
        Set<String> own = changed.getOrDefault(row.key(), Set.of());
        Set<String> marks = new TreeSet<>(own);
        if (was != null) {
            marks.addAll(Set.of(was.byHand()));
        }
        String[] all = new TreeSet<>(this.marks.getOrDefault(row.key(), marks)).toArray(String[]::new);
        if (was == null) {
            return row.marked(all);
        }
        Set<String> kept = new TreeSet<>(columns);
        kept.removeAll(own);
        return row.keeping(was, kept).marked(all);
    }
}
