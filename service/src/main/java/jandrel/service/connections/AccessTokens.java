package jandrel.service.connections;

import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.JWSHeader;
import com.nimbusds.jose.crypto.RSASSASigner;
import com.nimbusds.jwt.JWTClaimsSet;
import com.nimbusds.jwt.SignedJWT;
import com.nimbusds.oauth2.sdk.AuthorizationCode;
import com.nimbusds.oauth2.sdk.AuthorizationCodeGrant;
import com.nimbusds.oauth2.sdk.AuthorizationGrant;
import com.nimbusds.oauth2.sdk.AuthorizationRequest;
import com.nimbusds.oauth2.sdk.GeneralException;
import com.nimbusds.oauth2.sdk.JWTBearerGrant;
import com.nimbusds.oauth2.sdk.OAuth2Error;
import com.nimbusds.oauth2.sdk.ParseException;
import com.nimbusds.oauth2.sdk.RefreshTokenGrant;
import com.nimbusds.oauth2.sdk.ResponseType;
import com.nimbusds.oauth2.sdk.Scope;
import com.nimbusds.oauth2.sdk.TokenRequest;
import com.nimbusds.oauth2.sdk.TokenResponse;
import com.nimbusds.oauth2.sdk.as.AuthorizationServerMetadata;
import com.nimbusds.oauth2.sdk.auth.ClientSecretBasic;
import com.nimbusds.oauth2.sdk.auth.Secret;
import com.nimbusds.oauth2.sdk.http.HTTPRequest;
import com.nimbusds.oauth2.sdk.http.HTTPResponse;
import com.nimbusds.oauth2.sdk.http.ReadOnlyHTTPRequest;
import com.nimbusds.oauth2.sdk.id.ClientID;
import com.nimbusds.oauth2.sdk.id.Issuer;
import com.nimbusds.oauth2.sdk.id.State;
import com.nimbusds.oauth2.sdk.pkce.CodeChallengeMethod;
import com.nimbusds.oauth2.sdk.pkce.CodeVerifier;
import com.nimbusds.oauth2.sdk.token.RefreshToken;
import com.nimbusds.oauth2.sdk.token.Tokens;
import jandrel.service.kernel.Settings;
import jandrel.service.kernel.Vault;
import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Consent;
import jandrel.store.connections.Connections.Server;
import java.io.IOException;
import java.net.URI;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.PrivateKey;
import java.security.spec.PKCS8EncodedKeySpec;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Date;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Access tokens: by each person's consent (RFC 6749 with PKCE, RFC 7636; endpoints by RFC 8414), or by the organisation's key
 * (RFC 7523 §2.1). Tokens are kept encrypted, and renewed a little before they end.
 */
@Component
public class AccessTokens {
    private static final Duration CONSENT = Duration.ofMinutes(15);
    private static final Duration EARLY = Duration.ofSeconds(60);
    private final Connections connections;
    private final Vault vault;
    private final EgressPolicy reach;
    private final ProviderEgress egress;
    private final Settings settings;
    private final Clock clock;
    private final Renewal renewal;
    private final JsonMapper json = JsonMapper.builder().build();
    private final Map<String, Held> byKey = new ConcurrentHashMap<>();

    /** @param refresh null when the server gave none */
    record Held(String access, @Nullable String refresh, Instant ends) {
        @Override
        public String toString() {
            return "Held[ends " + ends + "]";
        }
    }

    AccessTokens(
            Connections connections,
            Vault vault,
            Settings settings,
            EgressPolicy reach,
            ProviderEgress egress,
            Clock clock) {
        this.connections = connections;
        this.vault = vault;
        this.settings = settings;
        this.reach = reach;
        this.egress = egress;
        this.clock = clock;
        this.renewal = new Renewal(connections, clock);
    }

    /** @param state what the answer will carry; only the browser that asked may bring it back (RFC 6749, 10.12) */
    record Page(URI address, String state, Duration lasts) {}

    /** Where the person's browser goes to consent; the answer is waited for a quarter of an hour. */
    Page consentPage(Server server, Connection connection) {
        URI endpoint = EgressPolicy.overTls(metadata(server).getAuthorizationEndpointURI());
        CodeVerifier verifier = new CodeVerifier();
        State state = new State(32);
        connections.askConsent(new Consent(
                state.getValue(),
                connection.id(),
                vault.lock(connection.id(), verifier.getValue()),
                clock.instant().plus(CONSENT)));
        URI address = new AuthorizationRequest.Builder(ResponseType.CODE, new ClientID(server.clientId()))
                .endpointURI(endpoint)
                .redirectionURI(redirect())
                .scope(Scope.parse(server.scopes()))
                .state(state)
                .codeChallenge(verifier, CodeChallengeMethod.S256)
                .customParameter("login_hint", connection.account())
                .build()
                .toURI();
        return new Page(address, state.getValue(), CONSENT);
    }

    private URI redirect() {
        return URI.create(settings.publicUrl() + "/api/consent");
    }

    /** Trades the answer of a consent for tokens, encrypted for the connection. */
    byte[] consented(Server server, Connection connection, Consent consent, String code) {
        CodeVerifier verifier = new CodeVerifier(vault.unlock(connection.id(), consent.verifier()));
        return locked(
                connection.id(),
                ask(server, new AuthorizationCodeGrant(new AuthorizationCode(code), redirect(), verifier)));
    }

    /** The token of a person's consent, renewed if it is about to end. */
    String byConsent(Server server, Connection connection, byte[] secret) {
        Held held = unlocked(connection.id(), secret);
        if (isFresh(held)) {
            return held.access();
        }
        byte[] renewed = renewal.of(connection.id(), secret, old -> locked(connection.id(), renewed(server, held)));
        return unlocked(connection.id(), renewed).access();
    }

