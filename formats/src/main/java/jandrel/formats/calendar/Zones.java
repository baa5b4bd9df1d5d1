package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.VObjectProperty;
import com.github.mangstadt.vinnie.io.VObjectPropertyValues;
import jandrel.core.item.MeetingItem;
import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.zone.ZoneOffsetTransition;
import java.time.zone.ZoneRules;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.TreeMap;

/**
 * The zones of one calendar object. A TZID is taken, in this order, as an IANA name, as an IANA name behind a vendor's prefix, by
 * CLDR's alias table, and at last by the rules of the VTIMEZONE that the object brings along (RFC 5545 §3.6.5).
 */
final class Zones {
    private static final int FIRST_YEAR = 1970;
    private static final int LAST_YEAR = 2100;
    private static final int LONGEST_ID = 200;
    private static final Map<String, String> OLD = Map.of("EST", "-05:00", "MST", "-07:00", "HST", "-10:00");
    private static final Zone UNKNOWN = new Zone(MeetingItem.UNKNOWN_ZONE, ZoneOffset.UTC.getRules());
    private final Work work;
    private final Map<String, Component> embedded = new HashMap<>();
    private final Map<String, Zone> known = new HashMap<>();
    private final Zone floating;

    /** @param id the IANA id, or the TZID as it stands where the rules come from the object itself */
    record Zone(String id, ZoneRules rules) {
        static final Zone UTC = new Zone("", ZoneOffset.UTC.getRules());
    }

    Zones(Component calendar, Work work) {
        this.work = work;
        for (Component zone : calendar.children("VTIMEZONE")) {
            // as text its commas are escaped (RFC 5545 §3.8.3.1), as a parameter they are not
            String id = zone.value("TZID");
            embedded.putIfAbsent(id, zone);
            embedded.putIfAbsent(VObjectPropertyValues.unescape(id), zone);
        }
        floating = iana(calendar.value("X-WR-TIMEZONE")).orElse(Zone.UTC);
    }

    Work work() {
        return work;
    }

    Zone floating() {
        return floating;
    }

    Zone of(String tzid) {
        return known.computeIfAbsent(tzid, this::resolve);
    }

    private Zone resolve(String tzid) {
        return (tzid.length() > LONGEST_ID ? Optional.<Zone>empty() : byName(tzid))
                .or(() -> Optional.ofNullable(embedded.get(tzid)).flatMap(zone -> ownRules(tzid, zone)))
                .orElse(tzid.isEmpty() ? floating : UNKNOWN);
    }

    private static Optional<Zone> byName(String tzid) {
        return iana(tzid).or(() -> behindPrefix(tzid)).or(() -> alias(tzid));
    }

    private static Optional<Zone> iana(String id) {
        if (id.isEmpty() || id.startsWith("+") || id.startsWith("-") || id.length() > 60) {
            return Optional.empty();
        }
        try {
            // the tz database has these, which Java takes for abbreviations of others
            String own = OLD.get(id);
            return Optional.of(new Zone(id, (own == null ? ZoneId.of(id) : ZoneOffset.of(own)).getRules()));
        } catch (DateTimeException unknown) {
            return Optional.empty();
        }
    }

    private static Optional<Zone> behindPrefix(String tzid) {
        for (int slash = tzid.indexOf('/'); slash >= 0; slash = tzid.indexOf('/', slash + 1)) {
            Optional<Zone> rest = iana(tzid.substring(slash + 1));
            if (rest.isPresent() && tzid.substring(slash + 1).contains("/")) {
                return rest;
            }
        }
        return Optional.empty();
    }

    private static Optional<Zone> alias(String tzid) {
        String id = com.ibm.icu.util.TimeZone.getIDForWindowsID(tzid, "001");
        return id == null ? Optional.empty() : iana(id);
    }

    private Optional<Zone> ownRules(String tzid, Component zone) {
        TreeMap<LocalDateTime, int[]> onsets = new TreeMap<>();
        List<Component> observances = new ArrayList<>(zone.children("STANDARD"));
        observances.addAll(zone.children("DAYLIGHT"));
        try {
            for (Component observance : observances) {
                int from = seconds(observance.value("TZOFFSETFROM"));
                int to = seconds(observance.value("TZOFFSETTO"));
                onsets(observance).forEach(at -> onsets.put(at, new int[] {from, to}));
            }
            return onsets.isEmpty() ? Optional.empty() : Optional.of(new Zone(tzid, rules(onsets)));
        } catch (RuntimeException | UnreadableCalendar broken) {
            return Optional.empty();
        }
    }

    private List<LocalDateTime> onsets(Component observance) throws UnreadableCalendar {
        Moment start = Moment.of(observance.value("DTSTART"));
        List<LocalDateTime> all = new ArrayList<>(List.of(start.local()));
        for (VObjectProperty rdate : observance.all("RDATE")) {
            for (String value : rdate.getValue().split(",", 0)) {
                work.spend(1);
                all.add(Moment.of(value).local());
            }
        }
        String rule = observance.value("RRULE");
        if (!rule.isEmpty()) {
            LocalDateTime end = LocalDateTime.of(LAST_YEAR, 1, 1, 0, 0);
            int from = Math.max(FIRST_YEAR, start.local().getYear());
            new Recurrence(
                            rule,
                            start,
                            at -> at.toInstant(ZoneOffset.ofTotalSeconds(seconds(observance.value("TZOFFSETFROM")))),
                            work)
                    .upTo(end).stream().filter(at -> at.getYear() >= from).forEach(all::add);
        }
        return all;
    }

    private static ZoneRules rules(NavigableMap<LocalDateTime, int[]> onsets) {
        ZoneOffset first = ZoneOffset.ofTotalSeconds(onsets.firstEntry().getValue()[0]);
        List<ZoneOffsetTransition> transitions = new ArrayList<>();
        ZoneOffset before = first;
        for (Map.Entry<LocalDateTime, int[]> onset : onsets.entrySet()) {
            ZoneOffset after = ZoneOffset.ofTotalSeconds(onset.getValue()[1]);
            if (!after.equals(before)) {
                transitions.add(ZoneOffsetTransition.of(onset.getKey().withNano(0), before, after));
                before = after;
            }
        }
        transitions.sort(Comparator.naturalOrder());
        return ZoneRules.of(first, first, List.of(), transitions, List.of());
    }

    /** UTC-OFFSET, RFC 5545 §3.3.14: sign, hours, minutes, and perhaps seconds. */
    private static int seconds(String offset) {
        int sign = offset.startsWith("-") ? -1 : 1;
        String digits = offset.substring(1);
        int seconds = Integer.parseInt(digits.substring(0, 2)) * 3600 + Integer.parseInt(digits.substring(2, 4)) * 60;
        return sign * (digits.length() >= 6 ? seconds + Integer.parseInt(digits.substring(4, 6)) : seconds);
    }
}
