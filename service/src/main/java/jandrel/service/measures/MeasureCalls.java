package jandrel.service.measures;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.MeasureApi.MeasureCell;
import jandrel.api.MeasureApi.MeasureColumn;
import jandrel.api.MeasureApi.MeasureInfo;
import jandrel.api.MeasureApi.MeasureLine;
import jandrel.api.MeasureApi.MeasureRow;
import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.api.MeasureApi.RowsBehind;
import jandrel.core.measures.ContactDay;
import jandrel.core.measures.ContactFigures;
import jandrel.core.measures.Contacts;
import jandrel.core.measures.Measure;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.MetAccount;
import jandrel.core.measures.SellingFigures;
import jandrel.core.measures.SellingHistory;
import jandrel.core.measures.Sheet;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.StageFigures;
import jandrel.core.measures.Touches;
import jandrel.core.timeline.Standing;
import jandrel.service.kernel.CsvOut;
import jandrel.service.kernel.Refusal;
import jandrel.service.measures.MeasureQuery.Asked;
import jandrel.service.people.SignedIn;
import jandrel.store.measures.MeasureRows;
import jandrel.store.measures.MeasureRows.Named;
import jandrel.store.measures.MeasureRows.Rows;
import jandrel.store.people.People;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
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
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Measures: their definitions, their figures, and what stands behind each. */
@RestController
class MeasureCalls {
    private static final int MOST_ROWS = 500;
    private static final int MOST_LINES = 300;
    /** All meetings and changes are in memory meanwhile: so many answers are made at once. */
    private static final int AT_ONCE = 2;

    private static final int PATIENCE_SECONDS = 10;
    private final MeasureRows rows;
    private final People people;
    private final Clock clock;
    private final Semaphore room = new Semaphore(AT_ONCE, true);

    /**
     * Figures over rows that were read once.
     *
     * @param of the same measure, for any time
     */
    private record Figuring(Function<Asked, Sheet> of, Function<Set<Behind>, Map<Behind, Dated>> meetings) {}

    /** @param state of a meeting, or which way mail went */
    private record Dated(Instant at, String state) {
        static Dated of(MetAccount met, SellingHistory.Seen seen) {
            Standing standing = seen.standing(met);
            return new Dated(met.begins(), standing == null ? "" : standing.word());
        }

        static Dated of(Contacts.Dated one) {
            ContactDay.What what = one.what();
            return new Dated(
                    one.at(),
                    what == null ? "" : what.name().toLowerCase(Locale.ROOT).replace('_', ' '));
        }
    }

    MeasureCalls(MeasureRows rows, People people, Clock clock) {
        this.rows = rows;
        this.people = people;
        this.clock = clock;
    }

    @GetMapping("/api/measures")
    List<MeasureInfo> all() {
        return Arrays.stream(Measure.values()).map(MeasureCalls::info).toList();
    }

    @GetMapping("/api/measures/{name}")
    MeasureSheet figures(
            @PathVariable("name") String name,
            @ParameterObject @ModelAttribute MeasureQuery query,
            @AuthenticationPrincipal SignedIn me) {
        Asked asked = query.of(name, clock.instant());
        return inTurn(() -> sheet(asked, me));
    }

