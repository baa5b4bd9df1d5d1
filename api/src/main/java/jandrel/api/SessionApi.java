package jandrel.api;

import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Signing in. */
public final class SessionApi {
    private SessionApi() {}

    /** @param label what the token is for; may be empty */
    public record Credentials(
            String login, String password, @Nullable String label) {
        @Override
        public String toString() {
            return "Credentials[" + login + "]";
        }
    }

    /** @param role {@code administrator}, {@code manager}, {@code rep} or {@code auditor} */
    public record Whoami(
            String login,
            String name,
            String role,
            @Nullable UUID person) {}

    /** A bearer token (RFC 6750); shown this once, kept as a hash. */
    public record Token(String token, Instant expiresAt) {
        @Override
        public String toString() {
            return "Token[until " + expiresAt + "]";
        }
    }

    /** @param person key or address of the person of the company behind the sign-in; empty for nobody */
    public record NewSignIn(
            String login,
            String name,
            String password,
            String role,
            @Nullable String person) {
        @Override
        public String toString() {
            return "NewSignIn[" + login + "]";
        }
    }
}
