package jandrel.core.item;

import java.util.Locale;
import java.util.Set;

/** Subjects without what mail programs and lists put before them when they answer or pass on (RFC 5256 §2.1, in more languages). */
public final class Subjects {
    private static final Set<String> ANSWERS = Set.of(
            "re", "aw", "sv", "antw", "odp", "ynt", "vá", "vs", "rif", "ref", "r", "bls", "res", "回复", "回覆", "答复", "回信",
            "رد", "на", "ответ", "תשובה", "απ");
    private static final Set<String> FORWARDS = Set.of(
            "fw", "fwd", "wg", "vb", "vl", "doorst", "tr", "enc", "i", "pd", "rv", "tov", "ilt", "転送", "转发", "轉寄",
            "הועבר", "πρθ");
    private static final int LONGEST = 8;

    private Subjects() {}

    /** The subject itself; the whole where nothing else would be left. */
    public static String bare(String subject) {
        String rest = subject.strip();
        while (true) {
            int end = prefix(rest);
            if (end <= 0 || rest.substring(end).isBlank()) {
                return rest;
            }
            rest = rest.substring(end).strip();
        }
    }

    /** Whether it says that it answers something. */
    public static boolean isAnswer(String subject) {
        return ANSWERS.contains(word(subject.strip()));
    }

    /** Whether it says that it passes something on. */
    public static boolean isForward(String subject) {
        return FORWARDS.contains(word(subject.strip()));
    }

    /** Where the first prefix ends, a list's name in brackets being one too; 0 when there is none. */
    private static int prefix(String subject) {
        if (subject.startsWith("[")) {
            int end = subject.indexOf(']');
            return end > 0 && end <= 40 ? end + 1 : 0;
        }
        String word = word(subject);
        return ANSWERS.contains(word) || FORWARDS.contains(word) ? colon(subject) + 1 : 0;
    }

    /** The word before the first colon, without a count such as {@code [2]} or {@code (2)}. */
    private static String word(String subject) {
        int colon = colon(subject);
        if (colon < 1 || colon > LONGEST + 5) {
            return "";
        }
        int end = colon;
        for (int i = 0; i < colon; i++) {
            char c = subject.charAt(i);
            if (c == '[' || c == '(' || c == '^' || Character.isDigit(c)) {
                end = i;
                break;
            }
        }
        return subject.substring(0, end).strip().toLowerCase(Locale.ROOT);
    }

    private static int colon(String subject) {
        int narrow = subject.indexOf(':');
        int wide = subject.indexOf('\uff1a');
        return narrow < 0 || (wide >= 0 && wide < narrow) ? wide : narrow;
    }
}
