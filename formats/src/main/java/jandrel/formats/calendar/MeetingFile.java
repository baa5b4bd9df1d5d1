package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.VObjectProperty;
import jandrel.core.item.MeetingItem;
import jandrel.core.reconcile.Details;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
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

    /** @throws UnreadableCalendar if it is no calendar object, or several */
    public static MeetingFile read(byte[] bytes) throws UnreadableCalendar {
        List<Component> calendars = ComponentReader.all(bytes, CalendarLimits.USUAL);
        if (calendars.size() > 1) {
            throw new UnreadableCalendar("it holds several calendars, which are not changed here");
        }
        return new MeetingFile(calendars.get(0), CalendarLimits.USUAL);
    }

    /**
     * One meeting of the file.
     *
     * @param recurrence names an occurrence of a series; null for a meeting that does not recur
     * @return nothing where the file has none such, or no longer
     * @throws UnreadableCalendar if what the file says of it makes no sense
     */
    public Optional<State> state(String uid, @Nullable Instant recurrence) throws UnreadableCalendar {
        return declared(() -> stateOf(uid, recurrence));
    }

    private interface Step<T extends @Nullable Object> {
        T take() throws UnreadableCalendar;
    }

    /** Whatever else a strange file makes the libraries throw is a file that cannot be read. */
    private static <T extends @Nullable Object> T declared(Step<T> step) throws UnreadableCalendar {
        try {
            return step.take();
        } catch (RuntimeException | StackOverflowError broken) {
            throw new UnreadableCalendar(UnreadableCalendar.BROKEN);
        }
    }

    private Optional<State> stateOf(String uid, @Nullable Instant recurrence) throws UnreadableCalendar {
        Zones zones = zones();
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
        return occurrence(uid, recurrence, zones).map(at -> stateAt(at, off));
    }

    /** An occurrence that its series' rule gives; wherever a change of all that follow has moved it. */
    private Optional<Series.Meeting> occurrence(String uid, Instant recurrence, Zones zones) throws UnreadableCalendar {
        Event master = master(uid, zones);
        if (master == null || !Series.recurs(master)) {
            return Optional.empty();
        }
        return new Series(events(uid, zones), limits, zones.work()).named(recurrence);
    }

    private static State stateAt(Series.Meeting at, boolean off) {
        Event event = at.event();
        return state(event, event.details(at.begins(), at.ends(), off));
    }

    private Zones zones() {
        return new Zones(calendar, new Work(limits));
    }

    private static State state(Event event, Instant begins, boolean off) throws UnreadableCalendar {
        return state(event, event.details(begins, begins.plus(event.length()), off));
    }

    private static State state(Event event, Details details) {
        Component c = event.component();
        String organiser = event.organiser();
        String sort = c.value(Event.SORT).toLowerCase(java.util.Locale.ROOT);
        return new State(
                details,
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
        return Series.master(events(uid, zones)).orElse(null);
    }

    private @Nullable Event override(String uid, Instant recurrence, @Nullable Event master, Zones zones)
            throws UnreadableCalendar {
        Event newest = null;
        for (Event event : events(uid, zones)) {
            if (event.component().first("RECURRENCE-ID").isPresent()
                    && !event.isFromHereOn()
                    && recurrence.equals(event.recurrenceId(master == null ? event : master))
                    && (newest == null || Event.OLDEST_FIRST.compare(event, newest) >= 0)) {
                newest = event;
            }
        }
        return newest;
    }

    /**
     * Writes what differs.
     *
     * @param recurrence as for {@link #state}; an occurrence that only its series' rule gives gets a component of its own
     * @throws UnreadableCalendar if what the file says makes no sense
     */
    public void put(String uid, @Nullable Instant recurrence, Details details, WriteOptions writing)
            throws UnreadableCalendar {
        declared(() -> {
            write(uid, recurrence, details, writing);
            return true;
        });
    }

    private void write(String uid, @Nullable Instant recurrence, Details details, WriteOptions writing)
            throws UnreadableCalendar {
        Details before = state(uid, recurrence).map(State::details).orElse(null);
        Zones zones = zones();
        Event master = master(uid, zones);
        Component target = recurrence == null
                ? (master == null ? null : master.component())
                : Optional.ofNullable(override(uid, recurrence, master, zones))
                        .map(Event::component)
                        .orElse(null);
        if (target == null) {
            Series.Meeting like = recurrence == null
                    ? null
                    : occurrence(uid, recurrence, zones).orElse(null);
            target = like == null || master == null ? Edits.fresh(uid) : Edits.copied(like);
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
        return declared(() -> removed(uid, recurrence));
    }

    private boolean removed(String uid, @Nullable Instant recurrence) throws UnreadableCalendar {
        Zones zones = zones();
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

    /**
     * By RFC 5545 §3.6 with VERSION and PRODID, whoever left them out before.
     *
     * @throws UnreadableCalendar if what was changed stands in a property that cannot be written, such as one with nameless parameters
     */
    public byte[] bytes() throws UnreadableCalendar {
        if (calendar.first("PRODID").isEmpty()) {
            calendar.properties().add(0, new VObjectProperty("PRODID", PRODUCT));
        }
        if (calendar.first("VERSION").isEmpty()) {
            calendar.properties().add(0, new VObjectProperty("VERSION", "2.0"));
        }
        return declared(() -> CalendarWriter.write(calendar));
    }
}
