package jandrel.client;

import jandrel.api.ConnectionApi.AllowedHost;
import jandrel.api.ConnectionApi.ChangedServer;
import jandrel.api.ConnectionApi.CheckOutcome;
import jandrel.api.ConnectionApi.ChosenSources;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.EveryoneConnected;
import jandrel.api.ConnectionApi.EveryoneWanted;
import jandrel.api.ConnectionApi.FoundServer;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.ConnectionApi.ServerCheck;
import jandrel.api.ConnectionApi.ServerInfo;
import jandrel.api.ConnectionApi.SourceInfo;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Servers and connections. */
final class ConnectionCommands {
    private ConnectionCommands() {}

    @Command(name = "servers", description = "The mail and calendar servers.")
    static final class Servers extends Ask {
        @Override
        public Integer call() {
            List<ServerInfo> all = List.of(main().http().get("/api/servers", Map.of(), ServerInfo[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("name", "kind", "host", ">port", "path");
            all.forEach(s -> table.row(s.name(), s.kind(), s.host(), s.port(), s.path()));
            return Ask.listed(out(), table, all.size(), all.size(), "servers");
        }
    }

    /** What a server is, as options. */
    static final class Described {
        @Option(names = "--kind", required = true, description = "imap or caldav")
        private String kind = "";

        @Option(names = "--host", required = true, description = "Its host name.")
        private String host = "";

        @Option(names = "--port", description = "993 for imap and 443 for caldav, if not given.")
        private int port;

        @Option(names = "--path", description = "Where CalDAV begins; / if not given.")
        private String path = "/";

        @Option(names = "--sign-in", description = "password, oauth, organisation-password or organisation-key")
        private String signIn = "password";

        @Option(
                names = "--grant-login",
                description = "The organisation's master sign-in; its password comes from JANDREL_SECRET.")
        private @Nullable String grantLogin;

        @Option(names = "--issuer", description = "The authorisation server's address.")
        private @Nullable String issuer;

        @Option(names = "--client-id", description = "What this service is called there.")
        private @Nullable String clientId;

        @Option(names = "--scopes", description = "What is asked for there.")
        private @Nullable String scopes;

        @Option(names = "--key", description = "A file with the organisation's key in PEM form.")
        private @Nullable Path key;

        @Option(names = "--authority", description = "A file with the company's own authority in PEM form.")
        private @Nullable Path authority;

        static @Nullable String text(@Nullable Path file) {
            try {
                return file == null ? null : Files.readString(file);
            } catch (IOException unreadable) {
                throw new Trouble(Trouble.USE, "the file " + file + " cannot be read");
            }
        }

        NewServer server(String name, Home home) {
            int usual = kind.equals("imap") ? 993 : 443;
            return new NewServer(
                    name,
                    kind,
                    host,
                    port == 0 ? usual : port,
                    path,
                    signIn,
                    grantLogin,
                    key == null ? home.variable("JANDREL_SECRET") : text(key),
                    issuer,
                    clientId,
                    scopes,
                    text(authority));
        }
    }

    @Command(name = "add-server", description = "Adds a mail or calendar server; it is spoken to over TLS alone.")
    static final class AddServer extends Ask {
        @Parameters(index = "0", paramLabel = "NAME", description = "What you call it.")
        private String name = "";

        @Mixin
        private Described described = new Described();

        @Override
        public Integer call() {
            ServerInfo made =
                    main().http().send("POST", "/api/servers", described.server(name, main().home()), ServerInfo.class);
            if (out().json()) {
                out().objects(List.of(made));
            }
            out().say("Added " + made.name() + " at " + made.host() + ":" + made.port() + ".");
            return 0;
        }
    }

    private static ServerInfo called(Http http, String name) {
        return List.of(http.get("/api/servers", Map.of(), ServerInfo[].class)).stream()
                .filter(s -> s.name().equals(name))
                .findFirst()
                .orElseThrow(() ->
                        new Trouble(Trouble.NO, "there is no server “" + name + "”; “jandrel servers” lists them"));
    }

    @Command(
            name = "change-server",
            description =
                    "Changes where a server is. At another host everybody signs in anew; a new secret comes from JANDREL_SECRET.")
    static final class ChangeServer extends Ask {
        @Parameters(index = "0", paramLabel = "NAME", description = "What it is called.")
        private String name = "";

        @Option(names = "--name", description = "What it shall be called.")
        private @Nullable String renamed;

        @Option(names = "--host", description = "Its host name.")
        private @Nullable String host;

        @Option(names = "--port", description = "Its port.")
        private @Nullable Integer port;

        @Option(names = "--path", description = "Where CalDAV begins.")
        private @Nullable String path;

        @Option(names = "--authority", description = "A file with the company's own authority in PEM form.")
        private @Nullable Path authority;

        @Override
        public Integer call() {
            ServerInfo is = called(main().http(), name);
            NewServer wanted = new NewServer(
                    renamed == null ? is.name() : renamed,
                    is.kind(),
                    host == null ? is.host() : host,
                    port == null ? is.port() : port,
                    path == null ? is.path() : path,
                    is.signIn(),
                    is.grantLogin(),
                    main().home().variable("JANDREL_SECRET"),
                    is.issuer(),
                    is.clientId(),
                    is.scopes(),
                    authority == null ? is.authority() : Described.text(authority));
            ChangedServer done = main().http().send("PUT", "/api/servers/" + is.id(), wanted, ChangedServer.class);
            if (out().json()) {
                out().objects(List.of(done));
            }
            out().say(done.server().name() + " is at " + done.server().host() + ":"
                    + done.server().port() + " now." + again(done.signInAgain()));
            return 0;
        }
    }

    private static String again(int connections) {
        return switch (connections) {
            case 0 -> "";
            case 1 -> " One account has to sign in again.";
            default -> String.format(" %,d accounts have to sign in again.", connections);
        };
    }

    @Command(name = "remove-server", description = "Removes a server that no connection uses.")
    static final class RemoveServer extends Ask {
        @Parameters(paramLabel = "NAME", description = "What it is called.")
        private String name = "";

        @Override
        public Integer call() {
            main().http()
                    .send(
                            "DELETE",
                            "/api/servers/" + called(main().http(), name).id());
            out().say(name + " is removed.");
            return 0;
        }
    }

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

    @Command(name = "allow-host", description = "Allows a host inside the company's own network.")
    static final class AllowHost extends Ask {
        @Parameters(paramLabel = "HOST", description = "Its name or address.")
        private String host = "";

        @Override
        public Integer call() {
            main().http().send("POST", "/api/allowed-hosts", new AllowedHost(host, null), AllowedHost[].class);
            out().say(host + " may be reached.");
            return 0;
        }
    }

    @Command(
            name = "check-server",
            description = "Tries a server step by step; 1 if a step fails. The password comes from JANDREL_SECRET.")
    static final class CheckServer extends Ask {
        @Mixin
        private Described described = new Described();

        @Option(names = "--account", description = "To sign in with; without it, that is not tried.")
        private String account = "";

        @Override
        public Integer call() {
            NewServer server = described.server("check", main().home());
            CheckOutcome outcome = main().http()
                    .send(
                            "POST",
                            "/api/servers/check",
                            new ServerCheck(
                                    server,
                                    account.isEmpty() ? null : account,
                                    main().home().variable("JANDREL_SECRET")),
                            CheckOutcome.class);
            if (out().json()) {
                out().objects(outcome.steps());
            }
            outcome.steps()
                    .forEach(s -> out().say((s.passed() ? "  passed  " : "  FAILED  ") + s.step() + ": " + s.says()));
            return outcome.passed() ? 0 : Trouble.NO;
        }
    }

    @Command(name = "find-servers", description = "Finds the servers of an address, by DNS and well-known addresses.")
    static final class FindServers extends Ask {
        @Parameters(paramLabel = "ADDRESS", description = "An address, or a domain.")
        private String address = "";

        @Override
        public Integer call() {
            List<FoundServer> all =
                    List.of(main().http().get("/api/servers/find", Map.of("address", address), FoundServer[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("kind", "host", ">port", "path", "found by");
            all.forEach(f -> table.row(f.kind(), f.host(), f.port(), f.path(), f.found()));
            return Ask.listed(out(), table, all.size(), all.size(), "servers");
        }
    }
}
