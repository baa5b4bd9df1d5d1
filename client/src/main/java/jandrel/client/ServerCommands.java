package jandrel.client;

import jandrel.api.ConnectionApi.AllowedHost;
import jandrel.api.ConnectionApi.ChangedServer;
import jandrel.api.ConnectionApi.CheckOutcome;
import jandrel.api.ConnectionApi.FoundServer;
import jandrel.api.ConnectionApi.HostToAllow;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.ConnectionApi.ServerCheck;
import jandrel.api.ConnectionApi.ServerInfo;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Where mail and calendars are. */
final class ServerCommands {
    private ServerCommands() {}

    @Command(name = "servers", description = "The servers for mail, calendars and contacts.")
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
        @Option(names = "--kind", required = true, description = "imap, caldav or carddav")
        private String kind = "";

        @Option(names = "--host", required = true, description = "Its host name.")
        private String host = "";

        @Option(names = "--port", description = "993 for imap and 443 for the others, if not given.")
        private int port;

        @Option(names = "--path", description = "Where CalDAV or CardDAV begins; / if not given.")
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

    @Command(
            name = "add-server",
            description = "Adds a server for mail, calendars or contacts; it is spoken to over TLS alone.")
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

    @Command(name = "allow-host", description = "Allows a host inside the company's own network.")
    static final class AllowHost extends Ask {
        @Parameters(paramLabel = "HOST", description = "Its name or address.")
        private String host = "";

        @Override
        public Integer call() {
            main().http().send("POST", "/api/allowed-hosts", new HostToAllow(host), AllowedHost[].class);
            out().say(host + " may be reached.");
            return 0;
        }
    }

    @Command(
            name = "allowed-hosts",
            description = "Lists the hosts inside the company's own network that may be reached, and what is there.")
    static final class AllowedHosts extends Ask {
        @Override
        public Integer call() {
            List<AllowedHost> all = List.of(main().http().get("/api/allowed-hosts", Map.of(), AllowedHost[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("host", "servers", "allowed by");
            all.forEach(h -> table.row(
                    h.host(),
                    String.join(", ", h.servers()),
                    Objects.requireNonNullElse(h.allowedBy(), "the settings")));
            return Ask.listed(out(), table, all.size(), all.size(), "hosts");
        }
    }

    @Command(
            name = "forbid-host",
            description = "Takes back that a host inside the company's own network may be reached.")
    static final class ForbidHost extends Ask {
        @Parameters(paramLabel = "HOST", description = "Its name or address.")
        private String host = "";

        @Override
        public Integer call() {
            main().http().send("DELETE", "/api/allowed-hosts/" + URLEncoder.encode(host, StandardCharsets.UTF_8));
            out().say(host + " is reached no longer. “jandrel allow-host " + host + "” allows it again.");
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
