package jandrel.service.capture;

import jandrel.core.item.Item;
import jandrel.core.journal.Entry.Thing;
import jandrel.service.connections.AccessTokens;
import jandrel.service.connections.MailboxPool;
import jandrel.service.connections.ServerBack;
import jandrel.service.connections.ServerSlots;
import jandrel.service.connections.Servers;
import jandrel.service.connections.ServiceMail;
import jandrel.service.connections.SyncScheduler;
import jandrel.sources.AddressBookServer;
import jandrel.sources.CalendarServer;
import jandrel.sources.Mailbox;
import jandrel.sources.SourceTrouble;
import jandrel.store.capture.CursorConflict;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Looking;
import jandrel.store.connections.Connections.Server;
import jandrel.store.connections.Connections.Source;
import jandrel.store.journal.Journal;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.function.BooleanSupplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Looks at all sources of one connection, and keeps how it went. */
@Component
class Capture {
    private static final Logger LOG = LoggerFactory.getLogger(Capture.class);
    private static final int LARGEST = 60 * 1024 * 1024;
    private final Connections connections;
    private final SyncScheduler looks;
    private final ServerSlots slots;
    private final ApplicationEventPublisher events;
    private final MailPass mail;
    private final CalendarSync calendars;
    private final ContactSync contacts;
    private final Servers servers;
    private final MailboxPool mailboxes;
    private final AccessTokens tokens;
    private final ServiceMail notices;
    private final Journal journal;
    private final TransactionTemplate transactions;
    private final Clock clock;

    Capture(
            Connections connections,
            SyncScheduler looks,
            ServerSlots slots,
            ApplicationEventPublisher events,
            MailPass mail,
            CalendarSync calendars,
            ContactSync contacts,
            Servers servers,
            MailboxPool mailboxes,
            AccessTokens tokens,
            ServiceMail notices,
            Journal journal,
            TransactionTemplate transactions,
            Clock clock) {
        this.connections = connections;
        this.looks = looks;
        this.slots = slots;
        this.events = events;
        this.mail = mail;
        this.calendars = calendars;
        this.contacts = contacts;
        this.servers = servers;
        this.mailboxes = mailboxes;
        this.tokens = tokens;
        this.notices = notices;
        this.journal = journal;
        this.transactions = transactions;
        this.clock = clock;
    }

    /**
     * What a look came to.
     *
     * @param ran whether it was its turn; else it is told when it is
     * @param retryAfter how long the server asks to be left alone
     */
    record After(boolean ran, Optional<Duration> retryAfter) {
        static final After NOTHING = new After(true, Optional.empty());
    }

    After look(UUID id) {
        Optional<Connection> found = connections.connection(id);
        Optional<Server> server = found.flatMap(c -> connections.server(c.server()));
        Optional<Looking> looking = connections.looking(id);
        if (found.isEmpty()
                || server.isEmpty()
                || looking.isEmpty()
                || found.get().isAtRest()) {
            return After.NOTHING;
        }
        // switched off means off, not gone: nothing is looked at, and nothing that stands is touched
        if (!looking.get().covered()
                || !looking.get().enabled()
                || looking.get().ended()) {
            return After.NOTHING;
        }
        UUID at = server.get().id();
        if (!slots.take(at, id)) {
            return new After(false, Optional.empty());
        }
        Run run = new Run("broken", Optional.empty());
        try {
            run = run(found.get(), server.get());
        } finally {
            slots.free(at, run.state().equals("unreachable")).forEach(looks::now);
        }
        if (run.state().equals("capturing") && found.get().state().equals("unreachable")) {
            looks.nowForAllAt(at, id);
            events.publishEvent(new ServerBack(at));
        }
        return new After(true, run.retryAfter());
    }

    /** @param retryAfter as the server asks for it */
    private record Run(String state, Optional<Duration> retryAfter) {}

    private Run run(Connection connection, Server server) {
        UUID id = connection.id();
        try {
            // a look without news writes nothing about items
            Brought brought = look(connection, server);
            if (brought.news()) {
                connections.noteLastMeeting(id);
            }
            ended(connection, "capturing", "", brought);
            return new Run("capturing", Optional.empty());
        } catch (SourceTrouble trouble) {
            LOG.warn("connection {}: {} ({})", id, trouble.getMessage(), String.valueOf(trouble.getCause()));
            if (trouble.kind() == SourceTrouble.Kind.SIGN_IN) {
                tokens.forget(server, connection.account());
            }
            ended(connection, state(trouble), String.valueOf(trouble.getMessage()), Brought.NOTHING);
            return new Run(state(trouble), trouble.retryAfter());
        } catch (CursorConflict elsewhere) {
            LOG.info("connection {}: {}", id, elsewhere.getMessage());
            return new Run("", elsewhere.isByChange() ? Optional.of(Duration.ZERO) : Optional.empty());
        } catch (RuntimeException failed) {
            LOG.error("connection {} could not be looked at", id, failed);
            ended(connection, "broken", "something went wrong here; the service’s log says what", Brought.NOTHING);
            return new Run("broken", Optional.empty());
        }
    }

