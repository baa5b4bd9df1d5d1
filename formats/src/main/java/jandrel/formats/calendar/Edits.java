package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.VObjectProperty;
import com.github.mangstadt.vinnie.io.VObjectPropertyValues;
import jandrel.core.address.EmailAddress;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.MeetingItem.Transparency;
import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Field;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** What is written into one VEVENT: only what differs from what it says. */
final class Edits {
    static final String MARK = "X-JANDREL-WRITE";
    private static final DateTimeFormatter LOCAL = DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss");
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("yyyyMMdd");
    private static final Set<String> OF_THE_SERIES = Set.of("RRULE", "RDATE", "EXDATE", "EXRULE", "RECURRENCE-ID");
    private static final Set<String> OF_THE_OLD_TEXT = Set.of("ALTREP", "ENCODING", "CHARSET");
    private final Component event;
    private final @Nullable Details before;
    private final Details after;
    private final WriteOptions writing;

    Edits(Component event, @Nullable Details before, Details after, WriteOptions writing) {
        this.event = event;
        this.before = before;
        this.after = after;
        this.writing = writing;
    }

    static Component fresh(String uid) {
        Component event = new Component("VEVENT");
        event.properties().add(new VObjectProperty("UID", uid));
        return event;
    }

    /** An occurrence of a series, to say something else than the others: at its own time, in the form of theirs (RFC 5545 §3.8.4.4). */
    static Component copied(Series.Meeting like) throws UnreadableCalendar {
        Event event = like.event();
        Component copy = event.component().copy();
        copy.properties().removeIf(p -> OF_THE_SERIES.contains(p.getName().toUpperCase(Locale.ROOT)));
        copy.properties().replaceAll(p -> switch (p.getName().toUpperCase(Locale.ROOT)) {
            case "DTSTART" -> moved(p, like.begins(), event.start(), event.zoneOf(p, event.start()));
            case "DTEND" -> ended(p, like.ends(), event);
            default -> p;
        });
        if (copy.first("DTEND").isEmpty()
                && !Duration.between(like.begins(), like.ends()).equals(event.length())) {
            // one of the dates that the series names has a length of its own
            lasts(copy, like, event);
        }
        return copy;
    }

    private static void lasts(Component copy, Series.Meeting like, Event event) {
        VObjectProperty start = copy.first("DTSTART").orElseThrow();
        VObjectProperty end = moved(start, like.ends(), event.start(), event.zoneOf(start, event.start()));
        end.setName("DTEND");
        copy.properties().removeIf(p -> p.getName().equalsIgnoreCase("DURATION"));
        copy.properties().add(copy.properties().indexOf(start) + 1, end);
    }

    private static VObjectProperty ended(VObjectProperty end, Instant at, Event event) {
        try {
            Moment was = Moment.of(end.getValue());
            return moved(end, at, was, event.zoneOf(end, was));
        } catch (UnreadableCalendar impossible) {
            // its length was read from it before
            return end;
        }
    }

    /** The same property for another moment: its parameters, its zone, and whether it is a date stay. */
    private static VObjectProperty moved(VObjectProperty property, Instant at, Moment was, Zones.Zone zone) {
        VObjectProperty moved = Component.copy(property);
        String local = LOCAL.format(LocalDateTime.ofInstant(at, zone.rules().getOffset(at)));
        moved.setValue(was.date() ? DAY.format(at.atOffset(ZoneOffset.UTC)) : was.utc() ? utc(at) : local);
        return moved;
    }

    /** RFC 5545 §3.8.4.4: in the form of the series' start. */
    static void names(Component event, Instant recurrence, @Nullable Event master) {
        event.properties().add(dated("RECURRENCE-ID", recurrence, master));
    }

    /** RFC 5545 §3.8.5.1. */
    static void except(Event master, Instant recurrence) throws UnreadableCalendar {
        if (!master.instants("EXDATE").contains(recurrence)) {
            master.component().properties().add(dated("EXDATE", recurrence, master));
        }
    }

