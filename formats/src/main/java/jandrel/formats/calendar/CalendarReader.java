package jandrel.formats.calendar;

import jandrel.core.item.Content;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.UnreadableItem;
import jandrel.formats.calendar.Occurrences.Occurrence;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
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
        Series series = new Series(events, limits);
        Event master = series.master();
        if (master != null && !Series.recurs(master)) {
            addIfInside(single(master), master, "", window, into);
        }
        Map<Instant, Series.Meeting> meetings = new TreeMap<>();
        boolean goesOn = series.occurrences(window, meetings);
        for (Map.Entry<Instant, Series.Meeting> entry : meetings.entrySet()) {
            Series.Meeting meeting = entry.getValue();
            Instant named = entry.getKey();
            MeetingItem item = meeting.event().at(meeting.begins(), meeting.ends(), named, isOff(master));
            addIfInside(item, meeting.event(), named.toString(), window, into);
        }
        return goesOn;
    }

    private static boolean isOff(@Nullable Event master) {
        return master != null && master.isCancelled();
    }

    private static MeetingItem single(Event event) throws UnreadableCalendar {
        Instant begins = event.begins();
        return event.at(begins, begins.plus(event.length()), null, false);
    }

    private static void addIfInside(
            MeetingItem item, Event source, String place, CalendarWindow window, List<Occurrence> into) {
        if (window.touches(item.at(), item.ends())) {
            into.add(new Occurrence(place, item, source.content()));
        }
    }
}