    private MeasureSheet sheet(Asked asked, SignedIn me) {
        Figuring figuring = figuring(asked, me);
        Sheet sheet = figuring.of().apply(asked);
        MeasureLine before = asked.measure() == Measure.LAST_TOUCH
                ? null
                : before(sheet, figuring.of().apply(asked.before()));
        Map<UUID, String> names = names(asked.by(), sheet);
        List<MeasureLine> lines = sheet.lines().stream()
                .map(l -> line(l, label(asked.by(), l.key(), names)))
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
                MeasureWords.of(asked.measure(), sheet) + only,
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

    /**
     * What stands behind a figure: exactly the ones that it counts, the first five hundred of them.
     *
     * @param line its key; missing for all lines together
     * @param column its name
     */
    @GetMapping("/api/measures/{name}/rows")
    RowsBehind behind(
            @PathVariable("name") String name,
            @ParameterObject @ModelAttribute MeasureQuery query,
            @RequestParam(name = "line", required = false) @Nullable String line,
            @RequestParam(name = "column") String column,
            @AuthenticationPrincipal SignedIn me) {
        Asked asked = query.of(name, clock.instant());
        return inTurn(() -> behind(asked, line, column, me));
    }

    private RowsBehind behind(Asked asked, @Nullable String line, String column, SignedIn me) {
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
        return shown(of.cells().get(at).rows(), figuring, me);
    }

    @GetMapping("/api/measures/{name}/figures.csv")
    void csv(
            @PathVariable("name") String name,
            @ParameterObject @ModelAttribute MeasureQuery query,
            @AuthenticationPrincipal SignedIn me,
            HttpServletResponse response)
            throws IOException {
        MeasureSheet sheet = figures(name, query, me);
        response.setContentType("text/csv;charset=UTF-8");
        response.setHeader("Content-Disposition", "attachment; filename=\"" + name + ".csv\"");
        List<String> heading = new ArrayList<>(List.of(sheet.by(), "key", "basis"));
        sheet.columns().forEach(c -> heading.add(c.name()));
        CsvOut out = new CsvOut(response.getWriter(), heading.toArray(String[]::new));
        for (MeasureLine line : sheet.lines()) {
            List<Object> cells = new ArrayList<>(List.of(line.label(), line.key(), line.basis()));
            line.cells().forEach(c -> cells.add(c.value() == null ? "" : c.value()));
            out.row(cells.toArray());
        }
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

    private Figuring figuring(Asked all, SignedIn me) {
        Measure measure = all.measure();
        return measure == Measure.CONTACT ? contact(all, me) : figuring(measure, me);
    }

    private Figuring contact(Asked asked, SignedIn me) {
        MeasureRows.Exchanges all = rows.exchanges(
                me.viewer(), asked.before().span().begin(), asked.span().end(), clock.instant());
        return new Figuring(
                a -> ContactFigures.of(all.all(), a.span(), a.by(), a.only(), all.teams(), me.oversight()::covers),
                some -> all.all().dated(some).entrySet().stream()
                        .collect(Collectors.toMap(Map.Entry::getKey, e -> Dated.of(e.getValue()))));
    }

    private Figuring figuring(Measure measure, SignedIn me) {
        Instant now = clock.instant();
        if (measure == Measure.LAST_TOUCH) {
            MeasureRows.Touched touched = rows.touched(me.viewer(), now);
            return new Figuring(
                    asked -> Touches.of(touched.accounts(), asked.by(), asked.only(), touched.teams(), now),
                    b -> Map.of());
        }
        Rows all = rows.all(me.viewer(), now);
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
        return people.all().stream().collect(Collectors.toMap(People.Person::id, People.Person::name));
    }

    private static String label(By by, String key, Map<UUID, String> names) {
        return switch (by) {
            case MONTH -> MeasureWords.month(key);
            case OWNER -> key.isEmpty() ? "Nobody" : names.getOrDefault(UUID.fromString(key), "Somebody who has left");
            case TEAM -> key.isEmpty() ? "No team" : key;
            case CHANNEL -> key.isEmpty() ? "No channel" : key;
            case STAGE -> key.isEmpty() ? "No stage" : key;
            case RESULT -> key.isEmpty() ? "No result" : key;
            case WEEK -> "Week of " + MeasureWords.day(key);
            case ACCOUNT ->
                key.isEmpty() ? "No account" : names.getOrDefault(UUID.fromString(key), "One that was removed");
        };
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

    private RowsBehind shown(List<Behind> behind, Figuring figuring, SignedIn me) {
        Set<Behind> meetings = behind.stream().filter(b -> b.meeting() != null).collect(Collectors.toSet());
        Map<Behind, Dated> met =
                meetings.isEmpty() ? Map.of() : figuring.meetings().apply(meetings);
        Comparator<Behind> newestFirst = Comparator.comparing(
                b -> Optional.ofNullable(met.get(b)).map(Dated::at).orElse(Instant.EPOCH), Comparator.reverseOrder());
        List<Behind> some = behind.stream().sorted(newestFirst).limit(MOST_ROWS).toList();
        Map<UUID, String> titles = rows.titles(
                some.stream().map(Behind::meeting).filter(Objects::nonNull).collect(Collectors.toSet()), me.viewer());
        Map<UUID, Named> records = rows.named(some.stream().map(Behind::record).collect(Collectors.toSet()));
        return new RowsBehind(
                behind.size(),
                some.stream()
                        .map(b -> row(b, met.get(b), titles, records.get(b.record())))
                        .toList());
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

    private static MeasureInfo info(Measure m) {
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
