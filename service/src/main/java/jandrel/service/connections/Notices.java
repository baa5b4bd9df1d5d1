package jandrel.service.connections;

import jandrel.service.kernel.OutboxLoop;
import jandrel.service.kernel.Settings;
import jandrel.service.people.SignInAdded;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Looking;
import jandrel.store.kernel.Outbox;
import java.time.Clock;
import java.util.Optional;
import java.util.UUID;
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
public class Notices extends OutboxLoop {
    private static final Logger LOG = LoggerFactory.getLogger(Notices.class);
    private static final int MOST_TRIES = 12;
    private final Connections connections;
    private final Settings settings;
    private final OutgoingMail post;
    private final Outbox outbox;
    private final JsonMapper json;
    private final Clock clock;

    Notices(
            Connections connections,
            Settings settings,
            OutgoingMail post,
            Outbox outbox,
            JsonMapper json,
            Clock clock) {
        super("notices", outbox, Outbox.Kind.NOTICE);
        this.outbox = outbox;
        this.json = json;
        this.connections = connections;
        this.settings = settings;
        this.post = post;
        this.clock = clock;
    }

    /** Once for each time that it stops capturing, whichever node notices. */
    @Transactional
    public void needsSignIn(Connection connection) {
        if (!post.isThere() || connections.notified(connection.id(), clock.instant()) == 0) {
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

    /** Nobody gets a sign-in in somebody's name without their knowing. */
    @EventListener
    void signInAdded(SignInAdded added) {
        if (!post.isThere()) {
            LOG.warn(
                    "a sign-in was added for person {}, who could not be notified: no mail server is set up",
                    added.person());
            return;
        }
        String text = "Hello " + added.name() + ",\r\n\r\n" + added.by() + " added the sign-in " + added.login()
                + " to Jandrel in your name.\r\nAnyone who uses it can read what you can read there. If you did not expect this, tell"
                + " your administrator and the person in charge of data protection.\r\n\r\n" + settings.publicUrl()
                + "\r\n";
        send(added.address(), "Jandrel: a sign-in in your name", text, "person " + added.person());
    }

    private void send(String to, String subject, String text, String about) {
        outbox.add(
                Outbox.Kind.NOTICE,
                to,
                UUID.randomUUID(),
                json.writeValueAsString(new Notice(to, subject, text, about)));
        soon();
    }

    /** @param about what the log says of it: an id */
    private record Notice(String to, String subject, String text, String about) {}

    @Override
    protected boolean isReady() {
        return post.isThere();
    }

    @Override
    protected void deliver(Outbox.Entry entry) {
        Notice notice = json.readValue(entry.payload(), Notice.class);
        try {
            post.send(notice.to(), "", message -> {
                message.setSubject(notice.subject(), "UTF-8");
                message.setText(notice.text(), "UTF-8");
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
