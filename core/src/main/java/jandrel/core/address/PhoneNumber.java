package jandrel.core.address;

import java.util.Optional;
import java.util.regex.Pattern;

/**
 * A telephone number as numbers are compared: digits alone, with a plus before an international one (RFC 3966 §5.1.4, ITU-T E.164).
 * One whose country is not known has no plus.
 */
public record PhoneNumber(String text) {
    private static final Pattern FORM = Pattern.compile("\\+?\\d{4,15}");

    /** @throws InvalidAddress if the text is not of that form */
    public PhoneNumber {
        if (!FORM.matcher(text).matches()) {
            throw new InvalidAddress("not a telephone number");
        }
    }

    /** The number, or nothing when the text is not of that form. */
    public static Optional<PhoneNumber> of(String text) {
        return FORM.matcher(text).matches() ? Optional.of(new PhoneNumber(text)) : Optional.empty();
    }

    @Override
    public String toString() {
        return text;
    }
}
