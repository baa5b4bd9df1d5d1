package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.VObjectProperty;
import com.github.mangstadt.vinnie.io.VObjectPropertyValues;
import jandrel.core.address.EmailAddress;
import jandrel.core.item.Content;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.MeetingItem.State;
import jandrel.core.item.MeetingItem.Transparency;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Details;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.zone.ZoneRules;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** One VEVENT: a meeting, a series, or what differs in one occurrence of a series. */
final class Event {
    static final String SORT = "X-JANDREL-SORT";
    private static final Set<String> THINGS = Set.of("ROOM", "RESOURCE");
    private static final Pattern LINK = Pattern.compile("https://[^\\s<>\"']{4,400}");
    private static final Pattern JOINING = Pattern.compile("(?i)(join|meet|call|conf|room|video|dial)");
    private static final Pattern DURATION =
            Pattern.compile("([+-])?P(?:(\\d+)W)?(?:(\\d+)D)?(?:T(?:(\\d+)H)?(?:(\\d+)M)?(?:(\\d+)S)?)?");
    private static final int LONGEST_TEXT = 100_000;
    private static final int MOST_CATEGORIES = 30;
    private static final int LONGEST_LINE = 500;
    private static final int MOST_MINUTES = 60 * 24 * 28;

    /** By SEQUENCE, then by DTSTAMP (RFC 5546 §2.1.5). */
    static final Comparator<Event> OLDEST_FIRST = Comparator.comparingInt(Event::sequence)
            .thenComparingLong(Event::stamp)
            .thenComparing(e -> e.isFromHereOn() ? 0 : 1);

    private static final Duration LONGEST = Duration.ofDays(40_000);
    private static final Instant LAST = Instant.parse("9999-01-01T00:00:00Z");

    private final Component component;
    private final Zones zones;
    private final Work work;
    private final CalendarLimits limits;
    private final Moment start;
    private final Zones.Zone zone;
    private @Nullable MeetingItem words;
    private @Nullable Content content;

    Event(Component component, Zones zones, CalendarLimits limits) throws UnreadableCalendar {
        this.work = zones.work();
        this.component = component;
        this.zones = zones;
        this.limits = limits;
        VObjectProperty dtstart =
                component.first("DTSTART").orElseThrow(() -> new UnreadableCalendar("one of its events has no start"));
        this.start = Moment.of(dtstart.getValue());
        this.zone = zoneOf(dtstart, start);
    }

    Zones.Zone zoneOf(VObjectProperty property, Moment moment) {
        if (moment.utc() || moment.date()) {
            return Zones.Zone.UTC;
        }
        String tzid = property.getParameters().first("TZID");
        return tzid == null ? zones.floating() : zones.of(tzid);
    }

    Work work() {
        return work;
    }

    Moment start() {
        return start;
    }

    Zones.Zone zone() {
        return zone;
    }

    Instant begins() {
        return start.in(zone.rules());
    }

    /** RANGE=THISANDFUTURE (RFC 5545 §3.2.13). */
    boolean isFromHereOn() {
        return component
                .first("RECURRENCE-ID")
                .map(p -> parameter(p, "RANGE").equalsIgnoreCase("THISANDFUTURE"))
                .orElse(false);
    }

    /** The address of who asks to it; empty for none. */
    String organiser() {
        return component
                .first("ORGANIZER")
                .flatMap(p -> EmailAddress.parse(p.getValue()))
                .map(EmailAddress::toString)
                .orElse("");
    }

    /** Whether an ATTENDEE is a room or a resource. */
    static boolean isThing(VObjectProperty attendee) {
        return THINGS.contains(parameter(attendee, "CUTYPE").toUpperCase(Locale.ROOT));
    }

    /** Whether the object names a zone that nobody knows, so that UTC is taken for it. */
    boolean guessesZone() {
        return zone.id().equals(MeetingItem.UNKNOWN_ZONE);
    }

    String uid() {
        return component.value("UID");
    }

