package jandrel.service.people;

import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.jwk.source.ImmutableJWKSet;
import com.nimbusds.jose.proc.BadJOSEException;
import com.nimbusds.jose.proc.JWSVerificationKeySelector;
import com.nimbusds.jose.proc.SecurityContext;
import com.nimbusds.jwt.JWT;
import com.nimbusds.jwt.JWTParser;
import com.nimbusds.oauth2.sdk.AuthorizationCode;
import com.nimbusds.oauth2.sdk.AuthorizationCodeGrant;
import com.nimbusds.oauth2.sdk.ParseException;
import com.nimbusds.oauth2.sdk.ResponseType;
import com.nimbusds.oauth2.sdk.Scope;
import com.nimbusds.oauth2.sdk.TokenRequest;
import com.nimbusds.oauth2.sdk.TokenResponse;
import com.nimbusds.oauth2.sdk.auth.ClientAuthentication;
import com.nimbusds.oauth2.sdk.auth.ClientAuthenticationMethod;
import com.nimbusds.oauth2.sdk.auth.ClientSecretBasic;
import com.nimbusds.oauth2.sdk.auth.ClientSecretPost;
import com.nimbusds.oauth2.sdk.auth.Secret;
import com.nimbusds.oauth2.sdk.id.ClientID;
import com.nimbusds.oauth2.sdk.id.Issuer;
import com.nimbusds.oauth2.sdk.id.State;
import com.nimbusds.oauth2.sdk.pkce.CodeChallengeMethod;
import com.nimbusds.oauth2.sdk.pkce.CodeVerifier;
import com.nimbusds.openid.connect.sdk.AuthenticationRequest;
import com.nimbusds.openid.connect.sdk.LogoutRequest;
import com.nimbusds.openid.connect.sdk.Nonce;
import com.nimbusds.openid.connect.sdk.OIDCTokenResponseParser;
import com.nimbusds.openid.connect.sdk.UserInfoRequest;
import com.nimbusds.openid.connect.sdk.UserInfoResponse;
import com.nimbusds.openid.connect.sdk.claims.ClaimsSet;
import com.nimbusds.openid.connect.sdk.claims.IDTokenClaimsSet;
import com.nimbusds.openid.connect.sdk.claims.UserInfo;
import com.nimbusds.openid.connect.sdk.op.OIDCProviderMetadata;
import com.nimbusds.openid.connect.sdk.token.OIDCTokens;
import com.nimbusds.openid.connect.sdk.validators.IDTokenValidator;
import jandrel.service.kernel.Settings;
import jandrel.service.kernel.Vault;
import jandrel.service.people.SignOnRefused.Why;
import jandrel.sources.SourceTrouble;
import jandrel.store.people.IdentityProviders;
import jandrel.store.people.IdentityProviders.IdentityProvider;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Signing in at a provider: authorisation code with PKCE and nonce (OpenID Connect Core 1.0, §3.1; RFC 7636; RFC 9700). What is under way
 * is kept nowhere but in the browser's own cookie, encrypted, so that strangers who begin cost nothing and no other browser can end it.
 */
@Component
class SingleSignOn {
    static final Duration LASTS = Duration.ofMinutes(10);
    /** Where providers send people back to. */
    static final String BACK = "/api/session/provider";

    private static final UUID BOUND = UUID.nameUUIDFromBytes("single sign-on".getBytes(StandardCharsets.US_ASCII));
    private static final int MOST_GROUPS = 1_000;
    private static final int LONGEST_SUBJECT = 255;
    private final ProviderLookup lookup;
    private final IdentityProviders providers;
    private final ProviderHttp http;
    private final Vault vault;
    private final Settings settings;
    private final Clock clock;
    private final JsonMapper json = JsonMapper.builder().build();

    SingleSignOn(
            ProviderLookup lookup,
            IdentityProviders providers,
            ProviderHttp http,
            Vault vault,
            Settings settings,
            Clock clock) {
        this.lookup = lookup;
        this.providers = providers;
        this.http = http;
        this.vault = vault;
        this.settings = settings;
        this.clock = clock;
    }

    /** @param cookie what the browser has to bring back */
    record Begun(URI address, String cookie) {}

    record UnderWay(UUID provider, String state, String nonce, String verifier, String to, Instant until) {
        @Override
        public String toString() {
            return "UnderWay[" + provider + "]";
        }
    }

    /**
     * What a provider says of somebody.
     *
     * @param email empty where it vouches for none
     * @param idToken as it came
     * @param to the page that was asked for
     */
    record Claimed(
            IdentityProvider provider, String subject, String email, List<String> groups, String idToken, String to) {
        @Override
        public String toString() {
            return "Claimed[" + provider.name() + "]";
        }
    }

    /** What the provider has to be told. */
    String redirect() {
        return settings.publicUrl() + BACK;
    }

