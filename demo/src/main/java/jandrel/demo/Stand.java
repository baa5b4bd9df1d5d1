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
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;

/** The servers that {@code bin/stand} started, by the file it wrote. */
public record Stand(Map<String, String> values) {
    /** By the file that the variable STAND_ENV names, as bin/verify sets it for the tests. */
    public static Stand fromEnvironment() {
        Path file = Optional.ofNullable(System.getenv("STAND_ENV"))
                .map(Path::of)
                .or(Stand::startedByHand)
                .orElseThrow(
                        () -> new IllegalStateException(
                                "the servers that tests need are not there: start them by bin/stand up, or run all tests by bin/verify"));
        try {
            return read(file);
        } catch (IOException unreadable) {
            throw new IllegalStateException("it cannot be read where the servers are: " + file, unreadable);
        }
    }

    /** An IDE starts tests in the folder of a module. */
    private static Optional<Path> startedByHand() {
        return Stream.iterate(Path.of("").toAbsolutePath(), Objects::nonNull, Path::getParent)
                .map(folder -> folder.resolve("var/stand.env"))
                .filter(Files::isReadable)
                .findFirst();
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
