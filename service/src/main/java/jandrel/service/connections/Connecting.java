package jandrel.service.connections;

import jandrel.api.ConnectionApi.NewConnection;
import jandrel.core.address.EmailAddress;
import jandrel.core.journal.Entry.Thing;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Vault;
import jandrel.service.people.PersonLeft;
import jandrel.service.people.SignedIn;
import jandrel.sources.SourceTrouble;
import jandrel.store.connections.BackWindow;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Consent;
import jandrel.store.connections.Connections.Server;
import jandrel.store.connections.Connections.Source;
import jandrel.store.connections.SourceItems;
import jandrel.store.connections.SourceSettings;
import jandrel.store.journal.Journal;
import jandrel.store.people.People;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Connects people, one or all at once, and disconnects them; who agreed to what stands in the journal. */
@Component
public class Connecting {
    private static final String NOT_THEIRS =
            "this account is none of the person’s known addresses; an administrator can accept it";
    private final Connections connections;
    private final People people;
    private final BackWindow window;
    private final SourceItems items;
    private final Vault vault;
    private final AccessTokens tokens;
    private final SyncScheduler looks;
    private final SourceSettings choosing;
    private final Journal journal;
    private final TransactionTemplate transactions;
    private final Clock clock;

    Connecting(
            Connections connections,
            People people,
            BackWindow window,
            SourceItems items,
            Vault vault,
            AccessTokens tokens,
            SyncScheduler looks,
            SourceSettings choosing,
            Journal journal,
            TransactionTemplate transactions,
            Clock clock) {
        this.connections = connections;
        this.people = people;
        this.window = window;
        this.items = items;
        this.vault = vault;
        this.tokens = tokens;
        this.looks = looks;
        this.choosing = choosing;
        this.journal = journal;
        this.transactions = transactions;
        this.clock = clock;
    }

    @Transactional
    UUID connect(NewConnection wanted, SignedIn me) {
        People.Person person = people.find(wanted.person())
                .orElseThrow(() -> Refusal.bad(
                        "Nobody has the key or address “" + wanted.person() + "”", "Import the people first."));
        Server server = server(wanted.server());
        if (me.role() != Role.ADMINISTRATOR && !person.id().equals(me.person())) {
            throw Refusal.of(
                    HttpStatus.FORBIDDEN, "You can connect yourself alone", "Ask an administrator for others.");
        }
        Optional<Connection> ended = connections
                .endedAt(server.id(), wanted.account())
                .filter(c -> c.person().equals(person.id()));
        if (ended.isPresent()) {
            again(ended.get(), server, wanted.password(), me);
            return ended.get().id();
        }
        boolean accepted = Boolean.TRUE.equals(wanted.accepted()) && me.role() == Role.ADMINISTRATOR;
        String state = accepted || isTheirs(wanted.account(), person) ? first(server) : "refused";
        UUID id = UUID.randomUUID();
        String password = wanted.password();
        byte[] secret = server.signIn().equals("password") && password != null ? vault.lock(id, password) : null;
        int back = window.daysBack(List.of(person.id())).getOrDefault(person.id(), 0);
        add(id, person.id(), server, wanted.account(), secret, state, back, me.login());
        if (state.equals("refused")) {
            connections.state(id, state, NOT_THEIRS);
        } else if (state.equals("connecting")) {
            looks.begin(List.of(id));
        }
        return id;
    }

    /** One that had ended goes on where it was. */
    private void again(Connection connection, Server server, @Nullable String password, SignedIn me) {
        if (server.signIn().equals("password") && password != null) {
            renew(connection, password, me);
        } else if (server.isForAll()) {
            resume(connection, me);
        } else {
            mayGoOn(connection, me);
            calendarChanged(connection);
            state(connection, server.signIn().equals("oauth") ? "waiting-for-consent" : "needs-sign-in", "resumed", me);
        }
    }

    public Server server(String name) {
        return connections.servers().stream()
                .filter(s -> s.name().equals(name))
                .findFirst()
                .orElseThrow(() ->
                        Refusal.bad("There is no server “" + name + "”", "Add it first; names are compared exactly."));
    }

