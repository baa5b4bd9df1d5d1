package jandrel.acceptance;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLServerSocket;
import javax.net.ssl.SSLSocket;

/** A server that speaks TLS with a certificate that nobody vouches for. */
final class UntrustedServer implements AutoCloseable {
    private static final String STORE = "not-a-secret";
    private final SSLServerSocket socket;

    UntrustedServer() throws Exception {
        Path store = Files.createTempDirectory("untrusted").resolve("store.p12");
        int made = new ProcessBuilder(
                        "keytool",
                        "-genkeypair",
                        "-alias",
                        "untrusted",
                        "-keyalg",
                        "EC",
                        "-dname",
                        "CN=127.0.0.1",
                        "-ext",
                        "san=ip:127.0.0.1",
                        "-storetype",
                        "PKCS12",
                        "-storepass",
                        STORE,
                        "-keystore",
                        store.toString())
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start()
                .waitFor();
        if (made != 0) {
            throw new IllegalStateException("keytool made no certificate");
        }
        KeyStore keys = KeyStore.getInstance("PKCS12");
        try (InputStream in = Files.newInputStream(store)) {
            keys.load(in, STORE.toCharArray());
        }
        KeyManagerFactory managers = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
        managers.init(keys, STORE.toCharArray());
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(managers.getKeyManagers(), null, null);
        socket = (SSLServerSocket) context.getServerSocketFactory().createServerSocket(0);
        Thread serving = new Thread(this::serve, "untrusted");
        serving.setDaemon(true);
        serving.start();
    }

    private void serve() {
        while (!socket.isClosed()) {
            try (SSLSocket one = (SSLSocket) socket.accept()) {
                one.startHandshake();
            } catch (IOException refused) {
                // as it should be
            }
        }
    }

    int port() {
        return socket.getLocalPort();
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}
