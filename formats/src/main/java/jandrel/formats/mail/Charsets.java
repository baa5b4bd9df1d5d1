package jandrel.formats.mail;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * Charsets by all their names, looked up in a table of our own: for a name that it does not know Java goes through all providers each
 * time, which costs a millisecond, and a message can hold thousands.
 */
final class Charsets {
    private static final Map<String, Charset> KNOWN = new HashMap<>();
    private static final int LONGEST_NAME = 80;
    private static final Pattern NAME = Pattern.compile("[A-Za-z0-9_.:+-]{1,60}");

    static {
        Charset.availableCharsets().values().forEach(charset -> {
            KNOWN.put(charset.name().toLowerCase(Locale.ROOT), charset);
            charset.aliases().forEach(alias -> KNOWN.put(alias.toLowerCase(Locale.ROOT), charset));
        });
    }

    private Charsets() {}

    static Optional<Charset> named(String name) {
        return Optional.ofNullable(KNOWN.get(name.strip().toLowerCase(Locale.ROOT)));
    }

    /** Of a part's text. Plain ASCII that is not plain ASCII is nearly always UTF-8. */
    static Charset ofText(@org.jspecify.annotations.Nullable String name) {
        if (name == null) {
            return StandardCharsets.UTF_8;
        }
        Charset named = named(name).orElse(StandardCharsets.ISO_8859_1);
        return named.equals(StandardCharsets.US_ASCII) ? StandardCharsets.UTF_8 : named;
    }

    /**
     * Encoded words (RFC 2047) in charsets that nobody knows, as words in UTF-8; and what only begins like one is none any more, as the
     * library would look up all that follows as the name of a charset.
     */
    static String knownOnly(String value) {
        int next = value.indexOf("=?");
        if (next < 0) {
            return value;
        }
        StringBuilder out = new StringBuilder(value.length() + 16);
        int from = 0;
        while (next >= 0) {
            int end = value.indexOf('?', next + 2);
            int most = Math.min(value.length(), next + 2 + LONGEST_NAME);
            out.append(value, from, next);
            String name = end >= 0 && end <= most ? withoutLanguage(value.substring(next + 2, end)) : "";
            if (named(name).isPresent()) {
                out.append(value, next, end + 1);
                from = end + 1;
            } else if (NAME.matcher(name).matches()) {
                out.append("=?UTF-8?");
                from = end + 1;
            } else {
                out.append("= ?");
                from = next + 2;
            }
            next = value.indexOf("=?", from);
        }
        return out.append(value, from, value.length()).toString();
    }

    /** RFC 2231 §5. */
    private static String withoutLanguage(String name) {
        int star = name.indexOf('*');
        return star < 0 ? name : name.substring(0, star);
    }
}
