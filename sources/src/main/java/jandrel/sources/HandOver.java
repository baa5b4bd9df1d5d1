package jandrel.sources;

import io.netty.handler.ssl.JdkSslContext;
import io.netty.handler.ssl.SslContextBuilder;
import io.netty.handler.ssl.SslProvider;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.UnknownHostException;
import java.nio.file.Path;
import java.util.Locale;
import java.util.concurrent.Executors;
import org.jspecify.annotations.Nullable;
import org.subethamail.smtp.MessageContext;
import org.subethamail.smtp.MessageHandler;
import org.subethamail.smtp.RejectException;
import org.subethamail.smtp.server.SMTPServer;

/**
 * Takes messages that the company's mail server hands over (SMTP, RFC 5321), for one recipient alone. Nothing is relayed. With a
 * certificate nothing is said before TLS is (STARTTLS, RFC 3207).
 */
public final class HandOver implements AutoCloseable {
    private static final int MOST_AT_ONCE = 50;
    private static final int PATIENCE_MILLIS = 60_000;
    private final SMTPServer server;

    /**
     * @param recipient the service's own address
     * @param certificate a PEM file of the chain, with {@code key} beside it; null for none, as where only this machine hands over
     */
    public record Wanted(
            String address,
            int port,
            String recipient,
            @Nullable Path certificate,
            @Nullable Path key,
            int largest) {}

    /** Decides about each. */
    public interface Receiver {
        /** Whether this machine may hand over at all. */
        boolean mayHandOver(InetAddress from);

        /** @throws Refused when nobody known has this address */
        void from(String sender) throws Refused;

        /**
         * The message is safe when this returns.
         *
         * @throws Refused with what the sender is told
         */
        void take(String sender, byte[] message) throws Refused;
    }

    /** What is answered instead of taking it. */
    public static final class Refused extends Exception {
        private static final long serialVersionUID = 1L;
        private final int code;

        /** @param code of RFC 5321 §4.2.3 */
        public Refused(int code, String says) {
            super(says);
            this.code = code;
        }
    }

    private HandOver(SMTPServer server) {
        this.server = server;
    }

    /** @throws IllegalStateException when the certificate cannot be read or the port is taken */
    public static HandOver open(Wanted wanted, Receiver receiver) {
        try {
            SMTPServer.Builder builder = SMTPServer.port(wanted.port())
                    .bindAddress(InetAddress.getByName(wanted.address()))
                    .hostName("jandrel")
                    .softwareName("Jandrel")
                    .maxConnections(MOST_AT_ONCE)
                    .maxRecipients(10)
                    .maxMessageSize(wanted.largest())
                    .connectionTimeoutMs(PATIENCE_MILLIS)
                    .executorService(Executors.newCachedThreadPool(r -> daemon(r)))
                    .messageHandlerFactory(context -> new Handing(context, wanted, receiver));
            if (wanted.certificate() != null && wanted.key() != null) {
                JdkSslContext tls = (JdkSslContext) SslContextBuilder.forServer(
                                wanted.certificate().toFile(), wanted.key().toFile())
                        .sslProvider(SslProvider.JDK)
                        .build();
                builder.enableTLS().requireTLS().startTlsSocketFactory(tls.context());
            }
            SMTPServer server = builder.build();
            server.start();
            return new HandOver(server);
        } catch (UnknownHostException | javax.net.ssl.SSLException | RuntimeException broken) {
            throw new IllegalStateException(
                    "mail cannot be taken at " + wanted.address() + ":" + wanted.port()
                            + "; check that the port is free and that certificate and key fit",
                    broken);
        }
    }

    private static Thread daemon(Runnable work) {
        Thread thread = new Thread(work, "hand-over");
        thread.setDaemon(true);
        return thread;
    }

    /** One message on its way in. */
    private static final class Handing implements MessageHandler {
        private final MessageContext context;
        private final Wanted wanted;
        private final Receiver receiver;
        private String sender = "";

        Handing(MessageContext context, Wanted wanted, Receiver receiver) {
            this.context = context;
            this.wanted = wanted;
            this.receiver = receiver;
        }

        @Override
        public void from(String from) throws RejectException {
            if (!(context.getRemoteAddress() instanceof InetSocketAddress remote)
                    || !receiver.mayHandOver(remote.getAddress())) {
                throw new RejectException(550, "5.7.1 This machine may not hand over mail here");
            }
            try {
                receiver.from(from);
                sender = from;
            } catch (Refused refused) {
                throw rejected(refused);
            }
        }

        @Override
        public void recipient(String recipient) throws RejectException {
            if (!recipient.toLowerCase(Locale.ROOT).equals(wanted.recipient().toLowerCase(Locale.ROOT))) {
                throw new RejectException(550, "5.1.1 Nobody of that address here");
            }
        }

        @Override
        public String data(InputStream data) throws RejectException, IOException {
            byte[] message = data.readNBytes(wanted.largest() + 1);
            if (message.length > wanted.largest()) {
                throw new RejectException(552, "5.3.4 The message is too large");
            }
            try {
                receiver.take(sender, message);
                return "2.0.0 Taken";
            } catch (Refused refused) {
                throw rejected(refused);
            }
        }

        private static RejectException rejected(Refused refused) {
            return new RejectException(refused.code, String.valueOf(refused.getMessage()));
        }

        @Override
        public void done() {
            // nothing is held
        }
    }

    @Override
    public void close() {
        server.stop();
    }
}
