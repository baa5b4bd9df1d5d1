package jandrel.client;

import jandrel.api.ReaderApi.NewReader;
import jandrel.api.ReaderApi.ReaderAccess;
import jandrel.api.ReaderApi.ReaderInfo;
import jandrel.api.ReaderApi.ReaderSetup;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Logins by which other programs read from PostgreSQL. */
final class ReaderCommands {
    private static final String PATH = "/api/readers";

    private ReaderCommands() {}

    @Command(
            name = "readers",
            description = "Logins by which reporting programs read from PostgreSQL, each what its role may read.",
            subcommands = {Add.class, End.class, Setup.class})
    static final class Readers extends Ask {
        @Override
        public Integer call() {
            List<ReaderInfo> all = List.of(main().http().get(PATH, Map.of(), ReaderInfo[].class));
            if (out().json()) {
                out().objects(all);
                return all.isEmpty() ? Trouble.NO : 0;
            }
            Table table = new Table("login", "for", "reads as", "of teams", "added", "by", "");
            for (ReaderInfo r : all) {
                table.row(
                        r.login(),
                        r.name(),
                        r.personName().isEmpty() ? r.role() : r.personName() + " (" + r.role() + ")",
                        r.teams() == null ? "" : String.join(", ", r.teams()),
                        out().time(r.addedAt()),
                        r.addedBy(),
                        r.works() ? "" : "PostgreSQL does not know it");
            }
            return listed(out(), table, all.size(), all.size(), "readers");
        }
    }

    @Command(
            name = "add",
            description = "Adds a login that reads and writes nothing; its password is printed this once.")
    static final class Add extends Ask {
        @Parameters(paramLabel = "LOGIN", description = "Small letters, digits and _.")
        private String login = "";

        @Option(
                names = "--as",
                required = true,
                paramLabel = "ROLE",
                description = "Whose rights it has: administrator, manager, rep or auditor.")
        private String role = "";

        @Option(
                names = "--person",
                paramLabel = "PERSON",
                description = "Reads what this person may read; without it, what everybody may read.")
        private String person = "";

        @Option(
                names = "--team",
                paramLabel = "TEAM",
                description = "Decisions and figures of this team alone; may be repeated.")
        private List<String> teams = List.of();

        @Option(names = "--for", paramLabel = "NAME", description = "What it is for.")
        private String name = "";

        @Override
        public Integer call() {
            NewReader wanted =
                    new NewReader(login, name, role, person.isEmpty() ? null : person, teams.isEmpty() ? null : teams);
            ReaderAccess access = main().http().send("POST", PATH, wanted, ReaderAccess.class);
            if (out().json()) {
                out().objects(List.of(access));
                return 0;
            }
            out().say("Password   " + access.password());
            out().say("Database   " + access.database());
            out().say("Schema     " + access.schema());
            out().say("The password is shown this once. The database is where the service itself finds it.");
            return 0;
        }
    }

    @Command(name = "end", description = "Ends a login, and what it is reading.")
    static final class End extends Ask {
        @Parameters(paramLabel = "LOGIN", description = "Of “jandrel readers”.")
        private String login = "";

        @Override
        public Integer call() {
            main().http().tell("DELETE", PATH + "/" + URLEncoder.encode(login, StandardCharsets.UTF_8), Map.of());
            out().say("“" + login + "” reads no more.");
            return 0;
        }
    }

    @Command(
            name = "setup",
            description = "Prints what a superuser of PostgreSQL has to run once in the service's database.")
    static final class Setup extends Ask {
        @Override
        public Integer call() {
            ReaderSetup setup = main().http().get(PATH + "/setup", Map.of(), ReaderSetup.class);
            if (out().json()) {
                out().objects(List.of(setup));
                return 0;
            }
            out().say(setup.script());
            // the script itself goes into a file
            System.err.println(setup.prepared() ? "It has been run." : "It has not been run yet.");
            return 0;
        }
    }
}
