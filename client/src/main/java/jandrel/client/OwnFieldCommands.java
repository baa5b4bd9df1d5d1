package jandrel.client;

import jandrel.api.DirectoryApi.FieldInfo;
import jandrel.api.DirectoryApi.FieldList;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Fields of contacts that the company made for itself. */
final class OwnFieldCommands {
    private OwnFieldCommands() {}

    @Command(
            name = "fields",
            description = "The fields of contacts that the company made for itself; adds, renames or removes one.")
    static final class Fields extends Ask {
        @Parameters(
                arity = "0..1",
                paramLabel = "KEY",
                description = "Of a field: small letters, digits and underscores.")
        private @Nullable String key;

        @Option(names = "--name", description = "As people read it; the key if not given.")
        private @Nullable String name;

        @Option(names = "--kind", description = "What it holds: text, number, date or choice; text if not given.")
        private @Nullable String kind;

        @Option(names = "--choices", split = ",", paramLabel = "CHOICE", description = "Of a choice, all in order.")
        private @Nullable List<String> choices;

        @Option(
                names = "--remove",
                description = "Takes it off the list; what is in it is kept, and comes back with it.")
        private boolean remove;

        @Override
        public Integer call() {
            FieldList now = main().http().get("/api/fields", Map.of(), FieldList.class);
            String said = "";
            if (key != null) {
                FieldInfo was = now.fields().stream()
                        .filter(f -> f.key().equals(key))
                        .findFirst()
                        .orElse(null);
                if (was == null && (remove || !says())) {
                    throw new Trouble(
                            Trouble.NO,
                            "there is no field “" + key + "”"
                                    + (remove ? "" : "; --name, --kind or --choices makes one"));
                }
                if (remove || says()) {
                    now = main().http().send("PUT", "/api/fields", changed(now, was), FieldList.class);
                    said = was == null ? "Added." : remove ? "Removed." : "Changed.";
                }
            } else if (remove || says()) {
                throw new Trouble(Trouble.USE, "say which field: jandrel fields KEY …");
            }
            if (out().json()) {
                out().objects(now.fields());
                return 0;
            }
            if (!said.isEmpty()) {
                out().say(said);
            }
            show(now);
            return 0;
        }

        private boolean says() {
            return name != null || kind != null || choices != null;
        }

        private FieldList changed(FieldList now, @Nullable FieldInfo was) {
            List<FieldInfo> all = new ArrayList<>(now.fields());
            int at = was == null ? all.size() : all.indexOf(was);
            if (was != null) {
                all.remove(at);
            }
            if (!remove) {
                all.add(at, wanted(was));
            }
            return new FieldList(all);
        }

        private FieldInfo wanted(@Nullable FieldInfo was) {
            String own = String.valueOf(key);
            return new FieldInfo(
                    own,
                    name != null ? name : was == null ? own : was.name(),
                    kind != null ? kind : was != null ? was.kind() : choices == null ? "text" : "choice",
                    choices != null || was == null ? choices : was.choices(),
                    0);
        }

        private void show(FieldList now) {
            if (now.fields().isEmpty()) {
                out().say("No fields yet: “jandrel fields segment --choices Gold,Silver” makes one.");
                return;
            }
            Table table = new Table("key", "name", "holds", ">contacts");
            now.fields()
                    .forEach(f -> table.row(
                            f.key(),
                            f.name(),
                            f.choices() == null || f.choices().isEmpty()
                                    ? f.kind()
                                    : "one of " + String.join(", ", f.choices()),
                            f.contacts()));
            out().table(table);
        }
    }
}
