package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.SyntaxStyle;
import com.github.mangstadt.vinnie.VObjectProperty;
import com.github.mangstadt.vinnie.io.VObjectWriter;
import jandrel.core.item.MeetingItem;
import jandrel.core.reconcile.Details;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * A calendar object (RFC 4791 §4.1) to be changed: only what differs is written, and every property, alarm and component that is not
 * known here stays as it was, in its place. Not safe for several threads.
 */
public final class MeetingFile {
    static final String PRODUCT = "-//Corvane//Jandrel//EN";
    private final Component calendar;
    private final CalendarLimits limits;

    private MeetingFile(Component calendar, CalendarLimits limits) {
        this.calendar = calendar;
        this.limits = limits;
    }

    /**
     * What a file says of one meeting.
     *
     * @param mark of our last write that it still carries; may be empty
     * @param organiser the address of who asks to it; may be empty
     * @param sort {@code call}, {@code follow-up} or {@code meeting}
     */
    public record State(
            Details details, String mark, Instant changedAt, int sequence, long stamp, String organiser, String sort) {}

    /**
     * What is written beside the details.
     *
     * @param organiser the address and name of who asks the guests
     * @param rings whether the calendar has the reminder; else an alarm in it is left as it is
     * @param asks whether the guests are to be asked, by a server that does so (RFC 6638)
     * @param names of guests, by address, as far as they are known
     */
    public record Writing(
            int sequence,
            Instant stamp,
            String organiser,
            String organiserName,
            String mark,
            String sort,
            boolean rings,
            boolean asks,
            Map<String, String> names) {}

    public static MeetingFile fresh() {
        return fresh("");
    }

    /** @param method what is wanted of it (RFC 5546); empty for an object in a calendar, which has none */
    static MeetingFile fresh(String method) {
        Component calendar = new Component("VCALENDAR");
        calendar.properties().add(new VObjectProperty("VERSION", "2.0"));
        calendar.properties().add(new VObjectProperty("PRODID", PRODUCT));
        if (!method.isEmpty()) {
            calendar.properties().add(new VObjectProperty("METHOD", method));
        }
        return new MeetingFile(calendar, CalendarLimits.USUAL);
    }

    /** @throws UnreadableCalendar if it is no calendar object */
    public static MeetingFile read(byte[] bytes) throws UnreadableCalendar {
        String text = new String(bytes, StandardCharsets.UTF_8);
        return new MeetingFile(ComponentReader.read(text, CalendarLimits.USUAL), CalendarLimits.USUAL);
    }

    /**
     * One meeting of the file.
     *
     * @param recurrence names an occurrence of a series; null for a meeting that does not recur
     * @return nothing where the file has none such, or no longer
     * @throws UnreadableCalendar if what the file says of it makes no sense
     */
    public Optional<State> state(String uid, @Nullable Instant recurrence) throws UnreadableCalendar {
        Zones zones = new Zones(calendar);
        Event master = master(uid, zones);
        if (recurrence == null) {
            return master == null || Series.recurs(master)
                    ? Optional.empty()
                    : Optional.of(state(master, master.begins(), false));
        }
        Event override = override(uid, recurrence, master, zones);
        boolean off = master != null && master.isCancelled();
        if (override != null) {
            return Optional.of(state(override, override.begins(), off));
        }
        if (master == null || !Series.recurs(master)) {
            return Optional.empty();
        }
        Series series = new Series(events(uid, zones), limits);
        TreeMap<Instant, Series.Meeting> one = new TreeMap<>();
        series.occurrences(new CalendarWindow(recurrence, recurrence.plusSeconds(1)), one);
        Series.Meeting at = one.get(recurrence);
        return at == null ? Optional.empty() : Optional.of(state(at.event(), at.begins(), off));
    }

    private static State state(Event event, Instant begins, boolean off) throws UnreadableCalendar {
        Component c = event.component();
        String organiser = event.organiser();
        String sort = c.value(Edits.SORT).toLowerCase(java.util.Locale.ROOT);
        return new State(
                event.details(begins, begins.plus(event.length()), off),
                c.value(Edits.MARK),
                event.changedAt(),
                event.sequence(),
                event.stamp(),
                organiser,
                MeetingItem.Sort.of(sort).word());
    }

