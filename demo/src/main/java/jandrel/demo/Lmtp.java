package jandrel.demo;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.concurrent.locks.LockSupport;

/** Hands mail to the stand's mail server as a company's mail exchanger does (LMTP, RFC 2033). */
final class Lmtp implements AutoCloseable {
    private static final int PATIENCE_MILLIS = 10_000;
    private static final int TRIES = 40;
    private static final int BETWEEN_TRIES_MILLIS = 250;
    private final Socket socket;
    private final BufferedReader in;
    private final OutputStream out;

    private Lmtp(int port) throws IOException {
        socket = new Socket(InetAddress.getLoopbackAddress(), port);
        socket.setSoTimeout(PATIENCE_MILLIS);
        in = new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.US_ASCII));
        out = socket.getOutputStream();
        expect('2');
        ask("LHLO localhost", '2');
    }

    /** Hands it over again where the server says "not now" (4yz, RFC 5321 §4.2.1) and has taken nothing. */
    static void deliver(int port, String to, byte[] message) throws IOException {
        for (int tried = 1; ; tried++) {
            try (Lmtp lmtp = new Lmtp(port)) {
                lmtp.deliver(to, message);
                return;
            } catch (NotNow e) {
                if (tried == TRIES) {
                    throw e;
                }
                LockSupport.parkNanos(Duration.ofMillis(BETWEEN_TRIES_MILLIS).toNanos());
            }
        }
    }

    private void deliver(String to, byte[] message) throws IOException {
        ask("MAIL FROM:<>", '2');
        ask("RCPT TO:<" + to + ">", '2');
        ask("DATA", '3');
        out.write(stuffed(message));
        ask("\r\n.", '2');
    }

    /** A line that begins with a dot gets another (RFC 5321 §4.5.2). */
    private static byte[] stuffed(byte[] message) {
        String text = new String(message, StandardCharsets.ISO_8859_1).replaceAll("\r?\n", "\r\n");
        String dotted = (text.startsWith(".") ? "." : "") + text.replace("\r\n.", "\r\n..");
        return dotted.getBytes(StandardCharsets.ISO_8859_1);
    }

    private void ask(String command, char wanted) throws IOException {
        out.write((command + "\r\n").getBytes(StandardCharsets.US_ASCII));
        out.flush();
        expect(wanted);
    }

    private void expect(char wanted) throws IOException {
        String line;
        do {
            line = in.readLine();
        } while (line != null && line.length() > 3 && line.charAt(3) == '-');
        if (line != null && line.startsWith("4")) {
            throw new NotNow("the mail server says to LMTP: " + line);
        }
        if (line == null || line.isEmpty() || line.charAt(0) != wanted) {
            throw new IOException("the mail server says to LMTP: " + line);
        }
    }

    private static final class NotNow extends IOException {
        private static final long serialVersionUID = 1L;

        NotNow(String message) {
            super(message);
        }
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}
