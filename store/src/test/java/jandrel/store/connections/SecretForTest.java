package jandrel.store.connections;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.store.StoreContext;
import jandrel.store.capture.Scene;
import jandrel.store.connections.Connections.Consent;
import jandrel.store.connections.Connections.Server;
import java.sql.SQLException;
import java.time.Instant;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What a person gave for one server is told to no other, whatever a sync run that began before still believes. */
class SecretForTest {
    private static StoreContext store;
    private Connections connections;
    private UUID connection;
    private Server before;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_secret_for");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void begin() throws Exception {
        connections = store.get(Connections.class);
        int source = Scene.anew(store).people(1).place(0).source();
        connection = connections.source(source).orElseThrow().connection();
        before = connections
                .server(connections.connection(connection).orElseThrow().server())
                .orElseThrow();
    }

    private boolean isTold(Server server) {
        return connections.secretFor(connection, server.host(), server.issuer()).isPresent();
    }

    private Server movedTo(String host, String issuer) {
        Server after = new Server(
                before.id(),
                before.name(),
                before.kind(),
                host,
                before.port(),
                before.path(),
                before.signIn(),
                "",
                null,
                issuer,
                "",
                "",
                "");
        connections.changeServer(after);
        connections.forgetSecretsAt(before.id(), "the server is another");
        return after;
    }

    @Test
    void aServerThatStaysIsToldIt() {
        assertThat(isTold(before)).isTrue();
    }

    @Test
    void neitherTheOldHostNorTheNewIsToldWhatWasGivenBefore() {
        Server after = movedTo("elsewhere.example", "");
        assertThat(isTold(before)).isFalse();
        assertThat(isTold(after)).isFalse();
    }

    @Test
    void whatIsGivenForTheNewHostIsNotToldToTheOld() {
        Server after = movedTo("elsewhere.example", "");
        connections.renew(connection, new byte[] {2});
        assertThat(isTold(before)).isFalse();
        assertThat(isTold(after)).isTrue();
    }

    @Test
    void anotherAuthorisationServerIsAnother() {
        Server after = movedTo(before.host(), "https://sign-in.example");
        connections.renew(connection, new byte[] {2});
        assertThat(isTold(before)).isFalse();
        assertThat(isTold(after)).isTrue();
    }

    /** What comes back from where somebody consented before the change is for nobody. */
    @Test
    void aConsentUnderWayEndsWithTheServerItIsFor() {
        connections.askConsent(
                new Consent("state", connection, new byte[1], Instant.now().plusSeconds(900)));
        connections.forgetConsentsAt(UUID.randomUUID());
        assertThat(connections.takeConsent("state")).isPresent();
        connections.askConsent(
                new Consent("state", connection, new byte[1], Instant.now().plusSeconds(900)));
        connections.forgetConsentsAt(before.id());
        assertThat(connections.takeConsent("state")).isEmpty();
    }
}
