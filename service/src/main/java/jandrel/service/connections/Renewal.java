package jandrel.service.connections;

import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.UUID;
import java.util.function.UnaryOperator;

/**
 * Renews the secret of a connection once, whoever needs it at the same time, on whichever node. Nothing is locked in the database
 * meanwhile; what was renewed replaces only what it was renewed from.
 */
final class Renewal {
    private static final Duration PATIENCE = Duration.ofSeconds(20);
    private static final long PAUSE_MILLIS = 200;
    private final Connections connections;
    private final Clock clock;

    Renewal(Connections connections, Clock clock) {
        this.connections = connections;
        this.clock = clock;
    }

    /**
     * @param secret that is to be renewed
     * @param renew asks for a new one
     * @return the new one, by whomever it was asked for
     * @throws SourceTrouble if there is none, or the connection has ended or was signed in to anew meanwhile
     */
    byte[] of(UUID connection, byte[] secret, UnaryOperator<byte[]> renew) {
        Instant end = clock.instant().plus(PATIENCE);
        while (connections.renewing(connection, secret, clock.instant()) == 0) {
            byte[] now =
                    connections.connection(connection).map(Connection::secret).orElse(null);
            if (now == null) {
                throw ended();
            }
            if (!Arrays.equals(now, secret)) {
                return now;
            }
            if (clock.instant().isAfter(end)) {
                throw new SourceTrouble(
                        SourceTrouble.Kind.UNREACHABLE, "the authorisation server did not answer in time");
            }
            pause();
        }
        boolean kept = false;
        try {
            byte[] fresh = renew.apply(secret);
            kept = connections.renewed(connection, secret, fresh) == 1;
            if (!kept) {
                throw ended();
            }
            return fresh;
        } finally {
            if (!kept) {
                connections.notRenewed(connection, secret);
            }
        }
    }

    private static SourceTrouble ended() {
        return new SourceTrouble(
                SourceTrouble.Kind.UNREACHABLE, "the connection was ended or signed in to anew meanwhile");
    }

    private static void pause() {
        try {
            Thread.sleep(PAUSE_MILLIS);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new SourceTrouble(
                    SourceTrouble.Kind.UNREACHABLE, "stopped while waiting for the authorisation server", stopped);
        }
    }
}
