package jandrel.service.people;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.nimbusds.oauth2.sdk.http.HTTPResponse;
import jandrel.store.people.IdentityProviders.IdentityProvider;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

/** A provider that is away, hangs or lies costs others nothing. */
class ProviderLookupTest {
    private static final String ISSUER = "https://login.corvane.example";
    private final AtomicInteger asked = new AtomicInteger();
    private Instant now = Instant.parse("2026-11-28T08:00:00Z");
    private final Clock clock = new Clock() {
        @Override
        public Instant instant() {
            return now;
        }

        @Override
        public java.time.ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(java.time.ZoneId zone) {
            return this;
        }
    };

    private static IdentityProvider provider() {
        return new IdentityProvider(
                UUID.randomUUID(), "Corvane", ISSUER, "jandrel", null, "groups", "REP", Instant.EPOCH);
    }

    private static HTTPResponse json(String body) {
        HTTPResponse response = new HTTPResponse(200);
        response.setHeader("Content-Type", "application/json");
        response.setBody(body);
        return response;
    }

    private static String metadata(String issuer) {
        return "{\"issuer\":\"" + issuer + "\",\"authorization_endpoint\":\"" + ISSUER
                + "/a\",\"token_endpoint\":\"" + ISSUER + "/t\",\"jwks_uri\":\"" + ISSUER
                + "/k\",\"response_types_supported\":[\"code\"],\"subject_types_supported\":[\"public\"],"
                + "\"id_token_signing_alg_values_supported\":[\"RS256\"]}";
    }

    private ProviderLookup answering(String metadata) {
        return new ProviderLookup(
                request -> {
                    asked.incrementAndGet();
                    return json(request.getURI().getPath().endsWith("/k") ? "{\"keys\":[]}" : metadata);
                },
                clock);
    }

    @Test
    void whatItSaysIsKeptForTenMinutes() {
        ProviderLookup lookup = answering(metadata(ISSUER));
        IdentityProvider provider = provider();
        lookup.of(provider);
        lookup.of(provider);
        assertThat(asked.get()).isEqualTo(2);
        now = now.plusSeconds(601);
        lookup.of(provider);
        assertThat(asked.get()).isEqualTo(4);
    }

    @Test
    void oneThatHasJustFailedIsNotAskedAgainAtOnce() {
        ProviderLookup lookup = new ProviderLookup(
                request -> {
                    asked.incrementAndGet();
                    throw new IOException("away");
                },
                clock);
        IdentityProvider provider = provider();
        for (int i = 0; i < 3; i++) {
            assertThatThrownBy(() -> lookup.of(provider)).hasMessageContaining("does not answer");
        }
        assertThat(asked.get()).isEqualTo(1);
        now = now.plusSeconds(6);
        assertThatThrownBy(() -> lookup.of(provider)).isInstanceOf(SignOnRefused.class);
        assertThat(asked.get()).isEqualTo(2);
    }

    @Test
    void whileOneHangsOthersAreToldSoSoon() throws Exception {
        CountDownLatch begun = new CountDownLatch(1);
        CountDownLatch hangs = new CountDownLatch(1);
        ProviderLookup lookup = new ProviderLookup(
                request -> {
                    begun.countDown();
                    try {
                        hangs.await();
                    } catch (InterruptedException stopped) {
                        Thread.currentThread().interrupt();
                    }
                    throw new IOException("hung");
                },
                clock);
        IdentityProvider provider = provider();
        Thread first = new Thread(() -> {
            try {
                lookup.of(provider);
            } catch (SignOnRefused expected) {
                Thread.currentThread().interrupt();
            }
        });
        first.start();
        begun.await();
        assertThatThrownBy(() -> lookup.of(provider)).hasMessageContaining("being asked already");
        hangs.countDown();
        first.join();
    }

    @Test
    void oneThatNamesAnotherIssuerIsSomebodyElse() {
        assertThatThrownBy(
                        () -> answering(metadata("https://elsewhere.example")).of(provider()))
                .hasMessageContaining("another issuer");
        assertThatThrownBy(() -> answering("[1]").of(provider())).hasMessageContaining("no OpenID Connect metadata");
        assertThatThrownBy(() -> answering("").of(provider())).hasMessageContaining("no OpenID Connect metadata");
    }
}
