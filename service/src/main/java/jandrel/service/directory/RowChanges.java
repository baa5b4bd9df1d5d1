package jandrel.service.directory;

import jandrel.api.DirectoryApi.RowEdit;
import jandrel.core.directory.DirectoryFile;
import jandrel.core.directory.DirectoryRows.PersonRow;
import jandrel.core.directory.DirectoryRows.Row;
import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.OwnFields;
import jandrel.core.directory.RecordKind;
import jandrel.core.journal.Entry.Thing;
import jandrel.formats.mail.Phones;
import jandrel.formats.table.DirectoryFiles;
import jandrel.service.kernel.Refusal;
import jandrel.store.directory.Directory;
import jandrel.store.directory.DirectoryTables;
import jandrel.store.directory.DirectoryTables.TableLine;
import jandrel.store.directory.OwnFieldList;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Reopener;
import jandrel.store.kernel.StaleVersion;
import jandrel.store.people.PeopleImport;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Changes rows of the directory's tables: what somebody types is read as the files are, and kept from them. */
@Component
class RowChanges {
    private static final String SINCE = "since";
    private final DirectoryTables tables;
    private final Directory directory;
    private final PeopleImport people;
    private final Phones phones;
    private final Journal journal;
    private final Reopener reopener;
    private final OwnFieldList own;

    /**
     * @param undo what makes them as they were
     * @param reconsidering how many decisions are made again because of them
     * @param books in how many address books those stand that were archived
     */
    record Made(List<RowEdit> undo, long reconsidering, int books) {}

    RowChanges(
            DirectoryTables tables,
            Directory directory,
            PeopleImport people,
            Phones phones,
            Journal journal,
            Reopener reopener,
            OwnFieldList own) {
        this.own = own;
        this.reopener = reopener;
        this.tables = tables;
        this.directory = directory;
        this.people = people;
        this.phones = phones;
        this.journal = journal;
    }

    /**
     * All of them or none, with an entry in the journal for each.
     *
     * @throws StaleVersion if somebody changed one of them since it was read
     */
    @Transactional(rollbackFor = ImportRejected.class)
    public Made make(DirectoryFile file, List<RowEdit> edits, String by) throws ImportRejected {
        UUID[] ids = edits.stream().map(RowEdit::id).distinct().toArray(UUID[]::new);
        if (ids.length < edits.size()) {
            throw Refusal.bad("Nothing was changed", "A row is named twice.");
        }
        long waiting = reopener.left();
        Map<UUID, TableLine> before = lines(file, ids);
        if (before.size() < ids.length) {
            throw Refusal.notFound("record");
        }
        int books = directory.books(edits.stream()
                .filter(e -> Boolean.TRUE.equals(e.archived()))
                .map(RowEdit::id)
                .toList());
        OwnFields fields = own.fields();
        List<DirectoryFile.Column> known = fields.columns(file);
        List<? extends Row> rows = DirectoryFiles.read(
                file,
                DirectoryFiles.written(columns(file, known, edits), cells(file, known, edits, before)),
                phones,
                fields);
        if (file.kind().isPresent()) {
            records(file.kind().get(), rows, edits, before);
        } else {
            people.change(
                    rows.stream().map(PersonRow.class::cast).toList(),
                    edits.stream().collect(Collectors.toMap(RowEdit::id, RowEdit::version)));
        }
        Map<UUID, TableLine> after = lines(file, ids);
        journal.add(by, noted(file, known, edits, before, after));
        return new Made(
                edits.stream()
                        .map(e -> undone(e, before.get(e.id()), after.get(e.id())))
                        .toList(),
                Math.max(0, reopener.left() - waiting),
                books);
    }

    private Map<UUID, TableLine> lines(DirectoryFile file, UUID[] ids) {
        return tables.some(file, ids).stream().collect(Collectors.toMap(TableLine::id, Function.identity()));
    }

    private void records(RecordKind kind, List<? extends Row> rows, List<RowEdit> edits, Map<UUID, TableLine> before)
            throws ImportRejected {
        List<Directory.Edit> made = new ArrayList<>();
        for (RowEdit edit : edits) {
            @Nullable List<String> marks = edit.byHand();
            made.add(new Directory.Edit(
                    edit.id(),
                    of(before, edit).key(),
                    edit.version(),
                    edit.values().keySet().stream()
                            .filter(c -> !c.equals(SINCE))
                            .collect(Collectors.toSet()),
                    marks == null ? null : Set.copyOf(marks),
                    edit.archived()));
        }
        directory.change(kind, rows, made);
    }

    private static TableLine of(Map<UUID, TableLine> lines, RowEdit edit) {
        return java.util.Objects.requireNonNull(lines.get(edit.id()));
    }

    /** What a file must have, and what is changed: all else stays as it is, and need not be read. Of people, all of it counts. */
    private static List<String> columns(DirectoryFile file, List<DirectoryFile.Column> known, List<RowEdit> edits) {
        Set<String> changed =
                edits.stream().flatMap(e -> e.values().keySet().stream()).collect(Collectors.toSet());
        return known.stream()
                .filter(c -> c.required() || file.kind().isEmpty() || changed.contains(c.name()))
                .map(DirectoryFile.Column::name)
                .toList();
    }

    private static List<Map<String, String>> cells(
            DirectoryFile file, List<DirectoryFile.Column> known, List<RowEdit> edits, Map<UUID, TableLine> before) {
        List<Map<String, String>> cells = new ArrayList<>();
        for (RowEdit edit : edits) {
            Map<String, String> line = new HashMap<>();
            for (DirectoryFile.Column column : known) {
                boolean stays = column.required() || file.kind().isEmpty();
                String was = stays ? of(before, edit).values().getOrDefault(column.name(), "") : "";
                line.put(column.name(), edit.values().getOrDefault(column.name(), was));
            }
            line.put("key", of(before, edit).key());
            cells.add(line);
        }
        return cells;
    }

    private static List<Journal.Change> noted(
            DirectoryFile file,
            List<DirectoryFile.Column> known,
            List<RowEdit> edits,
            Map<UUID, TableLine> before,
            Map<UUID, TableLine> after) {
        List<Journal.Change> changes = new ArrayList<>();
        for (RowEdit edit : edits) {
            TableLine was = of(before, edit);
            TableLine is = of(after, edit);
            Map<String, Object> from = new TreeMap<>();
            Map<String, Object> to = new TreeMap<>();
            known.forEach(c -> {
                String old = was.values().getOrDefault(c.name(), "");
                String now = is.values().getOrDefault(c.name(), "");
                if (!old.equals(now)) {
                    from.put(c.name(), old);
                    to.put(c.name(), now);
                }
            });
            if (was.archived() != is.archived()) {
                from.put("archived", was.archived());
                to.put("archived", is.archived());
            }
            if (!from.isEmpty()) {
                String kind = file.kind().map(RecordKind::word).orElse("person");
                String name = is.values().getOrDefault("name", is.key());
                changes.add(
                        new Journal.Change("changed", new Thing(kind, is.id().toString(), name), from, to));
            }
        }
        return changes;
    }

    private static RowEdit undone(RowEdit edit, @Nullable TableLine was, @Nullable TableLine is) {
        if (was == null || is == null) {
            throw new IllegalStateException("a row has gone while it was locked");
        }
        Map<String, String> values = new TreeMap<>();
        edit.values().keySet().stream()
                .filter(c -> !c.equals(SINCE))
                .forEach(c -> values.put(c, was.values().getOrDefault(c, "")));
        return new RowEdit(
                edit.id(), is.version(), values, was.byHand(), edit.archived() == null ? null : was.archived());
    }
}
