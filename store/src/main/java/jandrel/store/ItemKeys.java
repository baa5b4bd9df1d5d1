package jandrel.store;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.UUID;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/**
 * Names items and sightings by a keyed hash (HMAC-SHA-256, its first 128 bits), so that what was left out cannot be looked up by
 * somebody who guesses its Message-ID and reads the database.
 */
public final class ItemKeys {
    private final SecretKeySpec key;

    /** @param secret at least 32 bytes */
    public ItemKeys(byte[] secret) {
        if (secret.length < 32) {
            throw new IllegalArgumentException("the hashing key must have 32 bytes");
        }
        key = new SecretKeySpec(secret, "HmacSHA256");
    }

    public UUID item(String identity) {
        return hash("item\n" + identity);
    }

    public UUID sighting(int source, String position) {
        return hash("sighting\n" + source + "\n" + position);
    }

    private UUID hash(String text) {
        try {
            Mac mac = Mac.getInstance("HmacSHA256");
            mac.init(key);
            ByteBuffer bytes = ByteBuffer.wrap(mac.doFinal(text.getBytes(StandardCharsets.UTF_8)));
            return new UUID(bytes.getLong(), bytes.getLong());
        } catch (GeneralSecurityException impossible) {
            throw new IllegalStateException("this Java lacks HMAC-SHA-256", impossible);
        }
    }
}
