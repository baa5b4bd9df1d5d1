package jandrel.core.directory;

/** Patterns with {@code *} for any characters and {@code ?} for one. */
public final class Wildcards {
    private Wildcards() {}

    /** Whether the pattern covers the whole text. Takes time in proportion to the two lengths multiplied, never more. */
    public static boolean match(String pattern, String text) {
        int p = 0;
        int t = 0;
        int star = -1;
        int mark = 0;
        while (t < text.length()) {
            char c = p < pattern.length() ? pattern.charAt(p) : 0;
            if (c == '*') {
                star = p++;
                mark = t;
            } else if (p < pattern.length() && (c == '?' || c == text.charAt(t))) {
                p++;
                t++;
            } else if (star >= 0) {
                p = star + 1;
                t = ++mark;
            } else {
                return false;
            }
        }
        while (p < pattern.length() && pattern.charAt(p) == '*') {
            p++;
        }
        return p == pattern.length();
    }
}
