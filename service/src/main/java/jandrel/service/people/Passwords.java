package jandrel.service.people;

import com.nulabinc.zxcvbn.Strength;
import com.nulabinc.zxcvbn.Zxcvbn;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Settings;
import java.security.SecureRandom;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.DelegatingPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/** Hashes passwords by argon2id (RFC 9106), a few at a time, and says which are too easy to guess. */
@Component
class Passwords {
    private static final Logger LOG = LoggerFactory.getLogger(Passwords.class);
    private static final String ARGON = "argon2id";
    private static final int SALT_BYTES = 16;
    private static final int HASH_BYTES = 32;
    private static final int ITERATIONS = 2;
    private static final int USUAL_MEMORY = 19;
    private static final int KIB = 1_024;
    private static final int SHORTEST = 10;
    private static final int LONGEST = 200;
    /** Of a longer one so much is looked at: what estimating costs grows faster than its length. */
    private static final int ESTIMATED = 60;
    /** Powers of ten: what stands between a stolen hash and its password. */
    private static final double FEWEST_GUESSES = 10;

    private static final int PATIENCE_SECONDS = 5;
    private final PasswordEncoder encoder;
    /** Half of the processors are left to those who do not try passwords. */
    private final Semaphore turns =
            new Semaphore(Math.max(1, Runtime.getRuntime().availableProcessors() / 2), true);

    private final String nobodys;

    /** Its dictionaries are read when somebody first chooses a password. */
    private static final class Estimator {
        static final Zxcvbn HERE = new Zxcvbn();
    }

    Passwords(Settings settings) {
        int memory = settings.signIns().passwordMemory();
        if (memory < USUAL_MEMORY) {
            LOG.warn(
                    "jandrel.sign-ins.password-memory is {}: stolen hashes of passwords are guessed easily; set {}",
                    memory,
                    USUAL_MEMORY);
        }
        BCryptPasswordEncoder before = new BCryptPasswordEncoder();
        DelegatingPasswordEncoder known = new DelegatingPasswordEncoder(
                ARGON, Map.of(ARGON, new Argon2PasswordEncoder(SALT_BYTES, HASH_BYTES, 1, memory * KIB, ITERATIONS)));
        // hashes of before this was argon2id
        known.setDefaultPasswordEncoderForMatches(before);
        encoder = known;
        nobodys = nobodys(memory * KIB);
    }

    /** Of random bytes, so that no password fits it; with the settings of all others, so that it takes as long as theirs. */
    static String nobodys(int kib) {
        SecureRandom random = new SecureRandom();
        byte[] salt = new byte[SALT_BYTES];
        byte[] hash = new byte[HASH_BYTES];
        random.nextBytes(salt);
        random.nextBytes(hash);
        Base64.Encoder text = Base64.getEncoder().withoutPadding();
        return "{" + ARGON + "}$argon2id$v=19$m=" + kib + ",t=" + ITERATIONS + ",p=1$" + text.encodeToString(salt) + "$"
                + text.encodeToString(hash);
    }

    final String hash(String password) {
        return String.valueOf(encoder.encode(password));
    }

    /**
     * The same work is done for a sign-in without a password, so that time does not tell.
     *
     * @param hash null for none
     * @throws Refusal while too many others are at it
     */
    boolean fits(String password, @Nullable String hash) {
        try {
            if (!turns.tryAcquire(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
                throw Refusal.of(
                        HttpStatus.SERVICE_UNAVAILABLE,
                        "Too many people are signing in",
                        "Wait a few seconds, then try again.");
            }
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw Refusal.of(HttpStatus.SERVICE_UNAVAILABLE, "The service is stopping", "Try again in a minute.");
        }
        try {
            boolean fits = encoder.matches(password.length() > LONGEST ? "" : password, hash == null ? nobodys : hash);
            return fits && hash != null;
        } finally {
            turns.release();
        }
    }

    boolean isOld(String hash) {
        return encoder.upgradeEncoding(hash);
    }

    /**
     * @param about what somebody who guesses would try first: login, name, address
     * @throws Refusal when it is too short, too long or too easy to guess
     */
    void check(String wanted, String... about) {
        if (wanted.length() < SHORTEST || wanted.length() > LONGEST) {
            throw Refusal.bad(
                    "The password does not do",
                    "It needs " + SHORTEST + " characters at least, and " + LONGEST + " at most.");
        }
        List<String> known = Arrays.stream(about)
                .flatMap(a -> Arrays.stream((a + " " + a.replaceAll("[^\\p{L}\\p{N}]+", " ")).split(" ")))
                .filter(a -> !a.isEmpty())
                .toList();
        Strength strength = Estimator.HERE.measure(wanted.substring(0, Math.min(ESTIMATED, wanted.length())), known);
        if (strength.getGuessesLog10() < FEWEST_GUESSES) {
            String why = strength.getFeedback().getWarning();
            throw Refusal.bad(
                    "The password is too easy to guess",
                    (why == null || why.isBlank() ? "" : why + ". ").replace("..", ".")
                            + "Three or four words that have nothing to do with each other do well.");
        }
    }
}
