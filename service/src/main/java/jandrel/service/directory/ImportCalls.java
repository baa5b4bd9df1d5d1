package jandrel.service.directory;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.DirectoryApi.FileColumn;
import jandrel.api.DirectoryApi.ImportExample;
import jandrel.api.DirectoryApi.ImportInfo;
import jandrel.api.DirectoryApi.ImportMapping;
import jandrel.api.DirectoryApi.ImportPreview;
import jandrel.api.DirectoryApi.LineProblem;
import jandrel.core.directory.ColumnMatch;
import jandrel.core.directory.DirectoryFile;
import jandrel.core.directory.DirectoryRows;
import jandrel.core.directory.ForeignRows;
import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import jandrel.formats.table.ForeignTable;
import jandrel.service.kernel.CsvOut;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.directory.ImportFiles;
import jandrel.store.directory.ImportFiles.ImportFile;
import jandrel.store.directory.OwnFieldList;
import jandrel.store.kernel.FileImport.Change;
import jandrel.store.kernel.FileImport.Fitting;
import jandrel.store.kernel.FileImport.Outcome;
import jandrel.store.kernel.FileImport.Taken;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Files from elsewhere: their columns are matched, what they would do is shown, then they are taken. */
@RestController
class ImportCalls implements DisposableBean {
    private static final Logger LOG = LoggerFactory.getLogger(ImportCalls.class);
    private static final Duration KEPT = Duration.ofDays(1);
    /** Without a sign of life for so long, whoever took it has gone. */
    private static final Duration DEAD = Duration.ofMinutes(15);

    private static final int SAMPLES = 5;
    private static final int SAMPLED = 200;
    private static final int EXAMPLES = 5;
    private static final int PROBLEMS = 100;
    private static final int LONGEST_NAME = 200;
    private final ImportFiles files;
    private final Importing importing;
    private final WakeUp nudges;
    private final OwnFieldList own;
    private final Clock clock;
    private final ExecutorService taking = Executors.newSingleThreadExecutor(work -> {
        Thread thread = new Thread(work, "import");
        thread.setDaemon(true);
        return thread;
    });

    ImportCalls(ImportFiles files, Importing importing, WakeUp nudges, OwnFieldList own, Clock clock) {
        this.own = own;
        this.files = files;
        this.importing = importing;
        this.nudges = nudges;
        this.clock = clock;
    }

    @Override
    public void destroy() {
        taking.shutdownNow();
    }

    /** @param name of the file, for whoever looks at it again */
    @PostMapping(path = "/api/imports/{kind}", consumes = "application/octet-stream")
    @LargestBody(kilobytes = 100 * 1024)
    @ResponseStatus(HttpStatus.CREATED)
    ImportInfo add(
            @PathVariable("kind") String kind,
            @RequestParam(name = "name", defaultValue = "") String name,
            @RequestBody byte[] file,
            @AuthenticationPrincipal SignedIn me) {
        DirectoryFile ours = DirectoryTableCalls.file(kind);
        ForeignTable table;
        try {
            table = ForeignTable.of(file);
        } catch (ForeignTable.Unreadable unreadable) {
            throw Refusal.bad(
                    "The file cannot be read: " + unreadable.getMessage(), "Give a CSV file or an .xlsx workbook.");
        }
        files.forget(clock.instant().minus(KEPT));
        Set<String> known = known(ours);
        List<String> mapping = files.mapped(kind, heading(table.heading()))
                // a field of the company's own may have gone since
                .map(kept -> Arrays.stream(kept.split("\t", -1))
                        .map(c -> known.contains(c) ? c : "")
                        .toList())
                .orElseGet(() -> ColumnMatch.match(ours, own.fields(), table.heading(), sampled(table)));
        ImportFile kept = new ImportFile(
                UUID.randomUUID(),
                me.id(),
                kind,
                name.length() > LONGEST_NAME ? name.substring(0, LONGEST_NAME) : name,
                table.heading().toArray(String[]::new),
                table.lines().size(),
                mapping.toArray(String[]::new),
                "looked-at",
                "",
                clock.instant());
        files.add(kept, PackedLines.packed(table.lines()));
        return info(kept, table.lines());
    }

