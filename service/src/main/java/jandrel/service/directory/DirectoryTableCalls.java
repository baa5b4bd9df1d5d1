package jandrel.service.directory;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.DirectoryApi.FileKind;
import jandrel.api.DirectoryApi.LineProblem;
import jandrel.api.DirectoryApi.RowEdit;
import jandrel.api.DirectoryApi.RowEdits;
import jandrel.api.DirectoryApi.RowsChanged;
import jandrel.api.DirectoryApi.TableColumn;
import jandrel.api.DirectoryApi.TablePage;
import jandrel.api.DirectoryApi.TableRow;
import jandrel.core.directory.DirectoryFile;
import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.OwnField;
import jandrel.core.directory.OwnFields;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Paging;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.TableOut;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.directory.DirectoryTables;
import jandrel.store.directory.DirectoryTables.TableLine;
import jandrel.store.directory.DirectoryTables.Wanted;
import jandrel.store.directory.OwnFieldList;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The directory as tables that one can work in: people, accounts, contacts, leads and opportunities. */
@RestController
class DirectoryTableCalls {
    private static final int MOST_EDITS = 1_000;
    private static final int EXPORTED = 5_000;
    /** Before the name of a column: a filter for it. */
    private static final String FILTER = "where.";

    private final DirectoryTables tables;
    private final RowChanges changes;
    private final WakeUp nudges;
    private final OwnFieldList own;

    DirectoryTableCalls(DirectoryTables tables, RowChanges changes, WakeUp nudges, OwnFieldList own) {
        this.own = own;
        this.tables = tables;
        this.changes = changes;
        this.nudges = nudges;
    }

    static DirectoryFile file(String kind) {
        return DirectoryFile.called(kind)
                .orElseThrow(() -> Refusal.bad(
                        "The directory has no “" + kind + "”",
                        "It has people, accounts, contacts, leads and opportunities."));
    }

    /**
     * @param find a part of a name, a key, an address or a domain
     * @param sort a column; with a minus before it, the last first
     * @param all with {@code where.COLUMN}: a part of its text, {@code =} and the whole of it, or {@code -} for those with nothing in it
     */
    private Wanted wanted(DirectoryFile file, String find, String sort, boolean archived, Map<String, String> all) {
        OwnFields fields = own.fields();
        List<String> columns = DirectoryTables.columns(file, fields);
        Map<String, String> filters = new TreeMap<>();
        all.forEach((name, value) -> {
            if (name.startsWith(FILTER) && !value.isBlank()) {
                filters.put(name.substring(FILTER.length()), value);
            }
        });
        boolean descending = sort.startsWith("-");
        String by = descending ? sort.substring(1) : sort;
        Stream.concat(filters.keySet().stream(), Stream.of(by))
                .filter(c -> !columns.contains(c))
                .findFirst()
                .ifPresent(c -> {
                    throw Refusal.bad(
                            "The table of " + file.word() + " has no column “" + c + "”",
                            "It has " + String.join(", ", columns) + ".");
                });
        return new Wanted(file, find.strip(), filters, by, descending, archived, fields);
    }

    @GetMapping("/api/directory/{kind}")
    TablePage table(
            @PathVariable("kind") String kind,
            @RequestParam(name = "find", defaultValue = "") String find,
            @RequestParam(name = "sort", defaultValue = "name") String sort,
            @RequestParam(name = "archived", defaultValue = "false") boolean archived,
            @RequestParam(name = "offset", defaultValue = "0") int offset,
            @RequestParam(name = "limit", defaultValue = "50") int limit,
            @RequestParam Map<String, String> all) {
        DirectoryFile file = file(kind);
        Wanted wanted = wanted(file, find, sort, archived, all);
        return new TablePage(
                tables.count(wanted),
                columns(file, wanted.own()),
                tables.page(wanted, Math.max(0, offset), Paging.limit(limit)).stream()
                        .map(DirectoryTableCalls::shown)
                        .toList());
    }

    private static List<TableColumn> columns(DirectoryFile file, OwnFields own) {
        Map<String, TableColumn> ofFile =
                ofFile(file, own).stream().collect(Collectors.toMap(TableColumn::name, Function.identity()));
        return DirectoryTables.columns(file, own).stream()
                .map(name -> ofFile.getOrDefault(name, new TableColumn(name, "count", false, null, null)))
                .toList();
    }

    private static List<TableColumn> ofFile(DirectoryFile file, OwnFields own) {
        return own.columns(file).stream().map(c -> column(c, own)).toList();
    }

