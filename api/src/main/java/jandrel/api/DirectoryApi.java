package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** The directory's files, the people of the company, and its lists of domains. */
public final class DirectoryApi {
    private DirectoryApi() {}

    /** @param reconsidering how many decisions are made again because of the file */
    public record ImportOutcome(String kind, int added, int updated, int unchanged, long reconsidering) {}

    public record PersonInfo(UUID id, String key, String name, String team, String role, List<String> addresses) {}

    /** Bare domain names. */
    public record CompanyDomains(
            List<String> own,
            List<String> freeMail,
            @Nullable List<String> dotless) {
        public CompanyDomains(List<String> own, List<String> freeMail) {
            this(own, freeMail, null);
        }
    }

    /** @param line counted from 1; 0 for the file as a whole */
    public record LineProblem(long line, String column, String reason) {}

    /**
     * A column of a table of the directory.
     *
     * @param type {@code text}, {@code addresses}, {@code domains}, {@code phones}, {@code person}, {@code account}, {@code contacts},
     *     {@code day}, {@code amount}, {@code currency}, {@code state}, {@code number}, one of a list, or {@code count} of what is
     *     counted and in no file
     * @param title of a field that the company made for itself, its name; null for others
     * @param choices what there is to choose from, in order; null for others
     */
    public record TableColumn(
            String name,
            String type,
            boolean required,
            @Nullable String title,
            @Nullable List<String> choices) {}

    /**
     * A field of contacts that the company made for itself.
     *
     * @param key by which files and programs name it: small letters, digits and underscores
     * @param kind {@code text}, {@code number}, {@code date}, or that one of a list is chosen: see docs/directory.md
     * @param choices what there is to choose from, in order
     * @param contacts in how many there is something; what is sent does not count
     */
    public record FieldInfo(
            String key, String name, String kind, @Nullable List<String> choices, long contacts) {}

    /** In the company's order. */
    public record FieldList(List<FieldInfo> fields) {}

    /**
     * @param values by column, as files have them: people, accounts and contacts by their keys, several in one cell with spaces
     *     between; beside a key the name, as {@code owner_name}
     * @param byHand the columns that somebody set here: no file changes them
     */
    public record TableRow(
            UUID id, String key, long version, boolean archived, List<String> byHand, Map<String, String> values) {}

    /** @param columns all that the table knows, in order */
    public record TablePage(long total, List<TableColumn> columns, List<TableRow> rows) {}

    /**
     * What is changed of a row.
     *
     * @param version that was seen
     * @param values of the columns that change, as files have them; of a contact that is at another account now, {@code since} is the
     *     first day there
     * @param byHand the columns that no file changes any more; null for those of before and the changed ones
     * @param archived null for as it is
     */
    public record RowEdit(
            UUID id,
            long version,
            Map<String, String> values,
            @Nullable List<String> byHand,
            @Nullable Boolean archived) {}

    public record RowEdits(List<RowEdit> rows) {}

    /**
     * @param reconsidering how many decisions are made again
     * @param books in how many address books contacts stand that were archived: what becomes of their cards, the policy says
     * @param undo what makes it all as it was
     */
    public record RowsChanged(int changed, long reconsidering, int books, List<RowEdit> undo) {}

    /**
     * A column of a file that is looked at.
     *
     * @param ours what it was matched to; empty for nothing
     */
    public record FileColumn(String theirs, List<String> samples, String ours) {}

    /**
     * @param state {@code looked-at}, {@code running}, {@code done} or {@code failed}
     * @param says what came of it
     */
    public record ImportInfo(
            UUID id, String kind, String name, int lines, List<FileColumn> columns, String state, String says) {}

    /** @param ours for each of the file's columns the name of ours; empty for none */
    public record ImportMapping(List<String> ours) {}

    /** @param becomes {@code added}, {@code changed} or {@code unchanged} */
    public record ImportExample(long line, String key, String name, String becomes) {}

    /**
     * What a file would do.
     *
     * @param missing ours that it must have and nothing is matched to: nothing else is known then
     * @param refused how many lines are left out
     * @param problems of the first of those
     */
    public record ImportPreview(
            List<String> missing,
            int added,
            int changed,
            int unchanged,
            int refused,
            List<ImportExample> examples,
            List<LineProblem> problems) {}

    /**
     * A file from elsewhere that was taken, for as long as it can be undone.
     *
     * @param kind what it holds, such as {@code contacts}
     * @param by the login of who took it
     * @param undoneAt null for one that stands
     * @param undoneBy empty for one that stands
     */
    public record TakenImport(
            UUID id,
            String kind,
            String name,
            String by,
            Instant at,
            int added,
            int changed,
            @Nullable Instant undoneAt,
            String undoneBy) {}

    /** @param why it is left as it is */
    public record LeftRecord(UUID record, String name, String why) {}

    /**
     * What became of the records of a file that is undone.
     *
     * @param removed that came with it
     * @param archived that came with it and stand in address books, which say what becomes of them
     * @param restored that it changed, and that are as before
     * @param left how many are left as they are
     * @param some the first of those
     * @param reconsidering how much mail and how many meetings are decided again for it
     */
    public record ImportUndone(
            int removed, int archived, int restored, int left, List<LeftRecord> some, long reconsidering) {}

    /** @param columns that its files can have, those first that they must have */
    public record FileKind(String kind, List<TableColumn> columns) {}
}
