package jandrel.client;

import jandrel.api.ConnectionApi.ChosenSources;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.EveryoneConnected;
import jandrel.api.ConnectionApi.EveryoneWanted;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.ServerInfo;
import jandrel.api.ConnectionApi.SourceInfo;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Connections of people’s accounts. */
final class ConnectionCommands {
    private ConnectionCommands() {}

    @Command(name = "connections", description = "The connected accounts, and how each is doing.")
    static final class Connections extends Ask {
        @Override
        public Integer call() {
            List<ConnectionInfo> all = List.of(main().http().get("/api/connections", Map.of(), ConnectionInfo[].class));
            Out out = out();
            if (out.json()) {
                out.objects(all);
                return 0;
            }
            Table table = new Table(
                    "person",
                    "server",
                    "account",
                    "state",
                    "last look",
                    ">seen",
                    ">logged",
                    ">waiting",
                    ">left out",
                    "sources",
                    "id");
            all.forEach(c -> table.row(
                    c.personName(),
                    c.server(),
                    c.account(),
                    c.state()
                            + (c.live() && c.state().equals("capturing") ? ", live" : "")
                            + (c.detail().isEmpty() ? "" : ": " + c.detail()),
                    out.time(c.lastRun()),
                    sum(c, SourceInfo::seen),
                    sum(c, SourceInfo::logged),
                    sum(c, SourceInfo::waiting),
                    sum(c, SourceInfo::leftOut),
                    c.sources().stream().map(SourceInfo::label).collect(Collectors.joining(", ")),
                    c.id()));
            return Ask.listed(out, table, all.size(), all.size(), "connections");
        }

        private static long sum(ConnectionInfo c, java.util.function.ToLongFunction<SourceInfo> what) {
            return c.sources().stream().mapToLong(what).sum();
        }
    }

    @Command(
            name = "connect",
            description =
                    "Connects a person's account at a server; the password comes from JANDREL_SECRET or the terminal.")
    static final class Connect extends Ask {
        @Option(names = "--person", required = true, description = "Key or address.")
        private String person = "";

        @Option(names = "--server", required = true, description = "The server's name.")
        private String server = "";

        @Option(names = "--account", required = true, description = "The sign-in there.")
        private String account = "";

        @Option(names = "--accept", description = "Even if it is none of the person's known addresses.")
        private boolean accept;

        @Override
        public Integer call() {
            String secret = main().home().variable("JANDREL_SECRET");
            boolean needed = List.of(main().http().get("/api/servers", Map.of(), ServerInfo[].class)).stream()
                    .noneMatch(s -> s.name().equals(server) && !s.signIn().equals("password"));
            if (needed && secret.isEmpty() && System.console() != null) {
                secret = new String(System.console().readPassword("Password of %s: ", account));
            }
            if (needed && secret.isEmpty()) {
                throw new Trouble(Trouble.USE, "give the account's password in JANDREL_SECRET");
            }
            ConnectionInfo made = main().http()
                    .send(
                            "POST",
                            "/api/connections",
                            new NewConnection(person, server, account, secret, accept),
                            ConnectionInfo.class);
            if (out().json()) {
                out().objects(List.of(made));
            }
            out().say("Connected " + made.account() + " of " + made.personName() + "; " + next(made));
            return made.state().equals("refused") ? Trouble.NO : 0;
        }

        private String next(ConnectionInfo made) {
            return switch (made.state()) {
                case "refused" ->
                    "but nothing is read: " + made.detail() + ". “jandrel accept " + made.id()
                            + "” takes the account as theirs all the same.";
                case "waiting-for-consent" -> "they have to consent in the console, under “Your mailbox”.";
                case "needs-sign-in" -> "it needs a password: “jandrel new-password " + made.id() + "”.";
                default -> "it is being read from " + out().time(made.since()) + " on.";
            };
        }
    }

    @Command(
            name = "connect-everyone",
            description = "Connects everybody who is covered, by the organisation's own sign-in.")
    static final class ConnectEveryone extends Ask {
        @Option(names = "--server", required = true, description = "A server with an organisation's password or key.")
        private String server = "";

