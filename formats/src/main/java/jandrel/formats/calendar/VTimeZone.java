package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.VObjectProperty;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.time.zone.ZoneOffsetTransition;
import java.time.zone.ZoneRules;

/** The VTIMEZONE (RFC 5545 §3.6.5) that a meeting needs: the changes of the clock around it, one observance each. */
final class VTimeZone {
    private static final DateTimeFormatter LOCAL = DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss");
    private static final int DAYS_AROUND = 550;

    private VTimeZone() {}

    static Component around(String id, Instant meeting) {
        ZoneRules rules = ZoneId.of(id).getRules();
        Component zone = new Component("VTIMEZONE");
        zone.properties().add(new VObjectProperty("TZID", id));
        Instant from = meeting.minus(DAYS_AROUND, ChronoUnit.DAYS);
        Instant until = meeting.plus(DAYS_AROUND, ChronoUnit.DAYS);
        ZoneOffset first = rules.getOffset(from);
        zone.children()
                .add(observance(
                        LocalDateTime.ofInstant(from, first).truncatedTo(ChronoUnit.DAYS),
                        first,
                        first,
                        rules.isDaylightSavings(from)));
        for (ZoneOffsetTransition t = rules.nextTransition(from);
                t != null && t.getInstant().isBefore(until); ) {
            boolean daylight = rules.isDaylightSavings(t.getInstant());
            zone.children().add(observance(t.getDateTimeBefore(), t.getOffsetBefore(), t.getOffsetAfter(), daylight));
            t = rules.nextTransition(t.getInstant());
        }
        return zone;
    }

    /** RFC 5545 §3.6.5: the onset in the local time before it. */
    private static Component observance(LocalDateTime onset, ZoneOffset before, ZoneOffset after, boolean daylight) {
        Component observance = new Component(daylight ? "DAYLIGHT" : "STANDARD");
        observance.properties().add(new VObjectProperty("DTSTART", LOCAL.format(onset)));
        observance.properties().add(new VObjectProperty("TZOFFSETFROM", offset(before)));
        observance.properties().add(new VObjectProperty("TZOFFSETTO", offset(after)));
        return observance;
    }

    private static String offset(ZoneOffset offset) {
        String id = offset.getTotalSeconds() == 0 ? "+0000" : offset.getId().replace(":", "");
        return id.length() == 5 || id.length() == 7 ? id : id + "00";
    }
}
