package jandrel.acceptance;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;

/** The line to a real server, which can be made to misbehave. */
final class Wire implements AutoCloseable {
    /** What happens to those who connect from now on. */
    enum Mode {
        PASSES,
        /** Nobody answers. */
        HANGS,
        /** Some of what the server says comes, then nothing. */
        STALLS,
        /** Some of what the server says comes, then the line is cut. */
        CUTS,
        /** The line is cut before anything was said. */
        CLOSES,
        /** Nothing listens. */
        REFUSES
    }

    private static final int SOME = 4_500;
    private final int target;
    private final int port;
    private final Set<Socket> open = ConcurrentHashMap.newKeySet();
    private volatile Mode mode = Mode.PASSES;
    private volatile @Nullable ServerSocket listening;

    Wire(int target) throws IOException {
        this.target = target;
        ServerSocket first = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        port = first.getLocalPort();
        accept(first);
    }

    int port() {
        return port;
    }

    /** From now on; what is open is cut, but for a server that hangs, whose lines stay as they are. */
    void is(Mode now) throws IOException {
        mode = now;
        for (Socket socket : open) {
            socket.close();
        }
        ServerSocket was = listening;
        if (now == Mode.REFUSES && was != null) {
            listening = null;
            was.close();
        } else if (now != Mode.REFUSES && was == null) {
            ServerSocket again = new ServerSocket();
            again.setReuseAddress(true);
            again.bind(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 50);
            accept(again);
        }
    }

    private void accept(ServerSocket at) {
        listening = at;
        daemon(() -> {
            while (!at.isClosed()) {
                Socket client = at.accept();
                open.add(client);
                switch (mode) {
                    case CLOSES, REFUSES -> client.close();
                    case HANGS -> {
                        // it is left alone
                    }
                    default -> daemon(() -> connect(client));
                }
            }
        });
    }

    private void connect(Socket client) throws IOException {
        Socket server = new Socket(InetAddress.getLoopbackAddress(), target);
        open.add(server);
        Mode as = mode;
        daemon(() -> copy(client, server, Long.MAX_VALUE));
        copy(server, client, as == Mode.PASSES ? Long.MAX_VALUE : SOME);
        if (as != Mode.STALLS) {
            client.close();
            server.close();
        }
    }

    private static void copy(Socket from, Socket to, long most) throws IOException {
        byte[] buffer = new byte[8_192];
        InputStream in = from.getInputStream();
        OutputStream out = to.getOutputStream();
        long left = most;
        for (int n = in.read(buffer); n >= 0 && left > 0; n = left > 0 ? in.read(buffer) : -1) {
            out.write(buffer, 0, (int) Math.min(n, left));
            out.flush();
            left -= n;
        }
        if (most == Long.MAX_VALUE) {
            to.close();
        }
    }

    @FunctionalInterface
    private interface Work {
        void run() throws IOException;
    }

    private static void daemon(Work work) {
        Thread thread = new Thread(() -> {
            try {
                work.run();
            } catch (IOException closed) {
                // one of both ends is gone
            }
        });
        thread.setDaemon(true);
        thread.start();
    }

    @Override
    public void close() throws IOException {
        is(Mode.REFUSES);
    }
}
