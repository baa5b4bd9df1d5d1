package jandrel.formats.calendar;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Field;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * Each kind of change to each kind of file: only what was meant has changed, the file keeps to RFC 5545, and what is written once more
 * without a change is the same to the byte.
 */
class RoundTripTest {
    private static final CalendarWindow YEAR =
            new CalendarWindow(Instant.parse("2026-01-01T00:00:00Z"), Instant.parse("2027-01-01T00:00:00Z"));
    private static final Instant STAMP = Instant.parse("2026-11-02T10:00:00Z");
    private static final int MOST = 200;
    private static final Set<String> HEAD = Set.of("VERSION", "PRODID");
    private static final Set<String> ALWAYS = Set.of("SEQUENCE", "DTSTAMP", "LAST-MODIFIED", Edits.MARK);

    /** What is changed, and the properties that may differ for it. */
    enum Change {
        TITLE("SUMMARY"),
        TIME("DTSTART", "DTEND", "DURATION"),
        PLACE("LOCATION"),
        ONLINE("CONFERENCE"),
        TEXT("DESCRIPTION"),
        GUESTS("ATTENDEE", "ORGANIZER"),
        REMINDER("BEGIN", "END", "ACTION", "TRIGGER", "DESCRIPTION"),
        PRIVACY("CLASS"),
        CANCEL("STATUS");

        final Set<String> properties;

        Change(String... properties) {
            this.properties = Set.of(properties);
        }

        Details of(Details d) {
            TreeSet<String> guests = new TreeSet<>(d.guests());
            guests.add("new.guest@skarvik.example");
            Details other = new Details(
                    "Grün; „quay“, 3",
                    new Details.When(
                            d.when().begins().plus(d.when().allDay() ? Duration.ofDays(1) : Duration.ofMinutes(90)),
                            d.when().ends().plus(d.when().allDay() ? Duration.ofDays(1) : Duration.ofMinutes(120)),
                            d.when().allDay(),
                            d.when().zone()),
                    "Pier 7",
                    "https://rooms.corvane.example/join/7",
                    "One line\nand another; with a comma,",
                    d.busy(),
                    d.privacy() == Privacy.PUBLIC ? Privacy.PRIVATE : Privacy.PUBLIC,
                    25,
                    guests,
                    d.answers(),
                    true);
            return field().put(d, other);
        }

        private Field field() {
            return switch (this) {
                case TITLE -> Field.TITLE;
                case TIME -> Field.WHEN;
                case PLACE -> Field.PLACE;
                case ONLINE -> Field.ONLINE;
                case TEXT -> Field.TEXT;
                case GUESTS -> Field.GUESTS;
                case REMINDER -> Field.REMINDER;
                case PRIVACY -> Field.PRIVACY;
                case CANCEL -> Field.CANCELLED;
            };
        }
    }

    private static Map<String, byte[]> files() {
        Map<String, byte[]> files = new LinkedHashMap<>();
        try (Stream<Path> golden =
                Files.list(Path.of("src/test/resources/calendar")).sorted()) {
            for (Path file : golden.toList()) {
                files.put(file.getFileName().toString(), Files.readAllBytes(file));
            }
        } catch (IOException missing) {
            throw new java.io.UncheckedIOException(missing);
        }
        for (int seed = 0; seed < 200; seed++) {
            files.put("seed " + seed, generated(seed));
        }
        return files;
    }

    @ParameterizedTest
    @EnumSource(Change.class)
    void onlyWhatWasMeantHasChanged(Change change) throws UnreadableCalendar {
        int changed = 0;
        for (Map.Entry<String, byte[]> file : files().entrySet()) {
            Map<String, MeetingItem> items = items(file.getValue());
            if (items.size() < MOST) {
                for (MeetingItem target : targets(items)) {
                    changed += change(file.getKey(), file.getValue(), items, target, change) ? 1 : 0;
                }
            }
        }
        assertThat(changed).isGreaterThan(600);
    }

