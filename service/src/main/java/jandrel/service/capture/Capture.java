package jandrel.service.capture;

import jandrel.service.Settings;
import jandrel.service.Vault;
import jandrel.sources.Account;
import jandrel.sources.CalDavServer;
import jandrel.sources.CalendarServer;
import jandrel.sources.Endpoint;
import jandrel.sources.ImapMailbox;
import jandrel.sources.Mailbox;
import jandrel.sources.SourceTrouble;
import jandrel.sources.Trust;
import jandrel.store.Connections;
import jandrel.store.Connections.Connection;
import jandrel.store.Connections.Server;
import jandrel.store.CursorMoved;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Optional;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Looks at all sources of one connection, and keeps how it went. */
@Component
class Capture {
    private static final Logger LOG = LoggerFactory.getLogger(Capture.class);
    private final Connections connections;
    private final MailPass mail;
    private final CalendarPass calendars;
    private final Vault vault;
    private final Trust trust;
    private final Clock clock;

    Capture(
            Connections connections,
            MailPass mail,
            CalendarPass calendars,
            Vault vault,
            Settings settings,
            Clock clock) {
        this.connections = connections;
        this.mail = mail;
        this.calendars = calendars;
        this.vault = vault;
        String own = settings.trustedCertificates();
        this.trust = Trust.with(own.isEmpty() ? null : Path.of(own));
        this.clock = clock;
    }

    void look(UUID id) {
        Optional<Connection> found = connections.connection(id);
        Optional<Server> server = found.flatMap(c -> connections.server(c.server()));
        if (found.isEmpty() || server.isEmpty()) {
            return;
        }
        try {
            look(found.get(), server.get());
            connections.ran(id, "capturing", "", clock.instant());
        } catch (SourceTrouble trouble) {
            LOG.warn("connection {}: {} ({})", id, trouble.getMessage(), String.valueOf(trouble.getCause()));
            connections.ran(id, state(trouble), String.valueOf(trouble.getMessage()), clock.instant());
        } catch (CursorMoved elsewhere) {
            LOG.info("connection {}: {}", id, elsewhere.getMessage());
        } catch (RuntimeException failed) {
            LOG.error("connection {} could not be looked at", id, failed);
            connections.ran(id, "broken", "something went wrong here; the service's log says what", clock.instant());
        }
    }

    private void look(Connection connection, Server server) {
        Endpoint endpoint = new Endpoint(server.host(), server.port(), server.path());
        Account account = new Account(connection.account(), vault.unlock(connection.id(), connection.secret()));
        if (server.kind().equals("imap")) {
            try (Mailbox mailbox = ImapMailbox.open(endpoint, account, trust)) {
                mail.over(mailbox, connection);
            }
        } else {
            try (CalendarServer calendarServer = CalDavServer.open(endpoint, account, trust)) {
                calendars.over(calendarServer, connection);
            }
        }
    }

    private static String state(SourceTrouble trouble) {
        return switch (trouble.kind()) {
            case SIGN_IN -> "needs-sign-in";
            case UNREACHABLE -> "unreachable";
            case BROKEN -> "broken";
        };
    }
}
