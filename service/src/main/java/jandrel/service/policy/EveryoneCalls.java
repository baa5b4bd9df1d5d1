package jandrel.service.policy;

import jandrel.api.ConnectionApi.EveryoneConnected;
import jandrel.api.ConnectionApi.EveryoneWanted;
import jandrel.service.connections.Connecting;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Server;
import jandrel.store.directory.Company;
import jandrel.store.policy.Roster;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Connects everybody who is covered at once. */
@RestController
class EveryoneCalls {
    private final Connections connections;
    private final Connecting connecting;
    private final Roster roster;
    private final Company company;

    EveryoneCalls(Connections connections, Connecting connecting, Roster roster, Company company) {
        this.connections = connections;
        this.connecting = connecting;
        this.roster = roster;
        this.company = company;
    }

    /** Everybody who is covered, or some of them, by the organisation's own sign-in; those who are connected already stay as they are. */
    @PostMapping("/api/connections/everyone")
    @Transactional
    public EveryoneConnected everyone(@RequestBody EveryoneWanted wanted, @AuthenticationPrincipal SignedIn me) {
        String name = wanted.server();
        Server server = connecting.server(name);
        if (!server.isForAll()) {
            throw Refusal.bad(
                    "“" + name + "” has no sign-in for the whole organisation",
                    "Add a server with an organisation’s password or key, or connect people one by one.");
        }
        List<String> skipped = new ArrayList<>();
        Map<UUID, String> fresh = new LinkedHashMap<>();
        long known = 0;
        var accounts = connections.all().stream()
                .filter(c -> c.serverName().equals(name))
                .map(Connections.Listed::account)
                .collect(Collectors.toSet());
        List<String> own = company.ownDomains();
        List<UUID> only = wanted.people();
        for (Roster.Listed person : roster.all()) {
            if (only != null && !only.contains(person.id())) {
                continue;
            }
            Optional<String> account = account(person, own);
            if (!person.covered()) {
                skipped.add(person.name() + ": " + person.why());
            } else if (account.isEmpty()) {
                skipped.add(person.name() + ": has no address");
            } else if (accounts.contains(account.get())) {
                known++;
            } else {
                fresh.put(person.id(), account.get());
            }
        }
        if (!fresh.isEmpty()) {
            connecting.begin(fresh, server, me.login());
        }
        return new EveryoneConnected(fresh.size(), known, skipped);
    }

    /** The first address under one of our own domains, else the first. */
    private static Optional<String> account(Roster.Listed person, List<String> own) {
        return Arrays.stream(person.addresses())
                .filter(a -> own.contains(a.substring(a.indexOf('@'))))
                .findFirst()
                .or(() -> Arrays.stream(person.addresses()).findFirst());
    }
}