    Component component() {
        return component;
    }

    /** The instants that a date-list property names, such as EXDATE. */
    List<Instant> instants(String property) throws UnreadableCalendar {
        TreeMap<Instant, Duration> found = new TreeMap<>();
        periods(property, Duration.ZERO, found);
        return List.copyOf(found.keySet());
    }

    /** The same with their lengths, which a period (RFC 5545 §3.3.9) has of its own. */
    void periods(String property, Duration usual, Map<Instant, Duration> into) throws UnreadableCalendar {
        for (VObjectProperty p : component.all(property)) {
            for (String value : p.getValue().split(",", 0)) {
                work.spend(1);
                if (value.isBlank()) {
                    continue;
                }
                int slash = value.indexOf('/');
                Instant begins = instant(p, Moment.of(slash < 0 ? value : value.substring(0, slash)));
                into.put(begins, slash < 0 ? usual : ofPeriod(p, begins, value.substring(slash + 1), usual));
            }
        }
    }

    private Duration ofPeriod(VObjectProperty property, Instant begins, String end, Duration usual)
            throws UnreadableCalendar {
        Matcher m = DURATION.matcher(end.strip());
        Duration length = m.matches() ? duration(m) : Duration.between(begins, instant(property, Moment.of(end)));
        boolean days = !length.isZero() && length.toSeconds() % 86_400 == 0;
        return length.isNegative() || length.compareTo(LONGEST) > 0 || (start.date() && !days) ? usual : length;
    }

    /**
     * A date that names an occurrence of a timed series (a frequent mistake) names the one that begins on that day, and a time
     * one of a series of whole days the day that it is on.
     */
    private Instant instant(VObjectProperty property, Moment moment) {
        if (moment.date() && !start.date()) {
            return new Moment(moment.local().toLocalDate().atTime(start.local().toLocalTime()), false, start.utc())
                    .in(zone.rules());
        }
        ZoneRules written = zoneOf(property, moment).rules();
        Instant at = moment.in(written);
        if (moment.date() || !start.date()) {
            return at;
        }
        ZoneRules here = moment.utc() ? zone.rules() : written;
        return at.atOffset(here.getOffset(at)).toLocalDate().atStartOfDay().toInstant(ZoneOffset.UTC);
    }

    @Nullable
    Instant recurrenceId(Event master) throws UnreadableCalendar {
        VObjectProperty property = component.first("RECURRENCE-ID").orElse(null);
        return property == null ? null : master.instant(property, Moment.of(property.getValue()));
    }

    /** RFC 5545 §3.6.1: DTEND, else DURATION, else the whole day for a date, else no time at all. */
    Duration length() throws UnreadableCalendar {
        Duration length = written();
        if (length.compareTo(LONGEST) > 0 || begins().isAfter(LAST.minus(length))) {
            throw new UnreadableCalendar("one of its events goes on for longer than a century");
        }
        return length;
    }

    private Duration written() throws UnreadableCalendar {
        VObjectProperty end = component.first("DTEND").orElse(null);
        if (end != null) {
            Moment moment = Moment.of(end.getValue());
            Duration length = Duration.between(
                    start.in(zone.rules()), moment.in(zoneOf(end, moment).rules()));
            return length.isNegative() ? Duration.ZERO : length;
        }
        Matcher m = DURATION.matcher(component.value("DURATION"));
        if (m.matches()) {
            return "-".equals(m.group(1)) ? Duration.ZERO : duration(m);
        }
        return start.date() ? Duration.ofDays(1) : Duration.ZERO;
    }

    private static Duration duration(Matcher m) {
        return Duration.ofDays(7 * number(m, 2) + number(m, 3))
                .plusHours(number(m, 4))
                .plusMinutes(number(m, 5))
                .plusSeconds(number(m, 6));
    }

    private static long number(Matcher m, int group) {
        String digits = m.group(group);
        return digits == null ? 0 : digits.length() > 9 ? 999_999_999 : Long.parseLong(digits);
    }

