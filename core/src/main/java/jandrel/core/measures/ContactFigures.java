package jandrel.core.measures;

import jandrel.core.measures.ContactHour.Account;
import jandrel.core.measures.ContactHour.What;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Cell;
import jandrel.core.measures.Sheet.Column;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.Sheet.Unit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** How much mail and how many meetings there were. */
public final class ContactFigures {
    private static final List<Column> COLUMNS = List.of(
            new Column("mail in", Unit.COUNT),
            new Column("mail out", Unit.COUNT),
            new Column("meetings held", Unit.COUNT),
            new Column("meetings missed", Unit.COUNT),
            new Column("accounts", Unit.COUNT));
    /** The columns that count mail and meetings; the last counts accounts. */
    private static final int COUNTED = 4;

    private final Contacts all;
    private final Span span;
    private final By by;
    private final Only only;
    private final TeamHistory teams;
    private final Predicate<@Nullable UUID> whose;
    private final boolean needsTeam;
    private final Map<String, Tally> lines = new TreeMap<>();
    private final Map<Object, Tally> byKey = new HashMap<>();
    private final Tally total = new Tally();
    private int hidden;
    /** Most of what comes one after the other is of the same day. */
    private long day = Long.MIN_VALUE;

    private Tally ofDay = total;

    private ContactFigures(
            Contacts all, Span span, By by, Only only, TeamHistory teams, Predicate<@Nullable UUID> whose) {
        this.all = all;
        this.span = span;
        this.by = by;
        this.only = only;
        this.teams = teams;
        this.whose = whose;
        needsTeam = by == By.TEAM || only.team() != null;
    }

    /** See {@link Measure#CONTACT}. */
    public static Sheet of(
            Contacts all, Span span, By by, Only only, TeamHistory teams, Predicate<@Nullable UUID> whose) {
        return new ContactFigures(all, span, by, only, teams, whose).sheet();
    }

    private Sheet sheet() {
        span.lines(by).forEach(this::line);
        Span.Days days = span.days();
        all.each((contacts, i, position) -> {
            long itsDay = days.of(contacts.at(i));
            if (days.has(itsDay)) {
                count(contacts, i, position, itsDay);
            }
        });
        List<Line> done = new ArrayList<>();
        BitSet seen = new BitSet();
        lines.forEach((key, tally) -> done.add(tally.line(key, all, seen)));
        return new Sheet(COLUMNS, done, total.line("", all, seen), hidden);
    }

    private void count(ContactHour contacts, int i, int position, long itsDay) {
        if (only.account() != null && contacts.accounts(i).stream().noneMatch(a -> only.isOf(a.id()))) {
            return;
        }
        UUID owner = contacts.owner(i);
        String team = needsTeam ? teams.of(owner, Span.instant(contacts.at(i))) : "";
        if (!whose.test(owner) || !only.has(owner, team)) {
            return;
        }
        What what = all.what(contacts, i);
        if (what == null) {
            hidden++;
            return;
        }
        total.add(what, position);
        switch (by) {
            case MONTH, WEEK -> {
                if (itsDay != day) {
                    day = itsDay;
                    ofDay = line(by == By.MONTH ? Span.month(itsDay) : Span.week(itsDay));
                }
                ofDay.add(what, position);
            }
            case TEAM -> keyed(team).add(what, position);
            case ACCOUNT -> {
                List<Account> accounts = contacts.accounts(i);
                if (accounts.isEmpty()) {
                    keyed("").add(what, position);
                }
                accounts.forEach(a -> keyed(a.id()).add(what, position));
            }
            default -> keyed(owner == null ? "" : owner).add(what, position);
        }
    }

    private Tally line(String key) {
        return lines.computeIfAbsent(key, k -> new Tally());
    }

    private Tally keyed(Object key) {
        return byKey.computeIfAbsent(key, k -> line(k.toString()));
    }

    /** The positions of what stands behind a line's figures. */
    private static final class Tally {
        private final int[][] positions = new int[COUNTED][0];
        private final int[] sizes = new int[COUNTED];
        private int basis;

        private static int column(What what) {
            return switch (what) {
                case MAIL_IN -> 0;
                case MAIL_OUT -> 1;
                case HELD -> 2;
                case MISSED -> 3;
                case OTHER -> -1;
            };
        }

        void add(What what, int position) {
            basis++;
            int column = column(what);
            if (column >= 0) {
                if (sizes[column] == positions[column].length) {
                    positions[column] = Arrays.copyOf(positions[column], Math.max(4, 2 * sizes[column]));
                }
                positions[column][sizes[column]++] = position;
            }
        }

        /** @param seen empty, before and after */
        Line line(String key, Contacts all, BitSet seen) {
            List<Cell> cells = new ArrayList<>();
            for (int column = 0; column < positions.length; column++) {
                cells.add(Cell.count(new Positions(all, Arrays.copyOf(positions[column], sizes[column]))));
            }
            cells.add(Cell.count(accounts(all, seen)));
            return new Line(key, basis, cells);
        }

        private List<Behind> accounts(Contacts all, BitSet seen) {
            Accounts accounts = new Accounts(all);
            for (int column = 0; column < positions.length; column++) {
                all.eachAccount(positions[column], sizes[column], seen, accounts);
            }
            seen.clear();
            return accounts;
        }
    }

    private static final class Accounts extends Sheet.Rows implements Contacts.AccountAt {
        private final Contacts all;
        private int[] numbers = new int[16];
        private int[] positions = new int[16];
        private int size;

        Accounts(Contacts all) {
            this.all = all;
        }

        @Override
        public void one(int number, int position) {
            if (size == numbers.length) {
                numbers = Arrays.copyOf(numbers, 2 * size);
                positions = Arrays.copyOf(positions, 2 * size);
            }
            numbers[size] = number;
            positions[size++] = position;
        }

        @Override
        public Behind get(int index) {
            return new Behind(null, all.account(numbers[Objects.checkIndex(index, size)], positions[index]));
        }

        @Override
        public int size() {
            return size;
        }
    }

    private static final class Positions extends Sheet.Rows {
        private final Contacts all;
        private final int[] positions;

        Positions(Contacts all, int[] positions) {
            this.all = all;
            this.positions = positions;
        }

        @Override
        public Behind get(int index) {
            return all.behind(positions[index]);
        }

        @Override
        public int size() {
            return positions.length;
        }
    }
}
