package jandrel.service.measures;

import jandrel.api.MeasureApi.MeasureCell;
import jandrel.api.MeasureApi.MeasureColumn;
import jandrel.api.MeasureApi.MeasureInfo;
import jandrel.api.MeasureApi.MeasureLine;
import jandrel.api.MeasureApi.MeasureRow;
import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.core.measures.ContactFigures;
import jandrel.core.measures.ContactHour;
import jandrel.core.measures.Contacts;
import jandrel.core.measures.CoverageFigures;
import jandrel.core.measures.Measure;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.MetAccount;
import jandrel.core.measures.ReplyFigures;
import jandrel.core.measures.SellingFigures;
import jandrel.core.measures.SellingHistory;
import jandrel.core.measures.Sheet;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.StageFigures;
import jandrel.core.measures.Touches;
import jandrel.core.measures.WorkingHours;
import jandrel.core.timeline.Standing;
import jandrel.core.visibility.Viewer;
import jandrel.service.kernel.Refusal;
import jandrel.service.measures.MeasureQuery.Asked;
import jandrel.store.measures.CompanyHours;
import jandrel.store.measures.CoverageRows;
import jandrel.store.measures.MeasureRows;
import jandrel.store.measures.MeasureRows.Named;
import jandrel.store.measures.MeasureRows.Rows;
import jandrel.store.people.People;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** Figures as somebody gets them, and what stands behind each. */
@Component
class MeasureAnswers {
    private static final int MOST_LINES = 300;
    /** All meetings and changes are in memory meanwhile: so many answers are made at once. */
    private static final int AT_ONCE = 2;

    private static final int PATIENCE_SECONDS = 10;
    private final MeasureRows rows;
    private final CaptureAnswers capture;
    private final CoverageRows covered;
    private final CompanyHours hours;
    private final People people;
    private final Clock clock;
    private final Semaphore room = new Semaphore(AT_ONCE, true);

    /**
     * Figures over rows that were read once.
     *
     * @param of the same measure, for any time
     * @param besides what they do not say themselves
     */
    private record Figuring(
            Function<Asked, Sheet> of, Function<Set<Behind>, Map<Behind, Dated>> meetings, Supplier<String> besides) {
        Figuring(Function<Asked, Sheet> of, Function<Set<Behind>, Map<Behind, Dated>> meetings) {
            this(of, meetings, () -> "");
        }
    }

    /** @param state of a meeting, or which way mail went */
    private record Dated(Instant at, String state) {
        static Dated of(MetAccount met, SellingHistory.Seen seen) {
            Standing standing = seen.standing(met);
            return new Dated(met.begins(), standing == null ? "" : standing.word());
        }

        static Dated of(Contacts.Dated one) {
            ContactHour.What what = one.what();
            return new Dated(
                    one.at(),
                    what == null ? "" : what.name().toLowerCase(Locale.ROOT).replace('_', ' '));
        }
    }

    MeasureAnswers(
            MeasureRows rows,
            CaptureAnswers capture,
            CoverageRows covered,
            CompanyHours hours,
            People people,
            Clock clock) {
        this.rows = rows;
        this.covered = covered;
        this.capture = capture;
        this.hours = hours;
        this.people = people;
        this.clock = clock;
    }

    MeasureSheet sheet(Asked asked, Viewer me) {
        return inTurn(() -> made(asked, me));
    }

    /**
     * @param line its key; null for all lines together
     * @param column its name
     */
    CountedRows behind(Asked asked, @Nullable String line, String column, Viewer me) {
        return inTurn(() -> counted(asked, line, column, me));
    }

    private MeasureSheet made(Asked asked, Viewer me) {
        Figuring figuring = figuring(asked, me);
        Sheet sheet = figuring.of().apply(asked);
        MeasureLine before = asked.measure() == Measure.LAST_TOUCH
                ? null
                : before(sheet, figuring.of().apply(asked.before()));
        Map<UUID, String> names = names(asked.by(), sheet);
        List<MeasureLine> lines = sheet.lines().stream()
                .map(l -> line(l, MeasureWords.label(asked.by(), l.key(), names)))
                .collect(Collectors.toCollection(ArrayList::new));
        String only = "";
        if (lines.size() > MOST_LINES) {
            // there may be any number of accounts: the total is of all of them
            only = " These are the " + MOST_LINES + " of " + lines.size() + " with most of it.";
            lines.sort(Comparator.comparing(MeasureLine::basis).reversed());
            lines.subList(MOST_LINES, lines.size()).clear();
        }
        if (asked.by() == By.OWNER || asked.by() == By.ACCOUNT) {
            lines.sort(Comparator.comparing(MeasureLine::label));
        }
        return new MeasureSheet(
                info(asked.measure()),
                asked.by().word(),
                asked.span().from().toString(),
                asked.span().until().minusDays(1).toString(),
                asked.span().zone().getId(),
                MeasureWords.of(asked.measure(), sheet)
                        + only
                        + figuring.besides().get(),
                asked.measure().drawn(),
                sheet.columns().stream()
                        .map(c -> new MeasureColumn(c.name(), c.unit().name().toLowerCase(Locale.ROOT)))
                        .toList(),
                lines,
                line(sheet.total(), "All"),
                before,
                asked.measure().few(),
                sheet.hidden(),
                MeasureWords.hidden(asked.measure(), sheet.hidden()));
    }

