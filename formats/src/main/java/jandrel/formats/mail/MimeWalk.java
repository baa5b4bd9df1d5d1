package jandrel.formats.mail;

import jandrel.core.item.Content.Attachment;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.apache.james.mime4j.MimeException;
import org.apache.james.mime4j.stream.EntityState;
import org.apache.james.mime4j.stream.Field;
import org.apache.james.mime4j.stream.MimeConfig;
import org.apache.james.mime4j.stream.MimeTokenStream;
import org.apache.james.mime4j.stream.RecursionMode;
import org.jspecify.annotations.Nullable;

/** One pass over a message: its header, its text, the names of its attachments. Used once, by one thread. */
final class MimeWalk {
    static final MimeConfig CONFIG = MimeConfig.custom()
            .setStrictParsing(false)
            .setMalformedHeaderStartsBody(false)
            .setMaxLineLen(1_000_000)
            .setMaxHeaderLen(1_000_000)
            .setMaxHeaderCount(5_000)
            .setMaxContentLen(-1)
            .build();
    private static final Charset OLD = Charset.forName("windows-1252");
    private static final int LONGEST_NAME = 200;
    private static final int LONGEST_MEETING = 256 * 1024;
    private static final int LONGEST_HEADER = 16 * 1024;

    private final MailLimits limits;
    private final Headers header;
    private final Text plain = new Text();
    private final Text html = new Text();
    private final List<Attachment> attachments = new ArrayList<>();
    private Headers current;
    private int depth;
    private int parts;
    private boolean cut;
    private boolean lastWasText;
    private String meeting = "";
    private Headers enclosed;

    MimeWalk(MailLimits limits) {
        this.limits = limits;
        header = new Headers(limits);
        current = header;
        enclosed = new Headers(limits);
    }

    Headers header() {
        return header;
    }

    String plain() {
        return plain.toString();
    }

    String html() {
        return html.toString();
    }

    List<Attachment> attachments() {
        return attachments;
    }

    /** The calendar object that it carries, as text; empty for none. */
    String meeting() {
        return meeting;
    }

    /** The header of the first message that it carries as a part (RFC 2046 §5.2.1). */
    Headers enclosed() {
        return enclosed;
    }

    /** Whether the last of what was read is text, so that what is not there may be more of it. */
    boolean endsInText() {
        return lastWasText;
    }

    /** Whether there was more than the limits let be read. */
    boolean cut() {
        return cut || !withinLimits();
    }

    /** Stops without complaint at the first limit it meets: what was read up to there counts. */
    void over(byte[] raw) throws IOException, MimeException {
        int begin = begin(raw);
        byte[] whole = MessageHead.mended(begin == 0 ? raw : Arrays.copyOfRange(raw, begin, raw.length));
        over(new ByteArrayInputStream(whole));
        boolean nothing = parts == 0 && plain().isEmpty() && limits.parts() > 0;
        if (nothing && header.token("content-type").startsWith("multipart/")) {
            plain.add(afterHeader(whole), StandardCharsets.UTF_8);
        }
    }

    /** Some stores put a byte-order mark or blank lines before a message. */
    private static int begin(byte[] raw) {
        int at = raw.length > 2 && raw[0] == (byte) 0xef && raw[1] == (byte) 0xbb && raw[2] == (byte) 0xbf ? 3 : 0;
        while (at < raw.length && (raw[at] == '\r' || raw[at] == '\n')) {
            at++;
        }
        return at;
    }

    /** What a multipart message says whose boundary never comes. */
    private static InputStream afterHeader(byte[] raw) {
        for (int i = 0; i + 1 < raw.length; i++) {
            boolean blank = raw[i] == '\n' && (raw[i + 1] == '\n' || raw[i + 1] == '\r');
            if (blank) {
                return new ByteArrayInputStream(raw, i, raw.length - i);
            }
        }
        return InputStream.nullInputStream();
    }

    private void over(InputStream raw) throws IOException, MimeException {
        MimeTokenStream stream = new MimeTokenStream(CONFIG);
        stream.setRecursionMode(RecursionMode.M_NO_RECURSE);
        stream.parse(raw);
        for (EntityState state = stream.getState();
                state != EntityState.T_END_OF_STREAM && withinLimits();
                state = stream.next()) {
            step(state, stream);
        }
    }

    private boolean withinLimits() {
        return depth <= limits.depth() && parts <= limits.parts();
    }

    private void step(EntityState state, MimeTokenStream stream) throws IOException {
        switch (state) {
            case T_START_BODYPART -> {
                current = new Headers(limits);
                parts++;
            }
            case T_FIELD -> {
                Field field = stream.getField();
                current.add(field.getName(), () -> body(field));
                cut |= current.cut();
            }
            case T_START_MULTIPART -> depth++;
            case T_END_MULTIPART -> depth--;
            case T_BODY -> body(stream);
            default -> {
                // preambles, epilogues and boundaries say nothing
            }
        }
    }

