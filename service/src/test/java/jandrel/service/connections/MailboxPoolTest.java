package jandrel.service.connections;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import jandrel.sources.Endpoint;
import jandrel.sources.Mailbox;
import jandrel.sources.ServerAccount;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Server;
import java.time.Instant;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class MailboxPoolTest {
    private final Servers servers = mock();
    private final MailboxPool mailboxes = new MailboxPool(servers);
    private final Server server = Server.of(UUID.randomUUID(), "s", "imap", "h", 993, "");
    private final Connection connection = Connection.fresh(
            UUID.randomUUID(), UUID.randomUUID(), server.id(), "a", new byte[1], Instant.EPOCH, "capturing");
    private final Mailbox first = mock();
    private final Mailbox second = mock();

    @BeforeEach
    void opened() {
        way("password");
        when(servers.mailbox(any(Servers.Way.class))).thenReturn(first, second);
        when(first.answers()).thenReturn(true);
    }

    private void way(String password) {
        when(servers.way(connection, server))
                .thenReturn(new Servers.Way(new Endpoint("h", 993, ""), new ServerAccount("a", password), ""));
    }

    /** @return which mailbox it was */
    private Mailbox look(boolean news) {
        try (MailboxPool.Use use = mailboxes.use(connection, server)) {
            use.keptIf(news);
            return use.mailbox();
        }
    }

    @Test
    void oneThatBroughtNewsIsUsedOnceMore() {
        assertThat(look(true)).isSameAs(first);
        verify(first, never()).close();
        assertThat(look(false)).isSameAs(first);
        verify(first).close();
        assertThat(look(false)).isSameAs(second);
    }

    @Test
    void oneThatBroughtNoneOrFailedIsClosed() {
        look(false);
        verify(first).close();
        try (MailboxPool.Use use = mailboxes.use(connection, server)) {
            assertThat(use.mailbox()).isSameAs(second);
        }
        verify(second).close();
    }

    @Test
    void oneThatAnswersNoMoreIsOpenedAnew() {
        look(true);
        when(first.answers()).thenReturn(false);
        assertThat(look(true)).isSameAs(second);
        verify(first).close();
    }

    @Test
    void anotherSignInIsNotServedByTheOldOne() {
        look(true);
        way("renewed");
        assertThat(look(true)).isSameAs(second);
        verify(first).close();
    }

    @Test
    void allAreClosedAtTheEnd() {
        look(true);
        mailboxes.destroy();
        verify(first).close();
    }
}