    private CountedRows counted(Asked asked, @Nullable String line, String column, Viewer me) {
        Figuring figuring = figuring(asked, me);
        Sheet sheet = figuring.of().apply(asked);
        List<String> columns = sheet.columns().stream().map(Sheet.Column::name).toList();
        int at = columns.indexOf(column);
        if (at < 0) {
            throw Refusal.bad(
                    "“" + asked.measure().word() + "” has no column “" + column + "”",
                    "It has " + String.join(", ", columns) + ".");
        }
        Line of = line == null
                ? sheet.total()
                : sheet.lines().stream()
                        .filter(l -> l.key().equals(line))
                        .findFirst()
                        .orElseThrow(
                                () -> Refusal.bad("There is no line “" + line + "”", "Ask for the figures first."));
        List<Behind> counted = of.cells().get(at).rows();
        return asked.measure() == Measure.CAPTURE || asked.measure() == Measure.DECIDED_AGAIN
                ? capture.behind(asked, line, column, counted.size(), me)
                : inOrder(counted, figuring, me);
    }

    private <T> T inTurn(Supplier<T> answer) {
        boolean mine = false;
        try {
            mine = room.tryAcquire(PATIENCE_SECONDS, TimeUnit.SECONDS);
            if (!mine) {
                throw Refusal.of(
                        HttpStatus.SERVICE_UNAVAILABLE, "Too many ask for figures at once", "Ask again in a moment.");
            }
            return answer.get();
        } catch (InterruptedException ending) {
            Thread.currentThread().interrupt();
            throw Refusal.of(HttpStatus.SERVICE_UNAVAILABLE, "The service is stopping", "Ask again in a moment.");
        } finally {
            if (mine) {
                room.release();
            }
        }
    }

    private Figuring figuring(Asked all, Viewer me) {
        return switch (all.measure()) {
            case CONTACT -> contact(all, me);
            case REPLY_TIMES -> replies(all, me);
            case CAPTURE ->
                new Figuring(asked -> capture.sheet(asked, me), b -> Map.of(), () -> capture.late(all.span(), me));
            case DECIDED_AGAIN -> new Figuring(asked -> capture.changes(asked, me), b -> Map.of());
            case COVERAGE -> coverage(all, me);
            default -> figuring(all.measure(), me);
        };
    }

    private Figuring coverage(Asked all, Viewer me) {
        CoverageRows.History known = covered.all();
        CoverageFigures figures = new CoverageFigures(
                known.people(),
                known.covered(),
                known.connected(),
                all.only(),
                known.teams(),
                me.oversight()::covers,
                clock.instant());
        return new Figuring(asked -> figures.of(asked.span(), asked.by()), b -> Map.of());
    }

    /** With what came just before and after, which says whether something was answered. */
    private Figuring replies(Asked asked, Viewer me) {
        Instant now = clock.instant();
        MeasureRows.Exchanges all = rows.exchanges(
                me,
                asked.before().span().begin().minus(ReplyFigures.LONGEST),
                asked.span().end().plus(ReplyFigures.LONGEST),
                now);
        WorkingHours worked = hours.now();
        ReplyFigures figures =
                new ReplyFigures(all.all(), asked.only(), all.teams(), me.oversight()::covers, worked, now);
        return new Figuring(
                a -> figures.of(a.span(), a.by()),
                some -> dated(all, some),
                () -> " Hours are those of " + MeasureWords.hours(worked) + ".");
    }

    private Figuring contact(Asked asked, Viewer me) {
        MeasureRows.Exchanges all =
                rows.exchanges(me, asked.before().span().begin(), asked.span().end(), clock.instant());
        return new Figuring(
                a -> ContactFigures.of(all.all(), a.span(), a.by(), a.only(), all.teams(), me.oversight()::covers),
                some -> dated(all, some));
    }

    private static Map<Behind, Dated> dated(MeasureRows.Exchanges all, Set<Behind> some) {
        return all.all().dated(some).entrySet().stream()
                .collect(Collectors.toMap(Map.Entry::getKey, e -> Dated.of(e.getValue())));
    }

