package jandrel.core.measures;

import jandrel.core.measures.Sheet.Cell;
import jandrel.core.measures.Sheet.Column;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.Sheet.Unit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** What became another verdict when it was decided again. */
public final class ChangeFigures {
    private static final String ALL = "changed";
    private static final List<Column> COLUMNS = List.of(
            new Column(ALL, Unit.COUNT),
            new Column(Way.LOGGED_NOW.word(), Unit.COUNT),
            new Column(Way.NO_LONGER_LOGGED.word(), Unit.COUNT),
            new Column(Way.OTHER.word(), Unit.COUNT));

    /** Where something came from and went to. */
    public enum Way {
        LOGGED_NOW,
        NO_LONGER_LOGGED,
        /** Such as what was left out and waits now. */
        OTHER;

        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', ' ');
        }
    }

    private ChangeFigures() {}

    /**
     * See {@link Measure#DECIDED_AGAIN}.
     *
     * @param always lines that stand there whether there is something in them or not
     */
    public static Sheet of(Collection<Tally<Way>> tallies, Collection<String> always) {
        return Tally.sheet(COLUMNS, Way.class, tallies, always, ChangeFigures::line);
    }

    /** What a column counts; nothing where it counts all. */
    public static Optional<Way> way(String column) {
        for (Way way : Way.values()) {
            if (way.word().equals(column)) {
                return Optional.of(way);
            }
        }
        return Optional.empty();
    }

    private static Line line(String key, Map<Way, Long> of) {
        long all = of.values().stream().mapToLong(n -> n).sum();
        List<Cell> cells = new ArrayList<>(List.of(CaptureFigures.count(all)));
        for (Way way : Way.values()) {
            cells.add(CaptureFigures.count(of.getOrDefault(way, 0L)));
        }
        return new Line(key, (int) Math.min(all, Integer.MAX_VALUE), cells);
    }
}
