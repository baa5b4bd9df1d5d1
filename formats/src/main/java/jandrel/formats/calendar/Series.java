package jandrel.formats.calendar;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.zone.ZoneRules;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** All components of one UID: a meeting, or a series with what is different in some of its occurrences (RFC 5545 §3.8.4.4). */
final class Series {
    private final @Nullable Event master;
    private final List<Event> overrides = new ArrayList<>();
    private final List<FromHereOn> shifts = new ArrayList<>();
    private final CalendarLimits limits;

    /** @param event whose words it has */
    record Meeting(Event event, Instant begins, Instant ends) {}

    /** RANGE=THISANDFUTURE (RFC 5545 §3.2.13): the words, the length and the shift hold for the occurrences from here on, too. */
    private record FromHereOn(Instant from, Event event, Duration shift, Duration length) {}

    Series(List<Event> events, CalendarLimits limits) throws UnreadableCalendar {
        this.limits = limits;
        master = events.stream()
                .filter(e -> e.component().first("RECURRENCE-ID").isEmpty())
                .findFirst()
                .orElse(null);
        for (Event event : events) {
            if (event == master || event.component().first("RECURRENCE-ID").isEmpty()) {
                continue;
            }
            overrides.add(event);
            Instant recurrence = event.recurrenceId(master == null ? event : master);
            if (event.isFromHereOn() && master != null && recurrence != null) {
                ZoneRules rules = master.zone().rules();
                Duration shift = Duration.between(local(recurrence, rules), local(event.begins(), rules));
                shifts.add(new FromHereOn(recurrence, event, shift, event.length()));
            }
        }
        shifts.sort(Comparator.comparing(FromHereOn::from));
    }

    @Nullable
    Event master() {
        return master;
    }

    static boolean recurs(Event event) {
        return event.component().first("RRULE").isPresent()
                || event.component().first("RDATE").isPresent();
    }

    private static LocalDateTime local(Instant at, ZoneRules rules) {
        return LocalDateTime.ofInstant(at, rules.getOffset(at));
    }

    /**
     * The occurrences of a series that touch the window, by the instant that names each.
     *
     * @return whether more come after the window
     */
    boolean occurrences(CalendarWindow window, Map<Instant, Meeting> into) throws UnreadableCalendar {
        boolean goesOn = master != null && recurs(master) && expand(master, window, into);
        for (Event override : overrides) {
            Instant recurrence = override.recurrenceId(master == null ? override : master);
            if (recurrence != null) {
                Instant begins = override.begins();
                into.put(recurrence, new Meeting(override, begins, begins.plus(override.length())));
            }
        }
        if (into.size() > limits.occurrences()) {
            throw new UnreadableCalendar(
                    "its series has more than " + limits.occurrences() + " occurrences in the window");
        }
        return goesOn;
    }

    private boolean expand(Event series, CalendarWindow window, Map<Instant, Meeting> into) throws UnreadableCalendar {
        Duration length = series.length();
        // local times differ from UTC by less than a day either way, and a shift can bring a later one into the window
        Duration furthest = shifts.stream()
                .map(s -> s.shift().abs())
                .max(Comparator.naturalOrder())
                .orElse(Duration.ZERO);
        LocalDateTime end = LocalDateTime.ofInstant(window.until(), ZoneOffset.UTC)
                .plusDays(1)
                .plus(furthest);
        TreeSet<Instant> instants = new TreeSet<>();
        instants.add(series.begins());
        boolean goesOn = false;
        for (var rrule : series.component().all("RRULE")) {
            Recurrence rule = new Recurrence(rrule.getValue(), series.start(), local -> instant(series, local));
            rule.upTo(end, limits.steps()).forEach(local -> instants.add(instant(series, local)));
            goesOn |= rule.goesOnAfter(end, limits.steps());
        }
        TreeMap<Instant, Duration> periods = new TreeMap<>();
        series.periods("RDATE", length, periods);
        instants.addAll(periods.keySet());
        for (var exrule : series.component().all("EXRULE")) {
            new Recurrence(exrule.getValue(), series.start(), local -> instant(series, local))
                    .upTo(end, limits.steps())
                    .forEach(local -> instants.remove(instant(series, local)));
        }
        series.instants("EXDATE").forEach(instants::remove);
        for (Instant at : instants) {
            Meeting meeting = shifted(series, at, periods.getOrDefault(at, length));
            if (window.touches(meeting.begins(), meeting.ends())) {
                into.put(at, meeting);
            }
        }
        return goesOn;
    }

    private Meeting shifted(Event series, Instant at, Duration length) {
        FromHereOn last = null;
        for (FromHereOn shift : shifts) {
            last = shift.from().isAfter(at) ? last : shift;
        }
        if (last == null) {
            return new Meeting(series, at, at.plus(length));
        }
        ZoneRules rules = series.zone().rules();
        Instant begins = Moment.resolve(local(at, rules).plus(last.shift()), rules);
        return new Meeting(last.event(), begins, begins.plus(last.length()));
    }

    private static Instant instant(Event series, LocalDateTime local) {
        return new Moment(local, series.start().date(), series.start().utc())
                .in(series.zone().rules());
    }
}
