package jandrel.core.measures;

import jandrel.core.measures.ContactHour.Account;
import jandrel.core.measures.ContactHour.What;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Cell;
import jandrel.core.measures.Sheet.Column;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.Sheet.Unit;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** How long customers wait for an answer. */
public final class ReplyFigures {
    /** What has no answer by then has none: so much before and after a time is looked at, and no more. */
    public static final Duration LONGEST = Duration.ofDays(30);

    private static final List<Column> COLUMNS = List.of(
            new Column("messages", Unit.COUNT),
            new Column("answered", Unit.COUNT),
            new Column("waiting", Unit.COUNT),
            new Column("no answer", Unit.COUNT),
            new Column("answered of all", Unit.SHARE),
            new Column("hours, 25 %", Unit.HOURS),
            new Column("hours, median", Unit.HOURS),
            new Column("hours, 75 %", Unit.HOURS));
    private static final double MILLIS_OF_AN_HOUR = 3_600_000;

    private final Contacts all;
    private final Only only;
    private final TeamHistory teams;
    private final Predicate<@Nullable UUID> whose;
    private final WorkingHours hours;
    private final Instant now;
    /** In order of time. */
    private final Map<Account, List<Mail>> mailOfAccounts = new HashMap<>();

    /** A message of an account, or something that may be one. */
    private record Mail(Instant at, Kind kind, @Nullable UUID owner, int position) {}

    private enum Kind {
        THEIRS,
        OURS,
        UNKNOWN
    }

    private enum State {
        ANSWERED,
        WAITING,
        NO_ANSWER
    }

    /** @param worked until the answer; null without one */
    private record Wait(
            Behind row,
            Instant since,
            @Nullable UUID owner,
            UUID account,
            State state,
            @Nullable Double worked) {}

    /** @param now until when anything is known */
    public ReplyFigures(
            Contacts all,
            Only only,
            TeamHistory teams,
            Predicate<@Nullable UUID> whose,
            WorkingHours hours,
            Instant now) {
        this.all = all;
        this.only = only;
        this.teams = teams;
        this.whose = whose;
        this.hours = hours;
        this.now = now;
        collect();
    }

    /** See {@link Measure#REPLY_TIMES}. */
    public Sheet of(Span span, By by) {
        Map<String, List<Wait>> lines = new TreeMap<>();
        span.lines(by).forEach(l -> lines.put(l, new ArrayList<>()));
        List<Wait> total = new ArrayList<>();
        int hidden = 0;
        for (Map.Entry<Account, List<Mail>> of : mailOfAccounts.entrySet()) {
            List<Wait> waits = new ArrayList<>();
            boolean hides = waits(of.getKey().id(), of.getValue(), span, waits);
            hidden += hides ? 1 : 0;
            for (Wait wait : waits) {
                total.add(wait);
                lines.computeIfAbsent(key(wait, by, span), k -> new ArrayList<>())
                        .add(wait);
            }
        }
        List<Line> done = new ArrayList<>();
        lines.forEach((key, some) -> done.add(line(key, some)));
        return new Sheet(COLUMNS, done, line("", total), hidden);
    }

    private void collect() {
        all.each((contacts, i, position) -> {
            // that it is a meeting, an outline says
            Kind kind = contacts.isMail(i) ? kind(all.what(contacts, i)) : null;
            if (kind != null) {
                Mail one = new Mail(Span.instant(contacts.at(i)), kind, contacts.owner(i), position);
                for (Account account : contacts.accounts(i)) {
                    if (only.isOf(account.id())) {
                        mailOfAccounts
                                .computeIfAbsent(account, a -> new ArrayList<>())
                                .add(one);
                    }
                }
            }
        });
        mailOfAccounts
                .values()
                .forEach(of -> of.sort(Comparator.comparing(Mail::at).thenComparing(Mail::position)));
    }

