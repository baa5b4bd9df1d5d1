package jandrel.service.connections;

import jakarta.mail.AuthenticationFailedException;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import jakarta.mail.Session;
import jakarta.mail.internet.AddressException;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import jandrel.service.kernel.Settings;
import jandrel.sources.SmtpSender;
import java.time.Clock;
import java.util.Date;
import java.util.UUID;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.eclipse.angus.mail.smtp.SMTPAddressFailedException;
import org.eclipse.angus.mail.smtp.SMTPSendFailedException;
import org.springframework.stereotype.Component;

/** Sends mail by the company's own server, if one is set (RFC 5321). */
@Component
public class OutgoingMail {
    private static final Pattern FINAL = Pattern.compile("^5\\d\\d");
    private static final int LONGEST = 200;
    private final Settings settings;
    private final EgressPolicy reach;
    private final Clock clock;

    /** Writes what a message holds. */
    @FunctionalInterface
    public interface Letter {
        void fill(MimeMessage message) throws MessagingException;
    }

    /** It did not go out. */
    public static final class NotSent extends Exception {
        private static final long serialVersionUID = 1L;
        private final boolean forGood;

        public NotSent(String why, boolean forGood, Throwable cause) {
            super(why, cause);
            this.forGood = forGood;
        }

        /** Whether trying again is of no use. */
        public boolean forGood() {
            return forGood;
        }
    }

    OutgoingMail(Settings settings, EgressPolicy reach, Clock clock) {
        this.settings = settings;
        this.reach = reach;
        this.clock = clock;
    }

    /** Whether there is a server to send by. */
    public boolean isThere() {
        return !settings.smtp().host().isEmpty();
    }

    /** The service's own address. */
    public InternetAddress own() throws AddressException {
        return new InternetAddress(settings.smtp().from(), true);
    }

    /** @param bounces where it is told when it cannot be delivered; empty for the service's own address */
    public void send(String to, String bounces, Letter letter) throws NotSent {
        Settings.Smtp smtp = settings.smtp();
        SmtpSender.Server server =
                new SmtpSender.Server(smtp.host(), smtp.port(), smtp.tls(), smtp.user(), smtp.password());
        try {
            new SmtpSender(server, reach.trust()).send(bounces, session -> {
                MimeMessage message = new Named(session, own().getAddress());
                message.setFrom(own());
                message.setRecipient(Message.RecipientType.TO, new InternetAddress(to, true));
                message.setSentDate(Date.from(clock.instant()));
                letter.fill(message);
                return message;
            });
        } catch (MessagingException failed) {
            throw notSent(failed);
        }
    }

    /** Keeps the Message-ID that it was given; else gets one that does not tell this machine's name. */
    private static final class Named extends MimeMessage {
        private final String own;

        Named(Session session, String own) {
            super(session);
            this.own = own;
        }

        @Override
        protected void updateMessageID() throws MessagingException {
            if (getHeader("Message-ID") == null) {
                setHeader("Message-ID", "<" + UUID.randomUUID() + own.substring(own.indexOf('@')) + ">");
            }
        }
    }

    /** What the server said, in its own words: it says nothing of what was to be sent. */
    private static NotSent notSent(MessagingException failed) {
        Throwable cause = failed;
        while (cause instanceof MessagingException m && m.getNextException() != null) {
            cause = m.getNextException();
        }
        boolean answered = cause instanceof SMTPAddressFailedException
                || cause instanceof SMTPSendFailedException
                || cause instanceof SendFailedException;
        String said = String.valueOf(cause.getMessage()).replaceAll("\\s+", " ").strip();
        Matcher code = FINAL.matcher(said);
        boolean forGood = (answered && code.find()) || cause instanceof AddressException;
        String why = answered
                ? said
                : cause instanceof AuthenticationFailedException
                        ? "the mail server does not take the service’s sign-in"
                        : "the mail server cannot be reached";
        return new NotSent(why.length() > LONGEST ? why.substring(0, LONGEST - 1) + "…" : why, forGood, failed);
    }
}
