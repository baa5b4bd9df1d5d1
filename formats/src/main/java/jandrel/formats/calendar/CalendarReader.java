package jandrel.formats.calendar;

import jandrel.core.item.Content;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.UnreadableItem;
import jandrel.formats.calendar.Occurrences.Occurrence;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Reads one calendar object (RFC 4791 §4.1: all components with one UID) into the occurrences inside a window. Occurrences are
 * keyed by the instant they would have had without change; EXDATEs take instants out, overrides replace them. Stateless.
 */
public final class CalendarReader {
    private static final String WITHIN = "~";
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
            return read(ComponentReader.merged(ComponentReader.all(raw, limits)), window, place);
        } catch (UnreadableCalendar broken) {
            return unreadable(window, place, String.valueOf(broken.getMessage()));
        } catch (RuntimeException | StackOverflowError broken) {
            return unreadable(window, place, UnreadableCalendar.BROKEN);
        }
    }

    private static Occurrences unreadable(CalendarWindow window, String place, String why) {
        return new Occurrences(List.of(unreadable(window, place, "", why)), false);
    }

    private static Occurrence unreadable(CalendarWindow window, String place, String within, String why) {
        String identity = "unreadable:" + place + (within.isEmpty() ? "" : "#" + within);
        return new Occurrence(within, new UnreadableItem(identity, window.from(), why), Content.EMPTY);
    }

    private Occurrences read(Component calendar, CalendarWindow window, String place) {
        Work work = new Work(limits);
        Zones zones = new Zones(calendar, work);
        Map<String, List<Component>> byUid = new TreeMap<>();
        for (Component component : calendar.children("VEVENT")) {
            byUid.computeIfAbsent(component.value("UID"), u -> new ArrayList<>())
                    .add(component);
        }
        List<Occurrence> found = new ArrayList<>();
        boolean goesOn = false;
        boolean several = byUid.size() > 1;
        for (Map.Entry<String, List<Component>> named : byUid.entrySet()) {
            // in a file with several meetings each has its own place, whatever the others are
            String within = several ? WITHIN + digest(named.getKey()) : "";
            List<Occurrence> own = new ArrayList<>();
            try {
                goesOn |= series(events(named.getKey(), named.getValue(), zones), window, within, own);
                work.spend(own.size());
                if (found.size() + own.size() > limits.occurrences()) {
                    throw new UnreadableCalendar("it has more than " + limits.occurrences() + " occurrences");
                }
                found.addAll(own);
            } catch (UnreadableCalendar broken) {
                found.add(unreadable(window, place, within, String.valueOf(broken.getMessage())));
            } catch (RuntimeException | StackOverflowError broken) {
                found.add(unreadable(window, place, within, UnreadableCalendar.BROKEN));
            }
        }
        return new Occurrences(found, goesOn);
    }

    private List<Event> events(String uid, List<Component> components, Zones zones) throws UnreadableCalendar {
        if (uid.isEmpty()) {
            throw new UnreadableCalendar("one of its events has no UID");
        }
        if (uid.length() > CalendarLimits.LONGEST_UID) {
            throw new UnreadableCalendar("its UID is longer than " + CalendarLimits.LONGEST_UID + " characters");
        }
        List<Event> events = new ArrayList<>(components.size());
        for (Component component : components) {
            events.add(new Event(component, zones, limits));
        }
        return events;
    }

    private static String digest(String uid) {
        return UUID.nameUUIDFromBytes(uid.getBytes(StandardCharsets.UTF_8))
                .toString()
                .substring(0, 13);
    }

    private boolean series(List<Event> events, CalendarWindow window, String within, List<Occurrence> into)
            throws UnreadableCalendar {
        Series series = new Series(events, limits, events.get(0).work());
        Event master = series.master();
        if (master != null && !Series.recurs(master)) {
            addIfInside(single(master), master, within, window, into);
        }
        Map<Instant, Series.Meeting> meetings = new TreeMap<>();
        boolean goesOn = series.occurrences(window, meetings);
        for (Map.Entry<Instant, Series.Meeting> entry : meetings.entrySet()) {
            Series.Meeting meeting = entry.getValue();
            Instant named = entry.getKey();
            MeetingItem item = meeting.event().at(meeting.begins(), meeting.ends(), named, isOff(master));
            addIfInside(item, meeting.event(), named + within, window, into);
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
