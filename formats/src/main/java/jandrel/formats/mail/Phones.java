package jandrel.formats.mail;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Telephone numbers in a signature, in the form of RFC 3966 as far as it can be told: digits alone, with a plus before an
 * international one. Only what begins with a plus, a zero or a bracket counts, so that order numbers and dates do not.
 */
public final class Phones {
    private static final int LAST_LINES = 12;
    private static final int MOST = 6;
    private static final int LONGEST_LINE = 200;
    private static final Pattern NUMBER =
            Pattern.compile("(?<![\\w@.+/-])(?:\\+|\\(\\+?|0)[\\d\\u00a0 ().\\-/]{5,24}\\d(?![\\w@])");
    private static final Pattern DATE = Pattern.compile("\\d{1,2}[./-]\\d{1,2}[./-]\\d{2,4}");

    private Phones() {}

    /**
     * @param text what the message says, whole
     * @return in the order in which they stand
     */
    public static List<String> of(String text) {
        Set<String> found = new LinkedHashSet<>();
        for (String line : signature(text)) {
            Matcher matcher = NUMBER.matcher(line);
            while (matcher.find() && found.size() < MOST) {
                String number = digits(matcher.group());
                if (!number.isEmpty()) {
                    found.add(number);
                }
            }
        }
        return List.copyOf(found);
    }

    /** Up to where the quoted history begins: the last lines, among which a signature stands. */
    private static List<String> signature(String text) {
        List<String> own = new ArrayList<>();
        for (String line : NewText.withSignature(text)) {
            if (!line.isBlank() && line.length() <= LONGEST_LINE) {
                own.add(line);
            }
        }
        return own.subList(Math.max(0, own.size() - LAST_LINES), own.size());
    }

    private static String digits(String written) {
        if (DATE.matcher(written.strip()).matches()) {
            return "";
        }
        // (0) between a country's code and the rest is only dialled within the country
        String plain = written.startsWith("+") || written.startsWith("(+") ? written.replace("(0)", "") : written;
        StringBuilder digits = new StringBuilder(plain.contains("+") ? "+" : "");
        plain.chars().filter(Character::isDigit).forEach(c -> digits.append((char) c));
        int count = digits.length() - (digits.indexOf("+") == 0 ? 1 : 0);
        return count >= 7 && count <= 15 ? digits.toString() : "";
    }
}
