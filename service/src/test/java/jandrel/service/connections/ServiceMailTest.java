package jandrel.service.connections;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
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
import jandrel.service.kernel.Vault;
import jandrel.service.people.SignInLetter;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Looking;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Entry;
import jandrel.store.kernel.Outbox.Kind;
import jandrel.store.kernel.Quotas;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Optional;
import java.util.Properties;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;
import tools.jackson.databind.json.JsonMapper;

class ServiceMailTest {
    private static final Instant NOW = Instant.parse("2026-05-04T08:00:00Z");
    private final Connections connections = mock();
    private final Settings settings = mock();
    private final OutgoingMail post = mock();
    private final Outbox outbox = mock();
    private final Vault vault = mock();
    private final JsonMapper json = JsonMapper.builder().build();
    private final Quotas quotas = mock();
    private final ServiceMail notices =
            new ServiceMail(connections, settings, post, outbox, vault, quotas, json, Clock.fixed(NOW, ZoneOffset.UTC));
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
        assertThat(written()).contains("Vera", "https://jandrel.corvane.example/mailbox");
        verify(outbox).add(eq(Kind.NOTICE), eq("ina@corvane.example"), any(), anyString());
        when(connections.notified(any(), any())).thenReturn(0);
        notices.needsSignIn(connection);
        verify(outbox, times(2)).add(any(), any(), any(), any());
    }

    @Test
    void whoHasToSignInIsRemindedThreeTimesADayAndNobodyElseIs() {
        when(quotas.take(Quotas.REMINDERS, connection.person(), LocalDate.of(2026, 5, 4), 3))
                .thenReturn(1, 0);
        notices.remind(connection, "ina");
        assertThat(written()).contains("ina asks you to", "https://jandrel.corvane.example/mailbox");
        assertThatThrownBy(() -> notices.remind(connection, "ina")).hasMessage("They had 3 reminders today");
        Connection at = Connection.fresh(
                connection.id(),
                connection.person(),
                connection.server(),
                "vera@corvane.example",
                null,
                NOW,
                "capturing");
        assertThatThrownBy(() -> notices.remind(at, "ina")).hasMessageContaining("nothing waits for them");
        verify(outbox, times(1)).add(any(), any(), any(), any());
    }

    @Test
    void withoutAMailServerNothingIsWrittenThatWouldWaitForEver() {
        when(post.isThere()).thenReturn(false);
        assertThat(notices.isReady()).isFalse();
        notices.needsSignIn(connection);
        notices.ofSignIn(new SignInLetter("vera@corvane.example", "A sign-in", "ina added it", "sign-in 1"));
        verify(outbox, never()).add(any(), any(), any(), any());
    }

    /** What lets somebody in stands nowhere in the database as it is. */
    @Test
    void aLetterAboutASignInWaitsEncrypted() throws Exception {
        when(vault.seal(any(), any())).thenReturn(new byte[] {1, 2});
        when(vault.open(new UUID(1, 2), new byte[] {1, 2})).thenReturn("the link".getBytes(StandardCharsets.UTF_8));
        notices.ofSignIn(new SignInLetter("vera@corvane.example", "A sign-in", "the link", "sign-in 1"));
        assertThat(written()).contains("A sign-in").doesNotContain("the link");
        notices.deliver(entry(written(), 0));
        ArgumentCaptor<OutgoingMail.Letter> letter = ArgumentCaptor.forClass(OutgoingMail.Letter.class);
        verify(post).send(eq("vera@corvane.example"), eq(""), letter.capture());
        assertThat(filled(letter.getValue()).getContent()).isEqualTo("the link");
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

    /** A meeting's title is whatever its maker wrote. */
    @Test
    void noSubjectEndsItsHeader() throws Exception {
        notices.send("vera@corvane.example", "Buoys\r\nBcc: eve@far.example\r\n\r\n" + "x".repeat(900), "Text", "x");
        notices.deliver(entry(written(), 0));
        ArgumentCaptor<OutgoingMail.Letter> letter = ArgumentCaptor.forClass(OutgoingMail.Letter.class);
        verify(post).send(eq("vera@corvane.example"), eq(""), letter.capture());
        MimeMessage message = filled(letter.getValue());
        assertThat(message.getHeader("Bcc")).isNull();
        assertThat(message.getSubject())
                .startsWith("Buoys Bcc: eve@far.example xxx")
                .hasSize(200);
    }
}