    /** As both sides of an exchange know it. Everybody asked is a guest, but for who asks, and for rooms. */
    Details details(Instant begins, Instant ends, boolean off) {
        TreeSet<String> guests = new TreeSet<>();
        TreeMap<String, Answer> answers = new TreeMap<>();
        parties().stream().filter(p -> p.part().isGuest()).forEach(p -> {
            guests.add(p.address().toString());
            Answer.of(p.part()).ifPresent(a -> answers.put(p.address().toString(), a));
        });
        return new Details(
                line("SUMMARY"),
                new Details.When(begins, ends, start.date(), zone.id()),
                line("LOCATION"),
                online(),
                text("DESCRIPTION"),
                transparency() == Transparency.OPAQUE,
                privacy(),
                reminder(),
                guests,
                answers,
                off || isCancelled());
    }

    /** Minutes before the start of the first alarm that rings before it (RFC 5545 §3.8.6.3). */
    private int reminder() {
        for (Component alarm : component.children("VALARM")) {
            int minutes = minutes(alarm);
            if (minutes != Details.NONE) {
                return minutes;
            }
        }
        return Details.NONE;
    }

    /** How long before the start an alarm rings; {@link Details#NONE} for one that rings otherwise. */
    static int minutes(Component alarm) {
        VObjectProperty trigger = alarm.first("TRIGGER").orElse(null);
        if (trigger == null || parameter(trigger, "RELATED").equalsIgnoreCase("END")) {
            return Details.NONE;
        }
        Matcher m = DURATION.matcher(trigger.getValue().strip());
        if (!m.matches()) {
            return Details.NONE;
        }
        Duration before = duration(m);
        boolean earlier = "-".equals(m.group(1)) || before.isZero();
        return earlier && before.toMinutes() <= MOST_MINUTES ? (int) before.toMinutes() : Details.NONE;
    }

    /** When its own program last changed it, as far as it says. */
    Instant changedAt() {
        try {
            String modified = component.value("LAST-MODIFIED");
            return Moment.of(modified.isEmpty() ? component.value("DTSTAMP") : modified)
                    .in(ZoneOffset.UTC.getRules());
        } catch (UnreadableCalendar none) {
            return Instant.EPOCH;
        }
    }

    boolean isCancelled() {
        return component.value("STATUS").equalsIgnoreCase("CANCELLED");
    }

    /** @param recurrence names the occurrence, null for a meeting that does not recur */
    MeetingItem at(Instant begins, Instant ends, @Nullable Instant recurrence, boolean cancelled) {
        MeetingItem like = words();
        return new MeetingItem(
                "meeting:" + like.uid() + "|" + (recurrence == null ? "" : recurrence),
                like.uid(),
                recurrence,
                begins,
                ends,
                like.allDay(),
                like.zone(),
                like.parties(),
                like.subject(),
                like.place(),
                like.online(),
                like.privacy(),
                cancelled ? State.CANCELLED : like.state(),
                like.sequence(),
                like.stamp(),
                like.categories(),
                like.sort(),
                like.transparency());
    }

    /** What all occurrences have in common, read once. */
    private MeetingItem words() {
        if (words == null) {
            words = new MeetingItem(
                    "",
                    uid(),
                    null,
                    Instant.EPOCH,
                    Instant.EPOCH,
                    start.date(),
                    zone.id(),
                    parties(),
                    line("SUMMARY"),
                    line("LOCATION"),
                    online(),
                    privacy(),
                    isCancelled() ? State.CANCELLED : State.PLANNED,
                    sequence(),
                    stamp(),
                    categories(),
                    MeetingItem.Sort.of(component.value(SORT)),
                    transparency());
        }
        return words;
    }

    /** RFC 5545 §3.8.1.2: several a property, and several properties. */
    private List<String> categories() {
        return component.all("CATEGORIES").stream()
                .flatMap(p -> VObjectPropertyValues.parseList(p.getValue()).stream())
                .map(c -> c.strip().toLowerCase(Locale.ROOT))
                .filter(c -> !c.isEmpty() && c.length() <= LONGEST_LINE)
                .distinct()
                .limit(MOST_CATEGORIES)
                .toList();
    }

