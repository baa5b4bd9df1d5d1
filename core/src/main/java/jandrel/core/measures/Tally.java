package jandrel.core.measures;

import jandrel.core.measures.Sheet.Column;
import jandrel.core.measures.Sheet.Line;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.BiFunction;

/**
 * So many of a kind, as a database counts them.
 *
 * @param key of their line
 */
public record Tally<E extends Enum<E>>(String key, E kind, long count) {
    /**
     * A sheet of them.
     *
     * @param always lines that stand there whether there is something in them or not
     * @param line of a key, and how many of each kind there are
     */
    static <E extends Enum<E>> Sheet sheet(
            List<Column> columns,
            Class<E> kinds,
            Collection<Tally<E>> tallies,
            Collection<String> always,
            BiFunction<String, Map<E, Long>, Line> line) {
        Map<String, Map<E, Long>> lines = new TreeMap<>();
        always.forEach(key -> lines.put(key, new EnumMap<>(kinds)));
        Map<E, Long> total = new EnumMap<>(kinds);
        for (Tally<E> t : tallies) {
            lines.computeIfAbsent(t.key(), k -> new EnumMap<>(kinds)).merge(t.kind(), t.count(), Long::sum);
            total.merge(t.kind(), t.count(), Long::sum);
        }
        List<Line> done = new ArrayList<>();
        lines.forEach((key, of) -> done.add(line.apply(key, of)));
        return new Sheet(columns, done, line.apply("", total), 0);
    }
}
