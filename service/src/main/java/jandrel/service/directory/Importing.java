package jandrel.service.directory;

import jandrel.core.directory.DirectoryFile;
import jandrel.core.directory.DirectoryFile.CellKind;
import jandrel.core.directory.DirectoryRows.PersonRow;
import jandrel.core.directory.DirectoryRows.Row;
import jandrel.core.directory.ForeignRows;
import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.OwnFields;
import jandrel.core.directory.RecordKind;
import jandrel.core.journal.Entry.Thing;
import jandrel.formats.mail.Phones;
import jandrel.formats.table.DirectoryFiles;
import jandrel.formats.table.Parsed;
import jandrel.store.directory.Directory;
import jandrel.store.directory.ImportFiles;
import jandrel.store.directory.ImportUndo;
import jandrel.store.directory.OwnFieldList;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.FileImport.Fitting;
import jandrel.store.kernel.FileImport.Outcome;
import jandrel.store.kernel.FileImport.Taken;
import jandrel.store.people.PeopleImport;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Takes in files from elsewhere: what they would do first, then the lines that fit, all of them or none. */
@Component
class Importing {
    private final ImportFiles files;
    private final Directory directory;
    private final PeopleImport people;
    private final Phones phones;
    private final Journal journal;
    private final OwnFieldList own;
    private final ImportUndo undo;

    Importing(
            ImportFiles files,
            Directory directory,
            PeopleImport people,
            Phones phones,
            Journal journal,
            OwnFieldList own,
            ImportUndo undo) {
        this.own = own;
        this.undo = undo;
        this.files = files;
        this.directory = directory;
        this.people = people;
        this.phones = phones;
        this.journal = journal;
    }

    /** What lines would do. Changes nothing. */
    Fitting look(DirectoryFile file, List<String> mapping, List<List<String>> lines) throws ImportRejected {
        Parsed<? extends Row> parsed = read(file, mapping, lines);
        Fitting fitting = file.kind().isPresent()
                ? directory.preview(file.kind().get(), parsed.rows())
                : people.preview(people(parsed.rows()));
        return new Fitting(fitting.rows(), inOrder(parsed.problems(), fitting.problems()), fitting.plan());
    }

    private static List<PersonRow> people(List<? extends Row> rows) {
        return rows.stream().map(PersonRow.class::cast).toList();
    }

    private static List<ImportProblem> inOrder(List<ImportProblem> some, List<ImportProblem> others) {
        return Stream.concat(some.stream(), others.stream())
                .sorted(Comparator.comparingLong(ImportProblem::line))
                .toList();
    }

    /** How many lines these leave out. */
    static int leftOut(List<ImportProblem> problems) {
        return (int) problems.stream().map(ImportProblem::line).distinct().count();
    }

    /**
     * @param mapping for each of their columns the name of ours
     * @throws ImportRejected if nothing of it can be read
     */
    private Parsed<? extends Row> read(DirectoryFile file, List<String> mapping, List<List<String>> lines)
            throws ImportRejected {
        OwnFields fields = own.fields();
        ForeignRows foreign = new ForeignRows(file, fields, mapping);
        Map<CellKind, Map<String, String>> keys = keys(foreign, lines);
        Iterable<Map<String, String>> ours =
                () -> lines.stream().map(cells -> foreign.line(cells, keys)).iterator();
        return DirectoryFiles.parse(file, DirectoryFiles.written(foreign.columns(), ours), phones, fields);
    }

    private Map<CellKind, Map<String, String>> keys(ForeignRows foreign, List<List<String>> lines) {
        Map<CellKind, Map<String, String>> keys = new EnumMap<>(CellKind.class);
        for (CellKind kind : List.of(CellKind.PERSON, CellKind.ACCOUNT)) {
            String[] named = lines.stream()
                    .flatMap(cells -> foreign.references(kind, cells).stream())
                    .distinct()
                    .toArray(String[]::new);
            Map<String, String> found = new HashMap<>();
            if (named.length > 0) {
                (kind == CellKind.PERSON ? files.people(named) : files.accounts(named))
                        .forEach(n -> found.put(n.named(), n.key()));
            }
            keys.put(kind, found);
        }
        return keys;
    }

    /** The lines that fit, all of them or none, with an entry in the journal. */
    @Transactional(rollbackFor = ImportRejected.class)
    public Taken take(
            UUID id, DirectoryFile file, List<String> mapping, List<List<String>> lines, String name, String by)
            throws ImportRejected {
        Parsed<? extends Row> parsed = read(file, mapping, lines);
        Taken taken = file.kind().isPresent()
                ? takeRecords(id, file.kind().get(), parsed.rows(), name, by)
                : people.takeFitting(people(parsed.rows()));
        Taken all = new Taken(taken.outcome(), inOrder(parsed.problems(), taken.problems()));
        Outcome outcome = all.outcome();
        journal.add(
                by,
                "imported",
                new Thing("directory", file.word(), file.word()),
                null,
                Map.of(
                        "file", name,
                        "added", outcome.added(),
                        "updated", outcome.updated(),
                        "unchanged", outcome.unchanged(),
                        "left out", leftOut(all.problems())));
        return all;
    }

    private Taken takeRecords(UUID id, RecordKind kind, List<? extends Row> rows, String name, String by)
            throws ImportRejected {
        undo.begin(id, kind, name, by);
        return directory.takeFitting(kind, rows, id);
    }
}
