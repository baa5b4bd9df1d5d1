package jandrel.service.people;

import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Secrets;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/** Gives tokens for passwords, and knows them again. A token has 256 random bits, so a plain hash of it is enough. */
@Component
class Tokens {
    private static final int MOST_PASSWORD_BYTES = 72;
    private final SignIns signIns;
    private final PasswordEncoder passwords;
    private final SignInPace pace;
    private final Clock clock;
    private final String nobodysPassword;

    Tokens(SignIns signIns, PasswordEncoder passwords, SignInPace pace, Clock clock) {
        this.pace = pace;
        this.signIns = signIns;
        this.passwords = passwords;
        this.clock = clock;
        this.nobodysPassword = String.valueOf(passwords.encode("nobody has this password"));
    }

    record Given(String token, Instant expiresAt, SignedIn who) {}

    /** @param address where the call comes from */
    Given give(String address, String login, String password, String label, Duration life) {
        Instant now = clock.instant();
        // all of this before any password is hashed, which is what costs
        SignInPace.Attempt attempt = pace.attempt(address);
        Optional<SignIn> found = signIns.find(login);
        if (found.isPresent() && signIns.attempt(found.get().id(), now) == 0) {
            throw tooMany(found.get(), now);
        }
        // the same work is done for a login that does not exist, so that time does not tell
        boolean right = passwords.matches(
                shortEnough(password), found.map(SignIn::password).orElse(nobodysPassword));
        if (found.isEmpty() || !right) {
            throw Refusal.of(
                    HttpStatus.UNAUTHORIZED,
                    "Login or password is wrong",
                    "Check both; capitals in the password count.");
        }
        signIns.succeeded(found.get().id());
        attempt.succeeded();
        String token = Secrets.fresh();
        Instant expires = now.plus(life);
        signIns.addToken(Secrets.hash(token), found.get().id(), label, expires);
        return new Given(token, expires, signedIn(found.get()));
    }

    private Refusal tooMany(SignIn signIn, Instant now) {
        Instant until = signIns.one(signIn.id()).map(SignIn::lockedUntil).orElse(null);
        long seconds =
                until == null ? 15 : Math.max(1, Duration.between(now, until).toSeconds() + 1);
        return Refusal.of(
                HttpStatus.TOO_MANY_REQUESTS,
                "Too many wrong passwords",
                "Wait " + seconds + " seconds, then try again.");
    }

    /** bcrypt reads 72 bytes; more can be nobody's password. */
    static String shortEnough(String password) {
        return password.getBytes(StandardCharsets.UTF_8).length <= MOST_PASSWORD_BYTES ? password : "";
    }

    Optional<SignedIn> who(String token) {
        return signIns.byToken(Secrets.hash(token), clock.instant()).map(this::signedIn);
    }

    void takeBack(String token) {
        signIns.removeToken(Secrets.hash(token));
    }

    private SignedIn signedIn(SignIn s) {
        return new SignedIn(s.id(), s.login(), s.name(), Role.valueOf(s.role()), s.person(), s.team());
    }
}
