package jandrel.sources;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.http.HttpClient;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.Certificate;
import java.security.cert.CertificateException;
import java.security.cert.CertificateFactory;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManager;
import javax.net.ssl.TrustManagerFactory;
import javax.net.ssl.X509TrustManager;
import org.jspecify.annotations.Nullable;

/** Which certificates are believed: those that Java believes, and those under an authority of the company's own. */
public final class Trust {
    private final List<X509TrustManager> managers;
    private final SSLContext context;
    private @Nullable HttpClient http;

    private Trust(List<X509TrustManager> managers) throws GeneralSecurityException {
        this.managers = List.copyOf(managers);
        this.context = SSLContext.getInstance("TLS");
        this.context.init(null, new TrustManager[] {new Either(managers)}, null);
    }

    /** @param authorities a PEM file of certificates to believe besides, or null for none */
    public static Trust with(@Nullable Path authorities) {
        try {
            List<X509TrustManager> managers = new ArrayList<>();
            managers.add(manager(null));
            if (authorities != null) {
                try (InputStream in = Files.newInputStream(authorities)) {
                    managers.add(manager(store(in)));
                }
            }
            return new Trust(managers);
        } catch (GeneralSecurityException | IOException broken) {
            throw new IllegalArgumentException(
                    "the file of trusted certificates cannot be read: " + authorities, broken);
        }
    }

    /**
     * This, and an authority in PEM form besides.
     *
     * @param pem empty for none
     * @throws IllegalArgumentException if it is no certificate
     */
    public Trust andIfAny(String pem) {
        if (pem.isEmpty()) {
            return this;
        }
        try (InputStream in = new ByteArrayInputStream(pem.getBytes(StandardCharsets.US_ASCII))) {
            List<X509TrustManager> all = new ArrayList<>(managers);
            all.add(manager(store(in)));
            return new Trust(all);
        } catch (GeneralSecurityException | IOException broken) {
            throw new IllegalArgumentException("the authority is no certificate in PEM form", broken);
        }
    }

    /** For protocols that make their sockets themselves. */
    public javax.net.ssl.SSLSocketFactory sockets() {
        return context.getSocketFactory();
    }

    SSLContext context() {
        return context;
    }

    /** One for all who believe alike: it keeps connections open and has threads of its own, which no client here can end. */
    synchronized HttpClient http() {
        HttpClient is = http;
        if (is == null) {
            is = HttpClient.newBuilder()
                    .sslContext(context)
                    .version(HttpClient.Version.HTTP_1_1)
                    .connectTimeout(Duration.ofSeconds(15))
                    .followRedirects(HttpClient.Redirect.NEVER)
                    .build();
            http = is;
        }
        return is;
    }

    private static KeyStore store(InputStream pem) throws GeneralSecurityException, IOException {
        KeyStore store = KeyStore.getInstance(KeyStore.getDefaultType());
        store.load(null, null);
        int n = 0;
        for (Certificate certificate : CertificateFactory.getInstance("X.509").generateCertificates(pem)) {
            store.setCertificateEntry("authority-" + n++, certificate);
        }
        return store;
    }

    private static X509TrustManager manager(@Nullable KeyStore store) throws GeneralSecurityException {
        TrustManagerFactory factory = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        factory.init(store);
        return (X509TrustManager) Arrays.stream(factory.getTrustManagers())
                .filter(X509TrustManager.class::isInstance)
                .findFirst()
                .orElseThrow();
    }

    /** Believes what one of several believes. Host names are checked apart, by the protocols. */
    private record Either(List<X509TrustManager> managers) implements X509TrustManager {
        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type) throws CertificateException {
            CertificateException refused = new CertificateException("no authority");
            for (X509TrustManager manager : managers) {
                try {
                    manager.checkServerTrusted(chain, type);
                    return;
                } catch (CertificateException notThis) {
                    refused = notThis;
                }
            }
            throw refused;
        }

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type) throws CertificateException {
            throw new CertificateException("no client is expected");
        }

        @Override
        public X509Certificate[] getAcceptedIssuers() {
            return managers.stream()
                    .flatMap(m -> Arrays.stream(m.getAcceptedIssuers()))
                    .toArray(X509Certificate[]::new);
        }
    }
}
