package jandrel.service.connections;

import jandrel.api.ConnectionApi.AllowedHost;
import jandrel.api.ConnectionApi.CheckOutcome;
import jandrel.api.ConnectionApi.CheckedStep;
import jandrel.api.ConnectionApi.FoundServer;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.ConnectionApi.ServerCheck;
import jandrel.api.ConnectionApi.ServerInfo;
import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.journal.Entry.Thing;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Vault;
import jandrel.service.people.SignedIn;
import jandrel.sources.Check;
import jandrel.sources.Discovery;
import jandrel.sources.ServerAccount;
import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Server;
import jandrel.store.journal.Journal;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Servers: described once, found by an address where DNS says so, tried step by step. */
@RestController
class ServerCalls {
    private static final Set<String> KINDS = Set.of("imap", "caldav");
    private static final Set<String> SIGN_INS =
            Set.of("password", "oauth", "organisation-password", "organisation-key");
    private final Connections connections;
    private final EgressPolicy reach;
    private final Vault vault;
    private final Journal journal;

    ServerCalls(Connections connections, EgressPolicy reach, Vault vault, Journal journal) {
        this.connections = connections;
        this.reach = reach;
        this.vault = vault;
        this.journal = journal;
    }

    @GetMapping("/api/servers")
    List<ServerInfo> all() {
        return connections.servers().stream()
                .filter(ServerCalls::isElsewhere)
                .map(ServerCalls::shown)
                .toList();
    }

    /** What is made here stands at no server. */
    private static boolean isElsewhere(Server server) {
        return !server.kind().equals(Connections.HERE);
    }

    private static ServerInfo shown(Server s) {
        return new ServerInfo(
                s.id(),
                s.name(),
                s.kind(),
                s.host(),
                s.port(),
                s.path(),
                s.signIn(),
                s.grantLogin(),
                s.issuer(),
                s.clientId());
    }

    @PostMapping("/api/servers")
    @LargestBody(kilobytes = 256)
    @ResponseStatus(HttpStatus.CREATED)
    @Transactional
    public ServerInfo add(@RequestBody NewServer wanted, @AuthenticationPrincipal SignedIn me) {
        Server server = server(wanted);
        try {
            reach.inward().check(server.host());
        } catch (SourceTrouble refused) {
            if (refused.kind() == SourceTrouble.Kind.REFUSED) {
                throw Refusal.of(
                        HttpStatus.FORBIDDEN,
                        "This host leads into the company’s own network",
                        "If that is meant, allow the host first (jandrel allow-host HOST), then add the server.");
            }
        }
        if (connections.addServer(server) == 0) {
            throw Refusal.of(HttpStatus.CONFLICT, "There is a server of that name", "Choose another name.");
        }
        journal.add(
                me.login(),
                "added",
                new Thing("server", server.id().toString(), server.name()),
                null,
                Map.of(
                        "kind", server.kind(),
                        "host", server.host(),
                        "port", server.port(),
                        "signIn", server.signIn()));
        return shown(server);
    }

    private Server server(NewServer wanted) {
        if (!KINDS.contains(wanted.kind())) {
            throw Refusal.bad("There is no kind of server “" + wanted.kind() + "”", "Kinds are imap and caldav.");
        }
        if (wanted.name().isBlank() || !wanted.host().matches("[A-Za-z0-9.:_-]{1,253}")) {
            throw Refusal.bad(
                    "The server needs a name and a host", "A host is a name or an IP address, without a scheme.");
        }
        if (wanted.port() < 1 || wanted.port() > 65_535) {
            throw Refusal.bad("The port is out of range", "It goes from 1 to 65535; IMAP over TLS is mostly 993.");
        }
        if (!text(wanted.path(), "/").matches("/(?!/)[^\\s\\\\]{0,500}")) {
            throw Refusal.bad("The path is not valid", "It starts with a single / and cannot name another server.");
        }
        String signIn = text(wanted.signIn(), "password");
        if (!SIGN_INS.contains(signIn)) {
            throw Refusal.bad(
                    "There is no way to sign in “" + signIn + "”",
                    "It is password, oauth, organisation-password or organisation-key.");
        }
        boolean token = signIn.equals("oauth") || signIn.equals("organisation-key");
        if (token
                && (text(wanted.issuer(), "").isEmpty()
                        || text(wanted.clientId(), "").isEmpty())) {
            throw Refusal.bad("The authorisation server is missing", "Give its issuer and the client id.");
        }
        if (token && !text(wanted.issuer(), "").startsWith("https://")) {
            throw Refusal.bad("The issuer is no https address", "Tokens go over TLS alone.");
        }
        if (signIn.startsWith("organisation-") && text(wanted.secret(), "").isEmpty()) {
            throw Refusal.bad("The organisation’s secret is missing", "Give its password, or its key in PEM form.");
        }
        if (signIn.equals("organisation-password")
                && text(wanted.grantLogin(), "").isEmpty()) {
            throw Refusal.bad("The organisation’s sign-in is missing", "Give the login of the master account.");
        }
        String authority = text(wanted.authority(), "");
        try {
            reach.trust().andIfAny(authority);
        } catch (IllegalArgumentException unreadable) {
            throw Refusal.bad("The authority is no certificate", "Paste it in PEM form, BEGIN and END lines and all.");
        }
        UUID id = UUID.randomUUID();
        String secret = text(wanted.secret(), "");
        return new Server(
                id,
                wanted.name().strip(),
                wanted.kind(),
                wanted.host(),
                wanted.port(),
                text(wanted.path(), "/"),
                signIn,
                text(wanted.grantLogin(), ""),
                secret.isEmpty() ? null : vault.lock(id, secret),
                text(wanted.issuer(), ""),
                text(wanted.clientId(), ""),
                text(wanted.scopes(), ""),
                authority);
    }

