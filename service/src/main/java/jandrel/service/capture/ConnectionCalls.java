package jandrel.service.capture;

import jandrel.api.Connections.ConnectionInfo;
import jandrel.api.Connections.NewConnection;
import jandrel.api.Connections.NewPassword;
import jandrel.api.Connections.NewServer;
import jandrel.api.Connections.ServerInfo;
import jandrel.api.Connections.SourceInfo;
import jandrel.core.decide.Verdict;
import jandrel.core.visibility.Role;
import jandrel.service.Refusal;
import jandrel.service.Vault;
import jandrel.service.people.SignedIn;
import jandrel.store.Connections;
import jandrel.store.Connections.Connection;
import jandrel.store.Connections.Count;
import jandrel.store.Connections.Listed;
import jandrel.store.Connections.Server;
import jandrel.store.Connections.Source;
import jandrel.store.People;
import jandrel.store.Policies;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Servers, and whose sources are read there. */
@RestController
class ConnectionCalls {
    private static final Set<String> KINDS = Set.of("imap", "caldav");
    private final Connections connections;
    private final People people;
    private final Policies policies;
    private final Vault vault;
    private final Looks looks;
    private final Clock clock;

    ConnectionCalls(Connections connections, People people, Policies policies, Vault vault, Looks looks, Clock clock) {
        this.connections = connections;
        this.people = people;
        this.policies = policies;
        this.vault = vault;
        this.looks = looks;
        this.clock = clock;
    }

    @GetMapping("/api/servers")
    List<ServerInfo> servers() {
        return connections.servers().stream().map(ConnectionCalls::shown).toList();
    }

    private static ServerInfo shown(Server s) {
        return new ServerInfo(s.id(), s.name(), s.kind(), s.host(), s.port(), s.path());
    }

    @PostMapping("/api/servers")
    @ResponseStatus(HttpStatus.CREATED)
    ServerInfo addServer(@RequestBody NewServer wanted) {
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
        String path = wanted.path() == null || wanted.path().isBlank() ? "/" : wanted.path();
        Server server =
                new Server(UUID.randomUUID(), wanted.name().strip(), wanted.kind(), wanted.host(), wanted.port(), path);
        if (connections.addServer(server) == 0) {
            throw Refusal.of(HttpStatus.CONFLICT, "There is a server of that name", "Choose another name.");
        }
        return shown(server);
    }

    @PostMapping("/api/connections")
    @ResponseStatus(HttpStatus.CREATED)
    ConnectionInfo connect(@RequestBody NewConnection wanted, @AuthenticationPrincipal SignedIn me) {
        People.Person person = people.find(wanted.person())
                .orElseThrow(() -> Refusal.bad(
                        "Nobody has the key or address “" + wanted.person() + "”", "Import the people first."));
        Server server = connections.servers().stream()
                .filter(s -> s.name().equals(wanted.server()))
                .findFirst()
                .orElseThrow(() -> Refusal.bad(
                        "There is no server “" + wanted.server() + "”", "Add it first; names are compared exactly."));
        UUID id = UUID.randomUUID();
        Instant now = clock.instant();
        Instant since = now.atOffset(ZoneOffset.UTC)
                .toLocalDate()
                .minusDays(policies.current().backDays())
                .atStartOfDay()
                .toInstant(ZoneOffset.UTC);
        Connection connection = new Connection(
                id,
                person.id(),
                server.id(),
                wanted.account(),
                vault.lock(id, wanted.password()),
                since,
                "connecting",
                "",
                null,
                0);
        if (connections.add(connection, now) == 0) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "That account is connected already",
                    "To give it a new password, use the connection that is there.");
        }
        looks.begin(id);
        return one(id, me);
    }

    /** A rep gets their own; everybody else gets all. */
    @GetMapping("/api/connections")
    List<ConnectionInfo> all(@AuthenticationPrincipal SignedIn me) {
        Map<Integer, Map<String, Long>> counts = new HashMap<>();
        for (Count c : connections.counts()) {
            counts.computeIfAbsent(c.source(), s -> new HashMap<>()).put(c.verdict(), c.count());
        }
        Map<UUID, List<Source>> sources =
                connections.allSources().stream().collect(Collectors.groupingBy(Source::connection));
        return connections.all().stream()
                .filter(c -> isMine(c.person(), me) || me.role() != Role.REP)
                .map(c -> shown(c, sources.getOrDefault(c.id(), List.of()), counts))
                .toList();
    }

    private ConnectionInfo one(UUID id, SignedIn me) {
        return all(me).stream()
                .filter(c -> c.id().equals(id))
                .findFirst()
                .orElseThrow(() -> Refusal.notFound("connection"));
    }

    /** Looks at its sources now. */
    @PostMapping("/api/connections/{id}/look")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void look(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        looks.now(mayChange(id, me).id());
    }

    @PostMapping("/api/connections/{id}/password")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void renew(@PathVariable("id") UUID id, @RequestBody NewPassword wanted, @AuthenticationPrincipal SignedIn me) {
        Connection connection = mayChange(id, me);
        connections.renew(connection.id(), vault.lock(id, wanted.password()));
        looks.now(id);
    }

    private Connection mayChange(UUID id, SignedIn me) {
        return connections
                .connection(id)
                .filter(c -> me.role() == Role.ADMINISTRATOR || isMine(c.person(), me))
                .orElseThrow(() -> Refusal.notFound("connection"));
    }

    private static boolean isMine(UUID person, SignedIn me) {
        return person.equals(me.person());
    }

    private static ConnectionInfo shown(Listed c, List<Source> sources, Map<Integer, Map<String, Long>> counts) {
        return new ConnectionInfo(
                c.id(),
                c.person(),
                c.personName(),
                c.serverName(),
                c.kind(),
                c.account(),
                c.state(),
                c.detail(),
                c.since(),
                c.lastRun(),
                sources.stream()
                        .map(s -> shown(s, counts.getOrDefault(s.id(), Map.of())))
                        .toList());
    }

    private static SourceInfo shown(Source s, Map<String, Long> counts) {
        return new SourceInfo(
                s.kind(),
                s.label(),
                counts.values().stream().mapToLong(Long::longValue).sum(),
                counts.getOrDefault(Verdict.LOGGED.word(), 0L),
                counts.getOrDefault(Verdict.WAITING.word(), 0L),
                counts.getOrDefault(Verdict.LEFT_OUT.word(), 0L),
                counts.getOrDefault(Verdict.UNREADABLE.word(), 0L));
    }
}