    private static Kind kind(@Nullable What what) {
        return what == null ? Kind.UNKNOWN : what == What.MAIL_OUT ? Kind.OURS : Kind.THEIRS;
    }

    /**
     * @param into gets what counts
     * @return whether it depends on something that the viewer may not read if something else counts
     */
    private boolean waits(UUID account, List<Mail> mail, Span span, List<Wait> into) {
        boolean hides = false;
        for (int i = 0; i < mail.size(); i++) {
            Mail one = mail.get(i);
            if (!span.has(one.at()) || one.kind() == Kind.OURS) {
                continue;
            }
            Kind before = before(mail, i);
            if (one.kind() == Kind.UNKNOWN || before == Kind.UNKNOWN) {
                hides |= before != Kind.THEIRS && counts(one.owner(), one.at());
                continue;
            }
            if (before == Kind.THEIRS) {
                continue;
            }
            Mail answer = answer(mail, i);
            if (answer != null && answer.kind() == Kind.UNKNOWN) {
                hides |= counts(one.owner(), one.at());
                continue;
            }
            UUID owner = answer == null ? one.owner() : answer.owner();
            if (counts(owner, one.at())) {
                into.add(new Wait(
                        all.behind(one.position(), account),
                        one.at(),
                        owner,
                        account,
                        state(one, answer),
                        answer == null
                                ? null
                                : hours.between(one.at(), answer.at()).toMillis() / MILLIS_OF_AN_HOUR));
            }
        }
        return hides;
    }

    private boolean counts(@Nullable UUID owner, Instant at) {
        return whose.test(owner) && only.has(owner, teams.of(owner, at));
    }

    /** The last before it; ours where it is too long ago, as if somebody had answered. */
    private static Kind before(List<Mail> mail, int i) {
        Mail before = i == 0 ? null : mail.get(i - 1);
        return before == null || before.at().plus(LONGEST).isBefore(mail.get(i).at()) ? Kind.OURS : before.kind();
    }

    /** The first of ours after it, or what may be one. */
    private @Nullable Mail answer(List<Mail> mail, int i) {
        Instant latest = mail.get(i).at().plus(LONGEST);
        for (Mail later : mail.subList(i + 1, mail.size())) {
            if (later.at().isAfter(latest) || later.at().isAfter(now)) {
                return null;
            }
            if (later.kind() != Kind.THEIRS) {
                return later;
            }
        }
        return null;
    }

    private State state(Mail one, @Nullable Mail answer) {
        if (answer != null) {
            return State.ANSWERED;
        }
        return one.at().plus(LONGEST).isBefore(now) ? State.NO_ANSWER : State.WAITING;
    }

    private String key(Wait wait, By by, Span span) {
        UUID owner = wait.owner();
        return switch (by) {
            case MONTH -> span.month(wait.since());
            case WEEK -> span.week(wait.since());
            case TEAM -> teams.of(owner, wait.since());
            case ACCOUNT -> wait.account().toString();
            default -> owner == null ? "" : owner.toString();
        };
    }

    private static Line line(String key, List<Wait> some) {
        List<Cell> cells = new ArrayList<>();
        cells.add(Cell.count(some.stream().map(Wait::row).toList()));
        for (State state : State.values()) {
            cells.add(Cell.count(rows(some, state)));
        }
        List<Behind> answered = rows(some, State.ANSWERED);
        cells.add(Cell.share(answered, some.size()));
        Spread took = Spread.of(
                some.stream().map(Wait::worked).filter(Objects::nonNull).mapToDouble(w -> w));
        cells.add(new Cell(took.quarter(), answered));
        cells.add(new Cell(took.median(), answered));
        cells.add(new Cell(took.threeQuarters(), answered));
        return new Line(key, some.size(), cells);
    }

    private static List<Behind> rows(List<Wait> some, State state) {
        return some.stream().filter(w -> w.state() == state).map(Wait::row).toList();
    }
}
