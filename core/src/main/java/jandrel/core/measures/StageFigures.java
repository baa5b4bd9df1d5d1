package jandrel.core.measures;

import jandrel.core.measures.Deal.Change;
import jandrel.core.measures.Deal.Means;
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
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** What is in each stage, what came into it, and how long it stayed. */
public final class StageFigures {
    private final List<Deal> deals;
    private final TeamHistory teams;

    /** @param whose whose opportunities count */
    public StageFigures(List<Deal> deals, TeamHistory teams, Predicate<@Nullable UUID> whose) {
        this.deals = deals.stream().filter(d -> whose.test(d.now().owner())).toList();
        this.teams = teams;
    }

    /**
     * See {@link Measure#STAGES}. A line for each stage of the list, in its order, and after them those that are not on it.
     *
     * @param now until when anything is known
     */
    public Sheet of(Span span, List<String> order, Only only, Instant now) {
        Instant end = span.end().isBefore(now) ? span.end().minusNanos(1) : now;
        Map<String, List<Deal>> at = new TreeMap<>();
        Map<String, List<Stay>> stays = new TreeMap<>();
        TreeSet<String> worths = new TreeSet<>();
        for (Deal deal : deals) {
            Optional<Change> known =
                    deal.at(end).filter(c -> only.has(c.owner(), teams.of(c.owner(), end), c.channel()));
            known.filter(c -> !c.isClosed()).ifPresent(c -> {
                at.computeIfAbsent(c.stage(), s -> new ArrayList<>()).add(deal);
                if (c.worth().value() != null) {
                    worths.add(unit(c));
                }
            });
            for (Stay stay : known.isEmpty() ? List.<Stay>of() : Stay.of(deal)) {
                if (span.has(stay.from())) {
                    stays.computeIfAbsent(stay.stage(), s -> new ArrayList<>()).add(stay);
                }
            }
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
                        stage,
                        at.getOrDefault(stage, List.of()),
                        stays.getOrDefault(stage, List.of()),
                        worths,
                        end,
                        span))
                .toList();
        return new Sheet(
                columns,
                lines,
                line(
                        "",
                        at.values().stream().flatMap(List::stream).toList(),
                        stays.values().stream().flatMap(List::stream).toList(),
                        worths,
                        end,
                        span),
                0);
    }

    private static Line line(String stage, List<Deal> in, List<Stay> came, Set<String> worths, Instant end, Span span) {
        List<Cell> cells = new ArrayList<>(List.of(Cell.count(behind(in))));
        worths.forEach(unit -> cells.add(worth(in, unit, end)));
        cells.add(Cell.count(came.stream().map(Stay::row).toList()));
        List<Behind> on = came.stream().filter(Stay::wentOn).map(Stay::row).toList();
        cells.add(Cell.share(on, came.size()));
        List<Stay> over = came.stream().filter(s -> s.until() != null).toList();
        cells.add(new Cell(
                Spread.of(over.stream().map(s -> s.days(span)).toList()).median(),
                over.stream().map(Stay::row).toList()));
        return new Line(stage, in.size() + came.size(), cells);
    }

    private static List<Behind> behind(List<Deal> deals) {
        return deals.stream().map(d -> new Behind(null, d.id())).toList();
    }

    private static String unit(Change change) {
        String currency =
                change.worth().currency().isEmpty() ? "value" : change.worth().currency();
        return change.worth().period().equals("month") ? currency + " a month" : currency;
    }

    private static Cell worth(List<Deal> in, String unit, Instant end) {
        List<Deal> counted = in.stream()
                .filter(d -> d.at(end)
                        .filter(c -> c.worth().value() != null && unit(c).equals(unit))
                        .isPresent())
                .toList();
        double sum = counted.stream()
                .mapToDouble(d -> d.at(end)
                        .map(c -> c.worth().value())
                        .map(BigDecimal::doubleValue)
                        .orElse(0.0))
                .sum();
        return new Cell(sum, behind(counted));
    }

    /** @param until null while it is there */
    private record Stay(
            Behind row,
            String stage,
            Instant from,
            @Nullable Instant until,
            boolean wentOn) {
        static List<Stay> of(Deal deal) {
            List<Stay> stays = new ArrayList<>();
            Change since = deal.changes().get(0);
            for (Change change : deal.changes()) {
                boolean moves = !change.stage().equals(since.stage()) || change.isClosed() != since.isClosed();
                if (moves) {
                    add(stays, deal, since, change);
                    since = change;
                }
            }
            add(stays, deal, since, null);
            return stays;
        }

        /** What is won or lost is in no stage any more. */
        private static void add(List<Stay> stays, Deal deal, Change since, @Nullable Change next) {
            if (!since.isClosed()) {
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
