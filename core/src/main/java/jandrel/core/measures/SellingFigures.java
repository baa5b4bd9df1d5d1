package jandrel.core.measures;

import jandrel.core.measures.Deal.Change;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Cell;
import jandrel.core.measures.Sheet.Column;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.Sheet.Unit;
import jandrel.core.timeline.Standing;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Function;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** The measures of meetings and of opportunities, over all of them that the reader may see. */
public final class SellingFigures {
    /** No day of any zone takes longer, whatever the clocks do on it. */
    private static final Duration LONGEST_DAY = Duration.ofDays(2);

    private final SellingHistory.Seen seen;
    private final TeamHistory teams;
    private final Predicate<@Nullable UUID> whose;

    /** @param whose whose figures these are: what others own is only what theirs is told by */
    public SellingFigures(SellingHistory.Seen seen, TeamHistory teams, Predicate<@Nullable UUID> whose) {
        this.seen = seen;
        this.teams = teams;
        this.whose = whose;
    }

    /** Something that counts, with all that lines are told apart by. */
    private record Counted<T>(
            T what, Behind row, Instant at, @Nullable UUID owner, String channel, String result) {
        Counted(T what, Behind row, Instant at, @Nullable UUID owner, String channel) {
            this(what, row, at, owner, channel, "");
        }
    }

    private boolean has(Only only, @Nullable UUID owner, Instant at, String channel) {
        return only.has(owner, only.team() == null ? "" : teams.of(owner, at), channel);
    }

    private <T> String key(Counted<T> one, By by, Span span) {
        return switch (by) {
            case MONTH -> span.month(one.at());
            case OWNER -> one.owner() == null ? "" : one.owner().toString();
            case TEAM -> teams.of(one.owner(), one.at());
            case CHANNEL, STAGE -> one.channel();
            case RESULT -> one.result();
            case WEEK, ACCOUNT, POLICY, VERSION, REASON ->
                throw new IllegalArgumentException("told by other things alone");
        };
    }

    private <T> Sheet sheet(
            List<Counted<T>> all,
            By by,
            Span span,
            Only only,
            int hidden,
            List<Column> columns,
            Function<List<Counted<T>>, List<Cell>> cells) {
        Map<String, List<Counted<T>>> lines = new TreeMap<>();
        span.lines(by).forEach(l -> lines.put(l, new ArrayList<>()));
        List<Counted<T>> counted = all.stream()
                .filter(c -> has(only, c.owner(), c.at(), c.channel()))
                .toList();
        counted.forEach(one -> lines.computeIfAbsent(key(one, by, span), k -> new ArrayList<>())
                .add(one));
        List<Line> done = new ArrayList<>();
        lines.forEach((key, some) -> done.add(new Line(key, some.size(), cells.apply(some))));
        return new Sheet(columns, done, new Line("", counted.size(), cells.apply(counted)), hidden);
    }

    private static <T> List<Behind> rows(List<Counted<T>> all, Predicate<T> which) {
        return all.stream().filter(c -> which.test(c.what())).map(Counted::row).toList();
    }

    /**
     * @param again whether they were met, or are to be met, again
     * @param opened whether there was an opportunity then or later
     */
    private record First(Standing standing, boolean again, boolean opened, boolean won) {}

    private static final List<Column> OF_FIRST = List.of(
            new Column("planned", Unit.COUNT),
            new Column("held", Unit.COUNT),
            new Column("missed", Unit.COUNT),
            new Column("cancelled", Unit.COUNT),
            new Column("declined", Unit.COUNT),
            new Column("shown up", Unit.SHARE),
            new Column("met again", Unit.SHARE),
            new Column("opportunity", Unit.SHARE),
            new Column("won", Unit.SHARE));

    /** See {@link Measure#FIRST_MEETINGS}. */
    public Sheet firstMeetings(Span span, By by, Only only) {
        List<Counted<First>> all = new ArrayList<>();
        int hidden = 0;
        for (UUID account : seen.accounts()) {
            if (!only.isOf(account)) {
                continue;
            }
            List<MetAccount> ofIt = seen.with(account);
            List<Deal> theirs = seen.dealsOf(account);
            String channel = theirs.isEmpty() ? "" : theirs.get(0).now().channel();
            List<MetAccount> until = untilHeld(ofIt);
            if (until.stream().anyMatch(this::isHidden)) {
                // which was the first, who may not read all cannot tell
                boolean counts = until.stream()
                        .anyMatch(m -> span.has(m.begins())
                                && whose.test(m.owner())
                                && has(only, m.owner(), m.begins(), channel));
                hidden += counts ? 1 : 0;
                continue;
            }
            for (int i = 0; i < until.size(); i++) {
                MetAccount met = until.get(i);
                if (span.has(met.begins()) && whose.test(met.owner())) {
                    First first = new First(
                            Objects.requireNonNull(seen.standing(met)),
                            ofIt.subList(i + 1, ofIt.size()).stream().anyMatch(this::isAhead),
                            theirs.stream().anyMatch(d -> isOpenAtOrAfter(d, met.begins(), span)),
                            theirs.stream().anyMatch(d -> d.isWon() && isOpenAtOrAfter(d, met.begins(), span)));
                    all.add(new Counted<>(
                            first,
                            new Behind(met.meeting(), account),
                            met.begins(),
                            met.owner(),
                            channel,
                            seen.result(met)));
                }
            }
        }
        return sheet(all, by, span, only, hidden, OF_FIRST, some -> {
            List<Cell> cells = new ArrayList<>();
            for (Standing standing :
                    List.of(Standing.PLANNED, Standing.HELD, Standing.MISSED, Standing.CANCELLED, Standing.DECLINED)) {
                cells.add(Cell.count(rows(some, f -> f.standing() == standing)));
            }
            List<Behind> held = rows(some, f -> f.standing() == Standing.HELD);
            int missed = rows(some, f -> f.standing() == Standing.MISSED).size();
            cells.add(Cell.share(held, held.size() + missed));
            for (Predicate<First> came : List.<Predicate<First>>of(First::again, First::opened, First::won)) {
                cells.add(Cell.share(rows(some, f -> f.standing() == Standing.HELD && came.test(f)), held.size()));
            }
            return cells;
        });
    }

