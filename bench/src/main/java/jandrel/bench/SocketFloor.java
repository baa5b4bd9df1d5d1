package jandrel.bench;

import jandrel.demo.Providers;
import jandrel.demo.Stand;
import java.io.BufferedInputStream;
import java.io.FileInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.CertificateFactory;
import java.util.ArrayList;
import java.util.List;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.TrustManagerFactory;

/** The floor of fetching: a bare TLS socket that asks for the same bytes in the same batches. */
final class SocketFloor implements AutoCloseable {
    private final SSLSocket socket;
    private final InputStream in;
    private final OutputStream out;
    private final byte[] buffer = new byte[1 << 16];

    SocketFloor(Stand stand, String who) throws IOException, GeneralSecurityException {
        KeyStore store = KeyStore.getInstance(KeyStore.getDefaultType());
        store.load(null, null);
        try (InputStream ca = new FileInputStream(stand.value("CA"))) {
            store.setCertificateEntry(
                    "ca", CertificateFactory.getInstance("X.509").generateCertificate(ca));
        }
        TrustManagerFactory trust = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        trust.init(store);
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(null, trust.getTrustManagers(), null);
        socket = (SSLSocket) context.getSocketFactory().createSocket("127.0.0.1", stand.port("IMAPS"));
        in = new BufferedInputStream(socket.getInputStream(), 1 << 16);
        out = socket.getOutputStream();
        ask("a1 LOGIN " + who + " " + Providers.PASSWORD, "a1 ");
        ask("a2 EXAMINE INBOX", "a2 ");
    }

    /** @return seconds for all messages */
    double fetchAll(int messages, int batch) throws IOException {
        long began = System.nanoTime();
        for (int from = 1; from <= messages; from += batch) {
            String tag = "f" + from + " ";
            ask(
                    tag + "UID FETCH " + from + ":" + Math.min(messages, from + batch - 1)
                            + " (UID INTERNALDATE RFC822.SIZE BODY.PEEK[]<0.131072>)",
                    tag);
        }
        return (System.nanoTime() - began) / 1e9;
    }

    /** The messages of some UIDs, looking at no more of the answer than where each begins. */
    List<byte[]> fetch(int from, int until) throws IOException {
        String tag = "b" + from + " ";
        out.write(
                (tag + "UID FETCH " + from + ":" + until + " (UID INTERNALDATE RFC822.SIZE BODY.PEEK[]<0.131072>)\r\n")
                        .getBytes(StandardCharsets.US_ASCII));
        out.flush();
        List<byte[]> messages = new ArrayList<>(until - from + 1);
        for (String line = line(); !line.startsWith(tag); line = line()) {
            if (line.endsWith("}")) {
                int length = Integer.parseInt(line.substring(line.lastIndexOf('{') + 1, line.length() - 1));
                byte[] message = in.readNBytes(length);
                if (message.length < length) {
                    throw new IOException("the server hung up");
                }
                messages.add(message);
            }
        }
        return messages;
    }

    private String line() throws IOException {
        StringBuilder line = new StringBuilder(120);
        for (int c = in.read(); c != '\n'; c = in.read()) {
            if (c < 0) {
                throw new IOException("the server hung up");
            }
            if (c != '\r') {
                line.append((char) c);
            }
        }
        return line.toString();
    }

    private void ask(String command, String tag) throws IOException {
        out.write((command + "\r\n").getBytes(StandardCharsets.US_ASCII));
        out.flush();
        byte[] end = ("\n" + tag).getBytes(StandardCharsets.US_ASCII);
        int matched = 1;
        for (int n = in.read(buffer); n >= 0; n = in.read(buffer)) {
            for (int i = 0; i < n; i++) {
                matched = buffer[i] == end[matched] ? matched + 1 : buffer[i] == end[0] ? 1 : 0;
                if (matched == end.length) {
                    return;
                }
            }
        }
        throw new IOException("the server hung up");
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}
