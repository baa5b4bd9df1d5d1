package jandrel.service.capture;

import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import jandrel.service.Settings;
import jandrel.store.Connections;
import jandrel.store.Connections.Connection;
import jandrel.store.Connections.Looking;
import java.time.Clock;
import java.util.Date;
import java.util.Optional;
import java.util.Properties;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Tells the person and the administrator by mail, once, that a connection waits for them. It says nothing of any item. */
@Component
class Notices {
    private static final Logger LOG = LoggerFactory.getLogger(Notices.class);
    private final Connections connections;
    private final Settings settings;
    private final Reach reach;
    private final Clock clock;

    Notices(Connections connections, Settings settings, Reach reach, Clock clock) {
        this.connections = connections;
        this.settings = settings;
        this.reach = reach;
        this.clock = clock;
    }

    /** Once for each time that it stops capturing, whichever node notices. */
    void needsSignIn(Connection connection) {
        if (settings.smtp().host().isEmpty() || connections.told(connection.id(), clock.instant()) == 0) {
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
                send(to, "Jandrel needs you to sign in again", text, connection);
            }
        }
    }

    private void send(String to, String subject, String text, Connection connection) {
        Settings.Smtp smtp = settings.smtp();
        Properties p = new Properties();
        p.put("mail.smtp.host", smtp.host());
        p.put("mail.smtp.port", String.valueOf(smtp.port()));
        p.put("mail.smtp.connectiontimeout", "10000");
        p.put("mail.smtp.timeout", "20000");
        p.put("mail.smtp.starttls.enable", "true");
        p.put("mail.smtp.starttls.required", String.valueOf(smtp.tls()));
        p.put("mail.smtp.ssl.checkserveridentity", "true");
        p.put("mail.smtp.ssl.socketFactory", reach.trust().sockets());
        p.put("mail.smtp.auth", String.valueOf(!smtp.user().isEmpty()));
        try {
            MimeMessage message = new MimeMessage(Session.getInstance(p));
            message.setFrom(new InternetAddress(smtp.from(), true));
            message.setRecipient(Message.RecipientType.TO, new InternetAddress(to, true));
            message.setSubject(subject, "UTF-8");
            message.setText(text, "UTF-8");
            message.setSentDate(Date.from(clock.instant()));
            // RFC 3834: no program shall answer this
            message.setHeader("Auto-Submitted", "auto-generated");
            Transport.send(message, smtp.user(), smtp.password());
        } catch (MessagingException failed) {
            LOG.warn("connection {}: a notice could not be sent", connection.id(), failed);
        }
    }
}
