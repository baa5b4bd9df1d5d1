package jandrel.client;

import jandrel.api.DirectoryApi.FileColumn;
import jandrel.api.DirectoryApi.ImportInfo;
import jandrel.api.DirectoryApi.ImportMapping;
import jandrel.api.DirectoryApi.ImportPreview;
import jandrel.api.DirectoryApi.RowEdit;
import jandrel.api.DirectoryApi.RowEdits;
import jandrel.api.DirectoryApi.RowsChanged;
import jandrel.api.DirectoryApi.TableColumn;
import jandrel.api.DirectoryApi.TablePage;
import jandrel.api.DirectoryApi.TableRow;
import java.io.IOException;
import java.io.OutputStream;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** The directory as tables, and files from elsewhere. */
final class Directories {
    private static final String KINDS = "people, accounts, contacts, leads or opportunities.";
    private static final long PAUSE_MILLIS = 500;
    private static final int WIDEST = 40;

    private Directories() {}

    /** Such as {@code owner=maren}. */
    private static String[] pair(String text) {
        int at = text.indexOf('=');
        if (at < 1) {
            throw new Trouble(Trouble.USE, "“" + text + "” is not like column=text");
        }
        return new String[] {
            text.substring(0, at).strip(), text.substring(at + 1).strip()
        };
    }

    @Command(
            name = "directory",
            description = "A table of the directory: found, narrowed, sorted, or written to a file.")
    static final class ShowTable extends Ask {
        @Parameters(paramLabel = "KIND", description = KINDS)
        private String kind = "";

        @Option(names = "--find", description = "A part of a name, key, address or domain.")
        private String find = "";

        @Option(
                names = "--where",
                paramLabel = "COLUMN=TEXT",
                description =
                        "Those with this in a column; “==TEXT” for exactly that, “=-” for nothing. More than one may be given.")
        private List<String> where = List.of();

        @Option(names = "--sort", description = "A column; with a minus before it, the last first.")
        private String sort = "name";

        @Option(names = "--archived", description = "The archived ones.")
        private boolean archived;

        @Option(names = "--limit", description = "How many; 50 if not given.")
        private int limit = 50;

        @Option(names = "--to", paramLabel = "FILE", description = "Writes all of it to a .csv or .xlsx file.")
        private @Nullable Path to;

        @Override
        public Integer call() throws IOException {
            Map<String, String> query = Ask.query("find", find, "sort", sort, "archived", "" + archived);
            where.forEach(w -> query.put("where." + pair(w)[0], pair(w)[1]));
            if (to != null) {
                return written(to, query);
            }
            query.put("limit", "" + limit);
            TablePage page = main().http().get("/api/directory/" + kind, query, TablePage.class);
            if (out().json()) {
                out().objects(page.rows());
                return page.rows().isEmpty() ? Trouble.NO : 0;
            }
            List<TableColumn> columns =
                    page.columns().stream().filter(c -> !c.name().equals("key")).toList();
            Table table = new Table(Stream.concat(
                            Stream.of("key"), columns.stream().map(c -> (isFigure(c) ? ">" : "") + c.name()))
                    .toArray(String[]::new));
            for (TableRow row : page.rows()) {
                table.row(Stream.concat(Stream.of(row.key()), columns.stream().map(c -> cell(row, c.name())))
                        .toArray());
            }
            return Ask.listed(out(), table, page.rows().size(), page.total(), kind);
        }

        private static boolean isFigure(TableColumn column) {
            return Set.of("count", "amount", "number").contains(column.type());
        }

        private static String cell(TableRow row, String column) {
            String text =
                    row.values().getOrDefault(column + "_name", row.values().getOrDefault(column, ""));
            return text.length() > WIDEST ? text.substring(0, WIDEST - 1) + "…" : text;
        }

        private int written(Path file, Map<String, String> query) throws IOException {
            String name = file.toString().toLowerCase(Locale.ROOT);
            if (!name.endsWith(".csv") && !name.endsWith(".xlsx")) {
                throw new Trouble(Trouble.USE, "the file’s name must end with .csv or .xlsx");
            }
            String format = name.substring(name.lastIndexOf('.') + 1);
            try (OutputStream out = Files.newOutputStream(file)) {
                main().http().copy("/api/directory/" + kind + "/export." + format, query, out);
            }
            out().say("Written to " + file + ".");
            return 0;
        }
    }

