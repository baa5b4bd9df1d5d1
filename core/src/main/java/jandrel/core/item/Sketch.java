package jandrel.core.item;

import java.nio.charset.StandardCharsets;
import java.util.Base64;

/**
 * What a message says, as a text by which copies of it can be compared although lists append footers, servers encode anew and wrap lines
 * otherwise: digests of its first letters and figures, at lengths that grow by a quarter, then one of all of them. Two copies say the same
 * if they agree as far as the shorter one goes. Never the words themselves.
 */
public final class Sketch {
    /** Nothing is known of what it says. */
    public static final String NONE = "";

    private static final int FIRST = 16;
    private static final int MOST = 2_000;
    private static final int BYTES = 3;
    private static final int MOST_DIGESTS = 40;
    private static final int PIECE = 2_048;

    /** Nearly all of most texts, looked up instead of worked out. */
    private static final char[] PLAIN = new char[128];

    static {
        for (char c = 0; c < PLAIN.length; c++) {
            PLAIN[c] = lettersOnly(c);
        }
    }

    private Sketch() {}

    /**
     * @param text plain text, of which the first 2,000 letters and figures count
     * @return at most 110 characters; never empty
     */
    public static String of(String text) {
        char[] letters = new char[Math.min(MOST, text.length())];
        int count = lettersOf(text, letters);
        byte[] digests = new byte[MOST_DIGESTS * BYTES];
        int at = 0;
        long hash = 0xcbf29ce484222325L;
        int next = FIRST;
        int i = 0;
        for (; i + 4 <= count; i += 4) {
            long four = letters[i]
                    | (long) letters[i + 1] << 16
                    | (long) letters[i + 2] << 32
                    | (long) letters[i + 3] << 48;
            hash = (hash ^ hash >>> 32 ^ four) * 0x9e3779b97f4a7c15L;
            if (i + 4 == next) {
                at = put(digests, at, hash);
                next += Math.max(4, next / 4 & ~3);
            }
        }
        for (; i < count; i++) {
            hash = (hash ^ hash >>> 32 ^ letters[i]) * 0x9e3779b97f4a7c15L;
        }
        put(digests, at, hash);
        String all = new String(
                Base64.getUrlEncoder().withoutPadding().encode(java.util.Arrays.copyOf(digests, at + BYTES)),
                StandardCharsets.ISO_8859_1);
        return count + ":" + all;
    }

    /**
     * Puts the letters and figures of a text one behind the other, without a branch for each: every message goes through here.
     *
     * @return how many they are
     */
    private static int lettersOf(String text, char[] letters) {
        char[] piece = new char[Math.min(PIECE, text.length())];
        int count = 0;
        for (int from = 0; from < text.length() && count < letters.length; from += PIECE) {
            int length = Math.min(PIECE, text.length() - from);
            text.getChars(from, from + length, piece, 0);
            for (int i = 0; i < length && count < letters.length; i++) {
                char c = lower(piece[i]);
                letters[count] = c;
                count += -c >>> 31; // 1 for a letter: without a branch, which would be guessed wrong at each blank
            }
        }
        return count;
    }

    /** In lower case; 0 for what is neither a letter nor a figure. */
    private static char lower(char c) {
        return c < PLAIN.length ? PLAIN[c] : lettersOnly(c);
    }

    private static char lettersOnly(char c) {
        return Character.isLetterOrDigit(c) ? Character.toLowerCase(c) : 0;
    }

    private static int put(byte[] digests, int at, long hash) {
        long mixed = (hash ^ hash >>> 29) * 0xbf58476d1ce4e5b9L;
        digests[at] = (byte) (mixed >>> 56);
        digests[at + 1] = (byte) (mixed >>> 48);
        digests[at + 2] = (byte) (mixed >>> 40);
        return at + BYTES;
    }

    /** How many letters and figures it is of; 0 where nothing is known. */
    public static int letters(String sketch) {
        int colon = sketch.indexOf(':');
        return colon < 0 ? 0 : Integer.parseInt(sketch, 0, colon, 10);
    }

    /** Whether two copies say the same, as far as the shorter one goes. */
    public static boolean same(String a, String b) {
        if (a.equals(b)) {
            return true;
        }
        if (a.isEmpty() || b.isEmpty()) {
            return false;
        }
        String shorter = letters(a) <= letters(b) ? a : b;
        String longer = shorter.equals(a) ? b : a;
        String shared = shorter.substring(shorter.indexOf(':') + 1, shorter.length() - 4);
        return letters(shorter) != letters(longer)
                && letters(shorter) >= FIRST
                && longer.startsWith(shared, longer.indexOf(':') + 1);
    }
}
