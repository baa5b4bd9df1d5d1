package jandrel.formats.mail;

import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The Date of a message (RFC 5322 §3.3, and §4.3 for the forms of old): comments, blanks in any number, two-digit and three-digit years,
 * whole names of days and months, zones by name.
 */
final class MailDate {
    private static final int LONGEST = 200;
    private static final Instant FIRST_MAIL = Instant.parse("1980-01-01T00:00:00Z");
    private static final Duration CLOCKS_DIFFER = Duration.ofDays(2);
    private static final String MONTHS = "jan feb mar apr may jun jul aug sep oct nov dec";
    private static final Pattern FORM = Pattern.compile(
            "(?:[a-z]{3,9}\\.?\\s*,?\\s*)?(\\d{1,2})[\\s-]*([a-z]{3,9})\\.?[\\s-]*(\\d{2,4})[\\s,]+"
                    + "(\\d{1,2})\\s*[:.]\\s*(\\d{2})(?:\\s*[:.]\\s*(\\d{2})(?:[.,]\\d{1,9})?)?\\s*(am|pm)?\\s*([-+]\\s*\\d{1,2}:?\\d{2}|[a-z]{1,5})?.*");
    /** As C's asctime writes it: month, day, time, zone, year. */
    private static final Pattern OLD_FORM = Pattern.compile("(?:[a-z]{3,9}\\s*,?\\s+)?([a-z]{3,9})\\s+(\\d{1,2})\\s+"
            + "(\\d{1,2}):(\\d{2})(?::(\\d{2}))?\\s*([-+]\\d{4}|[a-z]{1,5})?\\s+(\\d{4}).*");

    private static final Map<String, String> ZONES = Map.ofEntries(
            Map.entry("est", "-0500"),
            Map.entry("edt", "-0400"),
            Map.entry("cst", "-0600"),
            Map.entry("cdt", "-0500"),
            Map.entry("mst", "-0700"),
            Map.entry("mdt", "-0600"),
            Map.entry("pst", "-0800"),
            Map.entry("pdt", "-0700"),
            Map.entry("hst", "-1000"),
            Map.entry("cet", "+0100"),
            Map.entry("cest", "+0200"),
            Map.entry("eet", "+0200"),
            Map.entry("eest", "+0300"),
            Map.entry("wet", "+0000"),
            Map.entry("west", "+0100"),
            Map.entry("bst", "+0100"),
            Map.entry("jst", "+0900"));

    private MailDate() {}

    /** @return nothing for a date that cannot be true: before there was mail, or after the server had the message */
    static Optional<Instant> of(String value, Instant received) {
        if (value.isEmpty() || value.length() > LONGEST) {
            return Optional.empty();
        }
        return usual(value)
                .filter(at -> canBe(at, received))
                .or(() -> read(value).filter(at -> canBe(at, received)));
    }

    private static boolean canBe(Instant at, Instant received) {
        return !at.isBefore(FIRST_MAIL) && !at.isAfter(received.plus(CLOCKS_DIFFER));
    }

    /** As nearly all programs write it. */
    private static Optional<Instant> usual(String value) {
        if (value.length() < 20 || value.charAt(3) != ',') {
            return Optional.empty();
        }
        // a remark with the zone's name
        int remark = value.indexOf(" (");
        try {
            return Optional.of(Instant.from(
                    DateTimeFormatter.RFC_1123_DATE_TIME.parse(remark < 0 ? value : value.substring(0, remark))));
        } catch (DateTimeException unusual) {
            return Optional.empty();
        }
    }

    private static Optional<Instant> read(String value) {
        String plain = withoutComments(value).toLowerCase(Locale.ROOT).strip();
        try {
            Matcher m = FORM.matcher(plain);
            if (m.matches()) {
                return at(
                        m.group(3), m.group(2), m.group(1), m.group(4), m.group(5), m.group(6), m.group(7), m.group(8));
            }
            Matcher old = OLD_FORM.matcher(plain);
            return old.matches()
                    ? at(
                            old.group(7),
                            old.group(1),
                            old.group(2),
                            old.group(3),
                            old.group(4),
                            old.group(5),
                            null,
                            old.group(6))
                    : Optional.empty();
        } catch (DateTimeException | NumberFormatException garbage) {
            return Optional.empty();
        }
    }

    private static Optional<Instant> at(
            String year,
            String month,
            String day,
            String hour,
            String minute,
            @Nullable String second,
            @Nullable String half,
            @Nullable String zone) {
        int months = MONTHS.indexOf(month.substring(0, 3));
        if (months < 0 || months % 4 != 0) {
            return Optional.empty();
        }
        LocalDate date = LocalDate.of(year(year), months / 4 + 1, Integer.parseInt(day));
        int hours = Integer.parseInt(hour);
        if (half != null) {
            hours = hours % 12 + (half.equals("pm") ? 12 : 0);
        }
        // a leap second is the last one of its minute
        int seconds = second == null ? 0 : Math.min(59, Integer.parseInt(second));
        LocalTime time = LocalTime.of(hours, Integer.parseInt(minute), seconds);
        return Optional.of(date.atTime(time).toInstant(offset(zone)));
    }

    /** RFC 5322 §4.3: two digits are of this century below 50; three are counted from 1900. */
    private static int year(String digits) {
        int year = Integer.parseInt(digits);
        return switch (digits.length()) {
            case 2 -> year < 50 ? 2000 + year : 1900 + year;
            case 3 -> 1900 + year;
            default -> year;
        };
    }

    /** A zone by a name that nobody knows, or that no place on earth has, is UTC (RFC 5322 §4.3). */
    private static ZoneOffset offset(@Nullable String zone) {
        if (zone == null) {
            return ZoneOffset.UTC;
        }
        String digits = ZONES.getOrDefault(zone, zone).replaceAll("[\\s:]", "");
        if (Character.isLetter(digits.charAt(0))) {
            return ZoneOffset.UTC;
        }
        String padded = digits.length() == 4 ? digits.charAt(0) + "0" + digits.substring(1) : digits;
        int hours = Integer.parseInt(padded.substring(1, 3));
        int minutes = Integer.parseInt(padded.substring(3, 5));
        if (hours > 17 || minutes > 59) {
            return ZoneOffset.UTC;
        }
        int sign = padded.charAt(0) == '-' ? -1 : 1;
        return ZoneOffset.ofTotalSeconds(sign * (hours * 3600 + minutes * 60));
    }

    /** Comments may hold others (RFC 5322 §3.2.2). */
    private static String withoutComments(String value) {
        if (value.indexOf('(') < 0) {
            return value;
        }
        StringBuilder plain = new StringBuilder(value.length());
        int depth = 0;
        for (int i = 0; i < value.length(); i++) {
            char c = value.charAt(i);
            if (c == '(') {
                depth++;
            } else if (c == ')' && depth > 0) {
                depth--;
                plain.append(' ');
            } else if (depth == 0) {
                plain.append(c);
            }
        }
        return plain.toString();
    }
}
