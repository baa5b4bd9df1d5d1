package jandrel.core.measures;

import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Cell;
import jandrel.core.measures.Sheet.Column;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.Sheet.Unit;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Predicate;
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
        Map<String, List<Account>> lines = new TreeMap<>();
        List<Account> all = accounts.stream()
                .filter(a -> only.isOf(a.id()) && only.has(a.owner(), teams.of(a.owner(), now)))
                .toList();
        for (Account account : all) {
            UUID owner = account.owner();
            String key = by == By.TEAM ? teams.of(owner, now) : owner == null ? "" : owner.toString();
            lines.computeIfAbsent(key, k -> new ArrayList<>()).add(account);
        }
        List<Line> done = new ArrayList<>();
        lines.forEach((key, some) -> done.add(line(key, some, now)));
        return new Sheet(COLUMNS, done, line("", all, now), (int)
                all.stream().filter(Account::hides).count());
    }

    private static Line line(String key, List<Account> some, Instant now) {
        List<Cell> cells = new ArrayList<>();
        cells.add(count(some, a -> true));
        for (int age = 0; age <= DAYS.length; age++) {
            int wanted = age;
            cells.add(count(some, a -> age(a, now) == wanted));
        }
        cells.add(count(some, a -> a.last() == null));
        cells.add(count(some, a -> !a.hasNext()));
        cells.add(count(some, Account::onlyTheirs));
        cells.add(count(some, Account::waitsForAnswer));
        return new Line(key, some.size(), cells);
    }

    private static Cell count(List<Account> some, Predicate<Account> which) {
        return Cell.count(
                some.stream().filter(which).map(a -> new Behind(null, a.id())).toList());
    }

    /** Which of the ages; -1 for never. */
    private static int age(Account account, Instant now) {
        Instant last = account.last();
        if (last == null) {
            return -1;
        }
        long days = Duration.between(last, now).toDays();
        int age = 0;
        while (age < DAYS.length && days >= DAYS[age]) {
            age++;
        }
        return age;
    }
}
