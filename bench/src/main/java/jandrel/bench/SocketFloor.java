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
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.TrustManagerFactory;

/** The floor of fetching: a bare TLS socket that asks for the same bytes in the same batches and looks at none of them. */
final class SocketFloor implements AutoCloseable {
    private final SSLSocket socket;
    private final InputStream in;
    private final OutputStream out;
    private final byte[] buffer = new byte[1 << 16];
    private long bytes;

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

    long bytes() {
        return bytes;
    }

    private void ask(String command, String tag) throws IOException {
        out.write((command + "\r\n").getBytes(StandardCharsets.US_ASCII));
        out.flush();
        byte[] end = ("\n" + tag).getBytes(StandardCharsets.US_ASCII);
        int matched = 1;
        for (int n = in.read(buffer); n >= 0; n = in.read(buffer)) {
            bytes += n;
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
