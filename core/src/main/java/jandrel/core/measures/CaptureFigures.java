package jandrel.core.measures;

import jandrel.core.decide.Verdict;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Cell;
import jandrel.core.measures.Sheet.Column;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.Sheet.Unit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What became of all that was seen. */
public final class CaptureFigures {
    private static final String SEEN = "seen";
    private static final String SHARE = "logged of all";
    private static final List<Column> COLUMNS = List.of(
            new Column(SEEN, Unit.COUNT),
            new Column("logged", Unit.COUNT),
            new Column("waiting", Unit.COUNT),
            new Column("left out", Unit.COUNT),
            new Column("unreadable", Unit.COUNT),
            new Column(SHARE, Unit.SHARE));

    private CaptureFigures() {}

    /**
     * See {@link Measure#CAPTURE}.
     *
     * @param always lines that stand there whether there is something in them or not
     */
    public static Sheet of(Collection<Tally<Verdict>> tallies, Collection<String> always) {
        return Tally.sheet(COLUMNS, Verdict.class, tallies, always, CaptureFigures::line);
    }

    /** What a column counts; nothing where it counts all. */
    public static Optional<Verdict> verdict(String column) {
        String wanted = column.equals(SHARE) ? Verdict.LOGGED.word() : column.replace(' ', '-');
        return Arrays.stream(Verdict.values())
                .filter(v -> v.word().equals(wanted))
                .findFirst();
    }

    private static Line line(String key, Map<Verdict, Long> of) {
        long seen = of.values().stream().mapToLong(n -> n).sum();
        List<Cell> cells = new ArrayList<>(List.of(count(seen)));
        for (Column column : COLUMNS.subList(1, COLUMNS.size() - 1)) {
            cells.add(count(of.getOrDefault(verdict(column.name()).orElseThrow(), 0L)));
        }
        long logged = of.getOrDefault(Verdict.LOGGED, 0L);
        cells.add(new Cell(seen == 0 ? null : (double) logged / seen, new Elsewhere(logged)));
        return new Line(key, (int) Math.min(seen, Integer.MAX_VALUE), cells);
    }

    static Cell count(long decisions) {
        return new Cell((double) decisions, new Elsewhere(decisions));
    }

    /** So many that the database is asked for when somebody wants to see them: there may be millions. */
    private static final class Elsewhere extends Sheet.Rows {
        private final int size;

        Elsewhere(long size) {
            this.size = (int) Math.min(size, Integer.MAX_VALUE);
        }

        @Override
        public Behind get(int index) {
            throw new UnsupportedOperationException("these are asked for by what they are counted by");
        }

        @Override
        public int size() {
            return size;
        }
    }
}
