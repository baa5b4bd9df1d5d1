package jandrel.core.measures;

import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Cell;
import jandrel.core.measures.Sheet.Column;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.Sheet.Unit;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** Of whom something was captured, and when: the past as it was. */
public final class CoverageFigures {
    private static final List<Column> COLUMNS = List.of(
            new Column("people", Unit.COUNT),
            new Column("covered", Unit.COUNT),
            new Column("connected", Unit.COUNT),
            new Column("not connected", Unit.COUNT),
            new Column("not covered", Unit.COUNT),
            new Column("connected of all", Unit.SHARE));

    /**
     * @param since when they came on record
     * @param until the first day of which nothing of theirs is captured, whatever a policy says; null for open
     */
    public record Known(
            UUID person, Instant since, @Nullable LocalDate until) {}

    /** @param covered false once no policy has them any more */
    public record Covered(UUID person, Instant at, UUID policy, boolean covered) {}

    public record Connected(UUID person, UUID connection, Instant at, boolean connected) {}

    /** How somebody stands at a moment. */
    private record Stand(UUID person, String team, @Nullable UUID policy, boolean isConnected) {}

    private final List<Known> people;
    private final Map<UUID, TreeMap<Instant, Covered>> covered = new HashMap<>();
    private final Map<UUID, List<Connected>> connected = new HashMap<>();
    private final Only only;
    private final TeamHistory teams;
    private final Instant now;

    /**
     * @param covered in order of time, as {@code connected}
     * @param covers of whom the reader may know
     */
    public CoverageFigures(
            Collection<Known> people,
            Collection<Covered> covered,
            Collection<Connected> connected,
            Only only,
            TeamHistory teams,
            Predicate<UUID> covers,
            Instant now) {
        this.people = people.stream().filter(k -> covers.test(k.person())).toList();
        covered.forEach(c ->
                this.covered.computeIfAbsent(c.person(), p -> new TreeMap<>()).put(c.at(), c));
        connected.forEach(c -> this.connected
                .computeIfAbsent(c.person(), p -> new ArrayList<>(1))
                .add(c));
        this.only = only;
        this.teams = teams;
        this.now = now;
    }

    /** See {@link Measure#COVERAGE}. */
    public Sheet of(Span span, By by) {
        List<Stand> atItsEnd = standing(span.end(), span);
        List<Line> lines = new ArrayList<>();
        Map<String, Instant> begins = span.begins(by);
        if (begins.isEmpty()) {
            Map<String, List<Stand>> grouped = new TreeMap<>();
            atItsEnd.forEach(s ->
                    grouped.computeIfAbsent(key(s, by), k -> new ArrayList<>()).add(s));
            grouped.forEach((key, some) -> lines.add(line(key, some)));
        } else {
            Iterator<Instant> ends = begins.values().iterator();
            ends.next();
            begins.keySet()
                    .forEach(key -> lines.add(line(key, standing(ends.hasNext() ? ends.next() : span.end(), span))));
        }
        return new Sheet(COLUMNS, lines, line("", atItsEnd), 0);
    }

    private static String key(Stand s, By by) {
        if (by == By.POLICY) {
            return s.policy() == null ? "" : s.policy().toString();
        }
        return s.team();
    }

    /** Just before that moment, or now where it is still to come. */
    private List<Stand> standing(Instant before, Span span) {
        Instant at = before.isAfter(now) ? now : before.minusNanos(1);
        List<Stand> standing = new ArrayList<>();
        for (Known k : people) {
            String team = teams.of(k.person(), at);
            if (!k.since().isAfter(at) && only.has(k.person(), team)) {
                boolean ended = k.until() != null && !k.until().isAfter(span.day(at));
                UUID policy = ended ? null : policy(k.person(), at);
                standing.add(new Stand(k.person(), team, policy, policy != null && isConnected(k.person(), at)));
            }
        }
        return standing;
    }

    private @Nullable UUID policy(UUID person, Instant at) {
        TreeMap<Instant, Covered> known = covered.get(person);
        Map.Entry<Instant, Covered> then = known == null ? null : known.floorEntry(at);
        return then == null || !then.getValue().covered()
                ? null
                : then.getValue().policy();
    }

    private boolean isConnected(UUID person, Instant at) {
        Set<UUID> open = new HashSet<>();
        for (Connected c : connected.getOrDefault(person, List.of())) {
            if (!c.at().isAfter(at)) {
                if (c.connected()) {
                    open.add(c.connection());
                } else {
                    open.remove(c.connection());
                }
            }
        }
        return !open.isEmpty();
    }

    private static Line line(String key, List<Stand> some) {
        List<Behind> all = behind(some, s -> true);
        List<Behind> connected = behind(some, Stand::isConnected);
        return new Line(
                key,
                all.size(),
                List.of(
                        Cell.count(all),
                        Cell.count(behind(some, s -> s.policy() != null)),
                        Cell.count(connected),
                        Cell.count(behind(some, s -> s.policy() != null && !s.isConnected())),
                        Cell.count(behind(some, s -> s.policy() == null)),
                        Cell.share(connected, all.size())));
    }

    private static List<Behind> behind(List<Stand> some, Predicate<Stand> which) {
        return some.stream()
                .filter(which)
                .map(s -> new Behind(null, s.person()))
                .toList();
    }
}
