package jandrel.formats.card;

/**
 * How much of one card is looked at, whatever it holds.
 *
 * @param bytes of all of it, photo and all
 * @param lines properties
 * @param value characters of one value that is looked at; a photo is not
 */
public record CardLimits(int bytes, int lines, int value) {
    public static final CardLimits USUAL = new CardLimits(16 * 1024 * 1024, 2_000, 20_000);
}
