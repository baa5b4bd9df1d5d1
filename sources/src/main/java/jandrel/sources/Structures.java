package jandrel.sources;

import jakarta.mail.internet.ParameterList;
import jandrel.core.item.Content.Attachment;
import java.util.List;
import java.util.Locale;
import org.eclipse.angus.mail.imap.protocol.BODYSTRUCTURE;
import org.jspecify.annotations.Nullable;

/** Names, types and sizes of attachments as the server describes them (RFC 3501 §7.4.2). */
final class Structures {
    private static final int DEEPEST = 30;
    private static final int MOST = 500;

    private Structures() {}

    static void collect(@Nullable BODYSTRUCTURE part, List<Attachment> into, int depth) {
        if (part == null || depth > DEEPEST || into.size() >= MOST) {
            return;
        }
        if (part.isMulti()) {
            for (BODYSTRUCTURE child : part.bodies) {
                collect(child, into, depth + 1);
            }
            return;
        }
        String name = name(part);
        boolean text = "text".equalsIgnoreCase(part.type) && name.isEmpty();
        if (!text || "attachment".equalsIgnoreCase(part.disposition)) {
            String type = (part.type + "/" + part.subtype).toLowerCase(Locale.ROOT);
            into.add(new Attachment(name.isEmpty() ? "unnamed" : name, type, decoded(part)));
        }
    }

    private static String name(BODYSTRUCTURE part) {
        String name = parameter(part.dParams, "filename");
        String found = name.isEmpty() ? parameter(part.cParams, "name") : name;
        return found.replaceAll("[\\p{Cntrl}\\p{Cf}/\\\\]", "").strip();
    }

    private static String parameter(@Nullable ParameterList parameters, String name) {
        String value = parameters == null ? null : parameters.get(name);
        return value == null ? "" : value;
    }

    /** The server counts the encoded bytes: base64 makes four of three, and a line end after each 76. */
    private static long decoded(BODYSTRUCTURE part) {
        return "base64".equalsIgnoreCase(part.encoding) ? Math.round(part.size * (76 / 78.0) * 0.75) : part.size;
    }
}
