package jandrel.formats.mail;

import jandrel.core.item.Content.Attachment;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.Locale;
import java.util.Optional;
import org.apache.james.mime4j.MimeException;
import org.apache.james.mime4j.stream.EntityState;
import org.apache.james.mime4j.stream.MimeTokenStream;
import org.apache.james.mime4j.stream.RecursionMode;

/** Takes one attachment out of a whole message. */
public final class Attached {

    private Attached() {}

    /** The first of that name and type, decoded; nothing when the message has none such, or cannot be read as far as there. */
    public static Optional<byte[]> of(byte[] message, Attachment wanted) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try {
            return copy(message, wanted, bytes) ? Optional.of(bytes.toByteArray()) : Optional.empty();
        } catch (IOException broken) {
            return Optional.empty();
        }
    }

    /**
     * The same, a piece at a time.
     *
     * @return whether the message has it
     * @throws IOException if the taker of it fails, or the message breaks off within it
     */
    public static boolean copy(byte[] message, Attachment wanted, OutputStream to) throws IOException {
        try {
            return found(message, wanted, to);
        } catch (MimeException broken) {
            return false;
        }
    }

    private static boolean found(byte[] message, Attachment wanted, OutputStream to) throws MimeException, IOException {
        MimeTokenStream stream = new MimeTokenStream(MimeWalk.CONFIG);
        stream.setRecursionMode(RecursionMode.M_NO_RECURSE);
        stream.parse(new ByteArrayInputStream(message));
        Headers part = new Headers(MailLimits.USUAL);
        int depth = 0;
        for (EntityState state = stream.getState(); state != EntityState.T_END_OF_STREAM; state = stream.next()) {
            switch (state) {
                case T_START_BODYPART -> part = new Headers(MailLimits.USUAL);
                case T_FIELD -> part.add(stream.getField().getName(), stream.getField()::getBody);
                case T_START_MULTIPART -> depth++;
                case T_END_MULTIPART -> depth--;
                case T_BODY -> {
                    String type = stream.getBodyDescriptor().getMimeType().toLowerCase(Locale.ROOT);
                    String name = MimeWalk.name(part);
                    if (type.equals(wanted.type()) && (name.isEmpty() ? "unnamed" : name).equals(wanted.name())) {
                        try (InputStream in = stream.getDecodedInputStream()) {
                            in.transferTo(to);
                            return true;
                        }
                    }
                }
                default -> {
                    // says nothing
                }
            }
            if (depth > MailLimits.USUAL.depth()) {
                return false;
            }
        }
        return false;
    }
}
