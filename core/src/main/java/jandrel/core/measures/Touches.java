package jandrel.core.measures;

import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Cell;
import jandrel.core.measures.Sheet.Column;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.Sheet.Unit;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** How long ago accounts were touched. */
public final class Touches {
    private static final List<Column> COLUMNS = List.of(
            new Column("accounts", Unit.COUNT),
            new Column("this week", Unit.COUNT),
            new Column("this month", Unit.COUNT),
            new Column("this quarter", Unit.COUNT),
            new Column("longer ago", Unit.COUNT),
            new Column("never", Unit.COUNT),
            new Column("nothing next", Unit.COUNT),
            new Column("only theirs", Unit.COUNT),
            new Column("reply pending", Unit.COUNT));
    /** As the lists of records have them. */
    private static final int[] DAYS = {7, 30, 90};

    /** Its column: before it stand all accounts, their ages, and never. */
    private static final int NOTHING_NEXT = DAYS.length + 3;

    private Touches() {}

    /**
     * An account.
     *
     * @param ours when ours last wrote
     * @param theirs when they last wrote
     * @param met when a meeting was last held
     * @param last when anything last took place, be it something that the reader may not read: that it did is no secret
     * @param hasNext whether a meeting is ahead
     * @param hides whether the reader may not read all of it, so that who wrote last is not known
     */
    public record Account(
            UUID id,
            @Nullable UUID owner,
            @Nullable Instant ours,
            @Nullable Instant theirs,
            @Nullable Instant met,
            @Nullable Instant last,
            boolean hasNext,
            boolean hides) {
        boolean onlyTheirs() {
            return !hides && theirs != null && ours == null && met == null;
        }

        boolean waitsForAnswer() {
            return !hides
                    && theirs != null
                    && (ours == null || theirs.isAfter(ours))
                    && (met == null || theirs.isAfter(met));
        }
    }

    /** See {@link Measure#LAST_TOUCH}. */
    public static Sheet of(List<Account> accounts, By by, Only only, TeamHistory teams, Instant now) {
        Map<String, Tally> lines = new TreeMap<>();
        Tally total = new Tally();
        int hidden = 0;
        boolean needsTeam = by == By.TEAM || only.team() != null;
        for (Account account : accounts) {
            UUID owner = account.owner();
            String team = needsTeam ? teams.of(owner, now) : "";
            if (only.isOf(account.id()) && only.has(owner, team)) {
                String key = by == By.TEAM ? team : owner == null ? "" : owner.toString();
                BitSet columns = columns(account, now);
                Behind row = new Behind(null, account.id());
                total.add(columns, row);
                lines.computeIfAbsent(key, k -> new Tally()).add(columns, row);
                hidden += account.hides() ? 1 : 0;
            }
        }
        List<Line> done = new ArrayList<>();
        lines.forEach((key, tally) -> done.add(tally.line(key)));
        return new Sheet(COLUMNS, done, total.line(""), hidden);
    }

    /** In which columns an account counts. */
    private static BitSet columns(Account account, Instant now) {
        BitSet columns = new BitSet(COLUMNS.size());
        columns.set(0);
        columns.set(1 + age(account, now));
        columns.set(NOTHING_NEXT, !account.hasNext());
        columns.set(NOTHING_NEXT + 1, account.onlyTheirs());
        columns.set(NOTHING_NEXT + 2, account.waitsForAnswer());
        return columns;
    }

    /** Those of a line, by the columns in which they count. */
    private static final class Tally {
        private final List<List<Behind>> columns =
                COLUMNS.stream().<List<Behind>>map(c -> new ArrayList<>()).toList();

        void add(BitSet counts, Behind row) {
            for (int column = counts.nextSetBit(0); column >= 0; column = counts.nextSetBit(column + 1)) {
                columns.get(column).add(row);
            }
        }

        Line line(String key) {
            return new Line(
                    key,
                    columns.get(0).size(),
                    columns.stream().map(Cell::count).toList());
        }
    }

    /** Which of the ages, the last for never. */
    private static int age(Account account, Instant now) {
        Instant last = account.last();
        if (last == null) {
            return DAYS.length + 1;
        }
        long days = ChronoUnit.DAYS.between(last, now);
        int age = 0;
        while (age < DAYS.length && days >= DAYS[age]) {
            age++;
        }
        return age;
    }
}
