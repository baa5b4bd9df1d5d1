package jandrel.core.reconcile;

import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * The three-way merge of a part that has members, each with a value of its own: whom one side added stays, whom one side took off goes,
 * and only a member that both sides changed otherwise is a clash.
 *
 * @param clash whether there was one
 */
public record Members<V>(SortedMap<String, V> merged, boolean clash) {
    public static <D, V> Members<V> of(
            @Nullable Base<D> base,
            D ours,
            D theirs,
            boolean hereWins,
            Function<D, ? extends SortedMap<String, V>> of) {
        SortedMap<String, V> merged = new TreeMap<>();
        boolean clash = false;
        SortedSet<String> all = new TreeSet<>(of.apply(ours).keySet());
        all.addAll(of.apply(theirs).keySet());
        for (String member : all) {
            V here = of.apply(ours).get(member);
            V there = of.apply(theirs).get(member);
            V wasHere = base == null ? null : of.apply(base.here()).get(member);
            V wasThere = base == null ? null : of.apply(base.there()).get(member);
            V stands = here;
            if (same(here, wasHere)) {
                stands = there;
            } else if (wasHere == null
                    && wasThere == null
                    && here != null
                    && there != null
                    && saysNothing(here, there)) {
                stands = saysNothing(here) ? there : here;
            } else if (!same(here, there) && (!same(there, wasThere) || !same(wasHere, wasThere))) {
                clash = true;
                stands = hereWins ? here : there;
            }
            if (stands != null) {
                merged.put(member, stands);
            }
        }
        return new Members<>(merged, clash);
    }

    /** Where both sides have it and one of them says nothing more of it, that is no other opinion. */
    private static boolean saysNothing(Object... values) {
        return java.util.Arrays.stream(values).anyMatch(""::equals);
    }

    private static boolean same(@Nullable Object one, @Nullable Object other) {
        return java.util.Objects.equals(one, other);
    }
}
