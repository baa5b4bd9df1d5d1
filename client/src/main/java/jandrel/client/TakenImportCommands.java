package jandrel.client;

import jandrel.api.DirectoryApi.ImportUndone;
import jandrel.api.DirectoryApi.TakenImport;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** Files from elsewhere that the directory took in, and the way back. */
final class TakenImportCommands {
    private static final String PATH = "/api/imports";

    private TakenImportCommands() {}

    @Command(
            name = "imports",
            description =
                    "Files that “import-from” or the console took in during the last thirty days; each can be undone.",
            subcommands = Undo.class)
    static final class Imports extends Ask {
        @Override
        public Integer call() {
            List<TakenImport> all = List.of(main().http().get(PATH, Map.of(), TakenImport[].class));
            if (out().json()) {
                out().objects(all);
                return all.isEmpty() ? Trouble.NO : 0;
            }
            Table table = new Table("id", "taken", "by", "file", "holds", "added", "changed", "");
            for (TakenImport t : all) {
                table.row(
                        t.id().toString(),
                        out().time(t.at()),
                        t.by(),
                        t.name(),
                        t.kind(),
                        String.valueOf(t.added()),
                        String.valueOf(t.changed()),
                        t.undoneAt() == null ? "" : "undone " + out().time(t.undoneAt()) + " by " + t.undoneBy());
            }
            return listed(out(), table, all.size(), all.size(), "imports");
        }
    }

    @Command(
            name = "undo",
            description =
                    "Undoes a file as a whole: what came with it goes, what it changed is as before. What was changed since stays.")
    static final class Undo extends Ask {
        @Parameters(paramLabel = "ID", description = "Of “jandrel imports”.")
        private UUID id = new UUID(0, 0);

        @Override
        public Integer call() {
            ImportUndone undone = main().http().send("POST", PATH + "/" + id + "/undo", Map.of(), ImportUndone.class);
            if (out().json()) {
                out().objects(List.of(undone));
                return 0;
            }
            out().say(String.format(
                    "%,d removed, %,d archived, %,d as before, %,d left as they are.",
                    undone.removed(), undone.archived(), undone.restored(), undone.left()));
            undone.some().forEach(l -> out().say("  " + (l.name().isEmpty() ? l.record() : l.name()) + ": " + l.why()));
            if (undone.left() > undone.some().size()) {
                out().say(String.format(
                        "  and %,d more", undone.left() - undone.some().size()));
            }
            if (undone.archived() > 0) {
                out().say(
                                "Archived are contacts that stand in address books: what becomes of their cards, the policy says.");
            }
            return 0;
        }
    }
}
