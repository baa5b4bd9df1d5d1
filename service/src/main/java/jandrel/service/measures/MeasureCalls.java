package jandrel.service.measures;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.MeasureApi.MeasureCell;
import jandrel.api.MeasureApi.MeasureColumn;
import jandrel.api.MeasureApi.MeasureInfo;
import jandrel.api.MeasureApi.MeasureLine;
import jandrel.api.MeasureApi.MeasureRow;
import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.core.measures.Measure;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.MetAccount;
import jandrel.core.measures.SellingFigures;
import jandrel.core.measures.Sheet;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.measures.Sheet.Line;
import jandrel.core.measures.TeamHistory;
import jandrel.core.measures.Touches;
import jandrel.core.timeline.Standing;
import jandrel.service.kernel.CsvOut;
import jandrel.service.kernel.Refusal;
import jandrel.service.measures.MeasureQuery.Asked;
import jandrel.service.people.SignedIn;
import jandrel.store.measures.MeasureRows;
import jandrel.store.measures.MeasureRows.Named;
import jandrel.store.measures.MeasureRows.Rows;
import jandrel.store.measures.MeasureRows.Title;
import jandrel.store.people.People;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
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
    /** All meetings and changes are in memory meanwhile: so many answers are made at once. */
    private static final int AT_ONCE = 2;

    private static final int PATIENCE_SECONDS = 10;
    private static final Rows NOTHING = new Rows(List.of(), List.of(), new TeamHistory(List.of()), List.of());
    private final MeasureRows rows;
    private final People people;
    private final Clock clock;
    private final Semaphore room = new Semaphore(AT_ONCE, true);

    private record Known(Instant at, Rows rows) {}

    private record Answer(Sheet sheet, Map<Behind, MetAccount> met) {}

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
        Known known = known(asked, me);
        Answer answer = answer(asked, known, me);
        Map<UUID, String> names = names();
        Sheet sheet = answer.sheet();
        MeasureLine before = asked.measure() == Measure.LAST_TOUCH
                ? null
                : before(sheet, answer(asked.before(), known, me).sheet());
        List<MeasureLine> lines = sheet.lines().stream()
                .map(l -> line(l, label(asked.by(), l.key(), names)))
                .collect(Collectors.toCollection(ArrayList::new));
        if (asked.by() == By.OWNER) {
            lines.sort(Comparator.comparing(MeasureLine::label));
        }
        return new MeasureSheet(
                info(asked.measure()),
                asked.by().word(),
                asked.span().from().toString(),
                asked.span().until().minusDays(1).toString(),
                asked.span().zone().getId(),
                MeasureWords.of(asked.measure(), sheet),
                sheet.columns().stream()
                        .map(c -> new MeasureColumn(c.name(), c.unit().name().toLowerCase(Locale.ROOT)))
                        .toList(),
                lines,
                line(sheet.total(), "All"),
                before,
                Sheet.FEW,
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
    jandrel.api.MeasureApi.MeasureRows behind(
            @PathVariable("name") String name,
            @ParameterObject @ModelAttribute MeasureQuery query,
            @RequestParam(name = "line", required = false) @Nullable String line,
            @RequestParam(name = "column") String column,
            @AuthenticationPrincipal SignedIn me) {
        Asked asked = query.of(name, clock.instant());
        return inTurn(() -> behind(asked, line, column, me));
    }

    private jandrel.api.MeasureApi.MeasureRows behind(Asked asked, @Nullable String line, String column, SignedIn me) {
        Answer answer = answer(asked, known(asked, me), me);
        Sheet sheet = answer.sheet();
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
        return shown(of.cells().get(at).rows(), answer, me);
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

    /** What all figures of one answer are made of. */
    private Known known(Asked asked, SignedIn me) {
        Instant now = clock.instant();
        boolean touches = asked.measure() == Measure.LAST_TOUCH;
        return new Known(now, touches ? NOTHING : rows.all(me.viewer(), now));
    }

    private Answer answer(Asked asked, Known known, SignedIn me) {
        if (asked.measure() == Measure.LAST_TOUCH) {
            Instant now = known.at();
            MeasureRows.Touched touched = rows.touched(me.viewer(), now);
            return new Answer(
                    Touches.of(
                            touched.accounts(),
                            asked.by(),
                            asked.only(),
                            touched.teams(),
                            now,
                            asked.span().zone()),
                    Map.of());
        }
        Rows all = known.rows();
        SellingFigures figures = new SellingFigures(all.meetings(), all.deals(), all.teams(), me.oversight()::covers);
        Sheet sheet = switch (asked.measure()) {
            case FIRST_MEETINGS -> figures.firstMeetings(asked.span(), asked.by(), asked.only());
            case AFTER_TWO_MEETINGS -> figures.afterTwoMeetings(asked.span(), asked.by(), asked.only());
            case TO_WIN -> figures.toWin(asked.span(), asked.by(), asked.only());
            case STAGES, LAST_TOUCH -> figures.stages(asked.span(), all.stages(), asked.only(), known.at());
        };
        Map<Behind, MetAccount> met = all.meetings().stream()
                .collect(Collectors.toMap(m -> new Behind(m.meeting(), m.account()), Function.identity(), (a, b) -> a));
        return new Answer(sheet, met);
    }

    private Map<UUID, String> names() {
        return people.all().stream().collect(Collectors.toMap(People.Person::id, People.Person::name));
    }

    private static String label(By by, String key, Map<UUID, String> names) {
        return switch (by) {
            case MONTH -> MeasureWords.month(key);
            case OWNER -> key.isEmpty() ? "Nobody" : names.getOrDefault(UUID.fromString(key), "Somebody who has left");
            case TEAM -> key.isEmpty() ? "No team" : key;
            case CHANNEL -> key.isEmpty() ? "No channel" : key;
            case STAGE -> key.isEmpty() ? "No stage" : key;
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

    private jandrel.api.MeasureApi.MeasureRows shown(List<Behind> behind, Answer answer, SignedIn me) {
        Comparator<Behind> newestFirst = Comparator.comparing(
                b -> Optional.ofNullable(answer.met().get(b))
                        .map(MetAccount::begins)
                        .orElse(Instant.EPOCH),
                Comparator.reverseOrder());
        List<Behind> some = behind.stream().sorted(newestFirst).limit(MOST_ROWS).toList();
        Set<UUID> meetings = new HashSet<>();
        some.forEach(b -> {
            if (b.meeting() != null) {
                meetings.add(b.meeting());
            }
        });
        Map<UUID, Title> titles = rows.titles(meetings, me.viewer());
        Map<UUID, Named> records = rows.named(some.stream().map(Behind::record).collect(Collectors.toSet()));
        return new jandrel.api.MeasureApi.MeasureRows(
                behind.size(),
                some.stream().map(b -> row(b, answer, titles, records)).toList());
    }

    private static MeasureRow row(Behind b, Answer answer, Map<UUID, Title> titles, Map<UUID, Named> records) {
        UUID meeting = b.meeting();
        Title title = meeting == null ? null : titles.get(meeting);
        MetAccount met = answer.met().get(b);
        Standing standing = met == null ? null : met.standing();
        Named record = records.get(b.record());
        return new MeasureRow(
                meeting,
                met == null ? null : met.begins(),
                title == null ? "" : title.title(),
                standing == null ? "" : standing.word(),
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