    /** The whole of what does not recur; of a series the first, the third, the last, and each that differs already. */
    private static List<MeetingItem> targets(Map<String, MeetingItem> items) {
        List<MeetingItem> all = new ArrayList<>(items.values());
        Set<MeetingItem> some = new LinkedHashSet<>();
        if (!all.isEmpty()) {
            some.add(all.get(0));
            some.add(all.get(all.size() - 1));
            some.add(all.get(Math.min(2, all.size() - 1)));
            some.add(all.get(all.size() / 2));
        }
        return List.copyOf(some);
    }

    private static Map<String, MeetingItem> items(byte[] file) {
        Map<String, MeetingItem> items = new TreeMap<>();
        new CalendarReader(CalendarLimits.USUAL).read(file, YEAR, "x").found().forEach(o -> {
            if (o.item() instanceof MeetingItem meeting) {
                items.put(meeting.identity(), meeting);
            }
        });
        return items;
    }

    private static boolean change(
            String name, byte[] before, Map<String, MeetingItem> items, MeetingItem target, Change change)
            throws UnreadableCalendar {
        String as = name + ", " + target.recurrence() + ", " + change;
        MeetingFile file = MeetingFile.read(before);
        Details was =
                file.state(target.uid(), target.recurrence()).orElseThrow().details();
        Details wanted = change.of(was);
        if (wanted.equals(was)) {
            return false;
        }
        WriteOptions writing = new WriteOptions(
                target.sequence() + 1,
                STAMP,
                "maren@corvane.example",
                "Maren",
                "mark",
                "meeting",
                true,
                true,
                Map.of());
        file.put(target.uid(), target.recurrence(), wanted, writing);
        byte[] after = file.bytes();

        Details is = MeetingFile.read(after)
                .state(target.uid(), target.recurrence())
                .orElseThrow()
                .details();
        assertThat(sameTime(is, wanted) ? Field.WHEN.put(is, wanted) : is)
                .as(as)
                .isEqualTo(wanted);
        compareOthers(as, items, after, target);
        compareLines(as, before, after, target, change);
        isValid(as, after);

        MeetingFile again = MeetingFile.read(after);
        again.put(
                target.uid(),
                target.recurrence(),
                again.state(target.uid(), target.recurrence()).orElseThrow().details(),
                writing);
        assertThat(new String(again.bytes(), StandardCharsets.UTF_8))
                .as(as + ", written again")
                .isEqualTo(new String(after, StandardCharsets.UTF_8));
        return true;
    }

    /** A time in a zone that nobody knows, or in the second of an hour that comes twice, is written in UTC. */
    private static boolean sameTime(Details is, Details wanted) {
        Details.When w = wanted.when();
        return is.when().zone().isEmpty()
                && is.when().begins().equals(w.begins())
                && is.when().ends().equals(w.ends())
                && is.when().allDay() == w.allDay();
    }

    private static void compareOthers(String as, Map<String, MeetingItem> before, byte[] after, MeetingItem target) {
        Map<String, MeetingItem> was = new TreeMap<>(before);
        Map<String, MeetingItem> is = items(after);
        was.remove(target.identity());
        is.remove(target.identity());
        assertThat(is).as(as).isEqualTo(was);
    }

    private static void compareLines(String as, byte[] before, byte[] after, MeetingItem target, Change change) {
        List<String> was = lines(before);
        List<String> is = lines(after);
        boolean override = target.recurrence() != null && !hasOverride(was, is);
        List<String> added = new ArrayList<>();
        if (override) {
            // all that was there is there, and one event more at the end
            int end = is.lastIndexOf("BEGIN:VEVENT");
            added.addAll(is.subList(end, is.size() - 1));
            List<String> rest = new ArrayList<>(is.subList(0, end));
            rest.add(is.get(is.size() - 1));
            assertThat(without(rest, HEAD, true)).as(as).isEqualTo(without(was, HEAD, true));
            Set<String> own = new TreeSet<>(change.properties);
            own.addAll(ALWAYS);
            own.addAll(Set.of("DTSTART", "DTEND", "RECURRENCE-ID", "BEGIN", "END"));
            assertThat(was).as(as + ": it says what the series says").containsAll(without(added, own, false));
            return;
        }
        Set<String> may = new TreeSet<>(change.properties);
        may.addAll(ALWAYS);
        may.addAll(HEAD);
        assertThat(without(is, may, true)).as(as).isEqualTo(without(was, may, true));
    }

