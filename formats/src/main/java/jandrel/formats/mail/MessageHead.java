package jandrel.formats.mail;

import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Mends what the MIME library would read otherwise than it is meant, before it sees it. Most messages pass as they are. */
final class MessageHead {
    private static final int LONGEST = 256 * 1024;
    private static final Pattern EXTENDED_BOUNDARY = Pattern.compile(
            "boundary\\*(?:0\\*)?=\\s*\"?[^'\"\\s;]*'[^'\"\\s;]*'([^\"\\s;]{1,200})\"?", Pattern.CASE_INSENSITIVE);

    private MessageHead() {}

    /**
     * @return the same bytes where nothing is to mend
     */
    static byte[] mended(byte[] raw) {
        int blank = lineOfBlanks(raw);
        return withBoundary(blank < 0 ? raw : emptied(raw, blank));
    }

    /** A header section ends with an empty line (RFC 5322 §2.1); some programs write blanks into it. */
    private static int lineOfBlanks(byte[] raw) {
        int most = Math.min(raw.length, LONGEST);
        int line = 0;
        for (int i = 0; i < most; i++) {
            if (raw[i] != '\n') {
                continue;
            }
            int end = i > line && raw[i - 1] == '\r' ? i - 1 : i;
            if (end == line) {
                return -1;
            }
            boolean blanks = true;
            for (int k = line; k < end && blanks; k++) {
                blanks = raw[k] == ' ' || raw[k] == '\t';
            }
            if (blanks && !isField(raw, i + 1, most)) {
                return line;
            }
            line = i + 1;
        }
        return -1;
    }

    /** Whether a header field, or the rest of one, begins here: then a line of blanks was a part of the field before. */
    private static boolean isField(byte[] raw, int at, int most) {
        if (at < most && (raw[at] == ' ' || raw[at] == '\t')) {
            return true;
        }
        for (int i = at; i < Math.min(most, at + 80); i++) {
            if (raw[i] == ':') {
                return i > at;
            }
            if (raw[i] <= ' ' || raw[i] == 127) {
                return false;
            }
        }
        return false;
    }

    private static byte[] emptied(byte[] raw, int blank) {
        int end = blank;
        while (raw[end] == ' ' || raw[end] == '\t') {
            end++;
        }
        byte[] mended = new byte[raw.length - (end - blank)];
        System.arraycopy(raw, 0, mended, 0, blank);
        System.arraycopy(raw, end, mended, blank, raw.length - end);
        return mended;
    }

    /** A boundary in the extended form of RFC 2231 §4, which the library does not look for. */
    private static byte[] withBoundary(byte[] raw) {
        int most = Math.min(raw.length, LONGEST);
        int star = -1;
        for (int i = 0; i + 9 < most && star < 0; i++) {
            if (raw[i] == '\n' && (raw[i + 1] == '\n' || raw[i + 1] == '\r')) {
                break;
            }
            star = (raw[i] == 'b' || raw[i] == 'B') && raw[i + 8] == '*' && (raw[i + 7] == 'y' || raw[i + 7] == 'Y')
                    ? i
                    : -1;
        }
        if (star < 0) {
            return raw;
        }
        String head = new String(raw, star, Math.min(400, raw.length - star), StandardCharsets.ISO_8859_1);
        Matcher found = EXTENDED_BOUNDARY.matcher(head);
        if (!found.lookingAt()) {
            return raw;
        }
        byte[] plain = ("boundary=\"" + decoded(found.group(1)) + "\"").getBytes(StandardCharsets.ISO_8859_1);
        byte[] mended = new byte[raw.length - found.end() + plain.length];
        System.arraycopy(raw, 0, mended, 0, star);
        System.arraycopy(plain, 0, mended, star, plain.length);
        System.arraycopy(raw, star + found.end(), mended, star + plain.length, raw.length - star - found.end());
        return mended;
    }

    private static String decoded(String value) {
        StringBuilder plain = new StringBuilder(value.length());
        for (int i = 0; i < value.length(); i++) {
            boolean escaped = value.charAt(i) == '%'
                    && i + 2 < value.length()
                    && value.substring(i + 1, i + 3).toLowerCase(Locale.ROOT).matches("[0-9a-f]{2}");
            plain.append(escaped ? (char) Integer.parseInt(value.substring(i + 1, i + 3), 16) : value.charAt(i));
            i += escaped ? 2 : 0;
        }
        return plain.toString().replace("\"", "");
    }
}
