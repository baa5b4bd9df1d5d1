package jandrel.core.item;

import java.util.regex.Pattern;

/** IMAP keywords (RFC 3501 §9, flag-keyword): an atom, whose case says nothing. */
public final class Keywords {
    private static final Pattern ATOM = Pattern.compile("[\\x21-\\x7e&&[^(){%*\"\\\\\\]]]{1,60}");

    /** What a keyword must be like, as the end of a sentence. */
    public static final String RULE =
            "a keyword has 1 to 60 letters, digits and signs, without spaces, brackets, quotes, %, * and backslashes.";

    private Keywords() {}

    public static boolean fits(String keyword) {
        return ATOM.matcher(keyword).matches();
    }
}