    private static boolean hasOverride(List<String> was, List<String> is) {
        return count(was) == count(is);
    }

    private static long count(List<String> lines) {
        return lines.stream().filter("BEGIN:VEVENT"::equals).count();
    }

    /** Without the rules of zones, which a time that is written may bring along. */
    private static List<String> without(List<String> lines, Set<String> names, boolean zones) {
        List<String> left = new ArrayList<>();
        boolean zone = false;
        for (String line : lines) {
            zone |= line.equals("BEGIN:VTIMEZONE");
            String name = line.split("[:;]", 2)[0].toUpperCase(java.util.Locale.ROOT);
            if (!(zone && zones) && !names.contains(name)) {
                left.add(line);
            }
            zone &= !line.equals("END:VTIMEZONE");
        }
        return left;
    }

    private static List<String> lines(byte[] file) {
        String text = new String(file, StandardCharsets.UTF_8).replace("\uFEFF", "");
        return Stream.of(text.replaceAll("\r?\n[ \t]", "").split("\r?\n"))
                .filter(line -> !line.isBlank())
                .toList();
    }

    private static void isValid(String as, byte[] file) {
        String text = new String(file, StandardCharsets.UTF_8);
        assertThat(text.replace("\r\n", "")).as(as).doesNotContain("\n", "\r");
        for (String line : text.split("\r\n")) {
            assertThat(line.getBytes(StandardCharsets.UTF_8).length)
                    .as(as + " " + line)
                    .isLessThanOrEqualTo(75);
        }
        List<String> lines = lines(file);
        assertThat(lines)
                .as(as)
                .contains("VERSION:2.0")
                .startsWith("BEGIN:VCALENDAR")
                .endsWith("END:VCALENDAR");
        assertThat(lines.stream().filter(l -> l.startsWith("VERSION:"))).as(as).hasSize(1);
        assertThat(lines.stream().filter(l -> l.startsWith("PRODID:"))).as(as).hasSize(1);
        assertThat(lines.stream().filter(l -> l.startsWith("DTSTAMP:20261102T100000Z")))
                .as(as)
                .hasSize(1);
    }

    /** Files as programs write them, with all that a write must not touch. */
    private static byte[] generated(long seed) {
        Random random = new Random(seed);
        List<String> lines = new ArrayList<>(List.of("BEGIN:VCALENDAR"));
        boolean late = random.nextInt(4) == 0;
        if (!late) {
            lines.add("VERSION:2.0");
        }
        lines.add("PRODID:-//Harbour//Diary " + seed + "//EN");
        if (random.nextBoolean()) {
            lines.add("X-WR-CALNAME:Work\\, mostly");
        }
        if (late) {
            lines.add("VERSION:2.0");
        }
        String form = new String[] {";TZID=Europe/Oslo", ";TZID=\"Harbour: own, time\"", "Z", "", ";VALUE=DATE"}
                [random.nextInt(5)];
        if (form.contains("own")) {
            lines.addAll(List.of(
                    "BEGIN:VTIMEZONE",
                    "TZID:Harbour: own\\, time",
                    "BEGIN:STANDARD",
                    "DTSTART:19700101T000000",
                    "TZOFFSETFROM:+0200",
                    "TZOFFSETTO:+0200",
                    "END:STANDARD",
                    "END:VTIMEZONE"));
        }
        boolean series = random.nextInt(4) > 0;
        event(lines, random, form, 4, null, series);
        if (series && random.nextBoolean()) {
            event(lines, random, form, 6, 5, false);
        }
        if (series && random.nextBoolean()) {
            event(lines, random, form, 9, 7, false);
        }
        lines.add("END:VCALENDAR");
        return (String.join("\r\n", lines) + "\r\n").getBytes(StandardCharsets.UTF_8);
    }

