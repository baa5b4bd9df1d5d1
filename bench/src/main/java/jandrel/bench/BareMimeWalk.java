package jandrel.bench;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import org.apache.james.mime4j.MimeException;
import org.apache.james.mime4j.stream.EntityState;
import org.apache.james.mime4j.stream.MimeConfig;
import org.apache.james.mime4j.stream.MimeTokenStream;
import org.apache.james.mime4j.stream.RecursionMode;

/** What the MIME library alone takes: it walks messages and decodes them, and nothing is made of that. For one thread. */
final class BareMimeWalk {
    private static final MimeConfig CONFIG = MimeConfig.custom()
            .setStrictParsing(false)
            .setMaxLineLen(1_000_000)
            .setMaxHeaderLen(1_000_000)
            .setMaxContentLen(-1)
            .build();
    private final byte[] buffer = new byte[8_192];
    private long kept;

    void over(List<byte[]> messages) throws IOException, MimeException {
        for (byte[] message : messages) {
            MimeTokenStream stream = new MimeTokenStream(CONFIG);
            stream.setRecursionMode(RecursionMode.M_NO_RECURSE);
            stream.parse(new ByteArrayInputStream(message));
            for (EntityState state = stream.getState(); state != EntityState.T_END_OF_STREAM; state = stream.next()) {
                if (state == EntityState.T_FIELD) {
                    kept += stream.getField().getBody().length();
                } else if (state == EntityState.T_BODY) {
                    try (InputStream in = stream.getDecodedInputStream()) {
                        for (int n = in.read(buffer); n >= 0; n = in.read(buffer)) {
                            kept += n;
                        }
                    }
                }
            }
        }
    }

    /** Something that depends on all that was walked. */
    long kept() {
        return kept;
    }
}