    private boolean isHidden(MetAccount met) {
        return seen.standing(met) == null;
    }

    private List<MetAccount> untilHeld(List<MetAccount> ofIt) {
        List<MetAccount> first = new ArrayList<>();
        for (MetAccount met : ofIt) {
            first.add(met);
            if (seen.isHeld(met)) {
                break;
            }
        }
        return first;
    }

    private boolean isAhead(MetAccount met) {
        Standing standing = seen.standing(met);
        return standing == Standing.HELD || standing == Standing.PLANNED;
    }

    /** Not one that was over before. */
    private static boolean isOpenAtOrAfter(Deal deal, Instant moment, Span span) {
        return deal.closed().map(c -> !span.day(c).isBefore(span.day(moment))).orElse(true);
    }

    /** Those that count for an opportunity, held or not. */
    private static List<MetAccount> meetingsOf(Deal deal, List<MetAccount> all, Span span) {
        Instant closed = deal.closed().orElse(Instant.MAX);
        Instant opened = deal.opened();
        int from = firstSince(all, opened.minus(LONGEST_DAY));
        int until = from;
        boolean allCount = true;
        while (until < all.size() && !all.get(until).begins().isAfter(closed)) {
            allCount &= countsFor(deal, all.get(until), span);
            until++;
        }
        List<MetAccount> theirs = all.subList(from, until);
        if (allCount) {
            return theirs;
        }
        List<MetAccount> some = new ArrayList<>(theirs.size());
        for (MetAccount met : theirs) {
            if (countsFor(deal, met, span)) {
                some.add(met);
            }
        }
        return some;
    }

    private static boolean countsFor(Deal deal, MetAccount met, Span span) {
        Instant opened = deal.opened();
        return (met.opportunities().isEmpty() || met.opportunities().contains(deal.id()))
                // one of the same day counts, be it earlier
                && (!met.begins().isBefore(opened) || span.day(met.begins()).equals(span.day(opened)));
    }

    /** Where to begin in what is in order. */
    private static int firstSince(List<MetAccount> all, Instant moment) {
        int from = 0;
        int until = all.size();
        while (from < until) {
            int middle = (from + until) >>> 1;
            if (all.get(middle).begins().isBefore(moment)) {
                from = middle + 1;
            } else {
                until = middle;
            }
        }
        return from;
    }

    private boolean isOurs(Deal deal, Only only) {
        return whose.test(deal.now().owner()) && only.isOf(deal.now().account());
    }

    private enum Now {
        WON,
        LOST,
        AGREED,
        BOOKED,
        NOTHING_NEXT
    }

    private static final List<Column> OF_TWO = List.of(
            new Column("opportunities", Unit.COUNT),
            new Column("won", Unit.COUNT),
            new Column("agreed", Unit.COUNT),
            new Column("meeting ahead", Unit.COUNT),
            new Column("nothing next", Unit.COUNT),
            new Column("lost", Unit.COUNT),
            new Column("won of all", Unit.SHARE));