    private static void event(
            List<String> lines, Random random, String form, int day, @Nullable Integer named, boolean series) {
        lines.addAll(List.of("BEGIN:VEVENT", "DTSTAMP:20260101T000000Z", "UID:harbour-1"));
        if (named != null) {
            lines.add(dated("RECURRENCE-ID", form, named, 10));
        }
        lines.add(dated("DTSTART", form, day, 10));
        switch (random.nextInt(form.contains("DATE") ? 2 : 3)) {
            case 0 -> lines.add(dated("DTEND", form, form.contains("DATE") ? day + 1 : day, 11));
            case 1 -> lines.add(form.contains("DATE") ? "DURATION:P1D" : "DURATION:PT45M");
            default -> {
                // no time at all
            }
        }
        if (series) {
            lines.add("RRULE:FREQ=DAILY;COUNT=" + (5 + random.nextInt(4)));
            if (random.nextInt(3) == 0) {
                lines.add(dated("EXDATE", form, 8, 10));
            }
        }
        String[] others = {
            "SUMMARY;LANGUAGE=de:Größenvergleich der Bojen im äußeren Hafenbecken\\; mit „Anhang“ und noch viel mehr Text",
            "X-FIRST;X-P=\"a:b;c\";x-lower=q:kept as it is",
            "ATTACH;FMTTYPE=application/pdf:https://files.corvane.example/plan.pdf",
            "ORGANIZER;CN=\"Eva ^'the buoy^' Holm\":mailto:maren@corvane.example",
            "ATTENDEE;CN=Bram ^^ Holm;PARTSTAT=ACCEPTED;X-ROLE=pilot:mailto:bram@skarvik.example",
            "ATTENDEE;CUTYPE=ROOM;CN=\"Quay, 3\":mailto:quay3@corvane.example",
            "DESCRIPTION;ALTREP=\"cid:part1\":First\\nsecond\\, third",
            "CATEGORIES:HARBOUR,WORK",
            "LOCATION:Quay office",
            "TRANSP:OPAQUE",
            "geo:58.1;7.9",
            "X-LONG:" + "ä€𝄞".repeat(40)
        };
        for (String other : others) {
            if (random.nextInt(3) > 0) {
                lines.add(other);
            }
        }
        if (random.nextBoolean()) {
            lines.addAll(List.of("BEGIN:VALARM", "ACTION:DISPLAY", "TRIGGER:-PT15M", "DESCRIPTION:Soon", "END:VALARM"));
        }
        if (random.nextInt(3) == 0) {
            lines.addAll(List.of("BEGIN:VALARM", "ACTION:EMAIL", "TRIGGER;RELATED=END:PT5M", "X-KEPT:1", "END:VALARM"));
        }
        lines.add("END:VEVENT");
    }

    private static String dated(String name, String form, int day, int hour) {
        String date = String.format("202605%02d", day);
        return form.contains("DATE")
                ? name + form + ":" + date
                : name + (form.equals("Z") ? "" : form) + ":" + date + "T" + hour + "0000"
                        + (form.equals("Z") ? "Z" : "");
    }

    @Test
    void anOccurrenceStaysAtItsOwnTimeWhateverElseIsSaidOfIt() throws UnreadableCalendar {
        byte[] before = generated(3);
        MeetingItem third = items(before).values().stream()
                .filter(m -> m.recurrence() != null)
                .skip(2)
                .findFirst()
                .orElseThrow();
        MeetingFile file = MeetingFile.read(before);
        Details was = file.state(third.uid(), third.recurrence()).orElseThrow().details();
        file.put(
                third.uid(),
                third.recurrence(),
                was.titled("Otherwise"),
                new WriteOptions(1, STAMP, "", "", "m", "meeting", true, true, Map.of()));
        MeetingItem is = items(file.bytes()).get(third.identity());
        assertThat(is.subject()).isEqualTo("Otherwise");
        assertThat(is.at()).isEqualTo(third.at());
        assertThat(is.ends()).isEqualTo(third.ends());
    }
}
