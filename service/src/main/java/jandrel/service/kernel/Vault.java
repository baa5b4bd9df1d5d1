package jandrel.service.kernel;

import com.google.crypto.tink.Aead;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.UUID;

/** Encrypts the secrets of connections; each is bound to its connection, so that none can be moved to another. */
public final class Vault {
    private final Aead aead;

    Vault(Aead aead) {
        this.aead = aead;
    }

    public byte[] lock(UUID connection, String secret) {
        try {
            return aead.encrypt(secret.getBytes(StandardCharsets.UTF_8), bound(connection));
        } catch (GeneralSecurityException broken) {
            throw new IllegalStateException("a secret could not be encrypted", broken);
        }
    }

    public String unlock(UUID connection, byte[] secret) {
        try {
            return new String(aead.decrypt(secret, bound(connection)), StandardCharsets.UTF_8);
        } catch (GeneralSecurityException otherKey) {
            throw new IllegalStateException(
                    "the key file is not the one that this secret was encrypted with", otherKey);
        }
    }

    /** Bytes, bound like a secret. */
    public byte[] seal(UUID connection, byte[] bytes) {
        try {
            return aead.encrypt(bytes, bound(connection));
        } catch (GeneralSecurityException broken) {
            throw new IllegalStateException("a message could not be encrypted", broken);
        }
    }

    public byte[] open(UUID connection, byte[] sealed) {
        try {
            return aead.decrypt(sealed, bound(connection));
        } catch (GeneralSecurityException otherKey) {
            throw new IllegalStateException(
                    "the key file is not the one that this message was encrypted with", otherKey);
        }
    }

    private static byte[] bound(UUID connection) {
        return connection.toString().getBytes(StandardCharsets.UTF_8);
    }
}
