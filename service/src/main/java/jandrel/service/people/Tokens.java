package jandrel.service.people;

import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Secrets;
import jandrel.store.people.PasswordRules;
import jandrel.store.people.SignInAttempts;
import jandrel.store.people.SignInTokens;
import jandrel.store.people.SignInTokens.HolderRow;
import jandrel.store.people.SignInTokens.TokenRow;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** Gives tokens for passwords, and knows them again. A token has 256 random bits, so a plain hash of it is enough. */
@Component
class Tokens {
    /** How much of a login's hash names the count of its wrong passwords: nobody can make more rows than that. */
    private static final int BUCKETS = 1 << 20;

    private static final Duration SEEN_EVERY = Duration.ofMinutes(2);
    private final SignIns signIns;
    private final SignInTokens tokens;
    private final SignInAttempts attempts;
    private final Passwords passwords;
    private final PasswordRules passwordRules;
    private final SecondFactorCodes secondFactors;
    private final SignInPace pace;
    private final Clock clock;

    Tokens(
            SignIns signIns,
            SignInTokens tokens,
            SignInAttempts attempts,
            Passwords passwords,
            PasswordRules passwordRules,
            SecondFactorCodes secondFactors,
            SignInPace pace,
            Clock clock) {
        this.pace = pace;
        this.signIns = signIns;
        this.tokens = tokens;
        this.attempts = attempts;
        this.passwords = passwords;
        this.passwordRules = passwordRules;
        this.secondFactors = secondFactors;
        this.clock = clock;
    }

    /** @param device names the machine from now on: guesses from elsewhere do not shut it out */
    record Given(String token, Instant expiresAt, Holder who, String device) {}

    /**
     * Who asks, and how far their token goes.
     *
     * @param password whether they have one here
     * @param needsCode whether they have still to set up the second factor
     * @param temporary whether they have still to choose a password of their own
     * @param scopes null for whatever they may do
     */
    record Holder(
            SignedIn who,
            UUID token,
            boolean password,
            boolean needsCode,
            boolean temporary,
            @Nullable Set<TokenScope> scopes) {}

    /**
     * @param address where the call comes from
     * @param code of the second factor; empty for none
     * @param device what an earlier one was given; empty for none
     */
    Given give(
            String address,
            String login,
            String password,
            String code,
            String kind,
            String label,
            Duration life,
            String device) {
        Proven proven = prove(address, login, password, device)
                .orElseThrow(() -> Refusal.of(
                        HttpStatus.UNAUTHORIZED,
                        "Login or password is wrong",
                        "Check both; capitals in the password count."));
        secondFactor(proven.signIn(), code);
        return open(proven.signIn(), kind, label, life, address, proven.known() ? device : "");
    }

    /** Only who knows the password comes this far; codes are counted as passwords are, apart from them. */
    void secondFactor(SignIn signIn, String code) {
        if (!secondFactors.isOn(signIn.id())) {
            return;
        }
        if (code.isBlank()) {
            throw Refusal.of(
                    HttpStatus.PRECONDITION_REQUIRED,
                    "A code is needed",
                    "It is the six digits that your phone shows for Jandrel, or one of your recovery codes; the client asks for it with --code.");
        }
        Instant now = clock.instant();
        int bucket = bucket("code of " + signIn.id());
        if (attempts.attempt(bucket, now) == 0) {
            throw tooMany(bucket, now);
        }
        if (!secondFactors.fits(signIn, code)) {
            throw Refusal.of(HttpStatus.UNAUTHORIZED, "The code is wrong", "Each is good once: wait for the next one.");
        }
        attempts.succeeded(bucket);
    }

    /** Opens a console's session for somebody whom a provider vouches for. */
    Given openFor(SignIn signIn, Duration life, String address, String device) {
        boolean known = !device.isEmpty() && attempts.fromDevice(Secrets.hash(device), signIn.login()) == 1;
        if (known) {
            attempts.deviceSucceeded(Secrets.hash(device), clock.instant());
        }
        return open(signIn, "console", "", life, address, known ? device : "");
    }

    /** @param known whether it was proven from where this sign-in was proven before */
    record Proven(SignIn signIn, boolean known) {}

