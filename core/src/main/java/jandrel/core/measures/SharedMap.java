package jandrel.core.measures;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.BiConsumer;
import org.jspecify.annotations.Nullable;

/**
 * A map that shares with the one it was made from whatever did not change: to make one with a few changes of very many costs next to
 * nothing. Never changed itself.
 */
final class SharedMap<V> {
    private static final int PARTS = 1 << 8;
    private final List<Map<UUID, V>> parts;

    private SharedMap(List<Map<UUID, V>> parts) {
        this.parts = parts;
    }

    static <V> SharedMap<V> empty() {
        return new SharedMap<>(Collections.nCopies(PARTS, Map.of()));
    }

    private static int part(UUID id) {
        int hash = id.hashCode();
        // as maps do: ids that count up differ in few of their bits
        return (hash ^ (hash >>> 8) ^ (hash >>> 16) ^ (hash >>> 24)) & (PARTS - 1);
    }

    @Nullable
    V get(UUID id) {
        return parts.get(part(id)).get(id);
    }

    List<UUID> ids() {
        List<UUID> all = new ArrayList<>();
        parts.forEach(p -> all.addAll(p.keySet()));
        return all;
    }

    List<V> values() {
        List<V> all = new ArrayList<>();
        parts.forEach(p -> all.addAll(p.values()));
        return all;
    }

    void forEach(BiConsumer<UUID, V> each) {
        parts.forEach(p -> p.forEach(each));
    }

    Editing edit() {
        return new Editing();
    }

    /** The changes from which another is made. */
    final class Editing {
        private final List<Map<UUID, V>> edited = new ArrayList<>(parts);
        private final BitSet copied = new BitSet(PARTS);

        @Nullable
        V get(UUID id) {
            return edited.get(part(id)).get(id);
        }

        void put(UUID id, V value) {
            own(id).put(id, value);
        }

        /** @return what it was */
        @Nullable
        V remove(UUID id) {
            return get(id) == null ? null : own(id).remove(id);
        }

        private Map<UUID, V> own(UUID id) {
            int part = part(id);
            if (!copied.get(part)) {
                copied.set(part);
                edited.set(part, new HashMap<>(edited.get(part)));
            }
            return edited.get(part);
        }

        /** Nothing may be changed afterwards. */
        SharedMap<V> done() {
            return new SharedMap<>(Collections.unmodifiableList(edited));
        }
    }
}
