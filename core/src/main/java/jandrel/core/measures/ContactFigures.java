package jandrel.core.measures;

import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Cell;
import jandrel.core.measures.Sheet.Column;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.Sheet.Unit;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
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

    private ContactFigures() {}

    /** What it was. */
    public enum What {
        MAIL_IN,
        MAIL_OUT,
        HELD,
        MISSED,
        /** A meeting that is to come, was cancelled or declined. */
        OTHER
    }

    /**
     * A message, or a meeting.
     *
     * @param what null where the reader may not know
     * @param owner who wrote it, or the first of ours who has it
     * @param accounts on whose timelines it stands, accounts above them aside
     * @param record one on whose timeline it stands, an account if there is any
     */
    public record Exchanged(
            UUID activity,
            Instant at,
            @Nullable What what,
            @Nullable UUID owner,
            List<UUID> accounts,
            UUID record) {
        public Exchanged {
            accounts = List.copyOf(accounts);
        }

        public Behind behind() {
            return new Behind(activity, record);
        }
    }

    /** See {@link Measure#CONTACT}. */
    public static Sheet of(
            List<Exchanged> all, Span span, By by, Only only, TeamHistory teams, Predicate<@Nullable UUID> whose) {
        Map<String, List<Exchanged>> lines = new TreeMap<>();
        if (by == By.MONTH || by == By.WEEK) {
            // one without any is one, too
            (by == By.MONTH ? span.months() : span.weeks()).forEach(k -> lines.put(k, new ArrayList<>()));
        }
        List<Exchanged> counted = new ArrayList<>();
        int hidden = 0;
        for (Exchanged one : all) {
            String team = teams.of(one.owner(), one.at());
            if (!span.has(one.at()) || !whose.test(one.owner()) || !only.has(one.owner(), team)) {
                continue;
            }
            if (one.what() == null) {
                hidden++;
                continue;
            }
            counted.add(one);
            keys(one, by, span, team)
                    .forEach(k ->
                            lines.computeIfAbsent(k, n -> new ArrayList<>()).add(one));
        }
        List<Line> done = new ArrayList<>();
        lines.forEach((key, some) -> done.add(line(key, some)));
        return new Sheet(COLUMNS, done, line("", counted), hidden);
    }

    private static List<String> keys(Exchanged one, By by, Span span, String team) {
        return switch (by) {
            case MONTH -> List.of(span.month(one.at()));
            case WEEK -> List.of(span.week(one.at()));
            case TEAM -> List.of(team);
            case ACCOUNT ->
                one.accounts().isEmpty()
                        ? List.of("")
                        : one.accounts().stream().map(UUID::toString).toList();
            default -> List.of(one.owner() == null ? "" : one.owner().toString());
        };
    }

    private static Line line(String key, List<Exchanged> some) {
        List<Cell> cells = new ArrayList<>();
        for (What what : List.of(What.MAIL_IN, What.MAIL_OUT, What.HELD, What.MISSED)) {
            cells.add(Cell.count(some.stream()
                    .filter(e -> e.what() == what)
                    .map(Exchanged::behind)
                    .toList()));
        }
        Set<UUID> accounts = new LinkedHashSet<>();
        some.stream().filter(e -> e.what() != What.OTHER).forEach(e -> accounts.addAll(e.accounts()));
        cells.add(Cell.count(accounts.stream().map(a -> new Behind(null, a)).toList()));
        return new Line(key, some.size(), cells);
    }
}
