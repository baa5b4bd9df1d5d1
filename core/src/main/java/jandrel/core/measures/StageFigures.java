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
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Predicate;
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
        Map<String, List<In>> at = new TreeMap<>();
        Map<String, List<Stay>> stays = new TreeMap<>();
        TreeSet<String> worths = new TreeSet<>();
        Instant begin = span.begin();
        for (Deal deal : seen.deals()) {
            if (deal.isOverBefore(begin)
                    || !whose.test(deal.now().owner())
                    || !only.isOf(deal.now().account())) {
                continue;
            }
            Change known = deal.at(end).orElse(null);
            if (known == null || !only.has(known.owner(), teams.of(known.owner(), end), known.channel())) {
                continue;
            }
            if (!known.isClosed()) {
                at.computeIfAbsent(known.stage(), s -> new ArrayList<>())
                        .add(new In(new Behind(null, deal.id()), known.worth()));
                if (known.worth().value() != null) {
                    worths.add(unit(known.worth()));
                }
            }
            Stay.of(deal, span)
                    .forEach(stay -> stays.computeIfAbsent(stay.stage(), s -> new ArrayList<>())
                            .add(stay));
        }
        Set<String> stages = new LinkedHashSet<>(order);
        stages.addAll(at.keySet());
        stages.addAll(stays.keySet());
        List<Column> columns = new ArrayList<>(List.of(new Column("in it", Unit.COUNT)));
        worths.forEach(unit -> columns.add(new Column(unit, Unit.MONEY)));
        columns.add(new Column("came in", Unit.COUNT));
        columns.add(new Column("went on", Unit.SHARE));
        columns.add(new Column("days there, median", Unit.DAYS));
        List<Line> lines = stages.stream()
                .map(stage -> line(
                        stage, at.getOrDefault(stage, List.of()), stays.getOrDefault(stage, List.of()), worths, span))
                .toList();
        return new Sheet(
                columns,
                lines,
                line(
                        "",
                        at.values().stream().flatMap(List::stream).toList(),
                        stays.values().stream().flatMap(List::stream).toList(),
                        worths,
                        span),
                0);
    }

    /** @param worth as it was then */
    private record In(Behind row, Worth worth) {}

    private static Line line(String stage, List<In> in, List<Stay> came, Set<String> worths, Span span) {
        List<Cell> cells =
                new ArrayList<>(List.of(Cell.count(in.stream().map(In::row).toList())));
        worths.forEach(unit -> cells.add(worth(in, unit)));
        cells.add(Cell.count(came.stream().map(Stay::row).toList()));
        List<Behind> on = came.stream().filter(Stay::wentOn).map(Stay::row).toList();
        cells.add(Cell.share(on, came.size()));
        List<Stay> over = came.stream().filter(s -> s.until() != null).toList();
        cells.add(new Cell(
                Spread.of(over.stream().map(s -> s.days(span)).toList()).median(),
                over.stream().map(Stay::row).toList()));
        return new Line(stage, in.size() + came.size(), cells);
    }

    private static String unit(Worth worth) {
        String currency = worth.currency().isEmpty() ? "value" : worth.currency();
        return worth.period().equals("month") ? currency + " a month" : currency;
    }

    private static Cell worth(List<In> in, String unit) {
        List<Behind> rows = new ArrayList<>();
        double sum = 0;
        for (In one : in) {
            BigDecimal value = one.worth().value();
            if (value != null && unit(one.worth()).equals(unit)) {
                sum += value.doubleValue();
                rows.add(one.row());
            }
        }
        return new Cell(sum, rows);
    }

    /** @param until null while it is there */
    private record Stay(
            Behind row,
            String stage,
            Instant from,
            @Nullable Instant until,
            boolean wentOn) {
        /** Those that began in a time. */
        static List<Stay> of(Deal deal, Span span) {
            List<Stay> stays = new ArrayList<>();
            Change since = deal.changes().get(0);
            for (Change change : deal.changes()) {
                boolean moves = !change.stage().equals(since.stage()) || change.isClosed() != since.isClosed();
                if (moves) {
                    add(stays, deal, since, change, span);
                    since = change;
                }
            }
            add(stays, deal, since, null, span);
            return stays;
        }

        /** What is won or lost is in no stage any more. */
        private static void add(List<Stay> stays, Deal deal, Change since, @Nullable Change next, Span span) {
            if (!since.isClosed() && span.has(since.at())) {
                boolean on = next != null && next.means() != Means.LOST;
                Instant until = next == null ? null : next.at();
                stays.add(new Stay(new Behind(null, deal.id()), since.stage(), since.at(), until, on));
            }
        }

        double days(Span span) {
            return until == null ? 0 : ChronoUnit.DAYS.between(span.day(from), span.day(until));
        }
    }
}
