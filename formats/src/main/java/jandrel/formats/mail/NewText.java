package jandrel.formats.mail;

import java.util.List;

/**
 * What a message adds to its conversation: its text up to the quoted history and the signature at its end. Told by the marks that
 * mail programs leave in every language ({@code >} before each line, RFC 3676 §4.5; {@code -- } before a signature, §4.3; a block
 * of header lines before what is quoted whole), never by words. Answers written between quoted lines keep the lines they answer.
 * Takes time in proportion to the text.
 */
public final class NewText {
    /** A signature that goes on for longer than this is more likely a part of the text. */
    private static final int LONGEST_SIGNATURE = 15;
    /** What introduces a quotation, such as “On Monday X wrote:”, is wrapped to so many lines at most. */
    private static final int LONGEST_INTRODUCTION = 3;

    private static final int LONGEST_HEADER_NAME = 24;
    /** Whoever passes a message on writes no more than this before it. */
    private static final int MOST_LINES = 60;

    private final List<String> lines;
    private int end;

    private NewText(List<String> lines) {
        this.lines = lines;
        this.end = lines.size();
    }

    /** @return the beginning of the text; all of it where nothing else would be left */
    public static String of(String text) {
        NewText cut = new NewText(text.lines().toList());
        cut.headers();
        int before;
        do {
            before = cut.end;
            cut.quotation();
            cut.signature();
        } while (cut.end < before);
        cut.blanks();
        return cut.end == 0 ? text : String.join("\n", cut.lines.subList(0, cut.end));
    }

    /** The lines up to the quoted history, with the signature still among them. */
    static List<String> withSignature(String text) {
        NewText cut = new NewText(text.lines().toList());
        cut.headers();
        cut.quotation();
        return cut.lines.subList(0, cut.end);
    }

    /**
     * The header line of a message quoted whole that names its author: of the first block of header lines the first that holds an
     * address. Empty when nothing is quoted whole.
     */
    static String quotedAuthor(String text) {
        if (text.indexOf('@') < 0) {
            return "";
        }
        List<String> lines = text.lines().limit(MOST_LINES).toList();
        NewText whole = new NewText(lines);
        for (int i = 0; i < lines.size(); i++) {
            if (isHeader(lines.get(i)) && whole.isHeaders(i)) {
                return lines.subList(i, Math.min(lines.size(), i + 4)).stream()
                        .filter(line -> line.indexOf('@') > 0)
                        .findFirst()
                        .orElse("");
            }
        }
        return "";
    }

    /** From the first block of header lines on, all is somebody else's; unless the message begins with it. */
    private void headers() {
        boolean some = false;
        for (int i = 0; i < end; i++) {
            String line = lines.get(i);
            if (some && isHeader(line) && isHeaders(i)) {
                end = i;
                rule();
                return;
            }
            some |= !line.isBlank() && !isRule(line);
        }
    }

    /** Whether of the four lines from here three are headers, and one of these names somebody by address. */
    private boolean isHeaders(int from) {
        int headers = 0;
        boolean address = false;
        for (int i = from; i < Math.min(end, from + 4); i++) {
            if (isHeader(lines.get(i))) {
                headers++;
                address |= lines.get(i).indexOf('@') > 0;
            }
        }
        return headers >= 3 && address;
    }

    /** {@code Name: something}, in any script, at times in bold as {@code *Name:*}. */
    private static boolean isHeader(String line) {
        int colon = line.indexOf(':');
        if (colon < 2 || colon > LONGEST_HEADER_NAME || line.length() < colon + 2) {
            return false;
        }
        int words = 1;
        for (int i = 0; i < colon; i++) {
            char c = line.charAt(i);
            if (c == ' ' || c == '\u00a0') {
                words++;
            } else if (!Character.isLetter(c) && c != '-' && c != '*') {
                return false;
            }
        }
        char next = line.charAt(colon + 1);
        return words <= 3 && (next == ' ' || next == '*' || next == '\t' || next == '\u00a0');
    }

    /** A line drawn before what is quoted, with or without words in it. */
    private static boolean isRule(String line) {
        String bare = line.strip();
        return bare.length() >= 5
                && (bare.startsWith("-----") || bare.startsWith("_____"))
                && (bare.endsWith("-----") || bare.endsWith("_____"));
    }

    private void rule() {
        blanks();
        if (end > 0 && isRule(lines.get(end - 1))) {
            end--;
        }
    }

    private void blanks() {
        while (end > 0 && lines.get(end - 1).isBlank()) {
            end--;
        }
    }

    private static boolean isQuoted(String line) {
        return line.startsWith(">");
    }

    private void quotation() {
        blanks();
        int quoted = end;
        while (quoted > 0
                && (isQuoted(lines.get(quoted - 1)) || lines.get(quoted - 1).isBlank())) {
            quoted--;
        }
        if (quoted == end) {
            return;
        }
        end = quoted;
        introduction();
        rule();
    }

    /** The paragraph right before a quotation, if it is short and ends with a colon. */
    private void introduction() {
        blanks();
        if (end == 0 || !lines.get(end - 1).stripTrailing().endsWith(":")) {
            return;
        }
        int first = end - 1;
        while (first > 0 && !lines.get(first - 1).isBlank() && !isQuoted(lines.get(first - 1))) {
            first--;
        }
        if (end - first <= LONGEST_INTRODUCTION) {
            end = first;
        }
    }

    private void signature() {
        for (int i = end - 1; i >= 0 && i >= end - 1 - LONGEST_SIGNATURE; i--) {
            String line = lines.get(i);
            if (isQuoted(line)) {
                return;
            }
            if (line.equals("-- ") || line.equals("--")) {
                end = i;
                return;
            }
        }
    }
}
