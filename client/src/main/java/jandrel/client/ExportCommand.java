package jandrel.client;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.OutputStream;
import java.io.RandomAccessFile;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Activities as a file that any program reads. */
@Command(
        name = "export",
        description =
                "Writes all activities, decisions or records that you see to a file, one JSON object a line; a later one only what changed. "
                        + "Or everything that is kept here, sealed, for another installation with the same key file.")
final class ExportCommand extends Ask {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final List<String> STREAMED = List.of("activities", "decisions", "records");

    @Parameters(
            arity = "0..1",
            paramLabel = "WHAT",
            defaultValue = "activities",
            description = "activities (as usual), decisions, records, or everything.")
    private String what = "activities";

    @Option(names = "--file", required = true, description = "Where to; - for standard output.")
    private Path file = Path.of("-");

    @Option(
            names = "--since",
            paramLabel = "CURSOR",
            description = "Only what changed since the export that said this.")
    private String since = "";

    @Option(names = "--resume", description = "Goes on with a file that broke off.")
    private boolean resume;

    @Option(names = "--text", description = "With what was written.")
    private boolean text;

    /** Where a file stands that may have broken off. */
    private record Stand(String cursor, @Nullable String last, boolean whole, long bytes) {}

    @Override
    public Integer call() {
        if (what.equals("everything")) {
            return everything();
        }
        if (!STREAMED.contains(what)) {
            throw new Trouble(
                    Trouble.USE,
                    "“" + what + "” cannot be exported: " + String.join(", ", STREAMED) + " or everything");
        }
        if (text && !what.equals(STREAMED.get(0))) {
            throw new Trouble(Trouble.USE, "--text is for activities");
        }
        String path = "/api/export/" + what + ".ndjson";
        Map<String, String> query = new HashMap<>();
        if (text) {
            query.put("text", "true");
        }
        if (!since.isEmpty()) {
            query.put("since", since);
        }
        try {
            if (file.toString().equals("-")) {
                copied(path, query, System.out);
                return 0;
            }
            Stand before = resume && Files.exists(file) ? stand(file) : new Stand("", null, false, 0);
            if (before.whole()) {
                out().say(file + " is whole already. Next time: --since " + before.cursor());
                return 0;
            }
            if (!resume && Files.exists(file)) {
                throw new Trouble(
                        Trouble.USE,
                        "the file " + file + " is there already; --resume goes on with one that broke off");
            }
            if (before.last() != null) {
                query.put("after", before.last());
            }
            cut(file, before.bytes());
            try (OutputStream to = Files.newOutputStream(file, StandardOpenOption.CREATE, StandardOpenOption.APPEND)) {
                main().http().copy(path, query, to);
            } catch (Trouble broken) {
                if (stand(file).last() == null) {
                    throw broken;
                }
            }
        } catch (IOException unwritable) {
            throw new Trouble(Trouble.USE, "the file " + file + " cannot be read or written");
        }
        return said();
    }

    private int everything() {
        if (!since.isEmpty() || resume || text) {
            throw new Trouble(Trouble.USE, "an export of everything is always whole");
        }
        if (file.toString().equals("-")) {
            copied("/api/export/everything", Map.of(), System.out);
            return 0;
        }
        WholeFile.write(file, to -> main().http().copy("/api/export/everything", Map.of(), to));
        out().say("Written to " + file + ", " + file.toFile().length() / 1_000
                + " kB. Only an installation with the same key file opens it: JANDREL_TAKE_IN=" + file
                + " bin/serve, with an empty database.");
        return 0;
    }

    private void copied(String path, Map<String, String> query, OutputStream to) {
        try {
            main().http().copy(path, query, to);
        } catch (IOException gone) {
            throw new UncheckedIOException(gone);
        }
    }

    private int said() {
        try {
            Stand now = stand(file);
            if (!now.whole()) {
                out().say("The export broke off. Go on with: jandrel export " + what + " --file " + file + " --resume"
                        + (since.isEmpty() ? "" : " --since " + since));
                return Trouble.REACH;
            }
            out().say("Written to " + file + ". Only what changes from now on: jandrel export " + what
                    + " --file FILE --since " + now.cursor());
            return 0;
        } catch (IOException unreadable) {
            throw new Trouble(Trouble.USE, "the file " + file + " cannot be read");
        }
    }

    /** The cursor is that of the first line: what changed after it comes with the next export. */
    private static Stand stand(Path file) throws IOException {
        String cursor = "";
        String last = null;
        boolean whole = false;
        long bytes = 0;
        try (BufferedReader lines = Files.newBufferedReader(file)) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                JsonNode node;
                try {
                    node = JSON.readTree(line);
                } catch (RuntimeException broken) {
                    break;
                }
                switch (node.path("type").asString("")) {
                    case "begin" ->
                        cursor = cursor.isEmpty() ? node.path("cursor").asString("") : cursor;
                    case "activity", "decision", "record" ->
                        last = node.path("id").asString("");
                    case "end" -> whole = true;
                    default -> {
                        // what has gone comes once more, and nothing is lost by that
                    }
                }
                bytes += line.getBytes(StandardCharsets.UTF_8).length + 1L;
            }
        }
        return new Stand(cursor, last, whole, bytes);
    }

    /** A line that broke off is written anew. */
    private static void cut(Path file, long bytes) throws IOException {
        if (Files.exists(file)) {
            try (RandomAccessFile open = new RandomAccessFile(file.toFile(), "rw")) {
                open.setLength(Math.min(bytes, open.length()));
            }
        }
    }
}
