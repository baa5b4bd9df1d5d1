package jandrel.service.connections;

import jandrel.service.kernel.Settings;
import jandrel.service.kernel.Vault;
import jandrel.sources.AddressBookServer;
import jandrel.sources.CalDavServer;
import jandrel.sources.CalendarServer;
import jandrel.sources.CardDavServer;
import jandrel.sources.Endpoint;
import jandrel.sources.ImapMailbox;
import jandrel.sources.Mailbox;
import jandrel.sources.Patience;
import jandrel.sources.ServerAccount;
import jandrel.sources.SourceTrouble;
import jandrel.sources.Trust;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Server;
import jandrel.store.connections.HandedOver;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Opens a connection's account, by whichever way of signing in its server has. Every way first asks whether it may go there. */
@Component
public class Servers {
    private final Vault vault;
    private final AccessTokens tokens;
    private final EgressPolicy reach;
    private final Connections connections;
    private final HandedOver handed;
    private final Settings settings;

    Servers(
            Vault vault,
            AccessTokens tokens,
            EgressPolicy reach,
            Connections connections,
            HandedOver handed,
            Settings settings) {
        this.settings = settings;
        this.handed = handed;
        this.connections = connections;
        this.vault = vault;
        this.tokens = tokens;
        this.reach = reach;
    }

    static Endpoint endpoint(Server server) {
        return new Endpoint(server.host(), server.port(), server.path());
    }

    public Mailbox mailbox(Connection connection, Server server) {
        if (server.kind().equals("smtp")) {
            return new HandedMailbox(
                    handed, vault, connection.id(), settings.handOver().believed());
        }
        return mailbox(way(connection, server));
    }

    /**
     * How a mailbox is opened.
     *
     * @param authority whom besides is believed, in PEM form; may be empty
     */
    record Way(Endpoint endpoint, ServerAccount account, String authority) {}

    Way way(Connection connection, Server server) {
        reach.inward().check(server.host());
        return new Way(endpoint(server), account(connection, server), server.authority());
    }

    public Mailbox mailbox(Way way) {
        return ImapMailbox.open(way.endpoint(), way.account(), reach.trust(way.authority()), patience());
    }

    public CalendarServer calendars(Connection connection, Server server) {
        reach.inward().check(server.host());
        return CalDavServer.open(
                endpoint(server),
                account(connection, server),
                reach.trust(server.authority()),
                reach.inward(),
                patience());
    }

    public AddressBookServer books(Connection connection, Server server) {
        reach.inward().check(server.host());
        return CardDavServer.open(
                endpoint(server),
                account(connection, server),
                reach.trust(server.authority()),
                reach.inward(),
                patience());
    }

    private Patience patience() {
        return Patience.of(settings.answersWithin());
    }

    /** What it takes to listen to a mailbox. */
    public record Opened(Endpoint endpoint, ServerAccount account, Trust trust) {}

    /** @return nothing when the connection has gone */
    public Optional<Opened> forListening(UUID id) {
        Optional<Connection> connection = connections.connection(id);
        Optional<Server> server = connection.flatMap(c -> connections.server(c.server()));
        return server.map(s -> {
            reach.inward().check(s.host());
            return new Opened(endpoint(s), account(connection.orElseThrow(), s), reach.trust(s.authority()));
        });
    }

    private ServerAccount account(Connection connection, Server server) {
        return switch (server.signIn()) {
            case "organisation-password" ->
                ServerAccount.asMaster(connection.account(), server.grantLogin(), secret(server));
            case "organisation-key" ->
                ServerAccount.withToken(
                        connection.account(), tokens.byKey(server, connection.account(), secret(server)));
            case "oauth" ->
                ServerAccount.withToken(
                        connection.account(),
                        tokens.byConsent(
                                server,
                                connection,
                                given(connection, server, "nobody has consented yet; sign in at the provider")));
            default ->
                new ServerAccount(
                        connection.account(),
                        vault.unlock(
                                connection.id(),
                                given(connection, server, "there is no password for it yet; give one")));
        };
    }

    private byte[] given(Connection connection, Server server, String none) {
        return connections
                .secretFor(connection.id(), server.host(), server.issuer())
                .orElseThrow(() -> {
                    Connection now = connections.connection(connection.id()).orElse(connection);
                    return new SourceTrouble(SourceTrouble.Kind.SIGN_IN, now.whyNoSecret(none), null);
                });
    }

    private String secret(Server server) {
        byte[] secret = server.secret();
        return secret == null ? "" : vault.unlock(server.id(), secret);
    }
}
