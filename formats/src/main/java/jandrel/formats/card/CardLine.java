package jandrel.formats.card;

import java.io.ByteArrayOutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * One property as it stands in its file, with all its physical lines and their ends: written back to the byte unless it is replaced.
 *
 * @param head its group, name and parameters as they stand, unfolded; empty for what is no property
 * @param name in capitals; empty for what is no property
 */
record CardLine(byte[] raw, String head, String name) {
    private static final int MOST_HEAD = 4_000;
    private static final int LONGEST_LINE = 75;
    private static final String LINE_END = "\r\n";
    private static final Pattern FOLD = Pattern.compile("\\r?\\n[ \\t]");

    /** Properties whose values are large and are not looked at. */
    private static final Set<String> BULKY = Set.of("PHOTO", "LOGO", "SOUND", "KEY");

    CardLine(byte[] raw, String head) {
        this(raw, head, nameOf(head));
    }

    /** Cuts a file into its properties; bytes that belong to none are lines without a head. */
    static List<CardLine> all(byte[] file, Charset charset, int most) throws UnreadableCard {
        List<CardLine> lines = new ArrayList<>();
        int at = file.length > 2 && file[0] == (byte) 0xef && file[1] == (byte) 0xbb && file[2] == (byte) 0xbf ? 3 : 0;
        while (at < file.length) {
            if (lines.size() == most) {
                throw new UnreadableCard("it holds more than " + most + " lines");
            }
            int end = physical(file, at);
            String head = head(file, at, end, charset);
            boolean soft = head.toUpperCase(Locale.ROOT).contains("QUOTED-PRINTABLE");
            while (end < file.length && (isFolded(file, end) || (soft && endsSoftly(file, end)))) {
                end = physical(file, end);
            }
            // a head may itself be folded
            lines.add(new CardLine(
                    java.util.Arrays.copyOfRange(file, at, end), head.isEmpty() ? head(file, at, end, charset) : head));
            at = end;
        }
        return lines;
    }

    private static int physical(byte[] file, int from) {
        int at = from;
        while (at < file.length && file[at] != '\n') {
            at++;
        }
        return Math.min(file.length, at + 1);
    }

    private static boolean isFolded(byte[] file, int next) {
        return file[next] == ' ' || file[next] == '\t';
    }

    private static boolean endsSoftly(byte[] file, int next) {
        int at = next - 1;
        while (at >= 0 && (file[at] == '\n' || file[at] == '\r')) {
            at--;
        }
        return at >= 0 && file[at] == '=';
    }

    /** What stands before the first colon that is in no quotes. */
    private static String head(byte[] file, int from, int end, Charset charset) {
        for (int i = from; i < Math.min(end, from + MOST_HEAD); i++) {
            if (file[i] == ':') {
                return new String(file, from, i - from, charset);
            }
            if (file[i] == '"' || file[i] == '\r' || file[i] == '\n') {
                break;
            }
        }
        return foldedHead(file, from, end, charset);
    }

    private static String foldedHead(byte[] file, int from, int end, Charset charset) {
        ByteArrayOutputStream head = new ByteArrayOutputStream(40);
        boolean quoted = false;
        for (int i = from; i < end && head.size() < MOST_HEAD; i++) {
            char c = (char) (file[i] & 0xff);
            if (c == '\r' || c == '\n') {
                if (c == '\n' && i + 1 < end && isFolded(file, i + 1)) {
                    i++;
                }
                continue;
            }
            if (c == ':' && !quoted) {
                return head.toString(charset);
            }
            quoted ^= c == '"';
            head.write(c);
        }
        return "";
    }

    private static String nameOf(String head) {
        String whole = head.contains(";") ? head.substring(0, head.indexOf(';')) : head;
        return whole.substring(whole.lastIndexOf('.') + 1).strip().toUpperCase(Locale.ROOT);
    }

