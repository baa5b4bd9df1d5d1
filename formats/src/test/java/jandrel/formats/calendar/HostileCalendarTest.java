package jandrel.formats.calendar;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.Item;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.UnreadableItem;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is made to be followed for hours, to fill the memory, or to be taken for something else. */
class HostileCalendarTest {
    private static final CalendarWindow YEAR =
            new CalendarWindow(Instant.parse("2026-01-01T00:00:00Z"), Instant.parse("2027-01-01T00:00:00Z"));
    private static final String ALL_TIMES =
            ";BYHOUR=" + numbers(24) + ";BYMINUTE=" + numbers(60) + ";BYSECOND=" + numbers(60);
    private static final String HUGE = "FREQ=YEARLY;BYDAY=MO,TU,WE,TH,FR,SA,SU" + ALL_TIMES + ";BYSETPOS=1";

    private static String numbers(int n) {
        return IntStream.range(0, n).mapToObj(String::valueOf).collect(Collectors.joining(","));
    }

    private static String event(String... lines) {
        return "BEGIN:VEVENT\r\n" + String.join("\r\n", lines) + "\r\nEND:VEVENT\r\n";
    }

    private static String file(String... components) {
        return "BEGIN:VCALENDAR\r\nVERSION:2.0\r\n" + String.join("", components) + "END:VCALENDAR\r\n";
    }

    private static List<Item> read(String text) {
        // an order of magnitude over what the largest of these takes
        return Assertions.assertTimeoutPreemptively(
                Duration.ofSeconds(10),
                () -> new CalendarReader(CalendarLimits.USUAL)
                        .read(text.getBytes(StandardCharsets.UTF_8), YEAR, "x").found().stream()
                                .map(o -> o.item())
                                .toList());
    }

    private static MeetingItem meeting(String text) {
        assertThat(read(text)).hasSize(1).first().isInstanceOf(MeetingItem.class);
        return (MeetingItem) read(text).get(0);
    }

    private static String repeated(int times, java.util.function.IntFunction<String> line) {
        return IntStream.range(0, times).mapToObj(line).collect(Collectors.joining());
    }

    @Test
    void aRuleWithMillionsOfTimesInOneYearIsNotFollowed() {
        assertThat(read(file(event("UID:u", "DTSTART:20260504T080000Z", "RRULE:" + HUGE))))
                .hasOnlyElementsOfType(UnreadableItem.class);
    }

