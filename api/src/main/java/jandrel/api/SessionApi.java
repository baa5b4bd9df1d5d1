package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Signing in. */
public final class SessionApi {
    private SessionApi() {}

    /**
     * @param label what the token is for; may be empty
     * @param device what an earlier {@link Token} named this machine by; may be empty
     * @param code of the second factor, once it is asked for
     */
    public record Credentials(
            String login,
            String password,
            @Nullable String label,
            @Nullable String device,
            @Nullable String code) {
        public Credentials(String login, String password, @Nullable String label, @Nullable String device) {
            this(login, password, label, device, null);
        }

        @Override
        public String toString() {
            return "Credentials[" + login + "]";
        }
    }

    /**
     * @param role {@code administrator}, {@code manager}, {@code rep} or {@code auditor}
     * @param password whether there is a password of theirs here
     * @param setUpSecondFactor whether nothing can be done before a second factor is set up: administrators need one
     * @param choosePassword whether nothing can be done before a password of one's own is chosen: somebody else gave the one there is
     */
    public record Whoami(
            String login,
            String name,
            String role,
            @Nullable UUID person,
            boolean password,
            boolean setUpSecondFactor,
            boolean choosePassword) {}

    /** One's current password. */
    public record OwnProof(String password) {
        @Override
        public String toString() {
            return "OwnProof[]";
        }
    }

    /**
     * How one's second factor stands.
     *
     * @param codesLeft recovery codes that were not used
     */
    public record SecondFactorInfo(boolean on, int codesLeft) {}

    /** A code that a phone shows. */
    public record OwnCode(String code) {
        @Override
        public String toString() {
            return "OwnCode[]";
        }
    }

    /**
     * @param secret to be typed into a phone (RFC 4648, base 32); seen this once
     * @param address the same, as a picture says it
     */
    public record SecondFactorBegun(String secret, String address) {
        @Override
        public String toString() {
            return "SecondFactorBegun[]";
        }
    }

    /** Each is good once; seen this once. */
    public record RecoveryCodes(List<String> codes) {
        @Override
        public String toString() {
            return "RecoveryCodes[]";
        }
    }

    /**
     * A bearer token (RFC 6750); shown this once, kept as a hash.
     *
     * @param device names this machine: guesses from elsewhere do not shut it out
     */
    public record Token(String token, Instant expiresAt, String device) {
        @Override
        public String toString() {
            return "Token[until " + expiresAt + "]";
        }
    }

    /**
     * @param password of somebody who is no person of the company, or the first one of a person, who then chooses another; empty for a
     *     program, and for a person who is invited by mail
     * @param person key or address of the person of the company behind the sign-in; empty for nobody
     * @param program whether it is a program's: it has tokens alone
     */
    public record NewSignIn(
            String login,
            String name,
            @Nullable String password,
            String role,
            @Nullable String person,
            @Nullable Boolean program) {
        @Override
        public String toString() {
            return "NewSignIn[" + login + "]";
        }
    }

    /**
     * @param state {@code active}, with a password; {@code elsewhere}, at a provider alone; {@code invited}; {@code first-password}, which somebody
     *     else gave; {@code program}; {@code ended}
     * @param teams that the lists of a manager or an auditor are limited to; null for no limit
     * @param team of the person
     * @param invitedUntil until when the invitation works; null without one
     * @param sessions how many sessions and tokens there are
     * @param providers the names of those that open it
     */
    public record SignInInfo(
            UUID id,
            String login,
            String name,
            String role,
            String state,
            @Nullable UUID person,
            @Nullable List<String> teams,
            String team,
            Instant addedAt,
            @Nullable Instant lastSeen,
            @Nullable Instant invitedUntil,
            int sessions,
            List<String> providers) {}

    /**
     * @param people keys or addresses; empty for all who have no sign-in
     * @param role of all of them; empty for what each is in the directory
     */
    public record InvitePeople(
            List<String> people, @Nullable String role) {}

    /** @param problem why not; empty for those who are invited */
    public record Invited(String person, String login, String problem) {}

    /** @param teams that the lists of a manager or an auditor are limited to; null for no limit */
    public record RoleChoice(String role, @Nullable List<String> teams) {}

    /** @param login whose it is */
    public record Forgotten(String login) {}

    /** @param secret what the address that came by mail ends with */
    public record SignInLink(String secret) {
        @Override
        public String toString() {
            return "SignInLink";
        }
    }

    /** @param purpose {@code invitation} or {@code reset} */
    public record OpenedLink(String login, String name, String purpose, Instant expiresAt) {}

    /**
     * A password, chosen by the holder of a link.
     *
     * @param code of the second factor, where there is one: who reads somebody's mail does not get in by that alone
     */
    public record ChosenPassword(
            String secret, String password, @Nullable String code) {
        @Override
        public String toString() {
            return "ChosenPassword";
        }
    }

    public record PasswordChange(String current, String wanted) {
        @Override
        public String toString() {
            return "PasswordChange";
        }
    }

    /**
     * A session of the console or of the client, or a token that was made for a program.
     *
     * @param kind {@code console}, {@code client} or {@code made}
     * @param scopes what it may be used for; empty for whatever its sign-in may do
     * @param place the address that it was last used from
     * @param current whether this answer was asked for with it
     */
    public record SessionInfo(
            UUID id,
            String kind,
            String label,
            List<String> scopes,
            Instant createdAt,
            Instant expiresAt,
            @Nullable Instant lastUsed,
            String place,
            boolean current) {}

    /**
     * @param days until it ends, 1 to 366
     * @param scopes {@code read}, {@code capture}, {@code directory}, {@code policy}, {@code scim}, {@code measures}; at least one
     */
    public record NewToken(String label, int days, List<String> scopes) {}
}