    private static List<List<String>> sampled(ForeignTable table) {
        return IntStream.range(0, table.heading().size())
                .mapToObj(i -> table.lines().stream()
                        .limit(SAMPLED)
                        .map(line -> line.get(i))
                        .toList())
                .toList();
    }

    private Set<String> known(DirectoryFile file) {
        return own.fields().columns(file).stream()
                .map(DirectoryFile.Column::name)
                .collect(Collectors.toSet());
    }

    private static String heading(List<String> heading) {
        return String.join("\t", heading).toLowerCase(java.util.Locale.ROOT);
    }

    private static ImportInfo info(ImportFile file, List<List<String>> lines) {
        List<FileColumn> columns = new ArrayList<>();
        for (int i = 0; i < file.heading().length; i++) {
            int column = i;
            columns.add(new FileColumn(
                    file.heading()[i],
                    lines.stream()
                            .limit(SAMPLED)
                            .map(line -> line.get(column))
                            .filter(cell -> !cell.isBlank())
                            .distinct()
                            .limit(SAMPLES)
                            .toList(),
                    file.mapping()[i]));
        }
        return new ImportInfo(file.id(), file.kind(), file.name(), file.count(), columns, file.state(), file.says());
    }

    private ImportFile own(UUID id, SignedIn me) {
        files.abandoned(
                clock.instant().minus(DEAD), "Nothing was taken: the service ended meanwhile. Take it once more.");
        return files.find(id, me.id()).orElseThrow(() -> Refusal.notFound("import"));
    }

    private List<List<String>> lines(ImportFile file) {
        return PackedLines.unpacked(files.lines(file.id()).lines());
    }

    @GetMapping("/api/imports/{id}")
    ImportInfo one(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        ImportFile file = own(id, me);
        return info(file, file.state().equals("running") ? List.of() : lines(file));
    }

    /** Corrects which of their columns are which of ours. */
    @PutMapping("/api/imports/{id}/mapping")
    ImportPreview map(
            @PathVariable("id") UUID id, @RequestBody ImportMapping wanted, @AuthenticationPrincipal SignedIn me) {
        ImportFile file = own(id, me);
        Set<String> known = known(DirectoryTableCalls.file(file.kind()));
        if (wanted.ours().size() != file.heading().length) {
            throw Refusal.bad("The file has " + file.heading().length + " columns", "Say of each what it is.");
        }
        wanted.ours().stream()
                .filter(c -> !c.isEmpty() && !known.contains(c))
                .findFirst()
                .ifPresent(c -> {
                    throw Refusal.bad(
                            "There is no column “" + c + "” here", "There are " + String.join(", ", known) + ".");
                });
        if (files.map(id, wanted.ours().toArray(String[]::new)) == 0) {
            throw Refusal.of(HttpStatus.CONFLICT, "It is being taken, or was", "Look at the file anew.");
        }
        return preview(id, me);
    }

    @GetMapping("/api/imports/{id}/preview")
    ImportPreview preview(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        ImportFile file = own(id, me);
        List<String> missing = foreign(file).missing();
        if (!missing.isEmpty()) {
            return new ImportPreview(missing, 0, 0, 0, 0, List.of(), List.of());
        }
        Fitting seen = seen(file);
        Map<Change, Integer> counts = new EnumMap<>(Change.class);
        Map<Change, List<ImportExample>> examples = new EnumMap<>(Change.class);
        for (DirectoryRows.Row row : seen.rows()) {
            Change change = seen.plan().change(row.key());
            counts.merge(change, 1, Integer::sum);
            List<ImportExample> some = examples.computeIfAbsent(change, c -> new ArrayList<>());
            if (some.size() < EXAMPLES) {
                some.add(new ImportExample(
                        row.line(), row.key(), row.name(), change.name().toLowerCase(java.util.Locale.ROOT)));
            }
        }
        return new ImportPreview(
                List.of(),
                counts.getOrDefault(Change.ADDED, 0),
                counts.getOrDefault(Change.CHANGED, 0),
                counts.getOrDefault(Change.UNCHANGED, 0),
                Importing.leftOut(seen.problems()),
                Arrays.stream(Change.values())
                        .flatMap(c -> examples.getOrDefault(c, List.of()).stream())
                        .toList(),
                seen.problems().stream()
                        .limit(PROBLEMS)
                        .map(p -> new LineProblem(p.line(), p.column(), p.reason()))
                        .toList());
    }