    /** Bytes that are no UTF-8 (RFC 6532) are nearly always of the one charset that old programs wrote them in. */
    private static @Nullable String body(Field field) {
        String body = field.getBody();
        if (body == null || body.indexOf('\uFFFD') < 0 || field.getRaw() == null) {
            return body;
        }
        String line = new String(field.getRaw().toByteArray(), OLD);
        return line.substring(line.indexOf(':') + 1);
    }

    private void body(MimeTokenStream stream) throws IOException {
        String type = stream.getBodyDescriptor().getMimeType().toLowerCase(Locale.ROOT);
        String name = name(current);
        String disposition = current.token("content-disposition");
        // text that is to be shown in its place is part of what is written, whatever it is called (RFC 2183 §2.1)
        boolean attached = disposition.equals("attachment") || (!name.isEmpty() && !disposition.equals("inline"));
        boolean isPlain = type.equals("text/plain");
        lastWasText = !attached && (isPlain || type.equals("text/html"));
        if (lastWasText) {
            try (InputStream decoded = stream.getDecodedInputStream()) {
                (isPlain ? plain : html)
                        .add(decoded, Charsets.ofText(stream.getBodyDescriptor().getCharset()));
            }
        } else if (meeting.isEmpty() && (type.equals("text/calendar") || type.equals("application/ics"))) {
            byte[] object = beginning(stream.getDecodedInputStream(), LONGEST_MEETING);
            meeting = new String(
                    object, Charsets.ofText(stream.getBodyDescriptor().getCharset()));
            attachments.add(new Attachment(name.isEmpty() ? "unnamed" : name, type, object.length));
        } else if (enclosed.isEmpty() && type.equals("message/rfc822")) {
            byte[] message = beginning(stream.getDecodedInputStream(), LONGEST_HEADER);
            enclosed = headerOf(message);
            attachments.add(new Attachment(name.isEmpty() ? "unnamed" : name, type, message.length));
        } else {
            attachments.add(new Attachment(name.isEmpty() ? "unnamed" : name, type, size(stream)));
        }
    }

    private static byte[] beginning(InputStream decoded, int most) throws IOException {
        try (decoded) {
            return decoded.readNBytes(most);
        }
    }

    private static Headers headerOf(byte[] message) throws IOException {
        MimeWalk inner = new MimeWalk(new MailLimits(0, 0, 0, 0, LONGEST_HEADER, LONGEST_HEADER));
        try {
            inner.over(message);
        } catch (MimeException broken) {
            // what was read of it counts
        }
        return inner.header();
    }

    static String name(Headers part) {
        String name = part.parameter("content-disposition", "filename");
        String found = name.isEmpty() ? part.parameter("content-type", "name") : name;
        if (found.isEmpty()) {
            return "";
        }
        String bare = found.substring(Math.max(found.lastIndexOf('/'), found.lastIndexOf('\\')) + 1);
        String clean = bare.replaceAll("[\\p{Cntrl}\\p{Cf}]", "").strip();
        return clean.length() > LONGEST_NAME ? clean.substring(0, LONGEST_NAME) : clean;
    }

    /** Base64 is weighed without being decoded: four characters are three bytes. */
    private static long size(MimeTokenStream stream) throws IOException {
        boolean base64 = stream.getBodyDescriptor().getTransferEncoding().equalsIgnoreCase("base64");
        try (InputStream in = base64 ? stream.getInputStream() : stream.getDecodedInputStream()) {
            byte[] buffer = new byte[8_192];
            long size = 0;
            for (int n = in.read(buffer); n >= 0; n = in.read(buffer)) {
                size += base64 ? digits(buffer, n) : n;
            }
            return base64 ? size * 3 / 4 : size;
        }
    }

    private static int digits(byte[] buffer, int length) {
        int digits = 0;
        for (int i = 0; i < length; i++) {
            // line ends and padding carry nothing
            digits += buffer[i] > ' ' && buffer[i] != '=' ? 1 : 0;
        }
        return digits;
    }

    /** The text of all parts of one kind. A part decoded at once costs half of one decoded by and by. */
    private final class Text {
        private final List<String> parts = new ArrayList<>(1);
        private int length;

        void add(InputStream decoded, Charset charset) throws IOException {
            int room = limits.textChars() - length;
            if (room <= 0) {
                cut = true;
                return;
            }
            // no charset needs more than four bytes a character
            String text = new String(decoded.readNBytes(4 * room), charset);
            cut |= text.length() > room;
            String kept = text.length() <= room ? text : text.substring(0, room);
            parts.add(kept);
            length += kept.length() + 1;
        }

        @Override
        public String toString() {
            return parts.size() == 1 ? parts.get(0) : String.join("\n", parts);
        }
    }
}
