package jandrel.core.policy;

/**
 * How a title is told to a calendar, and back. What was put around it is taken off again, so that a meeting has one title on both sides
 * however it is shown.
 *
 * @param before what stands before the title
 * @param after what stands behind it
 */
public record Titles(String before, String after) {
    static final String TITLE = "{title}";
    private static final int LONGEST = 200;

    /** Whether a pattern has the title once, and nothing else in braces but {@code {account}} and {@code {with}}. */
    public static boolean fits(String pattern) {
        int at = pattern.indexOf(TITLE);
        String rest = at < 0
                ? ""
                : pattern.replace("{account}", "").replace("{with}", "").replace(TITLE, "");
        return at >= 0
                && pattern.indexOf(TITLE, at + 1) < 0
                && pattern.length() <= LONGEST
                && rest.indexOf('{') < 0
                && rest.chars().noneMatch(c -> c < ' ');
    }

    /**
     * @param account the name of the account that it is about; may be empty
     * @param with the names of the guests; may be empty
     */
    public static Titles of(String pattern, String account, String with) {
        int at = pattern.indexOf(TITLE);
        return new Titles(
                filled(pattern.substring(0, at), account, with),
                filled(pattern.substring(at + TITLE.length()), account, with));
    }

    private static String filled(String part, String account, String with) {
        return part.replace("{account}", account).replace("{with}", with);
    }

    public String out(String title) {
        return (before + title + after).strip();
    }

    /** A title that somebody wrote otherwise there is taken as it is. */
    public String in(String title) {
        if (title.equals(out(""))) {
            return "";
        }
        String head = before.stripLeading();
        String tail = after.stripTrailing();
        boolean ours =
                title.length() >= head.length() + tail.length() && title.startsWith(head) && title.endsWith(tail);
        return ours ? title.substring(head.length(), title.length() - tail.length()) : title;
    }
}