    /** As it stands, in capitals; empty for none. */
    String group() {
        String whole = head.contains(";") ? head.substring(0, head.indexOf(';')) : head;
        int dot = whole.lastIndexOf('.');
        return dot < 0 ? "" : whole.substring(0, dot).strip().toUpperCase(Locale.ROOT);
    }

    boolean isBulky() {
        return BULKY.contains(name());
    }

    /** The value as it stands, unfolded. */
    String value(Charset charset) {
        String text = FOLD.matcher(new String(raw, charset)).replaceAll("");
        return text.substring(Math.min(text.length(), head.length() + 1)).strip();
    }

    /** Bytes in which no letter is folded in its middle, as older programs did (RFC 6350 §3.2). */
    static byte[] whole(byte[] bytes) {
        return isAscii(bytes) ? bytes : unfoldedLetters(bytes);
    }

    private static boolean isAscii(byte[] bytes) {
        for (byte b : bytes) {
            if (b < 0) {
                return false;
            }
        }
        return true;
    }

    private static byte[] unfoldedLetters(byte[] bytes) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(bytes.length);
        for (int i = 0; i < bytes.length; i++) {
            int next = bytes[i] == '\r' ? i + 1 : i;
            boolean folds = i > 0
                    && bytes[i - 1] < 0
                    && next + 2 < bytes.length
                    && bytes[next] == '\n'
                    && isFolded(bytes, next + 1)
                    && (bytes[next + 2] & 0xc0) == 0x80;
            if (folds) {
                i = next + 1;
            } else {
                out.write(bytes[i]);
            }
        }
        return out.toByteArray();
    }

    /** The same value behind another head. */
    CardLine headed(String other, Charset charset) {
        int colon = 0;
        boolean quoted = false;
        while (colon < raw.length && (raw[colon] != ':' || quoted)) {
            quoted ^= raw[colon] == '"';
            colon++;
        }
        ByteArrayOutputStream out = new ByteArrayOutputStream(raw.length + other.length());
        out.writeBytes(other.getBytes(charset));
        out.write(raw, colon, raw.length - colon);
        return new CardLine(out.toByteArray(), other);
    }

    /** A property that is new, or another value of one: its parameters stay. */
    static CardLine of(String head, String value, Charset charset) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(head.length() + value.length() + 20);
        folded(head + ":" + value, charset, out);
        return new CardLine(out.toByteArray(), head);
    }

    /** With the value in quoted-printable form (RFC 2045 §6.7), as vCard 2.1 has what is not plain. */
    static CardLine encoded(String head, String value, Charset charset) {
        StringBuilder text = new StringBuilder(head).append(':');
        int width = head.length() + 1;
        for (byte b : value.getBytes(charset)) {
            boolean breaks = width + 3 >= LONGEST_LINE;
            if (breaks) {
                text.append('=').append(LINE_END);
                width = 0;
            }
            // a blank at the beginning of a line would be taken for a fold
            boolean plain = b >= ' ' && b < 127 && b != '=' && !(b == ' ' && breaks);
            String one = plain ? String.valueOf((char) b) : String.format(Locale.ROOT, "=%02X", b & 0xff);
            text.append(one);
            width += one.length();
        }
        text.append(LINE_END);
        return new CardLine(text.toString().getBytes(StandardCharsets.ISO_8859_1), head);
    }

    /** Folded between characters, never within one (RFC 6350 §3.2). */
    private static void folded(String text, Charset charset, ByteArrayOutputStream out) {
        int width = 0;
        for (int i = 0, c; i < text.length(); i += Character.charCount(c)) {
            c = text.codePointAt(i);
            byte[] bytes = Character.toString(c).getBytes(charset);
            if (width + bytes.length > LONGEST_LINE) {
                out.writeBytes(new byte[] {'\r', '\n', ' '});
                width = 1;
            }
            out.writeBytes(bytes);
            width += bytes.length;
        }
        out.writeBytes(LINE_END.getBytes(StandardCharsets.US_ASCII));
    }
}
