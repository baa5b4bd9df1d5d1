package jandrel.demo;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.CertificateFactory;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;

/** TLS with the stand's own certificate and authority, for servers and clients beside it. */
public final class StandTls {
    private static final String PASSWORD = "stand";

    private StandTls() {}

    public static SSLContext context(Stand stand) throws IOException, GeneralSecurityException, InterruptedException {
        Path tls = stand.dir().resolve("tls");
        Path store = Files.createTempFile("stand", ".p12");
        int code = new ProcessBuilder(
                        "openssl",
                        "pkcs12",
                        "-export",
                        "-in",
                        tls.resolve("server.pem").toString(),
                        "-inkey",
                        tls.resolve("server.key").toString(),
                        "-out",
                        store.toString(),
                        "-passout",
                        "pass:" + PASSWORD)
                .inheritIO()
                .start()
                .waitFor();
        if (code != 0) {
            throw new IOException("openssl did not put the stand's key together");
        }
        KeyManagerFactory keys = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
        keys.init(KeyStore.getInstance(store.toFile(), PASSWORD.toCharArray()), PASSWORD.toCharArray());
        Files.delete(store);
        KeyStore authorities = KeyStore.getInstance(KeyStore.getDefaultType());
        authorities.load(null, null);
        try (InputStream in = Files.newInputStream(tls.resolve("ca.pem"))) {
            authorities.setCertificateEntry(
                    "stand", CertificateFactory.getInstance("X.509").generateCertificate(in));
        }
        TrustManagerFactory trust = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        trust.init(authorities);
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(keys.getKeyManagers(), trust.getTrustManagers(), null);
        return context;
    }
}
