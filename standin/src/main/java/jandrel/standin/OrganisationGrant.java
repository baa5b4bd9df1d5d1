package jandrel.standin;

import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.crypto.RSASSAVerifier;
import com.nimbusds.jwt.SignedJWT;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.interfaces.RSAPublicKey;
import java.security.spec.X509EncodedKeySpec;
import java.text.ParseException;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Set;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.security.oauth2.server.authorization.client.RegisteredClient;
import org.springframework.security.oauth2.server.authorization.client.RegisteredClientRepository;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** RFC 7523 §2.1: who signs with the organisation's key gets a token for whichever account the assertion names. */
@Component
class OrganisationGrant extends OncePerRequestFilter {
    static final String CLIENT = "jandrel";
    private static final String GRANT = "urn:ietf:params:oauth:grant-type:jwt-bearer";
    private static final Duration LIFE = Duration.ofMinutes(10);
    private final Grants grants;
    private final RegisteredClientRepository clients;
    private final String keyFile;

    OrganisationGrant(
            Grants grants, RegisteredClientRepository clients, @Value("${STANDIN_ORGANISATION_KEY:}") String keyFile) {
        this.grants = grants;
        this.clients = clients;
        this.keyFile = keyFile;
    }

    /** It belongs into the chain of the protocol alone. */
    @Bean
    static FilterRegistrationBean<OrganisationGrant> notForAll(OrganisationGrant grant) {
        FilterRegistrationBean<OrganisationGrant> registration = new FilterRegistrationBean<>(grant);
        registration.setEnabled(false);
        return registration;
    }

    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
        return !request.getRequestURI().equals("/oauth2/token") || !GRANT.equals(request.getParameter("grant_type"));
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        response.setContentType("application/json");
        RegisteredClient client = clients.findByClientId(CLIENT);
        try {
            SignedJWT jwt = SignedJWT.parse(request.getParameter("assertion"));
            boolean good = client != null
                    && jwt.verify(new RSASSAVerifier(key()))
                    && CLIENT.equals(jwt.getJWTClaimsSet().getIssuer())
                    && jwt.getJWTClaimsSet().getExpirationTime().toInstant().isAfter(Instant.now());
            if (good && client != null) {
                String token = grants.give(client, jwt.getJWTClaimsSet().getSubject(), Set.of("mail", "calendar"), LIFE)
                        .getTokenValue();
                response.getWriter()
                        .write("{\"access_token\":\"" + token + "\",\"token_type\":\"Bearer\",\"expires_in\":"
                                + LIFE.toSeconds() + "}");
                return;
            }
        } catch (ParseException | JOSEException | GeneralSecurityException forged) {
            // refused below, like one that is signed by somebody else
        }
        response.setStatus(400);
        response.getWriter().write("{\"error\":\"invalid_grant\"}");
    }

    private RSAPublicKey key() throws IOException, GeneralSecurityException {
        byte[] bytes = Base64.getMimeDecoder()
                .decode(Files.readString(Path.of(keyFile)).replaceAll("-----[A-Z ]+-----", ""));
        return (RSAPublicKey) KeyFactory.getInstance("RSA").generatePublic(new X509EncodedKeySpec(bytes));
    }
}