    @Test
    void norIsItInTheZoneOfAnAnswerThatAStrangerSends() {
        String reply =
                "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nMETHOD:REPLY\r\nBEGIN:VTIMEZONE\r\nTZID:X/Y Z\r\nBEGIN:STANDARD\r\n"
                        + "DTSTART:19700101T000000\r\nTZOFFSETFROM:+0100\r\nTZOFFSETTO:+0200\r\nRRULE:" + HUGE
                        + "\r\nEND:STANDARD\r\nEND:VTIMEZONE\r\n"
                        + event(
                                "UID:u",
                                "RECURRENCE-ID;TZID=X/Y Z:20260504T080000",
                                "DTSTART:20260504T080000Z",
                                "ATTENDEE;PARTSTAT=ACCEPTED:mailto:eve@far.example")
                        + "END:VCALENDAR\r\n";
        Assertions.assertTimeoutPreemptively(
                Duration.ofSeconds(5), () -> Reply.of(reply, EmailAddress.of("eve@far.example")));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "FREQ=WEEKLY;BYMONTH=1;BYDAY=MO;BYSETPOS=5",
                "FREQ=SECONDLY;INTERVAL=2147483647",
                "FREQ=YEARLY;INTERVAL=2147483647",
                "FREQ=SECONDLY;BYMONTH=2;BYMONTHDAY=30",
                "FREQ=MINUTELY;BYHOUR=3;BYMINUTE=7;BYDAY=MO;BYMONTH=1",
                "FREQ=DAILY;BYSETPOS=400;BYDAY=MO",
                "FREQ=YEARLY;BYWEEKNO=54",
                "FREQ=DAILY;COUNT=2147483647",
                "FREQ=DAILY;INTERVAL=0",
                "FREQ=DAILY;UNTIL=99991231T235959Z",
                "FREQ=SECONDLY;BYSECOND=60"
            })
    void aFileThatCannotBeFollowedSaysSo(String rule) {
        String text =
                file(event("UID:u", "DTSTART;TZID=Europe/Oslo:20260504T100000", "DURATION:PT1H", "RRULE:" + rule));
        List<Item> found = read(text);
        Instant at = found.stream()
                .filter(MeetingItem.class::isInstance)
                .map(i -> ((MeetingItem) i).recurrence())
                .findFirst()
                .orElse(Instant.parse("2026-05-04T08:00:00Z"));
        assertThatCode(() -> {
                    try {
                        MeetingFile.read(text.getBytes(StandardCharsets.UTF_8)).state("u", at);
                    } catch (UnreadableCalendar declared) {
                        assertThat(declared).hasMessageNotContaining("null");
                    }
                })
                .doesNotThrowAnyException();
    }

    @Test
    void aThousandRulesCostNoMoreThanOneFileMay() {
        String rules = repeated(1_000, i -> "RRULE:FREQ=DAILY\r\n");
        assertThat(read(file(event("UID:u", "DTSTART:17800504T080000Z\r\n" + rules.strip()))))
                .hasSize(1);
        String exceptions = repeated(500, i -> "EXRULE:FREQ=DAILY;INTERVAL=" + (i + 2) + "\r\n");
        read(file(event("UID:u", "DTSTART:20000504T080000Z", "RRULE:FREQ=DAILY\r\n" + exceptions.strip())));
    }

    @Test
    void norDoThousandsOfSeriesOrOfChanges() {
        read(file(repeated(1_990, i -> event("UID:u" + i, "DTSTART:17800504T080000Z", "RRULE:FREQ=DAILY"))));
        read(file(
                event("UID:u", "DTSTART:20200101T080000Z", "RRULE:FREQ=DAILY"),
                repeated(
                        1_990,
                        i -> event(
                                "UID:u",
                                "RECURRENCE-ID;RANGE=THISANDFUTURE:"
                                        + Instant.parse("2020-01-01T08:00:00Z")
                                                .plus(Duration.ofDays(i))
                                                .toString()
                                                .replaceAll("[-:]", ""),
                                "DTSTART:20260101T080000Z"))));
    }

    @Test
    void namesOfZonesCanBeAsLongAsTheyLike() {
        read(file(event("UID:u", "DTSTART;TZID=" + "a/".repeat(500_000) + ":20260504T080000")));
        read(file(repeated(
                1_500, i -> event("UID:u" + i, "DTSTART;TZID=" + "b/".repeat(500) + i + ":20260504T080000"))));
    }

    @Test
    void aLongNameOrAHugeFileIsNamedAndRefused() {
        assertThat(read(file(event("UID:" + "u".repeat(1_000_000), "DTSTART:20260504T080000Z"))))
                .singleElement()
                .isInstanceOfSatisfying(
                        UnreadableItem.class, u -> assertThat(u.reason()).contains("UID"));
        assertThat(read(file(event("UID:u", "DTSTART:20260504T080000Z", "ATTACH:" + "x".repeat(24_000_000)))))
                .singleElement()
                .isInstanceOfSatisfying(
                        UnreadableItem.class, u -> assertThat(u.reason()).contains("larger"));
        assertThat(read(file(event(
                        "UID:u",
                        "DTSTART:20260504T080000Z\r\n"
                                + repeated(500_000, i -> "ATTENDEE:mailto:a@b.example\r\n")
                                        .strip()))))
                .hasOnlyElementsOfType(UnreadableItem.class);
    }

    @Test
    void aLengthBeyondAllTimesIsRefusedAndDoesNotReachTheDatabase() {
        for (String length : List.of("P999999999W", "P99999999999999D", "PT999999999H")) {
            assertThat(read(file(event("UID:u", "DTSTART:20260504T080000Z", "DURATION:" + length))))
                    .hasOnlyElementsOfType(UnreadableItem.class);
        }
        assertThat(read(file(event("UID:u", "DTSTART:20260504T080000Z", "DTEND:99991231T000000Z"))))
                .hasOnlyElementsOfType(UnreadableItem.class);
        read(file(event("UID:u", "DTSTART:00000101T080000Z", "RRULE:FREQ=YEARLY")));
    }

    @Test
    void oneBadEventDoesNotTakeTheOthersWithIt() {
        String good = event("UID:good", "DTSTART:20260504T080000Z", "SUMMARY:Good");
        List<Item> found = read(
                file(good, event("UID:bad", "SUMMARY:no start"), event("SUMMARY:no uid", "DTSTART:20260504T080000Z")));
        assertThat(found).hasSize(3).filteredOn(MeetingItem.class::isInstance).hasSize(1);
        assertThat(found.stream().map(Item::identity)).doesNotHaveDuplicates();
    }

    @Test
    void everyMeetingOfAFileHasAPlaceOfItsOwn() {
        List<String> events = new ArrayList<>();
        for (int i = 0; i < 3; i++) {
            events.add(event("UID:u" + i, "DTSTART:20260504T080000Z"));
            events.add(event("UID:s" + i, "DTSTART:20260504T080000Z", "RRULE:FREQ=DAILY;COUNT=2"));
        }
        assertThat(new CalendarReader(CalendarLimits.USUAL)
                        .read(file(events.toArray(String[]::new)).getBytes(StandardCharsets.UTF_8), YEAR, "x")
                        .found())
                .hasSize(9)
                .extracting(Occurrences.Occurrence::place)
                .doesNotHaveDuplicates()
                .noneMatch(place -> place.contains("#"));
    }

    @Test
    void aSecondCalendarInTheFileCounts() {
        String one = file(event("UID:u1", "DTSTART:20260504T080000Z"));
        assertThat(read(one + one.replace("u1", "u2"))).hasSize(2);
        assertThatCode(() -> MeetingFile.read((one + one).getBytes(StandardCharsets.UTF_8)))
                .isInstanceOf(UnreadableCalendar.class);
    }

    @Test
    void marksAndBlankLinesBeforeItChangeNothing() {
        String one = file(event("UID:u1", "DTSTART:20260504T080000Z"));
        assertThat(read("\uFEFF" + one)).hasOnlyElementsOfType(MeetingItem.class);
        assertThat(read("\r\n\r\n" + one)).hasOnlyElementsOfType(MeetingItem.class);
        assertThat(read("\uFEFF\r\n" + one)).hasOnlyElementsOfType(MeetingItem.class);
    }

    @Test
    void quotesAreReadWhereverTheVersionStands() {
        String zone =
                "BEGIN:VTIMEZONE\r\nTZID:Harbour\\, own\r\nBEGIN:STANDARD\r\nDTSTART:19700101T000000\r\nTZOFFSETFROM:+0300\r\n"
                        + "TZOFFSETTO:+0300\r\nEND:STANDARD\r\nEND:VTIMEZONE\r\n";
        String event = event("UID:u", "DTSTART;TZID=\"Harbour, own\":20260504T080000");
        Instant expected = Instant.parse("2026-05-04T05:00:00Z");
        assertThat(meeting("BEGIN:VCALENDAR\r\n" + zone + event + "END:VCALENDAR\r\n")
                        .at())
                .isEqualTo(expected);
        assertThat(meeting("BEGIN:VCALENDAR\r\n" + zone + event + "VERSION:2.0\r\nEND:VCALENDAR\r\n")
                        .at())
                .isEqualTo(expected);
        assertThat(meeting(file(zone, event)).at()).isEqualTo(expected);
    }

    @Test
    void anUnknownZoneIsNotTakenForUtcWithoutAWord() {
        assertThat(meeting(file(event("UID:u", "DTSTART;TZID=Nowhere/Land:20260504T080000")))
                        .zone())
                .isEqualTo(MeetingItem.UNKNOWN_ZONE);
        assertThat(meeting(file(event("UID:u", "DTSTART:20260504T080000"))).zone())
                .isEmpty();
    }

    /** The library counts days and years one by one, and looks for what fits a rule's parts in each. */
    @ParameterizedTest
    @ValueSource(strings = {"SECONDLY", "MINUTELY", "HOURLY", "DAILY", "WEEKLY", "MONTHLY", "YEARLY"})
    void intervalsBeyondAnyCalendarCostNothing(String frequency) {
        for (long interval : new long[] {Integer.MAX_VALUE, 100_000_000, 3_000_000, 146_097, 9_999}) {
            for (String part : List.of(
                    "", ";BYMONTH=2", ";BYDAY=MO", ";BYMONTH=2;BYMONTHDAY=30", ";BYHOUR=3", ";BYDAY=MO;BYSETPOS=-1")) {
                read(file(event(
                        "UID:u",
                        "DTSTART;TZID=Europe/Oslo:20260504T100000",
                        "RRULE:FREQ=DAILY",
                        "EXRULE:FREQ=" + frequency + ";INTERVAL=" + interval + part)));
            }
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"EST -5", "MST -7", "HST -10"})
    void oldNamesOfZonesAreKnown(String zone) {
        String[] of = zone.split(" ");
        assertThat(meeting(file(event("UID:u", "DTSTART;TZID=" + of[0] + ":20260504T080000")))
                        .at())
                .isEqualTo(Instant.parse("2026-05-04T08:00:00Z").minus(Duration.ofHours(Integer.parseInt(of[1]))));
    }

    @Test
    void theHighestSequenceWinsWithinAFile() {
        String high = event("UID:u", "SEQUENCE:3", "SUMMARY:new", "DTSTART:20260504T080000Z");
        String low = event("UID:u", "SEQUENCE:1", "SUMMARY:old", "DTSTART:20260504T070000Z");
        assertThat(meeting(file(low, high)).subject()).isEqualTo("new");
        assertThat(meeting(file(high, low)).subject()).isEqualTo("new");
    }
}