    /**
     * Looks at a password, and counts the wrong ones.
     *
     * @return nothing where it is wrong, or nobody's
     * @throws Refusal where there were too many
     */
    Optional<Proven> prove(String address, String login, String password, String device) {
        Instant now = clock.instant();
        // all of this before any password is hashed, which is what costs
        boolean known = !device.isEmpty() && attempts.fromDevice(Secrets.hash(device), login) == 1;
        Optional<SignInPace.Attempt> attempt = known ? Optional.empty() : Optional.of(pace.attempt(address));
        int bucket = bucket(login);
        if (!known && attempts.attempt(bucket, now) == 0) {
            throw tooMany(bucket, now);
        }
        Optional<SignIn> found = signIns.find(login).filter(s -> s.endedAt() == null);
        String hash = found.map(SignIn::password).orElse(null);
        if (!passwords.fits(password, hash)) {
            return Optional.empty();
        }
        if (known) {
            attempts.deviceSucceeded(Secrets.hash(device), now);
        } else {
            attempts.succeeded(bucket);
        }
        attempt.ifPresent(SignInPace.Attempt::succeeded);
        found.ifPresent(this::needsPasswords);
        return found.map(s -> new Proven(hashedAsToday(s, password), known));
    }

    /** @throws Refusal where passwords open nothing: told to nobody but who knows the right one */
    void needsPasswords(SignIn signIn) {
        if (!passwordRules.allows(signIn.id())) {
            throw Refusal.of(
                    HttpStatus.FORBIDDEN,
                    "Passwords are switched off here",
                    "Sign in with your company’s account, in the console; for the client, create a token there, then “jandrel sign-in --token”.");
        }
    }

    private SignIn hashedAsToday(SignIn signIn, String password) {
        String hash = signIn.password();
        if (hash != null && passwords.isOld(hash)) {
            signIns.hashedAnew(signIn.id(), hash, passwords.hash(password));
        }
        return signIn;
    }

    /** Opens a session, whatever proved who it is. */
    Given open(SignIn signIn, String kind, String label, Duration life, String address, String device) {
        Instant now = clock.instant();
        String known = device;
        if (known.isEmpty()) {
            known = Secrets.fresh();
            attempts.addDevice(Secrets.hash(known), signIn.id(), now);
        }
        TokenRow row =
                new TokenRow(UUID.randomUUID(), signIn.id(), kind, label, null, now, now.plus(life), now, address);
        String token = added(row);
        signIns.seen(signIn.id(), now);
        SignedIn who = new SignedIn(
                signIn.id(),
                signIn.login(),
                signIn.name(),
                Role.valueOf(signIn.role()),
                signIn.person(),
                signIn.team(),
                Viewers.oversight(signIn.role(), signIn.person(), signIn.overseen()));
        return new Given(
                token,
                row.expiresAt(),
                new Holder(who, row.id(), signIn.password() != null, needsCode(signIn), signIn.temporary(), null),
                known);
    }

    private boolean needsCode(SignIn signIn) {
        return signIn.role().equals(Role.ADMINISTRATOR.name())
                && passwordRules.administratorsNeedCodes()
                && !secondFactors.isOn(signIn.id());
    }

    /** @return the token itself, which is seen this once */
    String added(TokenRow row) {
        String token = Secrets.fresh();
        tokens.add(Secrets.hash(token), row);
        return token;
    }

    private Refusal tooMany(int bucket, Instant now) {
        Instant until = attempts.shutUntil(bucket);
        long seconds =
                until == null ? 15 : Math.max(1, Duration.between(now, until).toSeconds() + 1);
        return Refusal.of(
                HttpStatus.TOO_MANY_REQUESTS,
                "Too many wrong passwords",
                "Wait " + seconds + " seconds, then try again.");
    }

    private static int bucket(String login) {
        byte[] hash = Secrets.hash(login.toLowerCase(Locale.ROOT));
        return Math.floorMod(Arrays.hashCode(hash), BUCKETS);
    }

    /** @param address where the call comes from */
    Optional<Holder> who(String token, String address) {
        Instant now = clock.instant();
        Optional<HolderRow> found = tokens.holder(Secrets.hash(token), now);
        found.filter(h -> h.lastUsed() == null || h.lastUsed().isBefore(now.minus(SEEN_EVERY)))
                .ifPresent(h -> {
                    tokens.used(h.token(), address, now);
                    signIns.seen(h.id(), now);
                });
        return found.map(h -> new Holder(
                new SignedIn(
                        h.id(),
                        h.login(),
                        h.name(),
                        Role.valueOf(h.role()),
                        h.person(),
                        h.team(),
                        Viewers.oversight(h.role(), h.person(), h.overseen())),
                h.token(),
                h.password(),
                h.needsCode(),
                h.temporary(),
                scopes(h.scopes())));
    }

    private static @Nullable Set<TokenScope> scopes(String @Nullable [] words) {
        return words == null
                ? null
                : Arrays.stream(words)
                        .flatMap(w -> TokenScope.called(w).stream())
                        .collect(Collectors.toCollection(() -> EnumSet.noneOf(TokenScope.class)));
    }

    void takeBack(String token) {
        tokens.remove(Secrets.hash(token));
    }
}
