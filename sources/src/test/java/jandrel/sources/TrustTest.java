package jandrel.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.demo.Stand;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.net.ssl.HttpsURLConnection;
import javax.net.ssl.SSLException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class TrustTest {
    private static final Stand STAND = Stand.fromEnvironment();

    private static int status(Trust trust) throws Exception {
        HttpsURLConnection c =
                (HttpsURLConnection) URI.create(STAND.value("CALDAV")).toURL().openConnection();
        c.setSSLSocketFactory(trust.sockets());
        return c.getResponseCode();
    }

    @Test
    void anAuthorityOfTheServersOwnIsBelievedBesideTheUsualOnes() throws Exception {
        String pem = Files.readString(Path.of(STAND.value("CA")));
        assertThatThrownBy(() -> status(Trust.with(null))).isInstanceOf(SSLException.class);
        assertThat(status(Trust.with(null).andIfAny(pem))).isPositive();
    }

    @Test
    void noneIsNoOther() {
        Trust trust = Trust.with(null);
        assertThat(trust.andIfAny("")).isSameAs(trust);
    }

    @ParameterizedTest
    @ValueSource(strings = {"hello", "-----BEGIN CERTIFICATE-----\nAAAA\n-----END CERTIFICATE-----"})
    void whatIsNoCertificateIsSaidToBeNone(String pem) {
        assertThatThrownBy(() -> Trust.with(null).andIfAny(pem))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("no certificate");
    }
}
