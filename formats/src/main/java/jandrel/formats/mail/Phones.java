package jandrel.formats.mail;

import com.google.i18n.phonenumbers.NumberParseException;
import com.google.i18n.phonenumbers.PhoneNumberUtil;
import com.google.i18n.phonenumbers.PhoneNumberUtil.PhoneNumberFormat;
import com.google.i18n.phonenumbers.Phonenumber;
import jandrel.core.address.PhoneNumber;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Telephone numbers in what people write. One without its country's code is read as of the company's own country, where that is
 * known; else its digits stay as they are. Of a signature only what begins with a plus, a zero or a bracket counts, so that order
 * numbers and dates do not.
 */
public final class Phones {
    private static final int LAST_LINES = 12;
    private static final int MOST = 6;
    private static final int LONGEST_LINE = 200;
    private static final int LONGEST_NUMBER = 40;
    private static final int FEWEST_DIGITS = 7;
    private static final Pattern NUMBER =
            Pattern.compile("(?<![\\w@.+/-])(?:\\+|\\(\\+?|0)[\\d\\u00a0 ().\\-/]{5,24}\\d(?![\\w@])");
    private static final Pattern DATE = Pattern.compile("\\d{1,2}[./-]\\d{1,2}[./-]\\d{2,4}");
    private static final Pattern WRITTEN = Pattern.compile("[+(]?[\\d\\u00a0 ()./\\-+]*\\d");
    private static final PhoneNumberUtil NUMBERS = PhoneNumberUtil.getInstance();
    private final String country;

    /** @param country two letters (ISO 3166-1), or empty where it is not known */
    public Phones(String country) {
        this.country = country.strip().toUpperCase(Locale.ROOT);
        if (!this.country.isEmpty() && !NUMBERS.getSupportedRegions().contains(this.country)) {
            throw new IllegalArgumentException("“" + country + "” is no country’s two letters, such as NO or GB");
        }
    }

    /**
     * Those in a signature.
     *
     * @param text what the message says, whole
     * @return in the order in which they stand
     */
    public List<PhoneNumber> in(String text) {
        Set<PhoneNumber> found = new LinkedHashSet<>();
        for (String line : signature(text)) {
            // most lines have none, and a look at each character costs a tenth of trying the pattern
            if (line.chars().filter(Character::isDigit).count() < FEWEST_DIGITS) {
                continue;
            }
            Matcher matcher = NUMBER.matcher(line);
            while (matcher.find() && found.size() < MOST) {
                String written = matcher.group().strip();
                if (!DATE.matcher(written).matches()) {
                    parse(written)
                            .filter(n -> n.text().replace("+", "").length() >= FEWEST_DIGITS)
                            .ifPresent(found::add);
                }
            }
        }
        return List.copyOf(found);
    }

    /** One that somebody wrote as a number, with whatever stands between its digits. */
    public Optional<PhoneNumber> parse(String written) {
        String bare = written.strip();
        if (bare.regionMatches(true, 0, "tel:", 0, 4)) {
            bare = bare.substring(4);
        }
        if (bare.length() > LONGEST_NUMBER || !WRITTEN.matcher(bare).matches()) {
            return Optional.empty();
        }
        String digits = digits(bare);
        return digits.startsWith("+") || !country.isEmpty()
                ? international(digits).or(() -> PhoneNumber.of(digits))
                : PhoneNumber.of(digits);
    }

    private Optional<PhoneNumber> international(String digits) {
        try {
            Phonenumber.PhoneNumber number = NUMBERS.parse(digits, country.isEmpty() ? null : country);
            return NUMBERS.isPossibleNumber(number)
                    ? PhoneNumber.of(NUMBERS.format(number, PhoneNumberFormat.E164))
                    : Optional.empty();
        } catch (NumberParseException none) {
            return Optional.empty();
        }
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
        boolean international = written.startsWith("+") || written.startsWith("(+");
        // (0) between a country's code and the rest is only dialled within the country
        String plain = international ? written.replace("(0)", "") : written;
        StringBuilder digits = new StringBuilder(international ? "+" : "");
        plain.chars().filter(Character::isDigit).forEach(c -> digits.append((char) c));
        return digits.toString();
    }
}
