package jandrel.core.measures;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** In which team everybody was, and when: the past counts as it was, also for those who have changed teams since. */
public final class TeamHistory {
    private final Map<UUID, TreeMap<Instant, String>> all = new HashMap<>();

    /** @param team from then on; empty for none */
    public record Joined(UUID person, Instant at, String team) {}

    public TeamHistory(List<Joined> joined) {
        joined.forEach(
                j -> all.computeIfAbsent(j.person(), p -> new TreeMap<>()).put(j.at(), j.team()));
    }

    /** Empty for none. Before anything is known of somebody, their first team counts. */
    String of(@Nullable UUID person, Instant at) {
        TreeMap<Instant, String> known = person == null ? null : all.get(person);
        if (known == null) {
            return "";
        }
        Map.Entry<Instant, String> then = known.floorEntry(at);
        return (then == null ? known.firstEntry() : then).getValue();
    }
}