    private ForeignRows foreign(ImportFile file) {
        return new ForeignRows(DirectoryTableCalls.file(file.kind()), own.fields(), List.of(file.mapping()));
    }

    private Fitting seen(ImportFile file) {
        try {
            return importing.look(DirectoryTableCalls.file(file.kind()), List.of(file.mapping()), lines(file));
        } catch (ImportRejected unreadable) {
            throw Refusal.bad(
                    "The file cannot be taken: " + unreadable.problems().get(0).reason(), "Look at its columns.");
        }
    }

    /** Takes the lines that fit, all of them or none, while the caller looks on. */
    @PostMapping("/api/imports/{id}/take")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void take(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        ImportFile file = own(id, me);
        List<String> missing = foreign(file).missing();
        if (!missing.isEmpty()) {
            throw Refusal.bad("Nothing is the " + String.join(" and the ", missing), "Say which column it is.");
        }
        if (files.begin(id, clock.instant()) == 0) {
            throw Refusal.of(HttpStatus.CONFLICT, "It is being taken, or was", "Look at what came of it.");
        }
        taking.execute(() -> taken(file, me));
    }

    private void taken(ImportFile file, SignedIn me) {
        try {
            Taken taken = importing.take(
                    file.id(),
                    DirectoryTableCalls.file(file.kind()),
                    List.of(file.mapping()),
                    lines(file),
                    file.name(),
                    me.login());
            Outcome outcome = taken.outcome();
            files.remember(file.kind(), heading(List.of(file.heading())), String.join("\t", file.mapping()));
            nudges.rulesChanged();
            files.ended(
                    file.id(),
                    "done",
                    outcome.added() + " added, " + outcome.updated() + " changed, " + outcome.unchanged()
                            + " as they were, " + Importing.leftOut(taken.problems()) + " left out.",
                    clock.instant());
        } catch (ImportRejected rejected) {
            files.ended(
                    file.id(),
                    "failed",
                    "Nothing was taken: " + rejected.problems().get(0).reason() + ".",
                    clock.instant());
        } catch (RuntimeException failed) {
            LOG.error("import {} failed", file.id(), failed);
            files.ended(
                    file.id(), "failed", "Nothing was taken: something went wrong here. Try again.", clock.instant());
        }
    }

    /** The lines that are left out, as the file has them, each with the reason. */
    @GetMapping(path = "/api/imports/{id}/refused.csv", produces = "text/csv")
    void refused(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me, HttpServletResponse response)
            throws IOException {
        ImportFile file = own(id, me);
        Map<Long, List<ImportProblem>> problems =
                seen(file).problems().stream().collect(Collectors.groupingBy(ImportProblem::line));
        List<List<String>> lines = lines(file);
        response.setContentType("text/csv;charset=UTF-8");
        response.setHeader("Content-Disposition", "attachment; filename=\"left-out.csv\"");
        List<String> columns = new ArrayList<>(List.of(file.heading()));
        columns.addAll(List.of("line", "why it was left out"));
        CsvOut out = new CsvOut(response.getWriter(), columns.toArray(String[]::new));
        for (int i = 0; i < lines.size(); i++) {
            List<ImportProblem> wrong = problems.get(i + 2L);
            if (wrong != null) {
                List<Object> cells = new ArrayList<>(lines.get(i));
                cells.add(i + 2);
                cells.add(wrong.stream()
                        .map(p -> (p.column().isEmpty() ? "" : p.column() + ": ") + p.reason())
                        .collect(Collectors.joining("; ")));
                out.row(cells.toArray());
            }
        }
    }

    @DeleteMapping("/api/imports/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        files.remove(id, me.id());
    }
}