    private void add(
            UUID id,
            UUID person,
            Server server,
            String account,
            byte @Nullable [] secret,
            String state,
            int daysBack,
            String by) {
        Instant now = clock.instant();
        Connection connection = Connection.fresh(id, person, server.id(), account, secret, since(now, daysBack), state);
        if (connections.add(connection, now, server.isForAll() ? "" : by) == 0) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "That account is connected already",
                    "To give it a new password, use the connection that is there.");
        }
        calendarChanged(server, person);
        journal.add(
                by,
                "connected",
                new Thing("connection", id.toString(), account),
                null,
                Map.of(
                        "server",
                        server.name(),
                        "signIn",
                        server.signIn(),
                        "person",
                        person.toString(),
                        "state",
                        state));
    }

    private static Instant since(Instant now, int daysBack) {
        return now.atOffset(ZoneOffset.UTC)
                .toLocalDate()
                .minusDays(daysBack)
                .atStartOfDay()
                .toInstant(ZoneOffset.UTC);
    }

    private static String first(Server server) {
        return server.signIn().equals("oauth") ? "waiting-for-consent" : "connecting";
    }

    private static boolean isTheirs(String account, People.Person person) {
        return Arrays.asList(person.addresses())
                .contains(
                        EmailAddress.parse(account).map(EmailAddress::toString).orElse(""));
    }

    /**
     * Connects people by the organisation's own sign-in, and has their sources looked at.
     *
     * @param accounts by person
     */
    @Transactional
    public void begin(Map<UUID, String> accounts, Server server, String by) {
        Map<UUID, Integer> back = window.daysBack(accounts.keySet());
        List<UUID> begun = new ArrayList<>();
        accounts.forEach((person, account) -> {
            UUID id = UUID.randomUUID();
            add(id, person, server, account, null, "connecting", back.getOrDefault(person, 0), by);
            begun.add(id);
        });
        looks.begin(begun);
    }

    /** One's own; an administrator's are all. */
    public Connection mayChange(UUID id, SignedIn me) {
        return connections
                .connection(id)
                .filter(c -> me.role() == Role.ADMINISTRATOR || c.person().equals(me.person()))
                .orElseThrow(() -> Refusal.notFound("connection"));
    }

    @Transactional
    void renew(Connection connection, String password, SignedIn me) {
        mayGoOn(connection, me);
        if (!serverOf(connection).signIn().equals("password")) {
            throw Refusal.bad("This server takes no password of a person", "Sign in the way that the server asks for.");
        }
        if (connection.state().equals("disconnected")) {
            calendarChanged(connection);
        }
        connections.renew(connection.id(), vault.lock(connection.id(), password));
        journal.add(me.login(), "signed in again", thing(connection), connection.state(), "connecting");
        looks.now(connection.id());
    }

    /**
     * Whether a new sign-in may open it. An account that is none of the person's is for an administrator to accept, however often it
     * is connected, ended and connected again.
     */
    void mayGoOn(Connection connection, SignedIn me) {
        if (connection.state().equals("refused")) {
            throw Refusal.of(HttpStatus.CONFLICT, "The connection is refused", connection.detail());
        }
        boolean ended = connection.state().equals("disconnected") && me.role() != Role.ADMINISTRATOR;
        if (ended
                && !people.one(connection.person())
                        .map(p -> isTheirs(connection.account(), p))
                        .orElse(false)) {
            throw Refusal.of(HttpStatus.FORBIDDEN, "This account is none of your addresses", NOT_THEIRS);
        }
    }

    private Server serverOf(Connection connection) {
        return connections.server(connection.server()).orElseThrow(() -> Refusal.notFound("server"));
    }

    /** Looks at its sources now. */
    void syncNow(Connection connection) {
        if (connection.isAtRest()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "Nothing of it is looked at",
                    "The connection is " + connection.state().replace('-', ' ') + ".");
        }
        looks.now(connection.id());
    }

    @Transactional
    void pause(Connection connection, SignedIn me) {
        if (connection.isAtRest()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "There is nothing to pause",
                    "The connection is " + connection.state().replace('-', ' ') + ": nothing is looked at.");
        }
        state(connection, "paused", "paused", me);
    }

    /** Goes on after a pause; or after its end, where the organisation signs in for everybody. */
    @Transactional
    void resume(Connection connection, SignedIn me) {
        mayGoOn(connection, me);
        boolean again = connection.state().equals("disconnected")
                && serverOf(connection).isForAll();
        if (!again && !connection.state().equals("paused")) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "Only a paused connection can be resumed",
                    "This one is " + connection.state().replace('-', ' ')
                            + "; where a sign-in is missing, sign in first.");
        }
        if (again) {
            calendarChanged(connection);
        }
        state(connection, "connecting", "resumed", me);
        looks.now(connection.id());
    }

    /** An administrator takes an account that is none of the person's known addresses. */
    @Transactional
    void accept(Connection connection, SignedIn me) {
        if (!connection.state().equals("refused")) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "There is nothing to accept",
                    "The connection is " + connection.state().replace('-', ' ') + ".");
        }
        String state = first(serverOf(connection));
        state(connection, state, "accepted", me);
        if (state.equals("connecting")) {
            looks.now(connection.id());
        }
    }

    /** Mail about meetings belongs to the meeting only while the person's calendar is captured. */
    private void calendarChanged(Connection connection) {
        calendarChanged(serverOf(connection), connection.person());
    }

    private void calendarChanged(Server server, UUID person) {
        if (server.kind().equals("caldav")) {
            choosing.calendarChanged(person);
        }
    }

    private void state(Connection connection, String state, String what, SignedIn me) {
        connections.state(connection.id(), state, "");
        journal.add(me.login(), what, thing(connection), connection.state(), state);
    }

    /** What was captured stays; what comes now is not looked at. */
    @EventListener
    void left(PersonLeft left) {
        for (UUID id : connections.of(left.person())) {
            connections.connection(id).filter(c -> !c.isAtRest()).ifPresent(c -> {
                connections.state(c.id(), "paused", "the person has left");
                journal.add(left.by(), "paused", thing(c), c.state(), "paused");
            });
        }
    }

    @Transactional
    void disconnect(Connection connection, SignedIn me) {
        // it holds the rules, which come before rows
        calendarChanged(connection);
        connections.state(connection.id(), "disconnected", "");
        connections.keepSecret(connection.id(), null);
        journal.add(me.login(), "disconnected", thing(connection), connection.state(), "disconnected");
    }

    /** It is ended first, so that whatever stops this half-way leaves a connection that brings nothing new and can be removed again. */
    void removeForGood(Connection connection, SignedIn me) {
        if (!connection.state().equals("disconnected")) {
            transactions.executeWithoutResult(t -> disconnect(connection, me));
        }
        for (Source source : connections.sources(connection.id())) {
            items.forgetAll(source.id());
        }
        transactions.executeWithoutResult(t -> {
            calendarChanged(connection);
            connections.remove(connection.id());
            journal.add(me.login(), "removed for good", thing(connection), connection.state(), null);
        });
    }

    /** @return {@code given}, {@code refused}, {@code late} or {@code failed}: what the console tells the person */
    String consented(String state, String code) {
        Optional<Consent> consent = connections.takeConsent(state);
        Optional<Connection> connection = consent.flatMap(c -> connections.connection(c.connection()));
        Optional<Server> server = connection.flatMap(c -> connections.server(c.server()));
        if (consent.isEmpty()
                || connection.isEmpty()
                || server.isEmpty()
                || connection.get().state().equals("refused")
                || clock.instant().isAfter(consent.get().expiresAt())) {
            return "late";
        }
        Connection c = connection.get();
        if (code.isBlank()) {
            transactions.executeWithoutResult(
                    t -> journal.add(c.account(), "refused consent for", thing(c), c.state(), c.state()));
            return "refused";
        }
        try {
            // no transaction is held open while the other side thinks
            byte[] secret = tokens.consented(server.get(), c, consent.get(), code);
            transactions.executeWithoutResult(t -> {
                connections.renew(c.id(), secret);
                connections.agreed(c.id(), c.account(), clock.instant());
                journal.add(c.account(), "consented to", thing(c), c.state(), "connecting");
            });
        } catch (SourceTrouble trouble) {
            return "failed";
        }
        looks.now(c.id());
        return "given";
    }

    static Thing thing(Connection connection) {
        return new Thing("connection", connection.id().toString(), connection.account());
    }
}
