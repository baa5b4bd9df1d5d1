package jandrel.client;

import jandrel.api.RecordApi.RecordInfo;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What stands on a record's timeline, as files that other programs open. */
@Command(
        name = "save",
        description = "Saves a record's mail, meetings and contacts as files, as far as you may read them.")
final class SaveCommand extends Ask {
    @Parameters(paramLabel = "RECORD", description = "Its name, or its key.")
    private String record = "";

    @Option(names = "--mail", paramLabel = "FILE", description = "A mailbox in one file (mbox).")
    private @Nullable Path mail;

    @Option(names = "--meetings", paramLabel = "FILE", description = "An iCalendar file.")
    private @Nullable Path meetings;

    @Option(names = "--contacts", paramLabel = "FILE", description = "A file of vCards.")
    private @Nullable Path contacts;

    @Override
    public Integer call() {
        Map<String, Path> wanted = new LinkedHashMap<>();
        put(wanted, "mail.mbox", mail);
        put(wanted, "meetings.ics", meetings);
        put(wanted, "contacts.vcf", contacts);
        if (wanted.isEmpty()) {
            throw new Trouble(Trouble.USE, "give --mail, --meetings or --contacts, each with a file");
        }
        RecordInfo found = record(main().http(), record);
        wanted.forEach((what, file) -> save("/api/records/" + found.id() + "/" + what, file));
        return 0;
    }

    private static void put(Map<String, Path> wanted, String what, @Nullable Path file) {
        if (file != null) {
            wanted.put(what, file);
        }
    }

    private void save(String path, Path file) {
        WholeFile.write(file, to -> main().http().copy(path, Map.of(), to));
        out().say("Written to " + file + ".");
    }
}
