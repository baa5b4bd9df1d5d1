package jandrel.service.people;

import com.nimbusds.jose.jwk.JWKSet;
import com.nimbusds.oauth2.sdk.GeneralException;
import com.nimbusds.oauth2.sdk.ParseException;
import com.nimbusds.oauth2.sdk.http.HTTPRequest;
import com.nimbusds.oauth2.sdk.http.HTTPResponse;
import com.nimbusds.oauth2.sdk.id.Issuer;
import com.nimbusds.openid.connect.sdk.op.OIDCProviderMetadata;
import jandrel.service.people.SignOnRefused.Why;
import jandrel.sources.SourceTrouble;
import jandrel.store.people.IdentityProviders.IdentityProvider;
import java.io.IOException;
import java.net.URI;
import java.net.URISyntaxException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What providers say of themselves (OpenID Connect Discovery 1.0, §4), and the keys they sign with (RFC 7517); kept for ten minutes. */
@Component
class ProviderLookup {
    private static final Duration KEPT = Duration.ofMinutes(10);
    /** One that has just failed is not asked again at once. */
    private static final Duration NOT_AGAIN = Duration.ofSeconds(5);

    private static final int WAIT_SECONDS = 2;
    private final ProviderHttp http;
    private final Clock clock;
    private final Map<UUID, Known> known = new ConcurrentHashMap<>();
    private final Map<UUID, Failure> failed = new ConcurrentHashMap<>();
    /** One request at a time asks each: strangers may begin as often as they like, and one that hangs must not hold them all. */
    private final Map<UUID, Semaphore> asking = new ConcurrentHashMap<>();

    /** @param keys those that were there at that time */
    record Known(OIDCProviderMetadata metadata, JWKSet keys, Instant at) {}

    private record Failure(SignOnRefused refused, Instant until) {}

    ProviderLookup(ProviderHttp http, Clock clock) {
        this.http = http;
        this.clock = clock;
    }

    /** @throws SignOnRefused when it does not answer as it should */
    Known of(IdentityProvider provider) {
        Known is = known.get(provider.id());
        return is != null && is.at().plus(KEPT).isAfter(clock.instant()) ? is : otherThan(is, provider);
    }

    /**
     * Where it signs with a key that was not there before (OpenID Connect Core 1.0, §10.1.1).
     *
     * @param before what is not good any more; null for nothing
     */
    Known otherThan(@Nullable Known before, IdentityProvider provider) {
        Failure failure = failed.get(provider.id());
        if (failure != null && failure.until().isAfter(clock.instant())) {
            throw refused(String.valueOf(failure.refused().getMessage()), failure.refused());
        }
        Semaphore turn = asking.computeIfAbsent(provider.id(), p -> new Semaphore(1));
        if (!mayAsk(turn)) {
            throw refused("it is being asked already, and does not answer yet", null);
        }
        try {
            Known now = known.get(provider.id());
            // somebody else asked while this one waited
            if (now != null && (before == null || now.at().isAfter(before.at()))) {
                return now;
            }
            return asked(provider);
        } finally {
            turn.release();
        }
    }

    private Known asked(IdentityProvider provider) {
        try {
            OIDCProviderMetadata metadata = metadata(provider.issuer());
            Known is = new Known(metadata, keys(metadata), clock.instant());
            known.put(provider.id(), is);
            failed.remove(provider.id());
            return is;
        } catch (SignOnRefused refused) {
            failed.put(provider.id(), new Failure(refused, clock.instant().plus(NOT_AGAIN)));
            throw refused;
        }
    }

    private static boolean mayAsk(Semaphore turn) {
        try {
            return turn.tryAcquire(WAIT_SECONDS, TimeUnit.SECONDS);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    void forget(UUID provider) {
        known.remove(provider);
        failed.remove(provider);
    }

    /** @throws SignOnRefused says in words what to check */
    OIDCProviderMetadata metadata(String issuer) {
        Issuer expected = new Issuer(issuer);
        try {
            HTTPResponse answer = get(OIDCProviderMetadata.resolveURL(expected).toURI());
            OIDCProviderMetadata metadata = answer.getStatusCode() == HTTPResponse.SC_OK
                    ? OIDCProviderMetadata.parse(answer.getBodyAsJSONObject())
                    : null;
            if (metadata == null) {
                throw refused(
                        "there is no OpenID Connect metadata at this issuer (it answers " + answer.getStatusCode()
                                + ")",
                        null);
            }
            if (!expected.equals(metadata.getIssuer())) {
                throw refused(
                        "its metadata name another issuer, “" + metadata.getIssuer() + "”; type it exactly like that",
                        null);
            }
            return metadata;
        } catch (GeneralException | URISyntaxException strange) {
            throw refused("what is there is no OpenID Connect metadata", strange);
        } catch (IOException | SourceTrouble unreachable) {
            throw unreachable(unreachable);
        }
    }

    JWKSet keys(OIDCProviderMetadata metadata) {
        URI address = metadata.getJWKSetURI();
        if (address == null) {
            throw refused("its metadata name no keys", null);
        }
        try {
            HTTPResponse answer = get(address);
            answer.ensureStatusCode(HTTPResponse.SC_OK);
            return JWKSet.parse(answer.getBody());
        } catch (ParseException | java.text.ParseException strange) {
            throw refused("its keys cannot be read", strange);
        } catch (IOException | SourceTrouble unreachable) {
            throw unreachable(unreachable);
        }
    }

    private HTTPResponse get(URI address) throws IOException {
        return new HTTPRequest(HTTPRequest.Method.GET, address).send(http::send);
    }

    static SignOnRefused unreachable(Exception why) {
        return refused(
                why instanceof SourceTrouble
                        ? String.valueOf(why.getMessage())
                        : "it does not answer; check the issuer",
                why);
    }

    private static SignOnRefused refused(String detail, @Nullable Throwable cause) {
        return new SignOnRefused(Why.PROVIDER, detail, cause);
    }
}
