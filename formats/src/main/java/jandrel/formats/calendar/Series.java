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
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** All components of one UID: a meeting, or a series with what is different in some of its occurrences (RFC 5545 §3.8.4.4). */
final class Series {
    private final @Nullable Event master;
    private final List<Event> overrides = new ArrayList<>();
    private final TreeMap<Instant, FromHereOn> shifts = new TreeMap<>();
    private final CalendarLimits limits;
    private final Work work;

    /** @param event whose words it has */
    record Meeting(Event event, Instant begins, Instant ends) {}

    /** RANGE=THISANDFUTURE (RFC 5545 §3.2.13): the words, the length and the shift hold for the occurrences from here on, too. */
    private record FromHereOn(Event event, Duration shift, Duration length) {
        static FromHereOn of(Event event, Event master, Instant recurrence) throws UnreadableCalendar {
            LocalDateTime was = counted(event, local(recurrence, master.zone().rules()));
            Duration shift = Duration.between(was, local(event.begins(), rules(event, master)));
            return new FromHereOn(event, shift, event.length());
        }

        Instant begins(Event master, Instant at) {
            LocalDateTime was = counted(event, local(at, master.zone().rules()));
            return Moment.resolve(was.plus(shift), rules(event, master));
        }

        /** Among whole days the time of day that an occurrence had says nothing. */
        private static LocalDateTime counted(Event event, LocalDateTime was) {
            return event.start().date() ? was.toLocalDate().atStartOfDay() : was;
        }

        /** On the clock of the series, but where whole days are given a time, or times a whole day. */
        private static ZoneRules rules(Event event, Event master) {
            boolean asTheSeries = event.start().date() == master.start().date();
            return (asTheSeries ? master : event).zone().rules();
        }
    }

    Series(List<Event> events, CalendarLimits limits, Work work) throws UnreadableCalendar {
        this.limits = limits;
        this.work = work;
        master = master(events).orElse(null);
        // of two that say the same occurrence otherwise the newer counts, which comes last
        for (Event event : events.stream().sorted(Event.OLDEST_FIRST).toList()) {
            if (event.component().first("RECURRENCE-ID").isEmpty()) {
                continue;
            }
            overrides.add(event);
            Instant recurrence = event.recurrenceId(master == null ? event : master);
            if (event.isFromHereOn() && master != null && recurrence != null) {
                shifts.put(recurrence, FromHereOn.of(event, master, recurrence));
            }
        }
    }

    /** The newest that is not for one occurrence alone (RFC 5546 §2.1.5). */
    static Optional<Event> master(List<Event> events) {
        return events.stream()
                .filter(e -> e.component().first("RECURRENCE-ID").isEmpty())
                .max(Event.OLDEST_FIRST);
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

    /** One occurrence by what names it, whatever the overrides say of it; nothing where the series has none such. */
    Optional<Meeting> named(Instant recurrence) throws UnreadableCalendar {
        Event series = master;
        if (series == null) {
            return Optional.empty();
        }
        Map<Instant, Meeting> all = new TreeMap<>();
        // a shift may have moved it anywhere
        Duration furthest = furthest().plusDays(1);
        expand(series, new CalendarWindow(recurrence.minus(furthest), recurrence.plus(furthest)), all);
        return Optional.ofNullable(all.get(recurrence));
    }

    private Duration furthest() {
        return shifts.values().stream()
                .map(s -> s.shift().abs())
                .max(Comparator.naturalOrder())
                .orElse(Duration.ZERO);
    }

    private boolean expand(Event series, CalendarWindow window, Map<Instant, Meeting> into) throws UnreadableCalendar {
        Duration length = series.length();
        // local times differ from UTC by less than a day either way, and a shift can bring a later one into the window
        LocalDateTime end = LocalDateTime.ofInstant(window.until(), ZoneOffset.UTC)
                .plusDays(1)
                .plus(furthest());
        TreeSet<Instant> instants = new TreeSet<>();
        instants.add(series.begins());
        boolean goesOn = false;
        for (var rrule : series.component().all("RRULE")) {
            Recurrence rule = new Recurrence(rrule.getValue(), series.start(), local -> instant(series, local), work);
            rule.upTo(end).forEach(local -> instants.add(instant(series, local)));
            goesOn |= rule.goesOnAfter(end);
        }
        TreeMap<Instant, Duration> periods = new TreeMap<>();
        series.periods("RDATE", length, periods);
        instants.addAll(periods.keySet());
        for (var exrule : series.component().all("EXRULE")) {
            new Recurrence(exrule.getValue(), series.start(), local -> instant(series, local), work)
                    .upTo(end)
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
        Map.Entry<Instant, FromHereOn> entry = shifts.floorEntry(at);
        if (entry == null) {
            return new Meeting(series, at, at.plus(length));
        }
        FromHereOn last = entry.getValue();
        Instant begins = last.begins(series, at);
        return new Meeting(last.event(), begins, begins.plus(last.length()));
    }

    /** A rule's times of day mean nothing to whole days (RFC 5545 §3.3.10). */
    private static Instant instant(Event series, LocalDateTime local) {
        boolean date = series.start().date();
        return new Moment(
                        date ? local.toLocalDate().atStartOfDay() : local,
                        date,
                        series.start().utc())
                .in(series.zone().rules());
    }
}
