package jandrel.formats.mail;

/**
 * How much of a message is looked at, whatever it holds.
 *
 * @param parts MIME parts
 * @param depth parts within parts
 * @param parties people on one message
 * @param textChars characters of text, and of HTML, that are kept
 * @param addressChars characters of all header fields that hold addresses
 * @param fieldChars characters of any other header field
 */
public record MailLimits(int parts, int depth, int parties, int textChars, int addressChars, int fieldChars) {
    public static final MailLimits USUAL = new MailLimits(500, 30, 500, 200_000, 128_000, 16_000);
}
