package jandrel.service.people;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Base64;
import javax.crypto.Mac;
import javax.crypto.SecretKeyFactory;
import javax.crypto.spec.PBEKeySpec;
import javax.crypto.spec.SecretKeySpec;

/**
 * A password that nobody chose, and what PostgreSQL keeps of it, so that the password itself never goes there.
 *
 * @param verifier as RFC 5803 has it, for SCRAM-SHA-256 (RFC 5802, RFC 7677)
 */
record ReaderPassword(String password, String verifier) {
    private static final int ITERATIONS = 4_096;
    private static final int BITS = 256;
    private static final SecureRandom RANDOM = new SecureRandom();

    static ReaderPassword fresh() {
        byte[] secret = new byte[24];
        byte[] salt = new byte[16];
        RANDOM.nextBytes(secret);
        RANDOM.nextBytes(salt);
        return of(Base64.getUrlEncoder().encodeToString(secret), salt);
    }

    /** @param password of ASCII alone, which needs no preparation (RFC 4013) */
    static ReaderPassword of(String password, byte[] salt) {
        try {
            byte[] salted = SecretKeyFactory.getInstance("PBKDF2WithHmacSHA256")
                    .generateSecret(new PBEKeySpec(password.toCharArray(), salt, ITERATIONS, BITS))
                    .getEncoded();
            byte[] stored = MessageDigest.getInstance("SHA-256").digest(keyed(salted, "Client Key"));
            return new ReaderPassword(
                    password,
                    "SCRAM-SHA-256$" + ITERATIONS + ":" + base64(salt) + "$" + base64(stored) + ":"
                            + base64(keyed(salted, "Server Key")));
        } catch (GeneralSecurityException never) {
            throw new IllegalStateException("this Java lacks SHA-256", never);
        }
    }

    private static byte[] keyed(byte[] key, String word) throws GeneralSecurityException {
        Mac mac = Mac.getInstance("HmacSHA256");
        mac.init(new SecretKeySpec(key, "HmacSHA256"));
        return mac.doFinal(word.getBytes(StandardCharsets.US_ASCII));
    }

    private static String base64(byte[] bytes) {
        return Base64.getEncoder().encodeToString(bytes);
    }

    @Override
    public String toString() {
        return "a password";
    }
}
