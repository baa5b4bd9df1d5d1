package jandrel.sources;

import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.time.Duration;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.Future;
import java.util.concurrent.ScheduledThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import javax.net.SocketFactory;
import javax.net.ssl.SSLSocketFactory;

/**
 * Sockets of one mailbox, which can be closed by another thread: a time limit for each read does not end a server that sends a byte now
 * and then.
 */
final class AbortableSockets extends SSLSocketFactory {
    private static final ScheduledThreadPoolExecutor CLOCK = clock();
    private final SSLSocketFactory factory;
    private final Duration limit;
    private final Queue<Socket> made = new ConcurrentLinkedQueue<>();
    private volatile boolean late;

    private static ScheduledThreadPoolExecutor clock() {
        ScheduledThreadPoolExecutor clock = new ScheduledThreadPoolExecutor(1, work -> {
            Thread thread = new Thread(work, "mailbox deadlines");
            thread.setDaemon(true);
            return thread;
        });
        // nearly all are called off at once: kept until their time they would hold closed mailboxes in memory
        clock.setRemoveOnCancelPolicy(true);
        return clock;
    }

    AbortableSockets(SSLSocketFactory factory, Duration limit) {
        this.factory = factory;
        this.limit = limit;
    }

    /** What is asked from now on must be answered in time, or the connection is closed. */
    Deadline deadline() {
        Future<?> end = CLOCK.schedule(this::abort, limit.toMillis(), TimeUnit.MILLISECONDS);
        return () -> end.cancel(false);
    }

    /** Closed when the answer is there. */
    interface Deadline extends AutoCloseable {
        @Override
        void close();
    }

    /** Whether a deadline passed. */
    boolean isLate() {
        return late;
    }

    private void abort() {
        late = true;
        for (Socket socket : made) {
            try {
                socket.close();
            } catch (IOException alreadyGone) {
                // that is what was wanted
            }
        }
    }

    /** For protocols that begin in the clear: these are closed with the others. */
    SocketFactory plain() {
        return new Plain(this);
    }

    private static final class Plain extends SocketFactory {
        private final AbortableSockets all;
        private final SocketFactory factory = SocketFactory.getDefault();

        Plain(AbortableSockets all) {
            this.all = all;
        }

        @Override
        public Socket createSocket() throws IOException {
            return all.kept(factory.createSocket());
        }

        @Override
        public Socket createSocket(String host, int port) throws IOException {
            return all.kept(factory.createSocket(host, port));
        }

        @Override
        public Socket createSocket(String host, int port, InetAddress local, int localPort) throws IOException {
            return all.kept(factory.createSocket(host, port, local, localPort));
        }

        @Override
        public Socket createSocket(InetAddress host, int port) throws IOException {
            return all.kept(factory.createSocket(host, port));
        }

        @Override
        public Socket createSocket(InetAddress host, int port, InetAddress local, int localPort) throws IOException {
            return all.kept(factory.createSocket(host, port, local, localPort));
        }
    }

    private Socket kept(Socket socket) {
        made.add(socket);
        return socket;
    }

    @Override
    public String[] getDefaultCipherSuites() {
        return factory.getDefaultCipherSuites();
    }

    @Override
    public String[] getSupportedCipherSuites() {
        return factory.getSupportedCipherSuites();
    }

    @Override
    public Socket createSocket() throws IOException {
        return kept(factory.createSocket());
    }

    @Override
    public Socket createSocket(Socket plain, String host, int port, boolean closes) throws IOException {
        return kept(factory.createSocket(plain, host, port, closes));
    }

    @Override
    public Socket createSocket(String host, int port) throws IOException {
        return kept(factory.createSocket(host, port));
    }

    @Override
    public Socket createSocket(String host, int port, InetAddress local, int localPort) throws IOException {
        return kept(factory.createSocket(host, port, local, localPort));
    }

    @Override
    public Socket createSocket(InetAddress host, int port) throws IOException {
        return kept(factory.createSocket(host, port));
    }

    @Override
    public Socket createSocket(InetAddress host, int port, InetAddress local, int localPort) throws IOException {
        return kept(factory.createSocket(host, port, local, localPort));
    }
}