    private boolean isFresh(Held held) {
        return clock.instant().isBefore(held.ends().minus(EARLY));
    }

    private Held renewed(Server server, Held held) {
        if (held.refresh() == null) {
            throw new SourceTrouble(SourceTrouble.Kind.SIGN_IN, "the consent has ended; sign in again", null);
        }
        Held renewed = ask(server, new RefreshTokenGrant(new RefreshToken(held.refresh())));
        return renewed.refresh() == null ? new Held(renewed.access(), held.refresh(), renewed.ends()) : renewed;
    }

    private Held unlocked(UUID connection, byte[] secret) {
        return json.readValue(vault.unlock(connection, secret), Held.class);
    }

    private byte[] locked(UUID connection, Held held) {
        return vault.lock(connection, json.writeValueAsString(held));
    }

    /** A token for any account, by the organisation's key: a PEM file's or a JWK's text. Kept in memory alone. */
    String byKey(Server server, String account, String key) {
        Held held = byKey.get(server.id() + account);
        if (held == null || !isFresh(held)) {
            held = ask(server, new JWTBearerGrant(assertion(server, account, key)));
            byKey.put(server.id() + account, held);
        }
        return held.access();
    }

    /** Lets go of a token that its server did not take. */
    public void forget(Server server, String account) {
        byKey.remove(server.id() + account);
    }

    private SignedJWT assertion(Server server, String account, String key) {
        Instant now = clock.instant();
        try {
            byte[] bytes = Base64.getMimeDecoder().decode(key.replaceAll("-----[A-Z ]+-----", ""));
            PrivateKey rsa = KeyFactory.getInstance("RSA").generatePrivate(new PKCS8EncodedKeySpec(bytes));
            SignedJWT jwt = new SignedJWT(
                    new JWSHeader(JWSAlgorithm.RS256),
                    new JWTClaimsSet.Builder()
                            .issuer(server.clientId())
                            .subject(account)
                            .audience(server.issuer())
                            .issueTime(Date.from(now))
                            .expirationTime(Date.from(now.plus(Duration.ofMinutes(5))))
                            .jwtID(UUID.randomUUID().toString())
                            .build());
            jwt.sign(new RSASSASigner(rsa));
            return jwt;
        } catch (JOSEException | GeneralSecurityException | IllegalArgumentException unreadable) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.SIGN_IN,
                    "the organisation’s key is no RSA key in PEM form (PKCS #8)",
                    unreadable);
        }
    }

    private Held ask(Server server, AuthorizationGrant grant) {
        try {
            URI endpoint = metadata(server).getTokenEndpointURI();
            ClientID client = new ClientID(server.clientId());
            byte[] secret = server.secret();
            TokenRequest request = secret == null || grant instanceof JWTBearerGrant
                    ? new TokenRequest.Builder(endpoint, client, grant)
                            .scope(Scope.parse(server.scopes()))
                            .build()
                    : new TokenRequest.Builder(
                                    endpoint,
                                    new ClientSecretBasic(client, new Secret(vault.unlock(server.id(), secret))),
                                    grant)
                            .build();
            TokenResponse response = TokenResponse.parse(request.toHTTPRequest().send(sent -> answer(sent, server)));
            if (!response.indicatesSuccess()) {
                throw refused(response.toErrorResponse().getErrorObject().getCode());
            }
            Tokens tokens = response.toSuccessResponse().getTokens();
            long seconds = tokens.getAccessToken().getLifetime();
            return new Held(
                    tokens.getAccessToken().getValue(),
                    tokens.getRefreshToken() == null
                            ? null
                            : tokens.getRefreshToken().getValue(),
                    clock.instant().plusSeconds(seconds <= 0 ? 3_600 : seconds));
        } catch (ParseException strange) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.BROKEN,
                    "the authorisation server answers what it should not (RFC 6749)",
                    strange);
        } catch (IOException unreachable) {
            throw SourceTrouble.unreachable("the authorisation server", unreachable);
        }
    }

    private static SourceTrouble refused(String code) {
        return OAuth2Error.INVALID_GRANT.getCode().equals(code)
                ? new SourceTrouble(
                        SourceTrouble.Kind.SIGN_IN, "the consent was withdrawn or has ended; sign in again", null)
                : new SourceTrouble(
                        SourceTrouble.Kind.BROKEN,
                        "the authorisation server does not take this service (“" + code
                                + "”); check client id and secret at the server",
                        null);
    }

    private AuthorizationServerMetadata metadata(Server server) {
        Issuer issuer = new Issuer(server.issuer());
        try {
            HTTPResponse response = new HTTPRequest(
                            HTTPRequest.Method.GET, AuthorizationServerMetadata.resolveURL(issuer))
                    .send(sent -> answer(sent, server));
            AuthorizationServerMetadata metadata = response.getStatusCode() == HTTPResponse.SC_OK
                    ? AuthorizationServerMetadata.parse(response.getBodyAsJSONObject())
                    : null;
            // RFC 8414 §3.3: one that names another issuer is somebody else's
            if (metadata == null || !issuer.equals(metadata.getIssuer())) {
                throw saysNothing(null);
            }
            return metadata;
        } catch (IOException unreachable) {
            throw SourceTrouble.unreachable("the authorisation server", unreachable);
        } catch (GeneralException strange) {
            throw saysNothing(strange);
        }
    }

    private static SourceTrouble saysNothing(@Nullable Throwable cause) {
        return new SourceTrouble(
                SourceTrouble.Kind.UNREACHABLE,
                "the authorisation server does not say what it offers (RFC 8414); check the issuer",
                cause);
    }

    private HTTPResponse answer(ReadOnlyHTTPRequest request, Server server) throws IOException {
        return egress.send(request, reach.trust(server.authority()));
    }
}