    @Command(
            name = "change",
            description = "Changes rows of the directory; what is set here, no file changes any more.")
    static final class Change extends Ask {
        @Parameters(index = "0", paramLabel = "KIND", description = KINDS)
        private String kind = "";

        @Parameters(index = "1", paramLabel = "KEY", description = "Of the row; several with commas between.")
        private String keys = "";

        @Parameters(
                index = "2..*",
                paramLabel = "COLUMN=TEXT",
                description = "What it shall be; nothing after “=” empties it. Of a contact that moved, since=DAY.")
        private List<String> values = List.of();

        @Option(names = "--archive", description = "Takes it out of the lists.")
        private boolean archive;

        @Option(names = "--bring-back", description = "Puts it back into them.")
        private boolean bringBack;

        @Option(names = "--from-files", paramLabel = "COLUMN", description = "Lets files set this column again.")
        private List<String> fromFiles = List.of();

        @Override
        public Integer call() {
            if (archive && bringBack) {
                throw new Trouble(Trouble.USE, "--archive and --bring-back are each other’s contrary");
            }
            Map<String, String> wanted = new LinkedHashMap<>();
            values.forEach(v -> wanted.put(pair(v)[0], pair(v)[1]));
            List<RowEdit> edits = new ArrayList<>();
            for (String key : keys.split(",", 0)) {
                TableRow row = row(key.strip());
                List<String> byHand = null;
                if (!fromFiles.isEmpty()) {
                    byHand = new ArrayList<>(row.byHand());
                    byHand.removeAll(fromFiles);
                }
                Boolean archived = archive ? Boolean.TRUE : bringBack ? Boolean.FALSE : null;
                edits.add(new RowEdit(row.id(), row.version(), wanted, byHand, archived));
            }
            RowsChanged done =
                    main().http().send("PUT", "/api/directory/" + kind, new RowEdits(edits), RowsChanged.class);
            if (out().json()) {
                out().objects(List.of(done));
                return 0;
            }
            out().say("Changed " + Out.of(done.changed(), done.changed(), kind) + Changing.again(done.reconsidering())
                    + "."
                    + (done.books() == 0
                            ? ""
                            : " What was archived stands in " + Out.of(done.books(), done.books(), "address books")
                                    + "; the policy says what becomes of those cards."));
            return 0;
        }

        private TableRow row(String key) {
            for (String archived : new String[] {"false", "true"}) {
                TablePage page = main().http()
                        .get(
                                "/api/directory/" + kind,
                                Ask.query("find", key, "archived", archived, "limit", "200"),
                                TablePage.class);
                for (TableRow row : page.rows()) {
                    if (row.key().equals(key)) {
                        return row;
                    }
                }
            }
            throw new Trouble(Trouble.NO, "there is nothing with the key “" + key + "” among the " + kind);
        }
    }

    @Command(
            name = "import-from",
            description =
                    "Takes in a CSV or Excel file with columns of its own: shows what it would do, and takes it with --take.")
    static final class ImportFrom extends Ask {
        @Parameters(index = "0", paramLabel = "KIND", description = KINDS)
        private String kind = "";

        @Parameters(index = "1", paramLabel = "FILE", description = ".csv or .xlsx; any headings will do.")
        private Path file = Path.of("-");

        @Option(
                names = "--mapping",
                paramLabel = "FILE",
                description =
                        "Lines like “E-mail = addresses”, where the likeliest meaning is wrong; “Notes =” leaves one out.")
        private @Nullable Path mapping;

        @Option(names = "--take", description = "Takes the lines that fit, all of them or none.")
        private boolean take;

        @Option(
                names = "--left-out",
                paramLabel = "FILE",
                description = "Writes the other lines there, with the reasons.")
        private @Nullable Path leftOut;

