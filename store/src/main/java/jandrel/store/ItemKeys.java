package jandrel.store;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.UUID;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/**
 * Names items and sightings by a keyed hash (HMAC-SHA-256, its first 128 bits), so that what was left out cannot be looked up by
 * somebody who guesses its Message-ID and reads the database. Telephone numbers in what waits are kept in the same way.
 */
public final class ItemKeys {
    private final Mac keyed;

    /** @param secret at least 32 bytes */
    public ItemKeys(byte[] secret) {
        if (secret.length < 32) {
            throw new IllegalArgumentException("the hashing key must have 32 bytes");
        }
        try {
            keyed = Mac.getInstance("HmacSHA256");
            keyed.init(new SecretKeySpec(secret, "HmacSHA256"));
        } catch (GeneralSecurityException impossible) {
            throw new IllegalStateException("this Java lacks HMAC-SHA-256", impossible);
        }
    }

    public UUID item(String identity) {
        return hash("item\n" + identity);
    }

    public UUID sighting(int source, String position) {
        return hash("sighting\n" + source + "\n" + position);
    }

    /** @param number as {@link jandrel.core.address.PhoneNumber} writes it */
    UUID phone(String number) {
        return hash("phone\n" + number);
    }

    private UUID hash(String text) {
        try {
            // looking a Mac up and keying it costs more than the hash; a copy of a keyed one costs next to nothing
            Mac mac = (Mac) keyed.clone();
            ByteBuffer bytes = ByteBuffer.wrap(mac.doFinal(text.getBytes(StandardCharsets.UTF_8)));
            return new UUID(bytes.getLong(), bytes.getLong());
        } catch (CloneNotSupportedException impossible) {
            throw new IllegalStateException("this Java's HMAC-SHA-256 cannot be copied", impossible);
        }
    }
}