    private static VObjectProperty dated(String name, Instant at, @Nullable Event like) {
        VObjectProperty start =
                like == null ? null : like.component().first("DTSTART").orElse(null);
        if (like == null || start == null) {
            return new VObjectProperty(name, utc(at));
        }
        VObjectProperty property = new VObjectProperty(name, "");
        String tzid = start.getParameters().first("TZID");
        if (like.start().date()) {
            property.getParameters().put("VALUE", "DATE");
        } else if (tzid != null && !like.start().utc()) {
            property.getParameters().put("TZID", tzid);
        }
        return moved(property, at, like.start(), like.zone());
    }

    static boolean knows(String zone) {
        try {
            ZoneId.of(zone);
            return true;
        } catch (DateTimeException unknown) {
            return false;
        }
    }

    static String utc(Instant at) {
        return LOCAL.format(at.atOffset(ZoneOffset.UTC)) + "Z";
    }

    private boolean differs(Field field) {
        return before == null || !field.words(before).equals(field.words(after));
    }

    void all() {
        if (differs(Field.WHEN)) {
            when();
        }
        text(Field.TITLE, "SUMMARY", after.title());
        text(Field.PLACE, "LOCATION", after.place());
        text(Field.TEXT, "DESCRIPTION", after.text());
        if (differs(Field.ONLINE)) {
            set("CONFERENCE", after.online().isEmpty() ? null : property("CONFERENCE", after.online(), "VALUE", "URI"));
        }
        transparency();
        word(
                Field.PRIVACY,
                "CLASS",
                after.privacy() == Privacy.PUBLIC ? "PUBLIC" : after.privacy().name());
        word(Field.CANCELLED, "STATUS", after.cancelled() ? "CANCELLED" : "CONFIRMED");
        if (differs(Field.REMINDER) && writing.rings()) {
            reminder();
        }
        if (differs(Field.GUESTS)) {
            guests();
        }
        if (differs(Field.ANSWERS)) {
            answers();
        }
        set("SEQUENCE", new VObjectProperty("SEQUENCE", String.valueOf(writing.sequence())));
        set("DTSTAMP", new VObjectProperty("DTSTAMP", utc(writing.stamp())));
        set("LAST-MODIFIED", new VObjectProperty("LAST-MODIFIED", utc(writing.stamp())));
        set(MARK, new VObjectProperty(MARK, writing.mark()));
        if (before == null && !writing.sort().equals("meeting")) {
            set(Event.SORT, new VObjectProperty(Event.SORT, writing.sort().toUpperCase(Locale.ROOT)));
        }
    }

    private void when() {
        Details.When when = after.when();
        set("DTSTART", time("DTSTART", when.begins(), when));
        set("DTEND", time("DTEND", when.ends(), when));
        set("DURATION", null);
    }

    private static VObjectProperty time(String name, Instant at, Details.When when) {
        if (when.allDay()) {
            return property(name, DAY.format(at.atOffset(ZoneOffset.UTC)), "VALUE", "DATE");
        }
        if (when.zone().isEmpty() || !knows(when.zone())) {
            return new VObjectProperty(name, utc(at));
        }
        ZoneId zone = ZoneId.of(when.zone());
        LocalDateTime local = LocalDateTime.ofInstant(at, zone);
        if (!Moment.resolve(local, zone.getRules()).equals(at)) {
            // the second of an hour that comes twice has no name of its own but in UTC
            return new VObjectProperty(name, utc(at));
        }
        return property(name, LOCAL.format(local), "TZID", when.zone());
    }

    private void text(Field field, String name, String value) {
        if (differs(field)) {
            String escaped =
                    VObjectPropertyValues.escape(value.replace("\r", "")).replace("\n", "\\n");
            VObjectProperty text = new VObjectProperty(name, escaped);
            event.first(name)
                    .ifPresent(was -> was.getParameters().getMap().forEach((parameter, values) -> {
                        // another form of the text that was there is none of this one
                        if (!OF_THE_OLD_TEXT.contains(parameter.toUpperCase(Locale.ROOT))) {
                            text.getParameters().putAll(parameter, values.toArray(String[]::new));
                        }
                    }));
            set(name, value.isEmpty() ? null : text);
        }
    }

    /** What is usual is not written where nothing was said. */
    private void word(Field field, String name, String value) {
        boolean usual = Set.of("PUBLIC", "CONFIRMED").contains(value);
        if (differs(field) && !(before == null && usual)) {
            set(name, new VObjectProperty(name, value));
        }
    }

