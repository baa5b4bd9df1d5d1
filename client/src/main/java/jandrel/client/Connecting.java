package jandrel.client;

import jandrel.api.Connections.ConnectionInfo;
import jandrel.api.Connections.NewConnection;
import jandrel.api.Connections.NewServer;
import jandrel.api.Connections.ServerInfo;
import jandrel.api.Connections.SourceInfo;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Servers and connections. */
final class Connecting {
    private Connecting() {}

    @Command(name = "servers", description = "The mail and calendar servers that are known.")
    static final class Servers extends Asking.Ask {
        @Override
        public Integer call() {
            List<ServerInfo> all = List.of(main.http().get("/api/servers", Map.of(), ServerInfo[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("name", "kind", "host", ">port", "path");
            all.forEach(s -> table.row(s.name(), s.kind(), s.host(), s.port(), s.path()));
            return Asking.listed(out(), table, all.size(), all.size(), "servers");
        }
    }

    @Command(name = "add-server", description = "Makes a mail or calendar server known.")
    static final class AddServer extends Asking.Ask {
        @Parameters(index = "0", paramLabel = "NAME", description = "What you call it.")
        private String name = "";

        @Option(names = "--kind", required = true, description = "imap or caldav")
        private String kind = "";

        @Option(names = "--host", required = true, description = "Its host name.")
        private String host = "";

        @Option(names = "--port", description = "993 for imap and 443 for caldav, if not given.")
        private int port;

        @Option(names = "--path", description = "Where CalDAV begins; / if not given.")
        private String path = "/";

        @Override
        public Integer call() {
            int usual = kind.equals("imap") ? 993 : 443;
            ServerInfo made = main.http()
                    .send(
                            "POST",
                            "/api/servers",
                            new NewServer(name, kind, host, port == 0 ? usual : port, path),
                            ServerInfo.class);
            if (out().json()) {
                out().objects(List.of(made));
            }
            out().say("Added " + made.name() + " at " + made.host() + ":" + made.port() + ".");
            return 0;
        }
    }

    @Command(name = "connections", description = "Whose accounts are read, and how that goes.")
    static final class Connections extends Asking.Ask {
        @Override
        public Integer call() {
            List<ConnectionInfo> all = List.of(main.http().get("/api/connections", Map.of(), ConnectionInfo[].class));
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
                    c.state() + (c.detail().isEmpty() ? "" : ": " + c.detail()),
                    out.time(c.lastRun()),
                    sum(c, SourceInfo::seen),
                    sum(c, SourceInfo::logged),
                    sum(c, SourceInfo::waiting),
                    sum(c, SourceInfo::leftOut),
                    c.sources().stream().map(SourceInfo::label).collect(Collectors.joining(", ")),
                    c.id()));
            return Asking.listed(out, table, all.size(), all.size(), "connections");
        }

        private static long sum(ConnectionInfo c, java.util.function.ToLongFunction<SourceInfo> what) {
            return c.sources().stream().mapToLong(what).sum();
        }
    }

    @Command(
            name = "connect",
            description =
                    "Connects a person's account at a server; the password comes from JANDREL_SECRET or the terminal.")
    static final class Connect extends Asking.Ask {
        @Option(names = "--person", required = true, description = "Key or address.")
        private String person = "";

        @Option(names = "--server", required = true, description = "The server's name.")
        private String server = "";

        @Option(names = "--account", required = true, description = "The sign-in there.")
        private String account = "";

        @Override
        public Integer call() {
            String secret = main.home().variable("JANDREL_SECRET");
            if (secret.isEmpty() && System.console() != null) {
                secret = new String(System.console().readPassword("Password of %s: ", account));
            }
            if (secret.isEmpty()) {
                throw new Trouble(Trouble.USE, "give the account's password in JANDREL_SECRET");
            }
            ConnectionInfo made = main.http()
                    .send(
                            "POST",
                            "/api/connections",
                            new NewConnection(person, server, account, secret),
                            ConnectionInfo.class);
            if (out().json()) {
                out().objects(List.of(made));
            }
            out().say("Connected " + made.account() + " of " + made.personName() + "; it is being read from "
                    + out().time(made.since()) + " on.");
            return 0;
        }
    }

    @Command(name = "look", description = "Has a connection's sources looked at now.")
    static final class Look extends Asking.Ask {
        @Parameters(paramLabel = "CONNECTION", description = "Its id.")
        private String id = "";

        @Override
        public Integer call() {
            main.http().send("POST", "/api/connections/" + id + "/look");
            out().say("It is looked at now.");
            return 0;
        }
    }
}
