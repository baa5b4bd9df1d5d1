package jandrel.formats.mail;

/**
 * How much of a message is looked at, whatever it holds.
 *
 * @param parts MIME parts
 * @param depth parts within parts
 * @param parties people on one message
 * @param textChars characters of text, and of HTML, that are kept
 */
public record MailLimits(int parts, int depth, int parties, int textChars) {
    public static final MailLimits USUAL = new MailLimits(500, 30, 500, 200_000);
}
