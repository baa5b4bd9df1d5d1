package jandrel.sources;

import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.net.http.HttpTimeoutException;
import java.nio.channels.UnresolvedAddressException;
import java.security.cert.CertificateException;
import java.time.Duration;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import javax.net.ssl.SSLException;
import javax.net.ssl.SSLHandshakeException;
import javax.net.ssl.SSLPeerUnverifiedException;
import org.jspecify.annotations.Nullable;

/** A server could not be used. The message says what to do and holds no secret, address or content. */
public class SourceTrouble extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private static final int MOST_CAUSES = 20;
    private final Kind kind;
    private final @Nullable Duration retryAfter;

    /** What sort of trouble it is. */
    public enum Kind {
        /** The server does not take the sign-in: asking again helps only after somebody has renewed it. */
        SIGN_IN,
        /** No server there, one that cannot be trusted, or one that has trouble of its own: asking again later may help. */
        UNREACHABLE,
        /** We do not go there. */
        REFUSED,
        /** The server does not let this person do it. */
        FORBIDDEN,
        /** The server answers what it should not. */
        BROKEN
    }

    public SourceTrouble(Kind kind, String message, @Nullable Throwable cause) {
        this(kind, message, cause, null);
    }

    public SourceTrouble(Kind kind, String message) {
        this(kind, message, null, null);
    }

    private SourceTrouble(Kind kind, String message, @Nullable Throwable cause, @Nullable Duration retryAfter) {
        super(message, cause);
        this.kind = kind;
        this.retryAfter = retryAfter;
    }

    public Kind kind() {
        return kind;
    }

    /** How long the server asks to be left alone. */
    public Optional<Duration> retryAfter() {
        return Optional.ofNullable(retryAfter);
    }

    /**
     * A connection that was not made, or broke: says which of the many ways it was.
     *
     * @param server as a sentence begins with it, such as “the mail server”
     */
    public static SourceTrouble unreachable(String server, Throwable cause) {
        return new SourceTrouble(Kind.UNREACHABLE, server + " " + why(cause), cause);
    }

    /** The server says that it cannot at the moment (HTTP 5xx or 429). */
    static SourceTrouble unavailable(String server, int status, @Nullable Duration retryAfter) {
        String what = status == 429
                ? " asks for fewer requests (status 429)"
                : " has trouble of its own (status " + status + "); its administrator can see why";
        return new SourceTrouble(Kind.UNREACHABLE, server + what, null, retryAfter);
    }

    private static String why(Throwable cause) {
        if (has(cause, UnknownHostException.class) || has(cause, UnresolvedAddressException.class)) {
            return "has a name that leads nowhere; check the host";
        }
        if (has(cause, SocketTimeoutException.class) || has(cause, HttpTimeoutException.class)) {
            return "did not answer in time";
        }
        if (has(cause, NoRouteToHostException.class)) {
            return "cannot be reached from here; check the network and the firewall";
        }
        if (has(cause, ConnectException.class)) {
            return "refuses connections; check the port, and whether the server is running";
        }
        if (has(cause, CertificateException.class) || has(cause, SSLPeerUnverifiedException.class)) {
            return "has a certificate that is not trusted for this name; add its authority, or correct the host";
        }
        Throwable tls = first(cause, SSLException.class).orElse(null);
        if (tls != null && String.valueOf(tls.getMessage()).contains("nrecognized SSL message")) {
            return "does not speak TLS at this port; IMAP over TLS is usually at 993, HTTPS at 443";
        }
        return tls instanceof SSLHandshakeException
                ? "closed the connection during the TLS handshake"
                : "closed the connection";
    }

    private static boolean has(Throwable cause, Class<? extends Throwable> kind) {
        return first(cause, kind).isPresent();
    }

    private static Optional<Throwable> first(Throwable cause, Class<? extends Throwable> kind) {
        return Stream.<@Nullable Throwable>iterate(cause, Objects::nonNull, t -> t == null ? null : t.getCause())
                .limit(MOST_CAUSES)
                .filter(kind::isInstance)
                .findFirst()
                .map(Throwable.class::cast);
    }
}