    private Figuring figuring(Measure measure, Viewer me) {
        Instant now = clock.instant();
        if (measure == Measure.LAST_TOUCH) {
            MeasureRows.Touched touched = rows.touched(me, now);
            return new Figuring(
                    asked -> Touches.of(touched.accounts(), asked.by(), asked.only(), touched.teams(), now),
                    b -> Map.of());
        }
        Rows all = rows.all(me, now);
        if (measure == Measure.STAGES) {
            StageFigures stages = new StageFigures(all.seen(), all.teams(), me.oversight()::covers);
            return new Figuring(asked -> stages.of(asked.span(), all.stages(), asked.only(), now), b -> Map.of());
        }
        SellingFigures figures = new SellingFigures(all.seen(), all.teams(), me.oversight()::covers);
        return new Figuring(
                switch (measure) {
                    case FIRST_MEETINGS -> asked -> figures.firstMeetings(asked.span(), asked.by(), asked.only());
                    case AFTER_TWO_MEETINGS ->
                        asked -> figures.afterTwoMeetings(asked.span(), asked.by(), asked.only());
                    default -> asked -> figures.toWin(asked.span(), asked.by(), asked.only());
                },
                some -> some.stream()
                        .flatMap(b -> all.seen().with(b.record()).stream())
                        .distinct()
                        .collect(Collectors.toMap(
                                m -> new Behind(m.meeting(), m.account()),
                                m -> Dated.of(m, all.seen()),
                                // who brought two copies that differ gets both
                                (one, other) -> one)));
    }

    private Map<UUID, String> names(By by, Sheet sheet) {
        if (by == By.ACCOUNT) {
            Set<UUID> accounts = sheet.lines().stream()
                    .map(Line::key)
                    .filter(k -> !k.isEmpty())
                    .map(UUID::fromString)
                    .collect(Collectors.toSet());
            return rows.named(accounts).values().stream().collect(Collectors.toMap(Named::id, Named::name));
        }
        if (by == By.POLICY || by == By.VERSION) {
            return capture.policies();
        }
        return people.all().stream().collect(Collectors.toMap(People.Person::id, People.Person::name));
    }

    private static MeasureLine line(Line line, String label) {
        return new MeasureLine(
                line.key(),
                label,
                line.basis(),
                line.cells().stream()
                        .map(c -> new MeasureCell(c.value(), c.rows().size()))
                        .toList());
    }

    /** Only where it has the same columns: of stages, other currencies may have been there. */
    private static @Nullable MeasureLine before(Sheet sheet, Sheet before) {
        return sheet.columns().equals(before.columns()) ? line(before.total(), "Before") : null;
    }

    private CountedRows inOrder(List<Behind> behind, Figuring figuring, Viewer me) {
        Set<Behind> meetings = behind.stream().filter(b -> b.meeting() != null).collect(Collectors.toSet());
        Map<Behind, Dated> met =
                meetings.isEmpty() ? Map.of() : figuring.meetings().apply(meetings);
        Comparator<Behind> newestFirst = Comparator.comparing(
                b -> Optional.ofNullable(met.get(b)).map(Dated::at).orElse(Instant.EPOCH), Comparator.reverseOrder());
        List<Behind> inOrder = behind.stream().sorted(newestFirst).toList();
        return new CountedRows(
                inOrder.size(), inOrder.size(), (from, until) -> shown(inOrder.subList(from, until), met, me));
    }

    private List<MeasureRow> shown(List<Behind> some, Map<Behind, Dated> met, Viewer me) {
        Map<UUID, String> titles = rows.titles(
                some.stream().map(Behind::meeting).filter(Objects::nonNull).collect(Collectors.toSet()), me);
        Map<UUID, Named> records = rows.named(some.stream().map(Behind::record).collect(Collectors.toSet()));
        return some.stream()
                .map(b -> row(b, met.get(b), titles, records.get(b.record())))
                .toList();
    }

    private static MeasureRow row(Behind b, @Nullable Dated met, Map<UUID, String> titles, @Nullable Named record) {
        UUID meeting = b.meeting();
        return new MeasureRow(
                meeting,
                met == null ? null : met.at(),
                meeting == null ? "" : titles.getOrDefault(meeting, ""),
                met == null ? "" : met.state(),
                b.record(),
                record == null ? "" : record.kind(),
                record == null ? "" : record.name());
    }

    static MeasureInfo info(Measure m) {
        return new MeasureInfo(
                m.word(),
                m.asks(),
                m.counts(),
                m.leavesOut(),
                m.outOf(),
                m.day(),
                m.by().stream().map(By::word).toList());
    }
}
