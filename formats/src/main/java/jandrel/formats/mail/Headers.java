package jandrel.formats.mail;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import org.apache.james.mime4j.codec.DecodeMonitor;
import org.apache.james.mime4j.codec.DecoderUtil;
import org.apache.james.mime4j.stream.NameValuePair;
import org.apache.james.mime4j.stream.RawBody;
import org.apache.james.mime4j.stream.RawField;
import org.apache.james.mime4j.stream.RawFieldParser;
import org.apache.james.mime4j.util.MimeParameterMapping;
import org.jspecify.annotations.Nullable;

/** The header of one message or part, by lower-case field name. */
final class Headers {
    private static final Set<String> READ = Set.of(
            "from",
            "sender",
            "reply-to",
            "to",
            "cc",
            "bcc",
            "x-original-from",
            "subject",
            "date",
            "message-id",
            "in-reply-to",
            "references",
            "return-path",
            "content-type",
            "content-disposition",
            "content-transfer-encoding",
            "list-id",
            "list-post",
            "list-unsubscribe",
            "precedence",
            "auto-submitted",
            "x-autoreply",
            "x-autorespond",
            "x-autoresponder",
            "x-failed-recipients",
            "authentication-results",
            "x-mailer",
            "user-agent",
            "importance",
            "sensitivity",
            "x-priority",
            "x-spam-flag",
            "x-campaign",
            "feedback-id",
            "x-auto-response-suppress");

    private static final Set<String> ADDRESSES =
            Set.of("from", "sender", "reply-to", "to", "cc", "bcc", "x-original-from");

    /** Values of one name; whatever else a message repeats without end is of no interest. */
    private static final int MOST_VALUES = 100;

    /** Pieces of one parameter (RFC 2231 §3). */
    private static final int MOST_PIECES = 100;

    private static final Pattern FOLD = Pattern.compile("\\r?\\n");
    private final Map<String, List<String>> fields = new HashMap<>();
    private final MailLimits limits;
    private boolean empty = true;
    private int addressChars;
    private boolean cut;

    Headers(MailLimits limits) {
        this.limits = limits;
    }

    /**
     * Keeps what somebody asks for, so that no message can fill the memory with others.
     *
     * @param text makes the field's body, which costs; asked for that alone
     */
    void add(String name, Supplier<@Nullable String> text) {
        empty = false;
        String key = name.strip().toLowerCase(Locale.ROOT);
        String body = READ.contains(key) ? text.get() : null;
        if (body == null) {
            return;
        }
        List<String> values = fields.computeIfAbsent(key, n -> new ArrayList<>(1));
        if (values.size() < MOST_VALUES) {
            int room = ADDRESSES.contains(key) ? limits.addressChars() - addressChars : limits.fieldChars();
            // of a long conversation the nearest are at the end
            boolean nearest = key.equals("references");
            cut |= body.length() > room && !nearest;
            String kept = body.length() <= room
                    ? body
                    : nearest ? body.substring(body.length() - room) : body.substring(0, Math.max(0, room));
            addressChars += ADDRESSES.contains(key) ? kept.length() : 0;
            String unfolded = kept.indexOf('\n') < 0 ? kept : FOLD.matcher(kept).replaceAll("");
            values.add(unfolded.strip());
        }
    }

    /** Whether a field was longer than is ever looked at. */
    boolean cut() {
        return cut;
    }

    boolean isEmpty() {
        return empty;
    }

    boolean has(String name) {
        return fields.containsKey(name);
    }

    /** The first value as it stands, or an empty text. */
    String first(String name) {
        List<String> values = fields.get(name);
        return values == null ? "" : values.get(0);
    }

    List<String> all(String name) {
        return fields.getOrDefault(name, List.of());
    }

    /** The first value with encoded words decoded (RFC 2047). */
    String text(String name) {
        return decode(first(name));
    }

    static String decode(String value) {
        if (!value.contains("=?")) {
            return value;
        }
        try {
            return DecoderUtil.decodeEncodedWords(
                    Charsets.knownOnly(value), DecodeMonitor.SILENT, java.nio.charset.StandardCharsets.UTF_8);
        } catch (RuntimeException unknownCharset) {
            return value;
        }
    }

    /** The value before the first semicolon, in lower case. */
    String token(String name) {
        String value = first(name);
        int end = value.indexOf(';');
        return (end < 0 ? value : value.substring(0, end)).strip().toLowerCase(Locale.ROOT);
    }

    /** A parameter of a structured field, continued and encoded ones put together (RFC 2231); empty when absent. */
    String parameter(String name, String parameter) {
        String value = first(name);
        if (value.indexOf(';') < 0 || !value.toLowerCase(Locale.ROOT).contains(parameter)) {
            return "";
        }
        RawBody parsed = RawFieldParser.DEFAULT.parseRawBody(new RawField(name, value));
        MimeParameterMapping mapping = new MimeParameterMapping();
        int pairs = 0;
        for (NameValuePair pair : parsed.getParams()) {
            boolean wanted = pair.getName() != null
                    && pair.getName().toLowerCase(Locale.ROOT).startsWith(parameter);
            if (wanted && pair.getValue() != null && ++pairs <= MOST_PIECES) {
                mapping.addParameter(pair.getName(), pair.getValue());
            }
        }
        String found = mapping.get(parameter);
        return found == null ? "" : decode(found);
    }
}
