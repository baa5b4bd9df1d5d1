package jandrel.demo;

import java.io.IOException;
import java.io.InputStream;
import java.net.http.HttpClient;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.CertificateFactory;
import java.util.HashMap;
import java.util.Map;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;

/** The servers that {@code bin/stand} started, by the file it wrote. */
public record Stand(Map<String, String> values) {
    /** By the file that the variable STAND_ENV names, as bin/verify sets it for the tests. */
    public static Stand fromEnvironment() {
        String file = System.getenv("STAND_ENV");
        if (file == null) {
            throw new IllegalStateException(
                    "STAND_ENV is not set: run the tests by bin/verify, or start the servers by bin/stand");
        }
        try {
            return read(Path.of(file));
        } catch (IOException unreadable) {
            throw new IllegalStateException("the file in STAND_ENV cannot be read: " + file, unreadable);
        }
    }

    static Stand read(Path file) throws IOException {
        Map<String, String> values = new HashMap<>();
        for (String line : Files.readAllLines(file)) {
            int cut = line.indexOf('=');
            if (cut > 0) {
                values.put(line.substring(0, cut), line.substring(cut + 1));
            }
        }
        return new Stand(values);
    }

    public String value(String name) {
        String value = values.get("STAND_" + name);
        if (value == null) {
            throw new IllegalStateException("stand.env lacks STAND_" + name + "; start the servers with bin/stand");
        }
        return value;
    }

    public Path dir() {
        return Path.of(value("DIR"));
    }

    /** Where the mail server's users and their mail are. */
    public Path mailDir() {
        return Path.of(values.getOrDefault("STAND_MAIL_DIR", value("DIR")));
    }

    /** The same with another mail server, one that {@code bin/stand second} started. */
    public Stand withSecond(int imaps) {
        Map<String, String> more = new HashMap<>(values);
        more.put("STAND_MAIL_DIR", dir().resolve("second").toString());
        more.put("STAND_IMAPS", "127.0.0.1:" + imaps);
        more.put("STAND_LMTP", "127.0.0.1:" + (imaps + 1));
        return new Stand(more);
    }

    public int port(String name) {
        String value = value(name);
        return Integer.parseInt(value.substring(value.lastIndexOf(':') + 1));
    }

    /** Believes the authority that was made on the spot, and nobody else. */
    public HttpClient http() throws IOException, GeneralSecurityException {
        return HttpClient.newBuilder()
                .sslContext(tls())
                .version(HttpClient.Version.HTTP_1_1)
                .build();
    }

    SSLContext tls() throws IOException, GeneralSecurityException {
        KeyStore store = KeyStore.getInstance(KeyStore.getDefaultType());
        store.load(null, null);
        try (InputStream in = Files.newInputStream(Path.of(value("CA")))) {
            store.setCertificateEntry(
                    "demo", CertificateFactory.getInstance("X.509").generateCertificate(in));
        }
        TrustManagerFactory trust = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        trust.init(store);
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(null, trust.getTrustManagers(), null);
        return context;
    }
}
