package jandrel.sources;

import jandrel.demo.Stand;
import jandrel.demo.StandTls;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;

/** Plays a script to everybody who connects: a server that does what no server should. */
final class OddServer implements AutoCloseable {
    /** Until the test is over. */
    final CountDownLatch over = new CountDownLatch(1);

    final AtomicInteger connections = new AtomicInteger();
    private final ServerSocket listening;
    private final Script script;

    @FunctionalInterface
    interface Script {
        void play(BufferedReader in, Out out) throws Exception;
    }

    /** Writes at once. */
    record Out(OutputStream to) {
        void say(String text) throws IOException {
            to.write(text.getBytes(StandardCharsets.ISO_8859_1));
            to.flush();
        }
    }

    OddServer(boolean tls, Script script) throws Exception {
        this.script = script;
        listening = tls
                ? StandTls.context(Stand.fromEnvironment())
                        .getServerSocketFactory()
                        .createServerSocket(0, 50, InetAddress.getLoopbackAddress())
                : new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        daemon(this::accept);
    }

    private static void daemon(Runnable work) {
        Thread thread = new Thread(work);
        thread.setDaemon(true);
        thread.start();
    }

    private void accept() {
        while (!listening.isClosed()) {
            try {
                Socket socket = listening.accept();
                daemon(() -> play(socket));
            } catch (IOException closed) {
                return;
            }
        }
    }

    private void play(Socket socket) {
        connections.incrementAndGet();
        try (socket) {
            script.play(
                    new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.ISO_8859_1)),
                    new Out(socket.getOutputStream()));
        } catch (Exception gone) {
            // the client had enough
        }
    }

    int port() {
        return listening.getLocalPort();
    }

    @Override
    public void close() throws IOException {
        over.countDown();
        listening.close();
    }
}