    private List<Event> events(String uid, Zones zones) throws UnreadableCalendar {
        List<Event> events = new ArrayList<>();
        for (Component component : calendar.children("VEVENT")) {
            if (component.value("UID").equals(uid)) {
                events.add(new Event(component, zones, limits));
            }
        }
        return events;
    }

    private @Nullable Event master(String uid, Zones zones) throws UnreadableCalendar {
        return events(uid, zones).stream()
                .filter(e -> e.component().first("RECURRENCE-ID").isEmpty())
                .findFirst()
                .orElse(null);
    }

    private @Nullable Event override(String uid, Instant recurrence, @Nullable Event master, Zones zones)
            throws UnreadableCalendar {
        for (Event event : events(uid, zones)) {
            if (event.component().first("RECURRENCE-ID").isPresent()
                    && !event.isFromHereOn()
                    && recurrence.equals(event.recurrenceId(master == null ? event : master))) {
                return event;
            }
        }
        return null;
    }

    /**
     * Writes what differs.
     *
     * @param recurrence as for {@link #state}; an occurrence that only its series' rule gives gets a component of its own
     * @throws UnreadableCalendar if what the file says makes no sense
     */
    public void put(String uid, @Nullable Instant recurrence, Details details, Writing writing)
            throws UnreadableCalendar {
        Details before = state(uid, recurrence).map(State::details).orElse(null);
        Zones zones = new Zones(calendar);
        Event master = master(uid, zones);
        Component target = recurrence == null
                ? (master == null ? null : master.component())
                : Optional.ofNullable(override(uid, recurrence, master, zones))
                        .map(Event::component)
                        .orElse(null);
        if (target == null) {
            target = recurrence == null || master == null ? Edits.fresh(uid) : Edits.copied(master.component());
            if (recurrence != null) {
                Edits.names(target, recurrence, master);
            }
            calendar.children().add(target);
        }
        String zone = details.when().zone();
        if (!details.when().allDay() && !zone.isEmpty() && Edits.knows(zone) && !hasZone(zone)) {
            calendar.children().add(0, VTimeZone.around(zone, details.when().begins()));
        }
        new Edits(target, before, details, writing).all();
    }

    private boolean hasZone(String id) {
        return calendar.children("VTIMEZONE").stream()
                .anyMatch(z -> z.value("TZID").equals(id));
    }

    /**
     * Takes a meeting out. An occurrence of a series becomes one of its exceptions.
     *
     * @return whether anything is left in the file
     * @throws UnreadableCalendar if what the file says makes no sense
     */
    public boolean remove(String uid, @Nullable Instant recurrence) throws UnreadableCalendar {
        Zones zones = new Zones(calendar);
        Event master = master(uid, zones);
        if (recurrence == null) {
            calendar.children()
                    .removeIf(c -> c.name().equalsIgnoreCase("VEVENT")
                            && c.value("UID").equals(uid));
        } else {
            Event override = override(uid, recurrence, master, zones);
            if (override != null) {
                calendar.children().remove(Objects.requireNonNull(override).component());
            }
            if (master != null) {
                Edits.except(master, recurrence);
            }
        }
        return !calendar.children("VEVENT").isEmpty();
    }

    /** Without these properties of its events. */
    void without(Set<String> names) {
        calendar.children("VEVENT")
                .forEach(event -> event.properties()
                        .removeIf(p -> names.contains(p.getName().toUpperCase(Locale.ROOT))));
    }

    public byte[] bytes() {
        StringWriter text = new StringWriter();
        try (VObjectWriter writer = new VObjectWriter(text, SyntaxStyle.NEW)) {
            writer.setCaretEncodingEnabled(true);
            write(calendar, writer);
        } catch (IOException inMemory) {
            throw new UncheckedIOException(inMemory);
        }
        return text.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static void write(Component component, VObjectWriter writer) throws IOException {
        writer.writeBeginComponent(component.name());
        for (VObjectProperty property : component.properties()) {
            writer.writeProperty(property);
        }
        for (Component child : component.children()) {
            write(child, writer);
        }
        writer.writeEndComponent(component.name());
    }
}