    /** See {@link Measure#AFTER_TWO_MEETINGS}. */
    public Sheet afterTwoMeetings(Span span, By by, Only only) {
        List<Counted<Now>> all = new ArrayList<>();
        List<UUID> hidden = new ArrayList<>();
        Instant begin = span.begin();
        Instant end = span.end();
        seen.eachDeal((deal, ofAccount) -> {
            // most opportunities are of another time altogether
            if (deal.isOverBefore(begin) || deal.opened().isAfter(end) || !isOurs(deal, only)) {
                return;
            }
            List<MetAccount> theirs = meetingsOf(deal, ofAccount, span);
            if (theirs.isEmpty() || theirs.get(theirs.size() - 1).begins().isBefore(begin)) {
                return;
            }
            Met met = Met.of(theirs, seen);
            if (met.someAreHidden()) {
                Change now = deal.now();
                if (theirs.stream()
                        .anyMatch(m -> span.has(m.begins()) && has(only, now.owner(), m.begins(), now.channel()))) {
                    hidden.add(deal.id());
                }
                return;
            }
            Instant second = met.second();
            if (second != null && span.has(second)) {
                Change then = deal.at(second).orElse(deal.changes().get(0));
                all.add(new Counted<>(
                        standing(deal, met.someAreAhead()),
                        new Behind(null, deal.id()),
                        second,
                        then.owner(),
                        deal.now().channel()));
            }
        });
        return sheet(all, by, span, only, hidden.size(), OF_TWO, some -> {
            List<Cell> cells = new ArrayList<>();
            cells.add(Cell.count(rows(some, n -> true)));
            for (Now now : List.of(Now.WON, Now.AGREED, Now.BOOKED, Now.NOTHING_NEXT, Now.LOST)) {
                cells.add(Cell.count(rows(some, n -> n == now)));
            }
            cells.add(Cell.share(rows(some, n -> n == Now.WON), some.size()));
            return cells;
        });
    }

    private static Now standing(Deal deal, boolean someAreAhead) {
        return switch (deal.now().means()) {
            case WON -> Now.WON;
            case LOST -> Now.LOST;
            case AGREED -> Now.AGREED;
            case OPEN -> someAreAhead ? Now.BOOKED : Now.NOTHING_NEXT;
        };
    }

    /**
     * All meetings of an opportunity, looked at once.
     *
     * @param second when the second one was held; null while there is none
     */
    private record Met(@Nullable Instant second, boolean someAreAhead, boolean someAreHidden) {
        static Met of(List<MetAccount> inOrder, SellingHistory.Seen seen) {
            int held = 0;
            Instant second = null;
            boolean ahead = false;
            boolean hidden = false;
            for (MetAccount met : inOrder) {
                Standing standing = seen.standing(met);
                hidden |= standing == null;
                ahead |= standing == Standing.PLANNED;
                held += standing == Standing.HELD ? 1 : 0;
                if (held == 2 && second == null) {
                    second = met.begins();
                }
            }
            return new Met(second, ahead, hidden);
        }
    }

    /** @param meetings null where not all of them are known */
    private record Won(@Nullable Double meetings, double days) {}

    private static final List<Column> OF_WON = List.of(
            new Column("won", Unit.COUNT),
            new Column("meetings, mean", Unit.MEETINGS),
            new Column("meetings, 25 %", Unit.MEETINGS),
            new Column("meetings, median", Unit.MEETINGS),
            new Column("meetings, 75 %", Unit.MEETINGS),
            new Column("days, mean", Unit.DAYS),
            new Column("days, 25 %", Unit.DAYS),
            new Column("days, median", Unit.DAYS),
            new Column("days, 75 %", Unit.DAYS));

    /** See {@link Measure#TO_WIN}. */
    public Sheet toWin(Span span, By by, Only only) {
        List<Counted<Won>> all = new ArrayList<>();
        List<UUID> hidden = new ArrayList<>();
        Instant begin = span.begin();
        seen.eachDeal((deal, ofAccount) -> {
            Instant at = !deal.isOverBefore(begin) && deal.isWon() && isOurs(deal, only)
                    ? deal.closed().orElseThrow()
                    : null;
            if (at != null && span.has(at)) {
                List<MetAccount> theirs = meetingsOf(deal, ofAccount, span);
                boolean known = theirs.stream().noneMatch(this::isHidden);
                double held = theirs.stream().filter(seen::isHeld).count();
                double days = ChronoUnit.DAYS.between(span.day(deal.opened()), span.day(at));
                Change then = deal.at(at).orElse(deal.now());
                if (!known && has(only, then.owner(), at, then.channel())) {
                    hidden.add(deal.id());
                }
                all.add(new Counted<>(
                        new Won(known ? held : null, days),
                        new Behind(null, deal.id()),
                        at,
                        then.owner(),
                        then.channel()));
            }
        });
        return sheet(all, by, span, only, hidden.size(), OF_WON, some -> {
            List<Behind> rows = rows(some, w -> true);
            List<Behind> known = rows(some, w -> w.meetings() != null);
            Spread met = Spread.of(some.stream()
                    .map(c -> c.what().meetings())
                    .filter(Objects::nonNull)
                    .mapToDouble(m -> m));
            Spread took = Spread.of(some.stream().mapToDouble(c -> c.what().days()));
            List<Cell> cells = new ArrayList<>(List.of(Cell.count(rows)));
            cells.addAll(spread(met, known));
            cells.addAll(spread(took, rows));
            return cells;
        });
    }

    private static List<Cell> spread(Spread of, List<Behind> rows) {
        return List.of(
                new Cell(of.mean(), rows),
                new Cell(of.quarter(), rows),
                new Cell(of.median(), rows),
                new Cell(of.threeQuarters(), rows));
    }
}
