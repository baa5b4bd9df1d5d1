package jandrel.service.connections;

import jandrel.formats.mail.OneLine;
import jandrel.service.kernel.OutboxLoop;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Settings;
import jandrel.service.kernel.Vault;
import jandrel.service.people.SignInLetter;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Looking;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Quotas;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.Base64;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.EventListener;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Tells the person and the administrator by mail, once, that a connection waits for them. It says nothing of any item. Nobody waits for a
 * notice to go out; while the mail server does not take it, it is tried again for some hours.
 */
@Component
public class ServiceMail extends OutboxLoop {
    private static final Logger LOG = LoggerFactory.getLogger(ServiceMail.class);
    private static final int MOST_TRIES = 12;
    private static final int LONGEST_SUBJECT = 200;
    private static final int MOST_REMINDERS = 3;
    private static final String SIGN_IN_AGAIN = "Jandrel needs you to sign in again";
    private static final Set<String> WAIT_FOR_SOMEBODY = Set.of("needs-sign-in", "waiting-for-consent");
    private final Connections connections;
    private final Settings settings;
    private final OutgoingMail post;
    private final Outbox outbox;
    private final Vault vault;
    private final Quotas quotas;
    private final JsonMapper json;
    private final Clock clock;

    ServiceMail(
            Connections connections,
            Settings settings,
            OutgoingMail post,
            Outbox outbox,
            Vault vault,
            Quotas quotas,
            JsonMapper json,
            Clock clock) {
        super("notices", outbox, Outbox.Kind.NOTICE);
        this.outbox = outbox;
        this.vault = vault;
        this.quotas = quotas;
        this.json = json;
        this.connections = connections;
        this.settings = settings;
        this.post = post;
        this.clock = clock;
    }

    /** Once for each time that it stops capturing, whichever node notices. */
    @Transactional
    public void needsSignIn(Connection connection) {
        // the console says since when, whether a mail goes out or not
        if (connections.notified(connection.id(), clock.instant()) == 0 || !post.isThere()) {
            return;
        }
        Optional<Looking> who = connections.looking(connection.id());
        if (who.isEmpty()) {
            return;
        }
        String text = "Hello " + who.get().personName() + ",\r\n\r\nthe account " + connection.account()
                + " no longer lets Jandrel in, so nothing new from it reaches the customers’ timelines.\r\n"
                + "Sign in again here; what came in meanwhile is then caught up with:\r\n\r\n" + settings.publicUrl();
        writesAs(who.get()).ifPresent(to -> send(to, SIGN_IN_AGAIN, text + "/mailbox\r\n", about(connection)));
        String administrator = settings.smtp().administrator();
        if (!administrator.isEmpty()) {
            send(administrator, SIGN_IN_AGAIN, text + "/connections\r\n", about(connection));
        }
    }

    /** @throws Refusal when no mail can go out */
    void needsMail() {
        if (!post.isThere()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "No mail can go out",
                    "Reminders go by mail: set jandrel.smtp.host and jandrel.smtp.from (docs/settings.md), then start the service again.");
        }
    }

    /**
     * Asks somebody once more to let Jandrel in.
     *
     * @param by who has them reminded
     * @throws Refusal where nothing waits for them, they have no address, or had so many reminders today
     */
    @Transactional
    public void remind(Connection connection, String by) {
        if (!WAIT_FOR_SOMEBODY.contains(connection.state())) {
            throw Refusal.bad(
                    "It is " + connection.state().replace('-', ' ') + ": nothing waits for them", "Remind others.");
        }
        Looking who = connections.looking(connection.id()).orElseThrow(() -> Refusal.notFound("connection"));
        String to = writesAs(who).orElseThrow(() -> Refusal.bad("They have no address", "Add one to the person."));
        LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
        if (quotas.take(Quotas.REMINDERS, connection.person(), today, MOST_REMINDERS) == 0) {
            throw Refusal.of(
                    HttpStatus.TOO_MANY_REQUESTS,
                    "They had " + MOST_REMINDERS + " reminders today",
                    "Try again tomorrow, or call them.");
        }
        String text = "Hello " + who.personName() + ",\r\n\r\nthe account " + connection.account()
                + " waits for you to let Jandrel in; " + by
                + " asks you to.\r\nUntil then nothing of it reaches the customers’ timelines. Sign in here:\r\n\r\n"
                + settings.publicUrl() + "/mailbox\r\n";
        send(to, "Jandrel waits for you to sign in", text, about(connection));
    }

    private static Optional<String> writesAs(Looking who) {
        return Arrays.stream(who.addresses()).findFirst();
    }

    private static String about(Connection connection) {
        return "connection " + connection.id();
    }

    /** Goes out with the transaction that causes it. */
    @EventListener
    void ofSignIn(SignInLetter letter) {
        if (!post.isThere()) {
            LOG.warn("{} could not be notified: no mail server is set up", letter.about());
            return;
        }
        UUID id = UUID.randomUUID();
        String sealed =
                Base64.getEncoder().encodeToString(vault.seal(id, letter.text().getBytes(StandardCharsets.UTF_8)));
        put(id, new Notice(letter.to(), letter.subject(), "", letter.about(), sealed));
    }

    /**
     * Has a letter of the service's own go out, soon and once; together with the transaction that causes it, or not at all.
     *
     * @param subject perhaps of a stranger's making: it ends no header (RFC 5322 §2.2)
     * @param about what the log says of it: an id
     */
    public void send(String to, String subject, String text, String about) {
        put(
                UUID.randomUUID(),
                new Notice(to, OneLine.shortened(OneLine.plain(subject), LONGEST_SUBJECT), text, about, null));
    }

    private void put(UUID id, Notice notice) {
        outbox.add(Outbox.Kind.NOTICE, notice.to(), id, json.writeValueAsString(notice));
        soon();
    }

    /** @param sealed the text where it lets somebody in: whoever reads the database does not get in by it */
    private record Notice(
            String to,
            String subject,
            String text,
            String about,
            @Nullable String sealed) {}

    private String text(Outbox.Entry entry, Notice notice) {
        String sealed = notice.sealed();
        return sealed == null
                ? notice.text()
                : new String(vault.open(entry.subject(), Base64.getDecoder().decode(sealed)), StandardCharsets.UTF_8);
    }

    @Override
    protected boolean isReady() {
        return post.isThere();
    }

    @Override
    protected void deliver(Outbox.Entry entry) {
        Notice notice = json.readValue(entry.payload(), Notice.class);
        String text = text(entry, notice);
        try {
            post.send(notice.to(), "", message -> {
                message.setSubject(notice.subject(), "UTF-8");
                message.setText(text, "UTF-8");
                // RFC 3834: no program shall answer this
                message.setHeader("Auto-Submitted", "auto-generated");
                // the same letter, should it have to be sent once more
                message.setHeader("Message-ID", "<" + entry.idempotencyKey() + "@jandrel>");
            });
            outbox.done(entry);
        } catch (OutgoingMail.NotSent failed) {
            boolean over = failed.forGood() || entry.attempts() + 1 >= MOST_TRIES;
            LOG.warn(
                    "{}: a notice could not be sent, {}: {}",
                    notice.about(),
                    over ? "and is not tried again" : "and is tried again",
                    failed.getMessage());
            if (over) {
                outbox.done(entry);
            } else {
                outbox.failed(entry, String.valueOf(failed.getMessage()));
            }
        }
    }
}