    private static TableColumn column(DirectoryFile.Column c, OwnFields own) {
        Optional<OwnField> field = own.called(c.name());
        return new TableColumn(
                c.name(),
                c.type().name().toLowerCase(Locale.ROOT),
                c.required(),
                field.map(OwnField::name).orElse(null),
                field.map(OwnField::choices).filter(all -> !all.isEmpty()).orElse(null));
    }

    /** What there is, in the order in which files refer to each other. */
    @GetMapping("/api/directory")
    List<FileKind> kinds() {
        OwnFields fields = own.fields();
        return Arrays.stream(DirectoryFile.values())
                .map(f -> new FileKind(f.word(), ofFile(f, fields)))
                .toList();
    }

    private static TableRow shown(TableLine line) {
        return new TableRow(line.id(), line.key(), line.version(), line.archived(), line.byHand(), line.values());
    }

    @GetMapping("/api/directory/{kind}/{id}")
    TableRow row(@PathVariable("kind") String kind, @PathVariable("id") UUID id) {
        return tables.some(file(kind), new UUID[] {id}).stream()
                .findFirst()
                .map(DirectoryTableCalls::shown)
                .orElseThrow(() -> Refusal.notFound("record"));
    }

    /** The table as it is narrowed and sorted, whole; columns as files have them. */
    @GetMapping("/api/directory/{kind}/export.{format:csv|xlsx}")
    void export(
            @PathVariable("kind") String kind,
            @PathVariable("format") String format,
            @RequestParam(name = "find", defaultValue = "") String find,
            @RequestParam(name = "sort", defaultValue = "name") String sort,
            @RequestParam(name = "archived", defaultValue = "false") boolean archived,
            @RequestParam Map<String, String> all,
            HttpServletResponse response)
            throws IOException {
        DirectoryFile file = file(kind);
        Wanted wanted = wanted(file, find, sort, archived, all);
        List<String> columns = new ArrayList<>(DirectoryTables.columns(file, wanted.own()));
        columns.remove("key");
        columns.add(0, "key");
        try (TableOut out = TableOut.to(response, format, file.word(), columns)) {
            each(wanted, columns, out::row);
        }
    }

    @FunctionalInterface
    private interface Line {
        void write(List<String> cells) throws IOException;
    }

    private void each(Wanted wanted, List<String> columns, Line out) throws IOException {
        for (int offset = 0; ; offset += EXPORTED) {
            List<TableLine> lines = tables.page(wanted, offset, EXPORTED);
            for (TableLine line : lines) {
                out.write(columns.stream()
                        .map(c -> line.values().getOrDefault(c, ""))
                        .toList());
            }
            if (lines.size() < EXPORTED) {
                return;
            }
        }
    }

    /** All of them, or none. */
    @PutMapping("/api/directory/{kind}")
    @LargestBody(kilobytes = 2048)
    RowsChanged change(
            @PathVariable("kind") String kind, @RequestBody RowEdits wanted, @AuthenticationPrincipal SignedIn me) {
        DirectoryFile file = file(kind);
        if (wanted.rows().isEmpty() || wanted.rows().size() > MOST_EDITS) {
            throw Refusal.bad("Nothing was changed", "Give 1 to " + MOST_EDITS + " rows at once.");
        }
        Set<String> known = own.fields().columns(file).stream()
                .map(DirectoryFile.Column::name)
                .filter(c -> !c.equals("key"))
                .collect(Collectors.toSet());
        List<LineProblem> unknown = new ArrayList<>();
        for (int i = 0; i < wanted.rows().size(); i++) {
            for (String column : named(wanted.rows().get(i))) {
                if (!known.contains(column)) {
                    unknown.add(new LineProblem(i + 1, column, "there is no such column to change"));
                }
            }
        }
        if (!unknown.isEmpty()) {
            throw Refusal.misfit("Nothing was changed", "Mend what is named below.", unknown);
        }
        try {
            RowChanges.Made made = changes.make(file, wanted.rows(), me.login());
            nudges.rulesChanged();
            return new RowsChanged(wanted.rows().size(), made.reconsidering(), made.books(), made.undo());
        } catch (ImportRejected misfit) {
            throw Refusal.misfit(
                    "Nothing was changed: " + misfit.problems().get(0).reason(),
                    "Mend what is named below.",
                    misfit.problems().stream()
                            .map(p -> new LineProblem(Math.max(0, p.line() - 1), p.column(), p.reason()))
                            .toList());
        }
    }

    private static List<String> named(RowEdit edit) {
        List<String> all = new ArrayList<>(edit.values().keySet());
        @Nullable List<String> byHand = edit.byHand();
        if (byHand != null) {
            all.addAll(byHand);
        }
        return all;
    }
}
