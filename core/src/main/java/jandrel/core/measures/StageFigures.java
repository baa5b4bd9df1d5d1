package jandrel.core.measures;

import jandrel.core.measures.Deal.Change;
import jandrel.core.measures.Deal.Means;
import jandrel.core.measures.Deal.Worth;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Cell;
import jandrel.core.measures.Sheet.Column;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.Sheet.Unit;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Predicate;
import java.util.stream.DoubleStream;
import org.jspecify.annotations.Nullable;

/** What is in each stage, what came into it, and how long it stayed. */
public final class StageFigures {
    private final SellingHistory.Seen seen;
    private final Predicate<@Nullable UUID> whose;
    private final TeamHistory teams;

    /** @param whose whose opportunities count */
    public StageFigures(SellingHistory.Seen seen, TeamHistory teams, Predicate<@Nullable UUID> whose) {
        this.seen = seen;
        this.whose = whose;
        this.teams = teams;
    }

    /**
     * See {@link Measure#STAGES}. A line for each stage of the list, in its order, and after them those that are not on it.
     *
     * @param now until when anything is known
     */
    public Sheet of(Span span, List<String> order, Only only, Instant now) {
        Instant end = span.end().isBefore(now) ? span.end().minusNanos(1) : now;
        Map<String, Tally> stages = new HashMap<>();
        Tally total = new Tally();
        Instant begin = span.begin();
        for (Deal deal : seen.deals()) {
            if (deal.isOverBefore(begin)
                    || !whose.test(deal.now().owner())
                    || !only.isOf(deal.now().account())) {
                continue;
            }
            Change known = deal.at(end).orElse(null);
            String team = known == null || only.team() == null ? "" : teams.of(known.owner(), end);
            if (known == null || !only.has(known.owner(), team, known.channel())) {
                continue;
            }
            Behind row = new Behind(null, deal.id());
            if (!known.isClosed()) {
                Worth worth = known.worth();
                stages.computeIfAbsent(known.stage(), s -> new Tally()).in(row, worth);
                total.in(row, worth);
            }
            eachStay(deal, span, (stage, days, wentOn) -> {
                stages.computeIfAbsent(stage, s -> new Tally()).came(row, days, wentOn);
                total.came(row, days, wentOn);
            });
        }
        Set<String> names = new LinkedHashSet<>(order);
        names.addAll(new TreeSet<>(stages.keySet()));
        Set<String> units = total.worth.keySet();
        List<Column> columns = new ArrayList<>(List.of(new Column("in it", Unit.COUNT)));
        units.forEach(unit -> columns.add(new Column(unit, Unit.MONEY)));
        columns.add(new Column("came in", Unit.COUNT));
        columns.add(new Column("went on", Unit.SHARE));
        columns.add(new Column("days there, median", Unit.DAYS));
        List<Line> lines = names.stream()
                .map(stage -> stages.getOrDefault(stage, new Tally()).line(stage, units))
                .toList();
        return new Sheet(columns, lines, total.line("", units), 0);
    }

    /** What is in a stage, and what came into it. */
    private static final class Tally {
        private final List<Behind> in = new ArrayList<>();
        /** By its unit, in order. */
        private final Map<String, Sum> worth = new TreeMap<>();

        private final List<Behind> came = new ArrayList<>();
        private final List<Behind> wentOn = new ArrayList<>();
        private final List<Behind> left = new ArrayList<>();
        private final DoubleStream.Builder days = DoubleStream.builder();

        private static final class Sum {
            private final List<Behind> rows = new ArrayList<>();
            private double value;
        }

        /** @param itsWorth as it was then */
        void in(Behind row, Worth itsWorth) {
            in.add(row);
            BigDecimal value = itsWorth.value();
            if (value != null) {
                Sum sum = worth.computeIfAbsent(unit(itsWorth), u -> new Sum());
                sum.value += value.doubleValue();
                sum.rows.add(row);
            }
        }

        /** @param itsDays until it left; negative while it is there */
        void came(Behind row, double itsDays, boolean itWentOn) {
            came.add(row);
            if (itWentOn) {
                wentOn.add(row);
            }
            if (itsDays >= 0) {
                left.add(row);
                days.add(itsDays);
            }
        }

        Line line(String key, Set<String> units) {
            List<Cell> cells = new ArrayList<>(List.of(Cell.count(in)));
            for (String unit : units) {
                Sum sum = worth.get(unit);
                cells.add(sum == null ? new Cell(0.0, List.of()) : new Cell(sum.value, sum.rows));
            }
            cells.add(Cell.count(came));
            cells.add(Cell.share(wentOn, came.size()));
            cells.add(new Cell(Spread.of(days.build()).median(), left));
            return new Line(key, in.size() + came.size(), cells);
        }
    }

    private static String unit(Worth worth) {
        String currency = worth.currency().isEmpty() ? "value" : worth.currency();
        return worth.period().equals("month") ? currency + " a month" : currency;
    }

    @FunctionalInterface
    private interface Stay {
        /** @param days until it left for another stage, was won or lost; negative while it is there */
        void one(String stage, double days, boolean wentOn);
    }

    /** Those that began in a time. */
    private static void eachStay(Deal deal, Span span, Stay each) {
        Change since = deal.changes().get(0);
        for (Change change : deal.changes()) {
            boolean moves = !change.stage().equals(since.stage()) || change.isClosed() != since.isClosed();
            if (moves) {
                stay(since, change, span, each);
                since = change;
            }
        }
        stay(since, null, span, each);
    }

    /** What is won or lost is in no stage any more. */
    private static void stay(Change since, @Nullable Change next, Span span, Stay each) {
        if (!since.isClosed() && span.has(since.at())) {
            double days =
                    next == null ? -1 : Math.max(0, ChronoUnit.DAYS.between(span.day(since.at()), span.day(next.at())));
            each.one(since.stage(), days, next != null && next.means() != Means.LOST);
        }
    }
}