    /** @param to a path of the console */
    Begun begin(IdentityProvider provider, String to) {
        OIDCProviderMetadata metadata = lookup.of(provider).metadata();
        CodeVerifier verifier = new CodeVerifier();
        State state = new State(32);
        Nonce nonce = new Nonce(32);
        URI address = new AuthenticationRequest.Builder(
                        ResponseType.CODE,
                        new Scope("openid", "email", "profile"),
                        new ClientID(provider.clientId()),
                        URI.create(redirect()))
                .endpointURI(overTls(metadata.getAuthorizationEndpointURI()))
                .state(state)
                .nonce(nonce)
                .codeChallenge(verifier, CodeChallengeMethod.S256)
                .build()
                .toURI();
        UnderWay underWay = new UnderWay(
                provider.id(),
                state.getValue(),
                nonce.getValue(),
                verifier.getValue(),
                to,
                clock.instant().plus(LASTS));
        byte[] sealed = vault.lock(BOUND, json.writeValueAsString(underWay));
        return new Begun(address, Base64.getUrlEncoder().withoutPadding().encodeToString(sealed));
    }

    /** @throws SignOnRefused if the browser did not begin here, or too long ago */
    UnderWay underWay(String cookie, String state) {
        try {
            UnderWay is =
                    json.readValue(vault.unlock(BOUND, Base64.getUrlDecoder().decode(cookie)), UnderWay.class);
            if (is.until().isAfter(clock.instant()) && same(is.state(), state)) {
                return is;
            }
        } catch (IllegalArgumentException | IllegalStateException forged) {
            throw new SignOnRefused(Why.EXPIRED, "the browser’s cookie is not one of ours", forged);
        }
        throw new SignOnRefused(Why.EXPIRED, "it began too long ago, or in another browser", null);
    }

    private static boolean same(String one, String other) {
        return MessageDigest.isEqual(one.getBytes(StandardCharsets.UTF_8), other.getBytes(StandardCharsets.UTF_8));
    }

    /**
     * @param code the provider's answer
     * @param issuer who says that it answers; null where it does not (RFC 9207)
     */
    Claimed end(UnderWay underWay, String code, @Nullable String issuer) {
        IdentityProvider provider = providers
                .one(underWay.provider())
                .orElseThrow(() -> new SignOnRefused(Why.PROVIDER, "it was removed meanwhile", null));
        if (issuer != null && !issuer.equals(provider.issuer())) {
            throw new SignOnRefused(Why.TOKEN, "the answer came from another issuer", null);
        }
        ProviderLookup.Known known = lookup.of(provider);
        try {
            OIDCTokens tokens = tokens(provider, known.metadata(), underWay, code);
            IDTokenClaimsSet claims = believed(provider, known, tokens.getIDToken(), underWay);
            String subject = claims.getSubject().getValue();
            if (subject.isEmpty() || subject.length() > LONGEST_SUBJECT) {
                throw new SignOnRefused(Why.TOKEN, "it names nobody", null);
            }
            ClaimsSet says =
                    claims.getStringClaim("email") == null ? userInfo(known.metadata(), tokens, claims) : claims;
            return new Claimed(
                    provider,
                    subject,
                    email(says),
                    groups(says, claims, provider.groupsClaim()),
                    tokens.getIDToken().serialize(),
                    underWay.to());
        } catch (ParseException strange) {
            throw new SignOnRefused(Why.PROVIDER, "it answers what it should not", strange);
        } catch (IOException | SourceTrouble unreachable) {
            throw ProviderLookup.unreachable(unreachable);
        }
    }

    private OIDCTokens tokens(IdentityProvider provider, OIDCProviderMetadata metadata, UnderWay underWay, String code)
            throws ParseException, IOException {
        URI endpoint = overTls(metadata.getTokenEndpointURI());
        AuthorizationCodeGrant grant = new AuthorizationCodeGrant(
                new AuthorizationCode(code), URI.create(redirect()), new CodeVerifier(underWay.verifier()));
        ClientID client = new ClientID(provider.clientId());
        byte[] secret = provider.secret();
        TokenRequest request = secret == null
                ? new TokenRequest.Builder(endpoint, client, grant).build()
                : new TokenRequest.Builder(
                                endpoint,
                                proof(metadata, client, new Secret(vault.unlock(provider.id(), secret))),
                                grant)
                        .build();
        TokenResponse response =
                OIDCTokenResponseParser.parse(request.toHTTPRequest().send(http::send));
        if (!response.indicatesSuccess()) {
            throw new SignOnRefused(
                    Why.PROVIDER,
                    "it does not take the code (“"
                            + response.toErrorResponse().getErrorObject().getCode() + "”); check client id and secret",
                    null);
        }
        if (response.toSuccessResponse().getTokens() instanceof OIDCTokens tokens && tokens.getIDToken() != null) {
            return tokens;
        }
        throw new SignOnRefused(Why.TOKEN, "it gives no ID token", null);
    }