    /** What is not said depends on whether it takes whole days: it is said where that changes, too. */
    private void transparency() {
        Transparency is = after.busy() ? Transparency.OPAQUE : Transparency.TRANSPARENT;
        boolean allDay = after.when().allDay();
        boolean said = event.first("TRANSP").isPresent();
        boolean changes =
                differs(Field.BUSY) || (before != null && before.when().allDay() != allDay);
        if (changes && (said || is != Transparency.usual(allDay))) {
            set("TRANSP", new VObjectProperty("TRANSP", is.name()));
        }
    }

    private void reminder() {
        Component old = event.children("VALARM").stream()
                .filter(a -> Event.minutes(a) != Details.NONE)
                .findFirst()
                .orElse(null);
        if (after.reminder() == Details.NONE) {
            // with several, the next one would take its place
            event.children().removeIf(c -> c.name().equalsIgnoreCase("VALARM") && Event.minutes(c) != Details.NONE);
            return;
        }
        Component alarm = old == null ? new Component("VALARM") : old;
        VObjectProperty trigger = new VObjectProperty("TRIGGER", "-PT" + after.reminder() + "M");
        if (old == null) {
            alarm.properties().add(new VObjectProperty("ACTION", "DISPLAY"));
            alarm.properties().add(new VObjectProperty("DESCRIPTION", VObjectPropertyValues.escape(after.title())));
            alarm.properties().add(trigger);
            event.children().add(alarm);
        } else {
            alarm.properties().replaceAll(p -> p.getName().equalsIgnoreCase("TRIGGER") ? trigger : p);
        }
    }

    private void guests() {
        Set<String> missing = new TreeSet<>(after.guests());
        event.properties().removeIf(p -> {
            if (!p.getName().equalsIgnoreCase("ATTENDEE") || Event.isThing(p)) {
                return false;
            }
            String address =
                    EmailAddress.parse(p.getValue()).map(EmailAddress::toString).orElse("");
            boolean known = before != null && before.guests().contains(address);
            return known && !missing.remove(address);
        });
        missing.removeIf(guest -> event.all("ATTENDEE").stream()
                .anyMatch(p -> EmailAddress.parse(p.getValue())
                        .map(EmailAddress::toString)
                        .orElse("")
                        .equals(guest)));
        if (!after.guests().isEmpty()
                && event.first("ORGANIZER").isEmpty()
                && !writing.organiser().isEmpty()) {
            event.properties()
                    .add(property("ORGANIZER", "mailto:" + writing.organiser(), "CN", writing.organiserName()));
        }
        for (String guest : missing) {
            VObjectProperty attendee = property("ATTENDEE", "mailto:" + guest, "PARTSTAT", "NEEDS-ACTION");
            String name = writing.names().get(guest);
            if (name != null) {
                attendee.getParameters().put("CN", name);
            }
            if (writing.asks()) {
                attendee.getParameters().put("RSVP", "TRUE");
            } else {
                // RFC 6638 §7.1: a server that schedules leaves this one alone
                attendee.getParameters().put("SCHEDULE-AGENT", "NONE");
            }
            event.properties().add(attendee);
        }
    }

    private void answers() {
        for (VObjectProperty p : event.all("ATTENDEE")) {
            String guest =
                    EmailAddress.parse(p.getValue()).map(EmailAddress::toString).orElse("");
            Answer was = before == null ? null : before.answers().get(guest);
            Answer is = after.answers().get(guest);
            if (was != is && !Event.isThing(p)) {
                p.getParameters().replace("PARTSTAT", is == null ? "NEEDS-ACTION" : is.name());
            }
        }
    }

    private static VObjectProperty property(String name, String value, String parameter, String is) {
        VObjectProperty property = new VObjectProperty(name, value);
        if (!is.isEmpty()) {
            property.getParameters().put(parameter, is);
        }
        return property;
    }

    /** In the place of the first of its name; null takes all of them out. */
    private void set(String name, @Nullable VObjectProperty property) {
        List<VObjectProperty> all = event.properties();
        int at = -1;
        for (int i = 0; i < all.size() && at < 0; i++) {
            at = all.get(i).getName().equalsIgnoreCase(name) ? i : -1;
        }
        all.removeIf(p -> p.getName().equalsIgnoreCase(name));
        if (property != null) {
            all.add(at < 0 ? all.size() : at, property);
        }
    }
}