        @Override
        public Integer call() {
            EveryoneConnected done = main().http()
                    .send(
                            "POST",
                            "/api/connections/everyone",
                            new EveryoneWanted(server, null),
                            EveryoneConnected.class);
            if (out().json()) {
                out().objects(List.of(done));
                return 0;
            }
            done.skipped().forEach(s -> out().say("left: " + s));
            out().say(String.format(
                    "%,d connected, %,d were already, %,d left; watch them with “jandrel coverage”",
                    done.connected(), done.known(), done.skipped().size()));
            return 0;
        }
    }

    /** A command about one connection. */
    abstract static class OfOne extends Ask {
        @Parameters(paramLabel = "CONNECTION", description = "Its id, as “jandrel connections” lists it.")
        String id = "";
    }

    @Command(
            name = "disconnect",
            description = "Disconnects an account; what was captured stays, unless --for-good removes it.")
    static final class Disconnect extends OfOne {
        @Option(names = "--for-good", description = "All that its sources showed goes, too.")
        private boolean forGood;

        @Override
        public Integer call() {
            main().http().send("DELETE", "/api/connections/" + id + "?forGood=" + forGood);
            out().say(
                            forGood
                                    ? "Removed, with all that its sources showed."
                                    : "Disconnected; what was captured stays.");
            return 0;
        }
    }

    @Command(
            name = "sources",
            description = "The folders and calendars of a connection; with options, chooses what counts there.")
    static final class Sources extends OfOne {
        @Option(names = "--only", split = ",", description = "Labels of those to capture, with commas between.")
        private @Nullable List<String> only;

        @Option(
                names = "--counting",
                split = ",",
                description = "Labels of folders in which all that is put there counts by hand; \"\" for none.")
        private @Nullable List<String> counting;

        @Option(
                names = "--count-keyword",
                description = "The IMAP keyword by which a message counts by hand; \"\" for none.")
        private @Nullable String countKeyword;

        @Option(names = "--keep-out-keyword", description = "The IMAP keyword that keeps a message out; \"\" for none.")
        private @Nullable String keepOutKeyword;

        @Override
        public Integer call() {
            ConnectionInfo found =
                    List.of(main().http().get("/api/connections", Map.of(), ConnectionInfo[].class)).stream()
                            .filter(c -> c.id().toString().equals(id))
                            .findFirst()
                            .orElseThrow(() -> new Trouble(
                                    Trouble.NO, "there is no connection “" + id + "”; see “jandrel connections”"));
            boolean chooses = only != null || counting != null || countKeyword != null || keepOutKeyword != null;
            ConnectionInfo connection = chooses ? choose(found) : found;
            if (out().json()) {
                out().objects(connection.sources());
                return 0;
            }
            Table table = new Table("source", "kind", "captured", "all counts", ">seen", ">logged");
            connection
                    .sources()
                    .forEach(s -> table.row(
                            s.label(),
                            s.kind(),
                            s.chosen() ? "yes" : "no",
                            s.counts() ? "yes" : "",
                            s.seen(),
                            s.logged()));
            if (!connection.countKeyword().isEmpty()
                    || !connection.keepOutKeyword().isEmpty()) {
                out().say("Messages count by the keyword “" + connection.countKeyword() + "” and stay out by “"
                        + connection.keepOutKeyword() + "”.");
            }
            int all = connection.sources().size();
            return Ask.listed(out(), table, all, all, "sources");
        }

        private ConnectionInfo choose(ConnectionInfo connection) {
            ChosenSources chosen = new ChosenSources(
                    ids(connection, only), ids(connection, counting), countKeyword, keepOutKeyword, null);
            return main().http().send("PUT", "/api/connections/" + id + "/sources", chosen, ConnectionInfo.class);
        }

        private static @Nullable List<Integer> ids(ConnectionInfo connection, @Nullable List<String> labels) {
            return labels == null
                    ? null
                    : labels.stream()
                            .filter(l -> !l.isBlank())
                            .map(l -> of(connection, l))
                            .toList();
        }

        private static int of(ConnectionInfo connection, String label) {
            return connection.sources().stream()
                    .filter(s -> s.label().equals(label.strip()))
                    .findFirst()
                    .orElseThrow(() -> new Trouble(
                            Trouble.NO,
                            "there is no source “" + label + "”; there are "
                                    + connection.sources().stream()
                                            .map(SourceInfo::label)
                                            .collect(Collectors.joining(", "))))
                    .id();
        }
    }
}
