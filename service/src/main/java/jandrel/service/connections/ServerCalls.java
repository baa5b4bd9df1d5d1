package jandrel.service.connections;

import jandrel.api.ConnectionApi.ChangedServer;
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
import jandrel.service.people.SignedIn;
import jandrel.sources.Check;
import jandrel.sources.Discovery;
import jandrel.sources.ServerAccount;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Server;
import jandrel.store.journal.Journal;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Servers: described once, found by an address where DNS says so, tried step by step. */
@RestController
class ServerCalls {
    private final Connections connections;
    private final EgressPolicy reach;
    private final DescribedServer described;
    private final SyncScheduler looks;
    private final Journal journal;

    ServerCalls(
            Connections connections,
            EgressPolicy reach,
            DescribedServer described,
            SyncScheduler looks,
            Journal journal) {
        this.connections = connections;
        this.reach = reach;
        this.described = described;
        this.looks = looks;
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
                s.clientId(),
                s.scopes(),
                s.authority(),
                s.secret() != null);
    }

    @PostMapping("/api/servers")
    @LargestBody(kilobytes = 256)
    @ResponseStatus(HttpStatus.CREATED)
    @Transactional
    public ServerInfo add(@RequestBody NewServer wanted, @AuthenticationPrincipal SignedIn me) {
        Server server = described.of(wanted);
        described.mayBeReached(server.host());
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

    /**
     * Changes where it is, or how it is spoken to; no secret given is the one before. What people gave for one host is sent to no other:
     * where the host or the authorisation server is another, the organisation's secret is to be given anew, and everybody signs in anew.
     */
    @PutMapping("/api/servers/{id}")
    @LargestBody(kilobytes = 256)
    @Transactional
    public ChangedServer change(
            @PathVariable("id") UUID id, @RequestBody NewServer wanted, @AuthenticationPrincipal SignedIn me) {
        Server before = connections
                .lockedServer(id)
                .filter(ServerCalls::isElsewhere)
                .orElseThrow(() -> Refusal.notFound("server"));
        boolean elsewhere = !before.host().equalsIgnoreCase(wanted.host());
        boolean otherIssuer = !before.issuer().equals(DescribedServer.text(wanted.issuer(), ""));
        // a client's secret and the organisation's key are for the authorisation server, a password is for the host
        boolean secretMoves = before.issuer().isEmpty() ? elsewhere : otherIssuer;
        Server after = described.of(id, wanted, secretMoves ? null : before.secret());
        if (before.secret() != null && after.secret() == null) {
            throw Refusal.bad("The secret was given for another server", "Give the one for this.");
        }
        if (!after.kind().equals(before.kind()) || !after.signIn().equals(before.signIn())) {
            throw Refusal.bad(
                    "What kind of server it is, and how people sign in there, stay as they are",
                    "Add another server, and connect people there.");
        }
        described.mayBeReached(after.host());
        if (connections.changeServer(after) == 0) {
            throw Refusal.of(HttpStatus.CONFLICT, "There is a server of that name", "Choose another name.");
        }
        int again = 0;
        if (elsewhere || otherIssuer) {
            again = connections.forgetSecretsAt(id, "the server is now " + after.host() + "; sign in there");
            connections.forgetConsentsAt(id);
        }
        journal.add(
                me.login(), "changed", new Thing("server", id.toString(), after.name()), words(before), words(after));
        connections.unreachableAt(id).forEach(looks::now);
        return new ChangedServer(shown(after), again);
    }

    private static Map<String, Object> words(Server s) {
        return Map.of("name", s.name(), "host", s.host(), "port", s.port(), "path", s.path(), "issuer", s.issuer());
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
        Server server = described.of(wanted.server());
        String account = DescribedServer.text(wanted.account(), "");
        String secret = DescribedServer.text(
                wanted.password(), DescribedServer.text(wanted.server().secret(), ""));
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
}