    Content content() {
        if (content == null) {
            String text = text("DESCRIPTION");
            content = text.isEmpty() ? Content.EMPTY : new Content(text, "", List.of());
        }
        return content;
    }

    private String line(String property) {
        String text = text(property).replaceAll("\\s+", " ").strip();
        return text.length() <= LONGEST_LINE ? text : text.substring(0, LONGEST_LINE - 1) + "…";
    }

    private String text(String property) {
        String text = VObjectPropertyValues.unescape(component.value(property)).replace('\0', '\uFFFD');
        return text.length() <= LONGEST_TEXT ? text : text.substring(0, LONGEST_TEXT);
    }

    private List<Party> parties() {
        List<Party> parties = new ArrayList<>();
        component.first("ORGANIZER").ifPresent(p -> add(p, Part.ORGANISER, parties));
        for (VObjectProperty attendee : component.all("ATTENDEE")) {
            if (parties.size() < limits.attendees()) {
                add(attendee, part(attendee), parties);
            }
        }
        return parties;
    }

    private static Part part(VObjectProperty attendee) {
        if (isThing(attendee)) {
            return Part.ROOM;
        }
        if (parameter(attendee, "CUTYPE").equalsIgnoreCase("GROUP")) {
            return Part.GROUP;
        }
        return Answer.of(parameter(attendee, "PARTSTAT")).map(Answer::part).orElse(Part.ATTENDEE);
    }

    private static void add(VObjectProperty property, Part part, List<Party> into) {
        EmailAddress.parse(property.getValue())
                .or(() -> EmailAddress.parse(parameter(property, "EMAIL")))
                .filter(address -> into.stream().noneMatch(p -> p.address().equals(address)))
                .ifPresent(address -> into.add(new Party(part, address, parameter(property, "CN"))));
    }

    private static String parameter(VObjectProperty property, String name) {
        String value = property.getParameters().first(name);
        return value == null ? "" : value;
    }

    /** CONFERENCE (RFC 7986 §5.11), else a link in the place, else one in the text that looks like a way to join. */
    private String online() {
        String conference = component.value("CONFERENCE");
        if (conference.startsWith("https://")) {
            return conference.length() <= LONGEST_LINE ? conference : "";
        }
        Matcher inPlace = LINK.matcher(line("LOCATION"));
        if (inPlace.find()) {
            return inPlace.group();
        }
        Matcher inText = LINK.matcher(text("DESCRIPTION"));
        while (inText.find()) {
            if (JOINING.matcher(inText.group()).find()) {
                return inText.group();
            }
        }
        return "";
    }

    private Transparency transparency() {
        String said = component.value("TRANSP");
        if (said.equalsIgnoreCase("TRANSPARENT")) {
            return Transparency.TRANSPARENT;
        }
        return said.equalsIgnoreCase("OPAQUE") ? Transparency.OPAQUE : Transparency.usual(start.date());
    }

    private Privacy privacy() {
        return switch (component.value("CLASS").toUpperCase(Locale.ROOT)) {
            case "", "PUBLIC" -> Privacy.PUBLIC;
            case "CONFIDENTIAL" -> Privacy.CONFIDENTIAL;
            // RFC 5545 §3.8.1.3: what is not known is to be treated as private
            default -> Privacy.PRIVATE;
        };
    }

    int sequence() {
        String value = component.value("SEQUENCE");
        return value.matches("\\d{1,7}") ? Integer.parseInt(value) : 0;
    }

    long stamp() {
        try {
            return Math.max(
                    0,
                    Moment.of(component.value("DTSTAMP"))
                            .in(ZoneOffset.UTC.getRules())
                            .toEpochMilli());
        } catch (UnreadableCalendar none) {
            return 0;
        }
    }
}
