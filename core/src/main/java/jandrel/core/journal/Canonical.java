package jandrel.core.journal;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * The canonical form of JSON (RFC 8785, the JSON Canonicalization Scheme), for values of text, whole numbers up to 2^53, truth
 * values, null, lists and maps. Fractions are refused: nothing in the journal has any.
 */
public final class Canonical {
    private static final long MOST = 1L << 53;

    private Canonical() {}

    /** @throws IllegalArgumentException for a value that has no place here */
    public static String json(@Nullable Object value) {
        StringBuilder out = new StringBuilder();
        write(value, out);
        return out.toString();
    }

    private static void write(@Nullable Object value, StringBuilder out) {
        if (value == null || value instanceof Boolean) {
            out.append(value);
        } else if (value instanceof Integer || value instanceof Long) {
            long number = ((Number) value).longValue();
            if (Math.abs(number) > MOST) {
                throw new IllegalArgumentException("a number beyond 2^53 cannot be written exactly");
            }
            out.append(number);
        } else if (value instanceof String text) {
            quoted(text, out);
        } else if (value instanceof List<?> list) {
            String comma = "";
            out.append('[');
            for (Object each : list) {
                out.append(comma);
                write(each, out);
                comma = ",";
            }
            out.append(']');
        } else if (value instanceof Map<?, ?> map) {
            object(map, out);
        } else {
            throw new IllegalArgumentException(
                    "no place in a journal for a " + value.getClass().getSimpleName());
        }
    }

    /** Members in the order of their names' UTF-16 code units (RFC 8785 §3.2.3), which is how Java compares texts. */
    private static void object(Map<?, ?> map, StringBuilder out) {
        Map<String, @Nullable Object> sorted = new TreeMap<>();
        map.forEach((name, value) -> sorted.put(String.valueOf(name), value));
        String comma = "";
        out.append('{');
        for (Map.Entry<String, @Nullable Object> member : sorted.entrySet()) {
            out.append(comma);
            quoted(member.getKey(), out);
            out.append(':');
            write(member.getValue(), out);
            comma = ",";
        }
        out.append('}');
    }

    /** RFC 8785 §3.2.2.2. */
    private static void quoted(String text, StringBuilder out) {
        out.append('"');
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '"' -> out.append("\\\"");
                case '\\' -> out.append("\\\\");
                case '\b' -> out.append("\\b");
                case '\t' -> out.append("\\t");
                case '\n' -> out.append("\\n");
                case '\f' -> out.append("\\f");
                case '\r' -> out.append("\\r");
                default -> {
                    if (c < ' ') {
                        out.append(String.format("\\u%04x", (int) c));
                    } else {
                        out.append(c);
                    }
                }
            }
        }
        out.append('"');
    }
}
