package jandrel.service.connections;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.inOrder;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import jandrel.api.ConnectionApi.NewConnection;
import jandrel.core.visibility.Oversight;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.connections.BackWindow;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Consent;
import jandrel.store.connections.Connections.Server;
import jandrel.store.connections.SourceItems;
import jandrel.store.connections.SourceSettings;
import jandrel.store.journal.Journal;
import jandrel.store.people.People;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Consumer;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.mockito.ArgumentCaptor;
import org.mockito.InOrder;
import org.springframework.transaction.TransactionStatus;
import org.springframework.transaction.support.TransactionTemplate;

class ConnectingTest {
    private static final Instant NOW = Instant.parse("2026-05-04T08:00:00Z");
    private static final UUID PERSON = UUID.randomUUID();
    private static final UUID SERVER = UUID.randomUUID();
    private final Connections connections = mock();
    private final People people = mock();
    private final BackWindow window = mock();
    private final SourceItems items = mock();
    private final AccessTokens tokens = mock();
    private final SyncScheduler looks = mock();
    private final SourceSettings choosing = mock();
    private final Journal journal = mock();
    private final TransactionTemplate transactions = mock();
    private final Connecting connecting = new Connecting(
            connections,
            people,
            window,
            items,
            mock(),
            tokens,
            looks,
            choosing,
            journal,
            transactions,
            Clock.fixed(NOW, ZoneOffset.UTC));
    private final SignedIn admin = new SignedIn(
            UUID.randomUUID(), "ina", "Ina", Role.ADMINISTRATOR, UUID.randomUUID(), "", Oversight.EVERYBODY);
    private final SignedIn vera =
            new SignedIn(UUID.randomUUID(), "vera", "Vera", Role.REP, PERSON, "", Oversight.of(Role.REP, PERSON, null));
    private Server server = Server.of(SERVER, "mail", "imap", "h", 993, "/");

    @BeforeEach
    @SuppressWarnings("unchecked")
    void aPersonAndAServer() {
        when(connections.servers()).thenAnswer(call -> List.of(server));
        when(connections.server(SERVER)).thenAnswer(call -> Optional.of(server));
        when(connections.add(any(), any(), anyString())).thenReturn(1);
        People.Person person =
                new People.Person(PERSON, "vera", "Vera", "", "rep", null, new String[] {"vera@corvane.example"});
        when(people.find("vera")).thenReturn(Optional.of(person));
        when(people.one(PERSON)).thenReturn(Optional.of(person));
        when(window.daysBack(List.of(PERSON))).thenReturn(Map.of(PERSON, 90));
        org.mockito.Mockito.doAnswer(call -> {
                    ((Consumer<TransactionStatus>) call.getArgument(0)).accept(mock());
                    return null;
                })
                .when(transactions)
                .executeWithoutResult(any());
    }

    private NewConnection wanted(String account, boolean accepted) {
        return new NewConnection("vera", "mail", account, null, accepted);
    }

    private Connection added() {
        ArgumentCaptor<Connection> added = ArgumentCaptor.forClass(Connection.class);
        verify(connections).add(added.capture(), any(), anyString());
        return added.getValue();
    }

    private Connection standing(String account, String state) {
        return Connection.fresh(UUID.randomUUID(), PERSON, SERVER, account, null, NOW, state);
    }

    @Test
    void onesOwnAccountIsReadAtOnceFromTheWindowOfThePolicy() {
        connecting.connect(wanted("vera@corvane.example", false), vera);
        assertThat(added().state()).isEqualTo("connecting");
        assertThat(added().since()).isEqualTo(Instant.parse("2026-02-03T00:00:00Z"));
        verify(looks).begin(any());
        verify(journal).add(eq("vera"), eq("connected"), any(), any(), any());
    }

    @Test
    void whoIsCoveredByNoPolicyIsReadFromToday() {
        when(window.daysBack(List.of(PERSON))).thenReturn(Map.of());
        connecting.connect(wanted("vera@corvane.example", false), vera);
        assertThat(added().since()).isEqualTo(Instant.parse("2026-05-04T00:00:00Z"));
    }

    @Test
    void anAccountThatIsNoneOfThePersonsIsRefusedUntilAnAdministratorAcceptsIt() {
        connecting.connect(wanted("ceo@corvane.example", true), vera);
        assertThat(added().state()).isEqualTo("refused");
        verify(looks, never()).begin(any());
    }

    @Test
    void anAdministratorMayTakeIt() {
        connecting.connect(wanted("shared@corvane.example", true), admin);
        assertThat(added().state()).isEqualTo("connecting");
    }

    @Test
    void whoIsNoAdministratorConnectsThemselvesAlone() {
        SignedIn other =
                new SignedIn(UUID.randomUUID(), "o", "O", Role.MANAGER, UUID.randomUUID(), "", Oversight.EVERYBODY);
        assertThatThrownBy(() -> connecting.connect(wanted("vera@corvane.example", false), other))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("yourself alone");
        verify(connections, never()).add(any(), any(), anyString());
    }

    @Test
    void anAccountIsConnectedOnce() {
        when(connections.add(any(), any(), anyString())).thenReturn(0);
        assertThatThrownBy(() -> connecting.connect(wanted("vera@corvane.example", false), vera))
                .hasMessageContaining("connected already");
    }

    @Test
    void nobodyAndNoServerAreNamed() {
        assertThatThrownBy(() -> connecting.connect(new NewConnection("x", "mail", "a", ""), admin))
                .hasMessageContaining("“x”");
        assertThatThrownBy(() -> connecting.connect(new NewConnection("vera", "y", "a", ""), admin))
                .hasMessageContaining("“y”");
    }

