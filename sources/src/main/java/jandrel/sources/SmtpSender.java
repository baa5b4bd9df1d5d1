package jandrel.sources;

import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.MimeMessage;
import java.time.Duration;
import java.util.Properties;

/** Hands messages to a mail server (RFC 5321), with TLS by STARTTLS (RFC 3207). However the server behaves, each ends in time. */
public final class SmtpSender {
    private static final int CONNECT_MILLIS = 10_000;
    private static final int QUIET_MILLIS = 20_000;
    private static final Duration WHOLE = Duration.ofMinutes(2);
    private final Server server;
    private final Trust trust;
    private final Duration whole;

    /**
     * @param tls whether it must be encrypted; else it is where the server offers that
     * @param user empty for none
     */
    public record Server(String host, int port, boolean tls, String user, String password) {
        @Override
        public String toString() {
            return host + ":" + port;
        }
    }

    /** Makes the message of a session. */
    @FunctionalInterface
    public interface Letter {
        MimeMessage in(Session session) throws MessagingException;
    }

    public SmtpSender(Server server, Trust trust) {
        this(server, trust, WHOLE);
    }

    SmtpSender(Server server, Trust trust, Duration whole) {
        this.server = server;
        this.trust = trust;
        this.whole = whole;
    }

    /**
     * @param bounces the envelope's sender; empty for the message's own
     * @throws MessagingException as the server, or its silence, made it
     */
    public void send(String bounces, Letter letter) throws MessagingException {
        AbortableSockets sockets = new AbortableSockets(trust.sockets(), whole);
        Properties p = new Properties();
        p.put("mail.smtp.host", server.host());
        p.put("mail.smtp.port", String.valueOf(server.port()));
        p.put("mail.smtp.connectiontimeout", String.valueOf(CONNECT_MILLIS));
        p.put("mail.smtp.timeout", String.valueOf(Math.min(QUIET_MILLIS, whole.toMillis())));
        p.put("mail.smtp.writetimeout", String.valueOf(QUIET_MILLIS));
        p.put("mail.smtp.starttls.enable", "true");
        p.put("mail.smtp.starttls.required", String.valueOf(server.tls()));
        p.put("mail.smtp.ssl.checkserveridentity", "true");
        p.put("mail.smtp.socketFactory", sockets.plain());
        p.put("mail.smtp.socketFactory.fallback", "false");
        p.put("mail.smtp.ssl.socketFactory", sockets);
        p.put("mail.smtp.auth", String.valueOf(!server.user().isEmpty()));
        if (!bounces.isEmpty()) {
            p.put("mail.smtp.from", bounces);
        }
        MimeMessage message = letter.in(Session.getInstance(p));
        try (AbortableSockets.Deadline deadline = sockets.deadline()) {
            Transport.send(message, message.getRecipients(Message.RecipientType.TO), server.user(), server.password());
        }
    }
}