    private static String text(@Nullable String text, String otherwise) {
        return text == null || text.isBlank() ? otherwise : text.strip();
    }

    /** Refused while connections use it, ended ones among them: what they captured names it. */
    @DeleteMapping("/api/servers/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    @Transactional
    public void remove(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        Server server =
                connections.server(id).filter(ServerCalls::isElsewhere).orElseThrow(() -> Refusal.notFound("server"));
        if (connections.removeServer(id) == 0) {
            List<String> used = connections.accountsAt(id);
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "The server is used",
                    "By " + String.join(", ", used.subList(0, Math.min(3, used.size())))
                            + (used.size() > 3 ? " and others" : "") + ". Remove these connections for good first.");
        }
        journal.add(
                me.login(),
                "removed",
                new Thing("server", id.toString(), server.name()),
                Map.of("host", server.host()),
                null);
    }

    /** Tries it step by step; nothing is kept. */
    @PostMapping("/api/servers/check")
    @LargestBody(kilobytes = 256)
    CheckOutcome check(@RequestBody ServerCheck wanted) {
        Server server = server(wanted.server());
        String account = text(wanted.account(), "");
        String secret = text(wanted.password(), text(wanted.server().secret(), ""));
        ServerAccount tried = account.isEmpty()
                ? null
                : server.signIn().equals("organisation-password")
                        ? ServerAccount.asMaster(account, server.grantLogin(), secret)
                        : new ServerAccount(account, secret);
        List<CheckedStep> steps = Check.of(
                        server.kind(), Servers.endpoint(server), tried, reach.trust(server.authority()), reach.inward())
                .stream()
                .map(s -> new CheckedStep(s.name(), s.passed(), s.says()))
                .toList();
        return new CheckOutcome(steps.stream().allMatch(CheckedStep::passed), steps);
    }

    /** Where the servers of an address are. */
    @GetMapping("/api/servers/find")
    List<FoundServer> find(@RequestParam("address") String address) {
        String domain = EmailAddress.parse(address)
                .map(EmailAddress::domain)
                .or(() -> DomainName.parse(address).map(DomainName::toString))
                .orElseThrow(
                        () -> Refusal.bad("“" + address + "” is neither an address nor a domain", "Give one of them."));
        return new Discovery(Discovery.dns(), Discovery.https(reach.trust(), reach.inward()))
                .of(domain).stream()
                        .map(f -> new FoundServer(f.kind(), f.host(), f.port(), f.path(), f.how()))
                        .toList();
    }

    @GetMapping("/api/allowed-hosts")
    List<AllowedHost> allowed() {
        return connections.allowedHosts().stream()
                .map(h -> new AllowedHost(h, null))
                .toList();
    }

    @PostMapping("/api/allowed-hosts")
    @Transactional
    public List<AllowedHost> allow(@RequestBody AllowedHost wanted, @AuthenticationPrincipal SignedIn me) {
        String host = wanted.host().strip().toLowerCase(java.util.Locale.ROOT);
        if (!host.matches("[a-z0-9.:_-]{1,253}")) {
            throw Refusal.bad("“" + wanted.host() + "” is no host", "Give a name or an IP address, without a scheme.");
        }
        if (connections.allowHost(host, me.login()) == 1) {
            journal.add(me.login(), "allowed", new Thing("host", host, host), null, true);
        }
        return allowed();
    }
}
