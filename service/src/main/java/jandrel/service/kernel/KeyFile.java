package jandrel.service.kernel;

import java.io.IOException;
import java.nio.file.Path;
import java.security.GeneralSecurityException;

/** What the key file opens, before the service is put together or without it. */
public final class KeyFile {
    private KeyFile() {}

    /** Of a file that is there. */
    public static SealedStreams sealedStreams(Path file) throws IOException, GeneralSecurityException {
        return Keys.of(file).sealedStreams();
    }
}
