package jandrel.store.kernel;

import jandrel.core.item.Content;
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

    /** The same for one key, and never for two. */
    public UUID check() {
        return hash("installation");
    }

    /** @param number as {@link jandrel.core.address.PhoneNumber} writes it */
    public UUID phone(String number) {
        return hash("phone\n" + number);
    }

    /** Names a text, so that copies which say the same are known as such. */
    public UUID content(UUID item, Content content) {
        StringBuilder all =
                new StringBuilder(content.text().length() + content.html().length() + 100);
        all.append("content\n")
                .append(item)
                .append('\n')
                .append(content.text())
                .append('\0')
                .append(content.html());
        content.attachments()
                .forEach(a -> all.append('\0')
                        .append(a.name())
                        .append('\0')
                        .append(a.type())
                        .append(a.bytes()));
        return hash(all.toString());
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
