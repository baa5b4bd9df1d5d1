package jandrel.service.people;

import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Secrets;
import jandrel.service.kernel.Vault;
import jandrel.store.journal.Journal;
import jandrel.store.people.SecondFactors;
import jandrel.store.people.SecondFactors.SecondFactor;
import jandrel.store.people.SignIns.SignIn;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.InvalidKeyException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import javax.crypto.SecretKey;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.binary.Base32;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * The second factor: six digits that change every half minute (RFC 6238: HMAC-SHA-1, as every program that shows them knows), each taken
 * once; the half minute before and after counts too, as clocks differ. Ten codes help once each when a phone is lost.
 */
@Component
class SecondFactorCodes {
    private static final Duration STEP = Duration.ofSeconds(30);
    private static final int KEY_BYTES = 20;
    private static final int RECOVERY = 10;
    private static final int RECOVERY_BYTES = 10;
    private static final SecureRandom RANDOM = new SecureRandom();
    private final TimeBasedOneTimePasswordGenerator codes = new TimeBasedOneTimePasswordGenerator(STEP);
    private final SecondFactors factors;
    private final SignInLetters letters;
    private final Vault vault;
    private final Journal journal;
    private final Clock clock;

    SecondFactorCodes(SecondFactors factors, SignInLetters letters, Vault vault, Journal journal, Clock clock) {
        this.factors = factors;
        this.letters = letters;
        this.vault = vault;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * @param secret in letters and digits (RFC 4648, base 32), to be typed
     * @param address what a program on a phone reads from a picture
     */
    record Begun(String secret, String address) {}

    boolean isOn(UUID signIn) {
        return factors.of(signIn).filter(f -> f.confirmedAt() != null).isPresent();
    }

    /** How many recovery codes are left. */
    int codesLeft(UUID signIn) {
        return factors.codes(signIn);
    }

    /** Nothing is asked for until a code has shown that it works. */
    @Transactional
    public Begun begin(SignIn signIn) {
        byte[] key = new byte[KEY_BYTES];
        RANDOM.nextBytes(key);
        if (factors.begin(signIn.id(), vault.seal(signIn.id(), key)) == 0) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "The second factor is set up already",
                    "Switch it off first, to set it up anew.");
        }
        String secret = new Base32().encodeToString(key).replace("=", "");
        return new Begun(
                secret,
                "otpauth://totp/Jandrel:" + URLEncoder.encode(signIn.login(), StandardCharsets.UTF_8) + "?secret="
                        + secret + "&issuer=Jandrel");
    }

    /** @return what helps once each when the phone is lost, shown this once */
    @Transactional
    public List<String> confirm(SignIn signIn, String code) {
        SecondFactor factor = factors.of(signIn.id())
                .orElseThrow(() -> Refusal.of(HttpStatus.CONFLICT, "Nothing was begun", "Begin setting it up first."));
        if (!take(factor, plain(code)) || factors.confirm(signIn.id(), clock.instant()) == 0) {
            throw Refusal.bad("The code does not fit", "Wait for the next one; the phone’s clock has to be right.");
        }
        List<String> recovery = new ArrayList<>();
        for (int i = 0; i < RECOVERY; i++) {
            byte[] random = new byte[RECOVERY_BYTES];
            RANDOM.nextBytes(random);
            String one = new Base32().encodeToString(random).toLowerCase(Locale.ROOT);
            recovery.add(one.replaceAll("(.{4})(?!$)", "$1-"));
            factors.addCode(signIn.id(), Secrets.hash(one));
        }
        journal.add(signIn.login(), "set up the second factor of", SignInByMail.thing(signIn), null, null);
        letters.secondFactor(signIn, true);
        return recovery;
    }

    @Transactional
    public void remove(SignIn signIn, String by) {
        if (factors.remove(signIn.id()) > 0) {
            journal.add(by, "switched off the second factor of", SignInByMail.thing(signIn), null, null);
            letters.secondFactor(signIn, false);
        }
    }

    /** Takes it: none is good twice. */
    boolean fits(SignIn signIn, String code) {
        String plain = plain(code);
        return factors.of(signIn.id()).filter(f -> take(f, plain)).isPresent()
                || factors.useCode(signIn.id(), Secrets.hash(plain)) == 1;
    }

    /** As it is kept, however it was typed. */
    private static String plain(String code) {
        return code.replaceAll("[\\s-]", "").toLowerCase(Locale.ROOT);
    }

    private boolean take(SecondFactor factor, String code) {
        SecretKey key = new SecretKeySpec(vault.open(factor.signIn(), factor.secret()), codes.getAlgorithm());
        byte[] given = code.getBytes(StandardCharsets.UTF_8);
        Instant now = clock.instant();
        for (int off = -1; off <= 1; off++) {
            Instant at = now.plus(STEP.multipliedBy(off));
            if (MessageDigest.isEqual(at(key, at).getBytes(StandardCharsets.US_ASCII), given)) {
                return factors.take(factor.signIn(), at.getEpochSecond() / STEP.toSeconds()) == 1;
            }
        }
        return false;
    }

    private String at(SecretKey key, Instant when) {
        try {
            return codes.generateOneTimePasswordString(key, when);
        } catch (InvalidKeyException impossible) {
            throw new IllegalStateException("a key of our own making does not fit", impossible);
        }
    }
}
