package jandrel.standin;

import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.springframework.security.oauth2.core.AuthorizationGrantType;
import org.springframework.security.oauth2.core.OAuth2AccessToken;
import org.springframework.security.oauth2.server.authorization.OAuth2Authorization;
import org.springframework.security.oauth2.server.authorization.OAuth2AuthorizationService;
import org.springframework.security.oauth2.server.authorization.OAuth2TokenType;
import org.springframework.security.oauth2.server.authorization.client.RegisteredClient;
import org.springframework.stereotype.Component;

/** What was granted, in memory, so that all of one person's can be taken back at once, as after a password reset. */
@Component
class Grants implements OAuth2AuthorizationService {
    private final Map<String, OAuth2Authorization> byId = new ConcurrentHashMap<>();

    @Override
    public void save(OAuth2Authorization authorization) {
        byId.put(authorization.getId(), authorization);
    }

    @Override
    public void remove(OAuth2Authorization authorization) {
        byId.remove(authorization.getId());
    }

    @Override
    public @Nullable OAuth2Authorization findById(String id) {
        return byId.get(id);
    }

    @Override
    public @Nullable OAuth2Authorization findByToken(String token, @Nullable OAuth2TokenType type) {
        return byId.values().stream()
                .filter(a -> a.getToken(token) != null || token.equals(a.getAttribute("state")))
                .findFirst()
                .orElse(null);
    }

    int takeBack(String person) {
        int before = byId.size();
        byId.values().removeIf(a -> a.getPrincipalName().equals(person));
        return before - byId.size();
    }

    /** A token for any account, by the organisation's key. */
    OAuth2AccessToken give(RegisteredClient client, String account, Set<String> scopes, Duration life) {
        Instant now = Instant.now();
        OAuth2AccessToken token = new OAuth2AccessToken(
                OAuth2AccessToken.TokenType.BEARER, UUID.randomUUID().toString(), now, now.plus(life), scopes);
        save(OAuth2Authorization.withRegisteredClient(client)
                .principalName(account)
                .authorizationGrantType(AuthorizationGrantType.JWT_BEARER)
                .token(
                        token,
                        metadata -> metadata.put(
                                OAuth2Authorization.Token.CLAIMS_METADATA_NAME,
                                Map.of("sub", account, "iat", now, "exp", now.plus(life))))
                .build());
        return token;
    }
}
