package jandrel.formats.mail;

import java.util.regex.Pattern;

/** Texts of strangers that stand in one line of ours. */
public final class OneLine {
    private static final Pattern BLANKS = Pattern.compile("[\\p{Cntrl}\\s]+");
    private static final Pattern TURNS = Pattern.compile("[\\u200e\\u200f\\u202a-\\u202e\\u2066-\\u2069]");
    private static final int LONGEST_NAME = 200;

    private OneLine() {}

    static String name(String name) {
        return shortened(plain(name), LONGEST_NAME);
    }

    /** On one line, without what could turn the line around it (UAX #9). */
    public static String plain(String text) {
        if (isPlain(text)) {
            return text.strip();
        }
        return BLANKS.matcher(TURNS.matcher(text).replaceAll(""))
                .replaceAll(" ")
                .strip();
    }

    /** Printable ASCII with single blanks, as most names and subjects are. */
    private static boolean isPlain(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c < ' ' || c > '~' || (c == ' ' && i > 0 && text.charAt(i - 1) == ' ')) {
                return false;
            }
        }
        return true;
    }

    public static String shortened(String text, int most) {
        return text.length() <= most ? text : text.substring(0, most - 1) + "…";
    }
}
