package jandrel.standin;

import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.JWSHeader;
import com.nimbusds.jose.crypto.MACSigner;
import com.nimbusds.jose.crypto.RSASSASigner;
import com.nimbusds.jose.jwk.RSAKey;
import com.nimbusds.jwt.JWTClaimsSet;
import com.nimbusds.jwt.PlainJWT;
import com.nimbusds.jwt.SignedJWT;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.text.ParseException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Date;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.http.MediaType;
import org.springframework.security.core.Authentication;
import org.springframework.security.oauth2.core.oidc.endpoint.OidcParameterNames;
import org.springframework.security.oauth2.server.authorization.authentication.OAuth2AccessTokenAuthenticationToken;
import org.springframework.security.oauth2.server.authorization.token.JwtEncodingContext;
import org.springframework.security.oauth2.server.authorization.token.OAuth2TokenCustomizer;
import org.springframework.security.web.authentication.AuthenticationSuccessHandler;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** ID tokens with people's addresses and groups, and, when told so, with one thing wrong. Somebody's login is their address. */
@Component
class Lies implements AuthenticationSuccessHandler, OAuth2TokenCustomizer<JwtEncodingContext> {
    private final SigningKeys keys;
    private final JsonMapper json = JsonMapper.builder().build();
    private volatile String lie = "";
    private volatile List<String> groups = List.of();
    private volatile String email = "";

    Lies(SigningKeys keys) {
        this.keys = keys;
    }

    /** @param wanted what is wrong with tokens from now on; empty for nothing */
    void tell(String wanted) {
        lie = wanted;
    }

    void groups(String wanted) {
        groups = wanted.isEmpty() ? List.of() : List.of(wanted.split(",", 0));
    }

    /** @param wanted whose address is said, whoever signs in; empty for their own */
    void email(String wanted) {
        email = wanted;
    }

    @Override
    public void onAuthenticationSuccess(HttpServletRequest request, HttpServletResponse response, Authentication given)
            throws IOException {
        OAuth2AccessTokenAuthenticationToken tokens = (OAuth2AccessTokenAuthenticationToken) given;
        Map<String, Object> body = new HashMap<>(Map.of(
                "access_token", tokens.getAccessToken().getTokenValue(),
                "token_type", "Bearer",
                "scope", String.join(" ", tokens.getAccessToken().getScopes())));
        Instant ends = tokens.getAccessToken().getExpiresAt();
        if (ends != null) {
            body.put("expires_in", ends.getEpochSecond() - Instant.now().getEpochSecond());
        }
        if (tokens.getRefreshToken() != null) {
            body.put("refresh_token", tokens.getRefreshToken().getTokenValue());
        }
        if (tokens.getAdditionalParameters().get(OidcParameterNames.ID_TOKEN) instanceof String idToken) {
            body.put(OidcParameterNames.ID_TOKEN, said(idToken));
        }
        response.setContentType(MediaType.APPLICATION_JSON_VALUE);
        response.setHeader("Cache-Control", "no-store");
        response.getOutputStream().write(json.writeValueAsBytes(body));
    }

    /** What is true of whoever signs in. */
    @Override
    public void customize(JwtEncodingContext context) {
        if (context.getTokenType().getValue().equals(OidcParameterNames.ID_TOKEN)) {
            context.getClaims()
                    .claim(
                            "email",
                            email.isEmpty()
                                    ? Objects.requireNonNull(context.<Authentication>getPrincipal())
                                            .getName()
                                    : email)
                    .claim("email_verified", true)
                    .claim("groups", groups);
        }
    }

    private String said(String idToken) {
        if (lie.isEmpty()) {
            return idToken;
        }
        try {
            JWTClaimsSet claims = SignedJWT.parse(idToken).getJWTClaimsSet();
            JWTClaimsSet.Builder said = new JWTClaimsSet.Builder(claims);
            switch (lie) {
                case "no email" -> said.claim("email", null);
                case "unverified" -> said.claim("email_verified", false);
                case "issuer" -> said.issuer("https://elsewhere.example");
                case "audience" -> said.audience("somebody-else");
                case "nonce" -> said.claim("nonce", "another");
                case "no nonce" -> said.claim("nonce", null);
                case "expired" -> said.expirationTime(Date.from(Instant.now().minusSeconds(3_600)));
                case "future" -> said.issueTime(Date.from(Instant.now().plusSeconds(3_600)));
                case "two audiences" ->
                    said.audience(List.of(claims.getAudience().get(0), "other")).claim("azp", "other");
                default -> {}
            }
            return signed(said.build());
        } catch (ParseException | JOSEException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    private String signed(JWTClaimsSet claims) throws JOSEException {
        if (lie.equals("unsigned")) {
            return new PlainJWT(claims).serialize();
        }
        if (lie.equals("by the client’s secret")) {
            SignedJWT jwt = new SignedJWT(new JWSHeader(JWSAlgorithm.HS256), claims);
            jwt.sign(new MACSigner(Arrays.copyOf("console-lights-26".getBytes(StandardCharsets.US_ASCII), 32)));
            return jwt.serialize();
        }
        RSAKey key = lie.equals("key") || lie.equals("key of that name") ? SigningKeys.fresh() : keys.current();
        String kid = lie.equals("key of that name") ? keys.current().getKeyID() : key.getKeyID();
        SignedJWT jwt = new SignedJWT(
                new JWSHeader.Builder(JWSAlgorithm.RS256).keyID(kid).build(), claims);
        jwt.sign(new RSASSASigner(key));
        return jwt.serialize();
    }
}