    /** A run that brought something or found the connection otherwise than before is an entry of the journal. */
    private void ended(Connection connection, String state, String detail, Brought brought) {
        transactions.executeWithoutResult(t -> {
            connections.ran(connection.id(), state, detail, clock.instant());
            if (brought.news() || !state.equals(connection.state())) {
                journal.add(
                        "service",
                        "looked at",
                        new Thing("connection", connection.id().toString(), connection.account()),
                        Map.of("state", connection.state()),
                        Map.of("state", state, "read", brought.read()));
            }
        });
        if (state.equals("needs-sign-in")) {
            notices.needsSignIn(connection);
        }
    }

    /** @param read messages or calendar objects; what only changed or went is news, too */
    private record Brought(boolean news, long read) {
        static final Brought NOTHING = new Brought(false, 0);
    }

    private Brought look(Connection connection, Server server) {
        List<Source> before = connections.sources(connection.id());
        BooleanSupplier news = () -> !before.equals(connections.sources(connection.id()));
        long read = 0;
        switch (server.kind()) {
            case Connections.HERE -> calendars.showAgain(connection.person());
            case "caldav" -> {
                try (CalendarServer calendarServer = servers.calendars(connection, server)) {
                    read = calendars.over(calendarServer, connection);
                }
            }
            case "carddav" -> {
                try (AddressBookServer books = servers.books(connection, server)) {
                    read = contacts.over(books, connection);
                }
            }
            case "imap" -> {
                try (MailboxPool.Use use = mailboxes.use(connection, server)) {
                    read = mail.over(use.mailbox(), connection);
                    return new Brought(use.keptIf(news.getAsBoolean()), read);
                }
            }
            default -> {
                try (Mailbox mailbox = servers.mailbox(connection, server)) {
                    read = mail.over(mailbox, connection);
                }
            }
        }
        return new Brought(news.getAsBoolean(), read);
    }

    /** Fetches items for a rehearsal and keeps nothing of them; what cannot be fetched is missing. */
    Map<String, Item> items(int sourceId, List<String> positions) {
        Optional<Source> source = connections.source(sourceId);
        Optional<Connection> connection = source.flatMap(s -> connections.connection(s.connection()));
        Optional<Server> server = connection.flatMap(c -> connections.server(c.server()));
        if (source.isEmpty() || connection.isEmpty() || server.isEmpty()) {
            return Map.of();
        }
        try {
            if (!server.get().kind().equals("caldav")) {
                try (Mailbox mailbox = servers.mailbox(connection.get(), server.get())) {
                    return mail.items(mailbox, source.get(), positions);
                }
            }
            try (CalendarServer calendarServer = servers.calendars(connection.get(), server.get())) {
                return calendars.items(calendarServer, connection.get(), source.get(), positions);
            }
        } catch (SourceTrouble trouble) {
            LOG.warn("source {} could not be asked for a rehearsal: {}", sourceId, trouble.getMessage());
            return Map.of();
        }
    }

    /** A whole message, for a purpose; nothing of it is kept. */
    Optional<byte[]> whole(int sourceId, String position) {
        Optional<Source> source = connections.source(sourceId);
        Optional<Connection> connection = source.flatMap(s -> connections.connection(s.connection()));
        Optional<Server> server = connection
                .filter(c -> !c.isAtRest())
                .flatMap(c -> connections.server(c.server()))
                .filter(s -> !s.kind().endsWith("dav"));
        if (source.isEmpty() || connection.isEmpty() || server.isEmpty()) {
            return Optional.empty();
        }
        MailCursor at = MailCursor.of(position);
        try (Mailbox mailbox = servers.mailbox(connection.get(), server.get())) {
            boolean same = mailbox.extent(source.get().name()).validity() == at.validity();
            return same ? mailbox.whole(source.get().name(), at.next(), LARGEST) : Optional.empty();
        } catch (SourceTrouble trouble) {
            LOG.warn("source {} could not be asked for an attachment: {}", sourceId, trouble.getMessage());
            return Optional.empty();
        }
    }

    private static String state(SourceTrouble trouble) {
        return switch (trouble.kind()) {
            case SIGN_IN -> "needs-sign-in";
            case UNREACHABLE -> "unreachable";
            case REFUSED -> "refused";
            case BROKEN, FORBIDDEN -> "broken";
        };
    }
}
