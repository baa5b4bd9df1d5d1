package jandrel.core.measures;

import java.util.AbstractList;
import java.util.List;
import java.util.RandomAccess;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * A measure's figures: a line for each month, person, team, channel or stage.
 *
 * @param total of all lines together
 * @param hidden of how many accounts or opportunities it says less than it could, as the reader may not read all of theirs
 */
public record Sheet(List<Column> columns, List<Line> lines, Line total, int hidden) {
    static final int FEW = 5;

    public enum Unit {
        COUNT,
        /** From 0 to 1. */
        SHARE,
        DAYS,
        /** Worked ones. */
        HOURS,
        /** A number of meetings, be it a mean. */
        MEETINGS,
        MONEY
    }

    /** @param name in words, such as {@code shown up} */
    public record Column(String name, Unit unit) {}

    /**
     * @param key a month such as {@code 2026-11}, somebody's id, or the name of a team, a channel or a stage; empty for none
     * @param basis how many stand behind its figures
     */
    public record Line(String key, int basis, List<Cell> cells) {}

    /**
     * @param value null where there is none
     * @param rows exactly what it counts
     */
    public record Cell(@Nullable Double value, List<Behind> rows) {
        public Cell {
            rows = rows instanceof Rows ? rows : new Listed(rows.toArray(Behind[]::new));
        }

        static Cell count(List<Behind> rows) {
            return new Cell((double) rows.size(), rows);
        }

        /** @param of the whole, of which there may be none */
        static Cell share(List<Behind> rows, int of) {
            return new Cell(of == 0 ? null : (double) rows.size() / of, rows);
        }
    }

    /** Those that are made when they are looked at: of a year there may be a million. Never changes. */
    abstract static class Rows extends AbstractList<Behind> implements RandomAccess {}

    private static final class Listed extends Rows {
        private final Behind[] rows;

        Listed(Behind[] rows) {
            this.rows = rows;
        }

        @Override
        public Behind get(int index) {
            return rows[index];
        }

        @Override
        public int size() {
            return rows.length;
        }
    }

    /**
     * What a figure opens to.
     *
     * @param meeting null for a record alone
     * @param record an account, or an opportunity
     */
    public record Behind(@Nullable UUID meeting, UUID record) {}

    public Sheet {
        columns = List.copyOf(columns);
        lines = List.copyOf(lines);
    }
}