        @Override
        public Integer call() throws IOException {
            Http http = main().http();
            String name = URLEncoder.encode(String.valueOf(file.getFileName()), StandardCharsets.UTF_8);
            ImportInfo looked = http.sendBytes("/api/imports/" + kind + "?name=" + name, read(file), ImportInfo.class);
            List<String> ours = ours(looked);
            ImportPreview preview = http.send(
                    "PUT", "/api/imports/" + looked.id() + "/mapping", new ImportMapping(ours), ImportPreview.class);
            show(looked, ours, preview);
            if (leftOut != null && preview.refused() > 0) {
                try (OutputStream out = Files.newOutputStream(leftOut)) {
                    http.copy("/api/imports/" + looked.id() + "/refused.csv", Map.of(), out);
                }
                out().say("Lines that are left out: " + leftOut);
            }
            if (!take || !preview.missing().isEmpty()) {
                http.send("DELETE", "/api/imports/" + looked.id());
                out().say(
                                preview.missing().isEmpty()
                                        ? "Nothing was changed; --take takes it."
                                        : "Nothing was changed.");
                return preview.missing().isEmpty() ? 0 : Trouble.NO;
            }
            http.send("POST", "/api/imports/" + looked.id() + "/take");
            return taken(http, looked);
        }

        private static byte[] read(Path file) {
            try {
                return Files.readAllBytes(file);
            } catch (IOException unreadable) {
                throw new Trouble(Trouble.USE, "the file " + file + " cannot be read");
            }
        }

        private List<String> ours(ImportInfo looked) {
            Map<String, String> said = new HashMap<>();
            if (mapping != null) {
                for (String line : new String(read(mapping), StandardCharsets.UTF_8).split("\\R", 0)) {
                    if (!line.isBlank() && !line.startsWith("#")) {
                        said.put(pair(line)[0].toLowerCase(Locale.ROOT), pair(line)[1]);
                    }
                }
            }
            List<String> ours = new ArrayList<>();
            for (FileColumn column : looked.columns()) {
                String own = said.remove(column.theirs().toLowerCase(Locale.ROOT));
                ours.add(own == null ? column.ours() : own);
            }
            if (!said.isEmpty()) {
                throw new Trouble(
                        Trouble.USE,
                        "the file has no column “" + said.keySet().iterator().next() + "”");
            }
            return ours;
        }

        private void show(ImportInfo looked, List<String> ours, ImportPreview preview) {
            Out out = out();
            if (out.json()) {
                out.objects(List.of(preview));
                return;
            }
            Table columns = new Table("column", "is our", "such as");
            for (int i = 0; i < ours.size(); i++) {
                FileColumn column = looked.columns().get(i);
                String own = ours.get(i);
                columns.row(column.theirs(), own.isEmpty() ? "–" : own, String.join(" · ", column.samples()));
            }
            out.table(columns);
            out.say("");
            if (!preview.missing().isEmpty()) {
                out.say("Nothing is the " + String.join(" and the ", preview.missing()) + "; say so with --mapping.");
                return;
            }
            preview.problems().stream()
                    .limit(10)
                    .forEach(p -> out.say(
                            "line " + p.line() + (p.column().isEmpty() ? "" : ", " + p.column()) + ": " + p.reason()));
            out.say(String.format(
                    "%,d added, %,d changed, %,d as they are, %,d left out.",
                    preview.added(), preview.changed(), preview.unchanged(), preview.refused()));
        }

        private int taken(Http http, ImportInfo looked) {
            String path = "/api/imports/" + looked.id();
            ImportInfo now = http.get(path, Map.of(), ImportInfo.class);
            while (now.state().equals("running")) {
                try {
                    Thread.sleep(PAUSE_MILLIS);
                } catch (InterruptedException stopped) {
                    Thread.currentThread().interrupt();
                    throw new Trouble(Trouble.NO, "it goes on at the service, and nobody looks on");
                }
                now = http.get(path, Map.of(), ImportInfo.class);
            }
            out().say((now.state().equals("done") ? "Taken: " : "") + now.says());
            if (now.state().equals("done") && !now.kind().equals("people")) {
                out().say("What it changed can be undone: jandrel imports undo " + now.id());
            }
            return now.state().equals("done") ? 0 : Trouble.NO;
        }
    }
}