    private static ClientAuthentication proof(OIDCProviderMetadata metadata, ClientID client, Secret secret) {
        List<ClientAuthenticationMethod> methods = metadata.getTokenEndpointAuthMethods();
        // by header where nothing is said (OpenID Connect Discovery 1.0, §3)
        return methods == null || methods.contains(ClientAuthenticationMethod.CLIENT_SECRET_BASIC)
                ? new ClientSecretBasic(client, secret)
                : new ClientSecretPost(client, secret);
    }

    /** Issuer, audience, times, nonce and signature (OpenID Connect Core 1.0, §3.1.3.7). */
    private IDTokenClaimsSet believed(
            IdentityProvider provider, ProviderLookup.Known known, JWT token, UnderWay underWay) {
        ProviderLookup.Known keys = known;
        String kid = token.getHeader().toJSONObject().get("kid") instanceof String named ? named : null;
        if (kid != null && known.keys().getKeyByKeyId(kid) == null) {
            keys = lookup.otherThan(known, provider);
        }
        try {
            IDTokenValidator validator = new IDTokenValidator(
                    new Issuer(provider.issuer()),
                    new ClientID(provider.clientId()),
                    // signed with a key of theirs: never with the client's secret, never not at all
                    new JWSVerificationKeySelector<SecurityContext>(
                            JWSAlgorithm.Family.SIGNATURE, new ImmutableJWKSet<>(keys.keys())),
                    null);
            return validator.validate(token, new Nonce(underWay.nonce()));
        } catch (BadJOSEException | JOSEException lie) {
            throw new SignOnRefused(Why.TOKEN, "its ID token cannot be believed: " + lie.getMessage(), lie);
        }
    }

    private ClaimsSet userInfo(OIDCProviderMetadata metadata, OIDCTokens tokens, IDTokenClaimsSet claims)
            throws ParseException, IOException {
        if (metadata.getUserInfoEndpointURI() == null) {
            return claims;
        }
        UserInfoResponse response = UserInfoResponse.parse(
                new UserInfoRequest(overTls(metadata.getUserInfoEndpointURI()), tokens.getBearerAccessToken())
                        .toHTTPRequest()
                        .send(http::send));
        UserInfo info =
                response.indicatesSuccess() ? response.toSuccessResponse().getUserInfo() : null;
        // of somebody else it may not be used (OpenID Connect Core 1.0, §5.3.2)
        if (info == null || !info.getSubject().equals(claims.getSubject())) {
            throw new SignOnRefused(Why.TOKEN, "what it says of the person is somebody else’s, or nothing", null);
        }
        return info;
    }

    /** Only one that the provider has verified. */
    private static String email(ClaimsSet says) {
        Object verified = says.getClaim("email_verified");
        boolean is = Boolean.TRUE.equals(verified) || "true".equals(verified);
        return is ? Objects.requireNonNullElse(says.getStringClaim("email"), "") : "";
    }

    private static List<String> groups(ClaimsSet says, IDTokenClaimsSet token, String claim) {
        Object groups = Objects.requireNonNullElse(
                says.getClaim(claim), Objects.requireNonNullElse(token.getClaim(claim), List.of()));
        List<?> all = groups instanceof List<?> several ? several : List.of(groups);
        return all.stream()
                .limit(MOST_GROUPS)
                .filter(String.class::isInstance)
                .map(String.class::cast)
                .toList();
    }

    /** What ends the session there, besides ending it here (OpenID Connect RP-Initiated Logout 1.0, §2). */
    Optional<URI> endAt(IdentityProviders.OpenedBy opened) {
        return providers.one(opened.provider()).flatMap(provider -> {
            try {
                URI end = lookup.of(provider).metadata().getEndSessionEndpointURI();
                return end == null
                        ? Optional.empty()
                        : Optional.of(new LogoutRequest(
                                        overTls(end),
                                        JWTParser.parse(vault.unlock(provider.id(), opened.hint())),
                                        URI.create(settings.publicUrl() + "/sign-in"),
                                        null)
                                .toURI());
            } catch (SignOnRefused | java.text.ParseException unknown) {
                return Optional.empty();
            }
        });
    }

    /** Encrypted, for {@link #endAt}. */
    byte[] hint(Claimed claimed) {
        return vault.lock(claimed.provider().id(), claimed.idToken());
    }

    private static URI overTls(@Nullable URI address) {
        if (address == null || !"https".equalsIgnoreCase(address.getScheme()) || address.getHost() == null) {
            throw new SignOnRefused(Why.PROVIDER, "its metadata name an address that is not https", null);
        }
        return address;
    }
}
