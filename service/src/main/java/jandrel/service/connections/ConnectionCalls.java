package jandrel.service.connections;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.ConnectionApi.ChosenSources;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.ConsentPage;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewPassword;
import jandrel.api.ConnectionApi.OfferInfo;
import jandrel.api.ConnectionApi.SourceInfo;
import jandrel.core.decide.Verdict;
import jandrel.service.kernel.Cookies;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Settings;
import jandrel.service.people.SignedIn;
import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Count;
import jandrel.store.connections.Connections.Listed;
import jandrel.store.connections.Connections.Server;
import jandrel.store.connections.Connections.Source;
import java.net.URI;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.CookieValue;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Whose sources are read where. */
@RestController
class ConnectionCalls {
    private static final String ASKED = "jandrel_consent";
    private final Connections connections;
    private final Connecting connecting;
    private final SourceChoice choice;
    private final AccessTokens tokens;
    private final SyncScheduler looks;
    private final Settings settings;

    ConnectionCalls(
            Connections connections,
            Connecting connecting,
            SourceChoice choice,
            AccessTokens tokens,
            SyncScheduler looks,
            Settings settings) {
        this.connections = connections;
        this.connecting = connecting;
        this.choice = choice;
        this.tokens = tokens;
        this.looks = looks;
        this.settings = settings;
    }

    @PostMapping("/api/connections")
    @ResponseStatus(HttpStatus.CREATED)
    ConnectionInfo connect(@RequestBody NewConnection wanted, @AuthenticationPrincipal SignedIn me) {
        return one(connecting.connect(wanted, me), me);
    }

    /** A rep gets their own; everybody else gets all. */
    @GetMapping("/api/connections")
    List<ConnectionInfo> all(@AuthenticationPrincipal SignedIn me) {
        Map<Integer, Map<String, Long>> counts = bySource(connections.counts());
        Map<UUID, List<Source>> sources =
                connections.allSources().stream().collect(Collectors.groupingBy(Source::connection));
        return connections.all().stream()
                .filter(c -> mayRead(c, me))
                .map(c -> shown(c, sources.getOrDefault(c.id(), List.of()), counts))
                .toList();
    }

    private ConnectionInfo one(UUID id, SignedIn me) {
        return connections.all().stream()
                .filter(c -> c.id().equals(id))
                .filter(c -> mayRead(c, me))
                .findFirst()
                .map(c -> shown(c, connections.sources(id), bySource(connections.countsOf(id))))
                .orElseThrow(() -> Refusal.notFound("connection"));
    }

    /** Where people may connect their own. */
    @GetMapping("/api/offers")
    List<OfferInfo> offers() {
        return connections.servers().stream()
                .filter(s -> s.kind().equals("imap") || s.kind().endsWith("dav"))
                .map(s -> new OfferInfo(s.name(), s.kind(), s.signIn()))
                .toList();
    }

    private static Map<Integer, Map<String, Long>> bySource(List<Count> counted) {
        Map<Integer, Map<String, Long>> counts = new HashMap<>();
        for (Count c : counted) {
            counts.computeIfAbsent(c.source(), s -> new HashMap<>()).put(c.verdict(), c.count());
        }
        return counts;
    }

    /** Looks at its sources now. */
    @PostMapping("/api/connections/{id}/look")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void look(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        connecting.syncNow(connecting.mayChange(id, me));
    }

    @PostMapping("/api/connections/{id}/password")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void renew(@PathVariable("id") UUID id, @RequestBody NewPassword wanted, @AuthenticationPrincipal SignedIn me) {
        connecting.renew(connecting.mayChange(id, me), wanted.password(), me);
    }

    @PostMapping("/api/connections/{id}/pause")
    ConnectionInfo pause(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        connecting.pause(connecting.mayChange(id, me), me);
        return one(id, me);
    }

    /** Goes on; what came in meanwhile is caught up with. */
    @PostMapping("/api/connections/{id}/resume")
    ConnectionInfo resume(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        connecting.resume(connecting.mayChange(id, me), me);
        return one(id, me);
    }

    /** An administrator takes an account that is none of the person's known addresses. */
    @PostMapping("/api/connections/{id}/accept")
    ConnectionInfo accept(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        connecting.accept(connecting.mayChange(id, me), me);
        return one(id, me);
    }

    /**
     * Disconnects. What was captured stays, its secret goes.
     *
     * @param forGood whether all that its sources showed goes too
     */
    @DeleteMapping("/api/connections/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(
            @PathVariable("id") UUID id,
            @RequestParam(name = "forGood", defaultValue = "false") boolean forGood,
            @AuthenticationPrincipal SignedIn me) {
        Connection connection = connecting.mayChange(id, me);
        if (forGood) {
            connecting.removeForGood(connection, me);
        } else {
            connecting.disconnect(connection, me);
        }
    }