    @ParameterizedTest
    @CsvSource({
        "connecting,true",
        "capturing,true",
        "overdue,true",
        "paused,false",
        "refused,false",
        "disconnected,false",
        "waiting-for-consent,false"
    })
    void onlyWhatIsReadCanBePaused(String state, boolean can) {
        Connection connection = standing("vera@corvane.example", state);
        if (can) {
            connecting.pause(connection, vera);
            verify(connections).state(connection.id(), "paused", "");
        } else {
            assertThatThrownBy(() -> connecting.pause(connection, vera)).isInstanceOf(Refusal.class);
            verify(connections, never()).state(any(), any(), any());
        }
    }

    @ParameterizedTest
    @CsvSource({"paused,true", "capturing,false", "needs-sign-in,false", "refused,false", "disconnected,false"})
    void onlyWhatIsPausedCanBeResumed(String state, boolean can) {
        Connection connection = standing("vera@corvane.example", state);
        if (can) {
            connecting.resume(connection, vera);
            verify(looks).now(connection.id());
        } else {
            assertThatThrownBy(() -> connecting.resume(connection, vera)).isInstanceOf(Refusal.class);
            verify(looks, never()).now(any());
        }
    }

    @Test
    void whereTheOrganisationSignsInWhatEndedCanGoOn() {
        server = new Server(SERVER, "mail", "imap", "h", 993, "/", "organisation-password", "", null, "", "", "", "");
        Connection connection = standing("vera@corvane.example", "disconnected");
        connecting.resume(connection, vera);
        verify(looks).now(connection.id());
    }

    @Test
    void whatEndedAndIsNoneOfOnesAddressesGoesOnByAnAdministratorAlone() {
        Connection connection = standing("ceo@corvane.example", "disconnected");
        assertThatThrownBy(() -> connecting.mayGoOn(connection, vera)).hasMessageContaining("none of your addresses");
        connecting.mayGoOn(connection, admin);
    }

    @Test
    void onesOwnConnectionsAreOnesOwnToChange() {
        Connection own = standing("vera@corvane.example", "capturing");
        Connection others = Connection.fresh(UUID.randomUUID(), UUID.randomUUID(), SERVER, "o", null, NOW, "capturing");
        when(connections.connection(own.id())).thenReturn(Optional.of(own));
        when(connections.connection(others.id())).thenReturn(Optional.of(others));
        assertThat(connecting.mayChange(own.id(), vera)).isEqualTo(own);
        assertThat(connecting.mayChange(others.id(), admin)).isEqualTo(others);
        assertThatThrownBy(() -> connecting.mayChange(others.id(), vera)).isInstanceOf(Refusal.class);
        assertThatThrownBy(() -> connecting.mayChange(UUID.randomUUID(), admin)).isInstanceOf(Refusal.class);
    }

    @Test
    void removedForGoodItIsEndedFirstThenEmptiedThenGone() {
        Connection connection = standing("vera@corvane.example", "capturing");
        Connections.Source source = new Connections.Source(
                4,
                connection.id(),
                "folder",
                "INBOX",
                "inbox",
                "",
                null,
                true,
                "inbox",
                false,
                "",
                false,
                0,
                0,
                new String[0],
                false,
                false,
                0);
        when(connections.sources(connection.id())).thenReturn(List.of(source));
        connecting.removeForGood(connection, vera);
        InOrder order = inOrder(connections, items);
        order.verify(connections).state(connection.id(), "disconnected", "");
        order.verify(connections).keepSecret(connection.id(), null);
        order.verify(items).forgetAll(4);
        order.verify(connections).remove(connection.id());
    }

    @Test
    void theEndOfACalendarDecidesMeetingsAnew() {
        server = Server.of(SERVER, "calendars", "caldav", "h", 443, "/");
        connecting.disconnect(standing("vera@corvane.example", "capturing"), vera);
        verify(choosing).calendarChanged(PERSON);
    }

    @ParameterizedTest
    @CsvSource({"60,given", "-1,late"})
    void aConsentCountsOnceAndInTime(long seconds, String outcome) throws Exception {
        Connection connection = standing("vera@corvane.example", "waiting-for-consent");
        Consent consent = mock();
        when(consent.connection()).thenReturn(connection.id());
        when(consent.expiresAt()).thenReturn(NOW.plusSeconds(seconds));
        when(connections.takeConsent("s")).thenReturn(Optional.of(consent), Optional.empty());
        when(connections.connection(connection.id())).thenReturn(Optional.of(connection));
        when(tokens.consented(any(), any(), any(), any())).thenReturn(new byte[] {1});
        assertThat(connecting.consented("s", "code")).isEqualTo(outcome);
        assertThat(connecting.consented("s", "code")).isEqualTo("late");
    }

    @Test
    void aConsentThatIsRefusedLeavesTheConnectionAsItIs() {
        Connection connection = standing("vera@corvane.example", "waiting-for-consent");
        Consent consent = mock();
        when(consent.connection()).thenReturn(connection.id());
        when(consent.expiresAt()).thenReturn(NOW.plusSeconds(60));
        when(connections.takeConsent("s")).thenReturn(Optional.of(consent));
        when(connections.connection(connection.id())).thenReturn(Optional.of(connection));
        assertThat(connecting.consented("s", "")).isEqualTo("refused");
        verify(connections, never()).renew(any(), any());
    }
}
