package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Signing in at a provider elsewhere (OpenID Connect Core 1.0). */
public final class SingleSignOnApi {
    private SingleSignOnApi() {}

    /** What a page says that lets people in. */
    public record WayIn(UUID id, String name) {}

    /** @param passwords whether everybody may sign in with a password; where not, named administrators still do */
    public record WaysIn(List<WayIn> providers, boolean passwords) {}

    /** @param at where the browser goes to end the session at the provider, too */
    public record SignedOut(String at) {}

    /** @param role {@code administrator}, {@code manager}, {@code rep} or {@code auditor} */
    public record RoleOfGroup(String group, String role) {}

    /**
     * @param issuer https, as its metadata names it (OpenID Connect Discovery 1.0)
     * @param hasSecret whether the client has one
     * @param groupsClaim the claim that names somebody's groups
     * @param otherwise the role of somebody whose groups have none, or {@code none} for no way in; counts only where groups have roles
     * @param redirect what the provider is to be told: where its answers go
     * @param people how many sign-ins it has opened
     */
    public record ProviderInfo(
            UUID id,
            String name,
            String issuer,
            String clientId,
            boolean hasSecret,
            String groupsClaim,
            List<RoleOfGroup> roles,
            String otherwise,
            String redirect,
            Instant addedAt,
            int people) {}

    /**
     * @param issuer not changed later, nor is the client's id
     * @param clientSecret empty for none; null, when it is changed, for the one there is
     * @param groupsClaim empty for {@code groups}
     */
    public record NewProvider(
            String name,
            String issuer,
            String clientId,
            @Nullable String clientSecret,
            @Nullable String groupsClaim,
            @Nullable List<RoleOfGroup> roles,
            @Nullable String otherwise) {
        @Override
        public String toString() {
            return "NewProvider[" + name + "]";
        }
    }

    /**
     * @param allowed whether everybody may sign in with a password
     * @param emergency logins of administrators who may when nobody else does
     * @param administratorsNeedCodes whether administrators who sign in with a password need a second factor
     */
    public record PasswordRule(
            boolean allowed,
            List<String> emergency,
            @Nullable Boolean administratorsNeedCodes) {
        public PasswordRule(boolean allowed, List<String> emergency) {
            this(allowed, emergency, null);
        }
    }
}