    /** Which of its folders and calendars are looked at, and by what a message counts or stays out by hand. */
    @PutMapping("/api/connections/{id}/sources")
    ConnectionInfo choose(
            @PathVariable("id") UUID id, @RequestBody ChosenSources wanted, @AuthenticationPrincipal SignedIn me) {
        choice.choose(connecting.mayChange(id, me), wanted, me);
        looks.now(id);
        return one(id, me);
    }

    /** Begins a consent: the answer says where the person's browser goes, and marks that browser as the one that asked. */
    @PostMapping("/api/connections/{id}/consent")
    ConsentPage consent(
            @PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me, HttpServletResponse response) {
        Connection connection = connecting.mayChange(id, me);
        connecting.mayGoOn(connection, me);
        Server server = connections.server(connection.server()).orElseThrow(() -> Refusal.notFound("server"));
        if (!server.signIn().equals("oauth")) {
            throw Refusal.bad("This server does not ask for consent", "Give a password instead.");
        }
        try {
            AccessTokens.Page page = tokens.consentPage(server, connection);
            response.addHeader(HttpHeaders.SET_COOKIE, asked(page.state(), page.lasts()));
            return new ConsentPage(page.address().toString());
        } catch (SourceTrouble trouble) {
            throw Refusal.of(
                    HttpStatus.BAD_GATEWAY, "The consent cannot be asked for", String.valueOf(trouble.getMessage()));
        }
    }

    /** Where the authorisation server sends the browser back to; the state tells whose consent it is, and counts once. */
    @GetMapping("/api/consent")
    ResponseEntity<Void> consented(
            @RequestParam(name = "state", defaultValue = "") String state,
            @RequestParam(name = "code", defaultValue = "") String code,
            @CookieValue(name = ASKED, defaultValue = "") String asked) {
        // an answer that another browser asked for would connect somebody else's account here
        String outcome = !state.isEmpty() && state.equals(asked) ? connecting.consented(state, code) : "late";
        return ResponseEntity.status(HttpStatus.SEE_OTHER)
                .location(URI.create("/mailbox?consent=" + outcome))
                .header(HttpHeaders.SET_COOKIE, asked("", Duration.ZERO))
                .build();
    }

    private String asked(String state, Duration lasts) {
        // it must come along when the provider's page leads back here
        return Cookies.cookie(settings, ASKED, state, lasts)
                .sameSite("Lax")
                .path("/api/consent")
                .build()
                .toString();
    }

    private static boolean mayRead(Connections.Listed connection, SignedIn me) {
        return isMine(connection.person(), me) || me.oversight().covers(connection.person());
    }

    private static boolean isMine(UUID person, SignedIn me) {
        return person.equals(me.person());
    }

    private static ConnectionInfo shown(Listed c, List<Source> sources, Map<Integer, Map<String, Long>> counts) {
        return new ConnectionInfo(
                c.id(),
                c.person(),
                c.personName(),
                c.team(),
                c.serverName(),
                c.kind(),
                c.account(),
                c.state(),
                c.detail().isEmpty() ? whatToDo(c.state()) : c.detail(),
                c.signIn(),
                c.agreedBy(),
                c.since(),
                c.lastRun(),
                c.countKeyword(),
                c.keepOutKeyword(),
                c.live(),
                sources.stream()
                        .map(s -> shown(s, counts.getOrDefault(s.id(), Map.of())))
                        .toList());
    }

    private static String whatToDo(String state) {
        return switch (state) {
            case "waiting-for-consent" -> "sign in at the provider and consent";
            case "overdue" -> "it should have been read by now; the service may be busy, or its server slow";
            case "paused" -> "nothing is looked at until it is resumed";
            case "disconnected" -> "what was captured stays; connect it again to go on";
            default -> "";
        };
    }

    private static SourceInfo shown(Source s, Map<String, Long> counts) {
        return new SourceInfo(
                s.id(),
                s.kind(),
                s.label(),
                s.chosen(),
                s.counts(),
                s.leftToRead(),
                counts.values().stream().mapToLong(Long::longValue).sum(),
                counts.getOrDefault(Verdict.LOGGED.word(), 0L),
                counts.getOrDefault(Verdict.WAITING.word(), 0L),
                counts.getOrDefault(Verdict.LEFT_OUT.word(), 0L),
                counts.getOrDefault(Verdict.UNREADABLE.word(), 0L),
                s.colour(),
                s.outgoing(),
                s.heldCount() == 0 ? "" : s.heldCount() + " of " + s.heldKnown() + " vanished at once");
    }
}
