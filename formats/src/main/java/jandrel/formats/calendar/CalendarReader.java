package jandrel.formats.calendar;

import jandrel.core.item.Content;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.UnreadableItem;
import jandrel.formats.calendar.Occurrences.Occurrence;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Reads one calendar object (RFC 4791 §4.1: all components with one UID) into the occurrences inside a window. Occurrences are
 * keyed by the instant they would have had without change; EXDATEs take instants out, overrides replace them. Stateless.
 */
public final class CalendarReader {
    private final CalendarLimits limits;

    public CalendarReader(CalendarLimits limits) {
        this.limits = limits;
    }

    /**
     * Never throws: what cannot be read comes back as one {@link UnreadableItem}.
     *
     * @param place names the object in its calendar; becomes the identity of what cannot be read
     */
    public Occurrences read(byte[] raw, CalendarWindow window, String place) {
        try {
            return read(new String(raw, StandardCharsets.UTF_8), window);
        } catch (UnreadableCalendar broken) {
            return unreadable(window, place, String.valueOf(broken.getMessage()));
        } catch (RuntimeException | StackOverflowError broken) {
            return unreadable(window, place, "it breaks the rules of its format");
        }
    }

    private static Occurrences unreadable(CalendarWindow window, String place, String why) {
        UnreadableItem item = new UnreadableItem("unreadable:" + place, window.from(), why);
        return new Occurrences(List.of(new Occurrence("", item, Content.EMPTY)), false);
    }

    private Occurrences read(String text, CalendarWindow window) throws UnreadableCalendar {
        Component calendar = ComponentReader.read(text, limits);
        Zones zones = new Zones(calendar);
        Map<String, List<Event>> byUid = new LinkedHashMap<>();
        for (Component component : calendar.children("VEVENT")) {
            Event event = new Event(component, zones, limits);
            if (event.uid().isEmpty()) {
                throw new UnreadableCalendar("one of its events has no UID");
            }
            byUid.computeIfAbsent(event.uid(), u -> new ArrayList<>()).add(event);
        }
        List<Occurrence> found = new ArrayList<>();
        boolean goesOn = false;
        for (List<Event> events : byUid.values()) {
            goesOn |= series(events, window, found);
        }
        return new Occurrences(found, goesOn);
    }

    private boolean series(List<Event> events, CalendarWindow window, List<Occurrence> into) throws UnreadableCalendar {
        Event master = events.stream()
                .filter(e -> e.component().first("RECURRENCE-ID").isEmpty())
                .findFirst()
                .orElse(null);
        Map<Instant, MeetingItem> items = new TreeMap<>();
        Map<Instant, Event> sources = new LinkedHashMap<>();
        boolean goesOn = false;
        if (master != null) {
            if (!recurs(master)) {
                addIfInside(single(master), master, "", window, into);
            } else {
                goesOn = expand(master, window, items);
                items.keySet().forEach(key -> sources.put(key, master));
            }
        }
        for (Event override : events) {
            Event reference = master == null ? override : master;
            Instant recurrence = override == master ? null : override.recurrenceId(reference);
            if (recurrence != null) {
                Instant begins = override.start().in(override.zone().rules());
                items.put(recurrence, override.at(begins, begins.plus(override.length()), recurrence, isOff(master)));
                sources.put(recurrence, override);
            }
        }
        if (items.size() > limits.occurrences()) {
            throw new UnreadableCalendar(
                    "its series has more than " + limits.occurrences() + " occurrences in the window");
        }
        for (Map.Entry<Instant, MeetingItem> entry : items.entrySet()) {
            Event source = java.util.Objects.requireNonNull(sources.get(entry.getKey()));
            addIfInside(entry.getValue(), source, entry.getKey().toString(), window, into);
        }
        return goesOn;
    }

    private static boolean isOff(@Nullable Event master) {
        return master != null && master.isCancelled();
    }

    private static boolean recurs(Event event) {
        return event.component().first("RRULE").isPresent()
                || event.component().first("RDATE").isPresent();
    }

    private static MeetingItem single(Event event) throws UnreadableCalendar {
        Instant begins = event.start().in(event.zone().rules());
        return event.at(begins, begins.plus(event.length()), null, false);
    }

    private static void addIfInside(
            MeetingItem item, Event source, String place, CalendarWindow window, List<Occurrence> into) {
        if (window.touches(item.at(), item.ends())) {
            into.add(new Occurrence(place, item, source.content()));
        }
    }

    /** All occurrences of the rules and dates of a series that touch the window, by instant; true when more come after it. */
    private boolean expand(Event master, CalendarWindow window, Map<Instant, MeetingItem> into)
            throws UnreadableCalendar {
        Duration length = master.length();
        // local times differ from UTC by less than a day either way
        LocalDateTime end =
                LocalDateTime.ofInstant(window.until(), ZoneOffset.UTC).plusDays(1);
        TreeMap<Instant, Boolean> instants = new TreeMap<>();
        instants.put(master.start().in(master.zone().rules()), true);
        boolean goesOn = false;
        for (var rrule : master.component().all("RRULE")) {
            Recurrence rule = new Recurrence(rrule.getValue(), master.start(), local -> instant(master, local));
            rule.upTo(end, limits.steps()).forEach(local -> instants.put(instant(master, local), true));
            goesOn |= rule.goesOnAfter(end, limits.steps());
        }
        master.instants("RDATE").forEach(at -> instants.put(at, true));
        master.instants("EXDATE").forEach(instants::remove);
        for (Instant at : instants.keySet()) {
            Instant ends = at.plus(length);
            if (window.touches(at, ends)) {
                into.put(at, master.at(at, ends, at, false));
            }
        }
        return goesOn;
    }

    private static Instant instant(Event master, LocalDateTime local) {
        return new Moment(local, master.start().date(), master.start().utc())
                .in(master.zone().rules());
    }
}
