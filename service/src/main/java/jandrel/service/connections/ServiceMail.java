package jandrel.service.connections;

import jandrel.formats.mail.OneLine;
import jandrel.service.kernel.OutboxLoop;
import jandrel.service.kernel.Settings;
import jandrel.service.kernel.Vault;
import jandrel.service.people.SignInLetter;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Looking;
import jandrel.store.kernel.Outbox;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.Base64;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.EventListener;
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
    private final Connections connections;
    private final Settings settings;
    private final OutgoingMail post;
    private final Outbox outbox;
    private final Vault vault;
    private final JsonMapper json;
    private final Clock clock;

    ServiceMail(
            Connections connections,
            Settings settings,
            OutgoingMail post,
            Outbox outbox,
            Vault vault,
            JsonMapper json,
            Clock clock) {
        super("notices", outbox, Outbox.Kind.NOTICE);
        this.outbox = outbox;
        this.vault = vault;
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
                + "Sign in again here; what came in meanwhile is then caught up with:\r\n\r\n" + settings.publicUrl()
                + "/connections\r\n";
        String person = who.get().addresses().length == 0 ? "" : who.get().addresses()[0];
        for (String to : new String[] {person, settings.smtp().administrator()}) {
            if (!to.isEmpty()) {
                send(to, "Jandrel needs you to sign in again", text, "connection " + connection.id());
            }
        }
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
