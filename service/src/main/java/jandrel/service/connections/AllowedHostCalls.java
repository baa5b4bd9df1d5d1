package jandrel.service.connections;

import jandrel.api.ConnectionApi.AllowedHost;
import jandrel.api.ConnectionApi.HostToAllow;
import jandrel.core.journal.Entry.Thing;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Settings;
import jandrel.service.people.SignedIn;
import jandrel.sources.Inward;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Server;
import jandrel.store.journal.Journal;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Hosts inside the company's own network that the service may reach; all others there it refuses. */
@RestController
class AllowedHostCalls {
    private final Connections connections;
    private final SyncScheduler looks;
    private final Settings settings;
    private final Journal journal;

    AllowedHostCalls(Connections connections, SyncScheduler looks, Settings settings, Journal journal) {
        this.connections = connections;
        this.looks = looks;
        this.settings = settings;
        this.journal = journal;
    }

    @GetMapping("/api/allowed-hosts")
    List<AllowedHost> all() {
        List<Server> servers = connections.servers();
        return Stream.concat(
                        settings.allowedHosts().stream()
                                .filter(h -> !h.isBlank())
                                .map(h -> new AllowedHost(h, null, null, at(servers, h))),
                        connections.allowed().stream()
                                .map(a ->
                                        new AllowedHost(a.host(), a.allowedBy(), a.allowedAt(), at(servers, a.host()))))
                .toList();
    }

    private static List<String> at(List<Server> servers, String host) {
        return servers.stream()
                .filter(s -> s.host().equalsIgnoreCase(host))
                .map(Server::name)
                .toList();
    }

    @PostMapping("/api/allowed-hosts")
    @Transactional
    public List<AllowedHost> allow(@RequestBody HostToAllow wanted, @AuthenticationPrincipal SignedIn me) {
        String host = lower(wanted.host());
        if (!host.matches("[a-z0-9.:_-]{1,253}")) {
            throw Refusal.bad("“" + wanted.host() + "” is no host", "Give a name or an IP address, without a scheme.");
        }
        if (connections.allowHost(host, me.login()) == 1) {
            journal.add(me.login(), "allowed", new Thing("host", host, host), null, true);
            connections.resumeAtHost(host, Inward.WHY).forEach(looks::now);
        }
        return all();
    }

    /** Takes that back: nothing there is reached any more, by any node, from the next step on. */
    @DeleteMapping("/api/allowed-hosts/{host}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    @Transactional
    public void forbid(@PathVariable("host") String given, @AuthenticationPrincipal SignedIn me) {
        String host = lower(given);
        if (connections.forbidHost(host) == 0) {
            if (settings.allowedHosts().stream().anyMatch(host::equalsIgnoreCase)) {
                throw Refusal.of(
                        HttpStatus.CONFLICT,
                        host + " stands in the service’s settings",
                        "Take it out of jandrel.allowed-hosts there, and start the service anew.");
            }
            throw Refusal.notFound("allowed host");
        }
        journal.add(me.login(), "no longer allowed", new Thing("host", host, host), true, null);
        connections.refuseAtHost(host, Inward.WHY);
    }

    private static String lower(String host) {
        return host.strip().toLowerCase(Locale.ROOT);
    }
}
