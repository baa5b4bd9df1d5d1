package jandrel.service.kernel;

import com.google.crypto.tink.subtle.AesGcmHkdfStreaming;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.UUID;

/**
 * Files that only an installation with the same key file opens: AES-256-GCM in segments of 1 MiB, each with a key of its own by HKDF (RFC
 * 5869) from the key file's. What was changed, cut or put together anew is not opened.
 */
public final class SealedStreams {
    private static final byte[] PURPOSE = "jandrel everything 1".getBytes(StandardCharsets.UTF_8);
    private static final int KEY_BYTES = 32;
    private static final int SEGMENT = 1 << 20;

    private final AesGcmHkdfStreaming cipher;
    private final UUID check;

    SealedStreams(byte[] key, UUID check) throws GeneralSecurityException {
        this.cipher = new AesGcmHkdfStreaming(key, "HmacSha256", KEY_BYTES, SEGMENT, 0);
        this.check = check;
    }

    /** What the key file is known by. */
    public UUID check() {
        return check;
    }

    public OutputStream seal(OutputStream to) throws IOException {
        try {
            return cipher.newEncryptingStream(to, PURPOSE);
        } catch (GeneralSecurityException broken) {
            throw new IllegalStateException("a file could not be sealed", broken);
        }
    }

    /** Reading from it fails, with an IOException, where it was sealed by another key file or changed since. */
    public InputStream open(InputStream from) throws IOException {
        try {
            return cipher.newDecryptingStream(from, PURPOSE);
        } catch (GeneralSecurityException broken) {
            throw new IOException("a file could not be opened", broken);
        }
    }
}
