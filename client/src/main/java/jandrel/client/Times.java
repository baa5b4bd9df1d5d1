package jandrel.client;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Times and lengths as people type them. */
final class Times {
    private static final Pattern LENGTH = Pattern.compile("(?:(\\d{1,3})d)?(?:(\\d{1,3})h)?(?:(\\d{1,4})m)?");

    private Times() {}

    /** Such as {@code 1h}, {@code 90m}, {@code 1h30m} or {@code 2d}. */
    static Duration length(String text) {
        Matcher m = LENGTH.matcher(text.strip());
        if (text.isBlank() || !m.matches()) {
            throw new Trouble(Trouble.USE, "“" + text + "” is no length; write 1h, 90m or 2d");
        }
        return Duration.ofDays(number(m, 1)).plusHours(number(m, 2)).plusMinutes(number(m, 3));
    }

    private static long number(Matcher m, int group) {
        return m.group(group) == null ? 0 : Long.parseLong(m.group(group));
    }

    /** Such as {@code 2026-12-01 09:00}, on the wall of the zone given. */
    static Instant at(String text, ZoneId zone) {
        try {
            return LocalDateTime.parse(text.strip().replace(' ', 'T'))
                    .atZone(zone)
                    .toInstant();
        } catch (DateTimeParseException no) {
            throw new Trouble(Trouble.USE, "“" + text + "” is no time; write 2026-12-01 09:00");
        }
    }

    static LocalDate day(String text) {
        try {
            return LocalDate.parse(text.strip());
        } catch (DateTimeParseException no) {
            throw new Trouble(Trouble.USE, "“" + text + "” is no day; write 2026-12-01");
        }
    }

    /** The next whole five minutes. */
    static Instant rounded(Instant at) {
        long five = 300;
        return Instant.ofEpochSecond((at.getEpochSecond() + five - 1) / five * five);
    }
}
