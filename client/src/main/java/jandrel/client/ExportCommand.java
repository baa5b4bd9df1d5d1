package jandrel.client;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.OutputStream;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HashMap;
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
                "Writes all activities that you see to a file, one JSON object a line; a later one only what changed. "
                        + "Or everything that is kept here, sealed, for another installation with the same key file.")
final class ExportCommand extends Ask {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    @Parameters(
            arity = "0..1",
            paramLabel = "WHAT",
            defaultValue = "activities",
            description = "activities (as usual), or everything.")
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
        if (!what.equals("activities")) {
            throw new Trouble(Trouble.USE, "“" + what + "” cannot be exported: activities or everything");
        }
        Map<String, String> query = new HashMap<>(Map.of("text", String.valueOf(text)));
        if (!since.isEmpty()) {
            query.put("since", since);
        }
        try {
            if (file.toString().equals("-")) {
                main().http().copy("/api/export/activities.ndjson", query, System.out);
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
                main().http().copy("/api/export/activities.ndjson", query, to);
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
        if (Files.exists(file)) {
            throw new Trouble(Trouble.USE, "the file " + file + " is there already");
        }
        // it takes its name when it is whole
        Path part = null;
        try {
            if (file.toString().equals("-")) {
                main().http().copy("/api/export/everything", Map.of(), System.out);
                return 0;
            }
            part = Files.createTempFile(file.toAbsolutePath().getParent(), "export", ".part");
            try (OutputStream to = Files.newOutputStream(part)) {
                main().http().copy("/api/export/everything", Map.of(), to);
            }
            Files.move(part, file);
            out().say("Written to " + file + ", " + Files.size(file) / 1_000
                    + " kB. Only an installation with the same key file opens it: JANDREL_TAKE_IN=" + file
                    + " bin/serve, with an empty database.");
            return 0;
        } catch (IOException unwritable) {
            throw new Trouble(Trouble.USE, "the file " + file + " cannot be written");
        } finally {
            if (part != null) {
                part.toFile().delete();
            }
        }
    }

    private int said() {
        try {
            Stand now = stand(file);
            if (!now.whole()) {
                out().say("The export broke off. Go on with: jandrel export --file " + file + " --resume"
                        + (since.isEmpty() ? "" : " --since " + since));
                return Trouble.REACH;
            }
            out().say("Written to " + file + ". Only what changes from now on: jandrel export --file FILE --since "
                    + now.cursor());
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
                    case "activity" -> last = node.path("id").asString("");
                    case "end" -> whole = true;
                    default -> {
                        // what has gone comes behind all activities, and once more
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
