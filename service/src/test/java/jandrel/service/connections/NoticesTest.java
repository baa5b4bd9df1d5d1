package jandrel.service.connections;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import jakarta.mail.Session;
import jakarta.mail.internet.MimeMessage;
import jandrel.service.kernel.Settings;
import jandrel.service.people.SignInAdded;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Looking;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Entry;
import jandrel.store.kernel.Outbox.Kind;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Optional;
import java.util.Properties;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;
import tools.jackson.databind.json.JsonMapper;

class NoticesTest {
    private static final Instant NOW = Instant.parse("2026-05-04T08:00:00Z");
    private final Connections connections = mock();
    private final Settings settings = mock();
    private final OutgoingMail post = mock();
    private final Outbox outbox = mock();
    private final JsonMapper json = JsonMapper.builder().build();
    private final Notices notices =
            new Notices(connections, settings, post, outbox, json, Clock.fixed(NOW, ZoneOffset.UTC));
    private final Connection connection = Connection.fresh(
            UUID.randomUUID(),
            UUID.randomUUID(),
            UUID.randomUUID(),
            "vera@corvane.example",
            null,
            NOW,
            "needs-sign-in");

    @BeforeEach
    void aServerToSendBy() {
        when(post.isThere()).thenReturn(true);
        when(settings.publicUrl()).thenReturn("https://jandrel.corvane.example");
        when(settings.smtp())
                .thenReturn(
                        new Settings.Smtp("h", 25, false, "", "", "jandrel@corvane.example", "ina@corvane.example"));
        when(connections.notified(any(), any())).thenReturn(1);
        when(connections.looking(connection.id()))
                .thenReturn(Optional.of(new Looking(true, true, false, "Vera", new String[] {"vera@corvane.example"})));
    }

    private Entry entry(String payload, int attempts) {
        return new Entry(1, Kind.NOTICE, "vera@corvane.example", new UUID(1, 2), 3, payload, attempts);
    }

    private String written() {
        ArgumentCaptor<String> payload = ArgumentCaptor.forClass(String.class);
        verify(outbox).add(eq(Kind.NOTICE), eq("vera@corvane.example"), any(), payload.capture());
        return payload.getValue();
    }

    @Test
    void thePersonAndTheAdministratorAreNotifiedOnce() {
        notices.needsSignIn(connection);
        assertThat(written()).contains("Vera", "https://jandrel.corvane.example/connections");
        verify(outbox).add(eq(Kind.NOTICE), eq("ina@corvane.example"), any(), anyString());
        when(connections.notified(any(), any())).thenReturn(0);
        notices.needsSignIn(connection);
        verify(outbox, times(2)).add(any(), any(), any(), any());
    }

    @Test
    void withoutAMailServerNothingIsWrittenThatWouldWaitForEver() {
        when(post.isThere()).thenReturn(false);
        assertThat(notices.isReady()).isFalse();
        notices.needsSignIn(connection);
        notices.signInAdded(new SignInAdded(connection.person(), "Vera", "vera@corvane.example", "vera", "ina"));
        verify(outbox, never()).add(any(), any(), any(), any());
    }

    @Test
    void aSignInInSomebodysNameIsNotKeptFromThem() {
        notices.signInAdded(new SignInAdded(connection.person(), "Vera", "vera@corvane.example", "vera2", "ina"));
        assertThat(written()).contains("ina added the sign-in vera2");
    }

    @Test
    void theSameNoticeCarriesTheSameMessageIdHoweverOftenItIsTried() throws Exception {
        notices.needsSignIn(connection);
        String payload = written();
        notices.deliver(entry(payload, 0));
        notices.deliver(entry(payload, 0));
        ArgumentCaptor<OutgoingMail.Letter> letters = ArgumentCaptor.forClass(OutgoingMail.Letter.class);
        verify(post, times(2)).send(eq("vera@corvane.example"), eq(""), letters.capture());
        String first = filled(letters.getAllValues().get(0)).getHeader("Message-ID")[0];
        MimeMessage second = filled(letters.getAllValues().get(1));
        assertThat(second.getHeader("Message-ID")[0]).isEqualTo(first).contains("-3@");
        assertThat(second.getHeader("Auto-Submitted")).containsExactly("auto-generated");
        verify(outbox, times(2)).done(any());
    }

    private static MimeMessage filled(OutgoingMail.Letter letter) throws Exception {
        MimeMessage message = new MimeMessage(Session.getInstance(new Properties()));
        letter.fill(message);
        return message;
    }

    @Test
    void whatCannotBeSentNowIsTriedAgainUntilThereIsNoUseInIt() throws Exception {
        notices.needsSignIn(connection);
        String payload = written();
        doThrow(new OutgoingMail.NotSent("away", false, new Exception()))
                .when(post)
                .send(any(), any(), any());
        notices.deliver(entry(payload, 0));
        verify(outbox).failed(any(), eq("away"));
        verify(outbox, never()).done(any());
        notices.deliver(entry(payload, 11));
        verify(outbox).done(any());
    }

    @Test
    void whatIsRefusedForGoodIsNotTriedAgain() throws Exception {
        notices.needsSignIn(connection);
        String payload = written();
        doThrow(new OutgoingMail.NotSent("550 nobody", true, new Exception()))
                .when(post)
                .send(any(), any(), any());
        notices.deliver(entry(payload, 0));
        verify(outbox).done(any());
        verify(outbox, never()).failed(any(), any());
    }
}
