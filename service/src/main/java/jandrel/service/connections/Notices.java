package jandrel.service.connections;

import jandrel.service.kernel.Settings;
import jandrel.service.people.SignInAdded;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Looking;
import java.time.Clock;
import java.util.Optional;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Tells the person and the administrator by mail, once, that a connection waits for them. It says nothing of any item. Nobody waits for a
 * notice to go out; while the mail server does not take it, it is tried again for a while.
 */
@Component
public class Notices implements DisposableBean {
    private static final Logger LOG = LoggerFactory.getLogger(Notices.class);
    private static final int MOST_WAITING = 1_000;
    private static final int MOST_TRIES = 10;
    private static final long FIRST_PAUSE_SECONDS = 3;
    private static final long MOST_PAUSE_SECONDS = 600;
    private final Connections connections;
    private final Settings settings;
    private final OutgoingMail post;
    private final Clock clock;
    private final AtomicInteger waiting = new AtomicInteger();
    private final ScheduledExecutorService sending = Executors.newSingleThreadScheduledExecutor(work -> {
        Thread t = new Thread(work, "notices");
        t.setDaemon(true);
        return t;
    });

    Notices(Connections connections, Settings settings, OutgoingMail post, Clock clock) {
        this.connections = connections;
        this.settings = settings;
        this.post = post;
        this.clock = clock;
    }

    /** Once for each time that it stops capturing, whichever node notices. */
    public void needsSignIn(Connection connection) {
        if (!post.isThere() || connections.told(connection.id(), clock.instant()) == 0) {
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
        if (waiting.incrementAndGet() > MOST_WAITING) {
            waiting.decrementAndGet();
            LOG.warn("{}: a notice was not sent: {} others wait for the mail server", about, MOST_WAITING);
            return;
        }
        attempt(new Notice(to, subject, text, about), 1, 0);
    }

    private record Notice(String to, String subject, String text, String about) {}

    private void attempt(Notice notice, int nth, long seconds) {
        sending.schedule(() -> sent(notice, nth), seconds, TimeUnit.SECONDS);
    }

    private void sent(Notice notice, int nth) {
        try {
            post.send(notice.to(), "", message -> {
                message.setSubject(notice.subject(), "UTF-8");
                message.setText(notice.text(), "UTF-8");
                // RFC 3834: no program shall answer this
                message.setHeader("Auto-Submitted", "auto-generated");
            });
            waiting.decrementAndGet();
        } catch (OutgoingMail.NotSent failed) {
            boolean over = failed.forGood() || nth == MOST_TRIES;
            LOG.warn(
                    "{}: a notice could not be sent, {}: {}",
                    notice.about(),
                    over ? "and is not tried again" : "and is tried again",
                    failed.getMessage());
            if (over) {
                waiting.decrementAndGet();
            } else {
                attempt(notice, nth + 1, Math.min(MOST_PAUSE_SECONDS, FIRST_PAUSE_SECONDS << (nth - 1)));
            }
        } catch (RuntimeException failed) {
            waiting.decrementAndGet();
            LOG.error("{}: a notice could not be sent", notice.about(), failed);
        }
    }

    @Override
    public void destroy() {
        sending.shutdownNow();
    }
}
