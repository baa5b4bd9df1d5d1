package jandrel.formats.calendar;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.zone.ZoneOffsetTransition;
import java.time.zone.ZoneRules;
import java.util.List;

/** A DATE or DATE-TIME value (RFC 5545 §3.3.4 and 5) as written, before its zone is known. */
record Moment(LocalDateTime local, boolean date, boolean utc) {

    static Moment of(String raw) throws UnreadableCalendar {
        String value = raw.strip();
        try {
            int year = Integer.parseInt(value.substring(0, 4));
            int month = Integer.parseInt(value.substring(4, 6));
            int day = Integer.parseInt(value.substring(6, 8));
            if (year < 1) {
                throw new UnreadableCalendar("one of its dates is before the year 1");
            }
            if (value.length() == 8) {
                return new Moment(LocalDateTime.of(year, month, day, 0, 0), true, false);
            }
            int second = Integer.parseInt(value.substring(13, 15));
            LocalDateTime local = LocalDateTime.of(
                    year,
                    month,
                    day,
                    Integer.parseInt(value.substring(9, 11)),
                    Integer.parseInt(value.substring(11, 13)),
                    Math.min(second, 59));
            return new Moment(local, false, value.endsWith("Z"));
        } catch (RuntimeException malformed) {
            throw new UnreadableCalendar("one of its dates is malformed");
        }
    }

    /** A date is filed at midnight UTC, so that it is the same day for everybody. */
    Instant in(ZoneRules zone) {
        return date || utc ? local.toInstant(ZoneOffset.UTC) : resolve(local, zone);
    }

    /**
     * RFC 5545 §3.3.5: a time that a zone skips is read with the offset before the gap; one that comes twice is the first.
     */
    static Instant resolve(LocalDateTime local, ZoneRules zone) {
        List<ZoneOffset> valid = zone.getValidOffsets(local);
        if (!valid.isEmpty()) {
            return local.toInstant(valid.get(0));
        }
        ZoneOffsetTransition gap = zone.getTransition(local);
        return local.toInstant(gap.getOffsetBefore());
    }
}
