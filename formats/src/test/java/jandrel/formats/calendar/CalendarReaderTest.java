package jandrel.formats.calendar;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.Item;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.MeetingItem.State;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.UnreadableItem;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Expected instants are reckoned by hand from the zone's offsets: Oslo is UTC+1, from 29 March to 25 October 2026 UTC+2. */
class CalendarReaderTest {
    private static final CalendarWindow YEAR =
            new CalendarWindow(Instant.parse("2026-01-01T00:00:00Z"), Instant.parse("2027-01-01T00:00:00Z"));
    private final CalendarReader reader = new CalendarReader(CalendarLimits.USUAL);

    private Occurrences read(CalendarWindow window, String... events) {
        String text = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\n" + String.join("", events) + "END:VCALENDAR\r\n";
        return reader.read(text.getBytes(StandardCharsets.UTF_8), window, "c.ics");
    }

    private List<String> starts(String... events) {
        return read(YEAR, events).found().stream()
                .map(o -> o.item().at().toString())
                .toList();
    }

    private MeetingItem single(String... events) {
        Item item = read(YEAR, events).found().get(0).item();
        assertThat(item).isInstanceOf(MeetingItem.class);
        return (MeetingItem) item;
    }

    private static String event(String... lines) {
        return "BEGIN:VEVENT\r\nUID:u1\r\n" + String.join("\r\n", lines) + "\r\nEND:VEVENT\r\n";
    }

    private static String weekly(String start, String... more) {
        return event("DTSTART;TZID=Europe/Oslo:" + start, "DURATION:PT1H", String.join("\r\n", more));
    }

    @Test
    void aMeetingGivesItsFacts() {
        MeetingItem m = single(event(
                "DTSTART;TZID=Europe/Oslo:20260504T100000",
                "DTEND;TZID=Europe/Oslo:20260504T113000",
                "SUMMARY:Signing\\, at last",
                "LOCATION:Pier 3",
                "CONFERENCE;VALUE=URI:https://rooms.corvane.example/1",
                "SEQUENCE:2",
                "DTSTAMP:20260101T000000Z",
                "ORGANIZER;CN=Tobias:mailto:Tobias@corvane.example",
                "ATTENDEE;CN=Bram;PARTSTAT=DECLINED:mailto:bram@skarvik.example",
                "ATTENDEE;CUTYPE=ROOM:mailto:pier3@corvane.example"));
        assertThat(m.at()).isEqualTo("2026-05-04T08:00:00Z");
        assertThat(m.ends()).isEqualTo("2026-05-04T09:30:00Z");
        assertThat(m.subject()).isEqualTo("Signing, at last");
        assertThat(m.online()).isEqualTo("https://rooms.corvane.example/1");
        assertThat(m.zone()).isEqualTo("Europe/Oslo");
        assertThat(m.parties()).extracting(Party::part).containsExactly(Part.ORGANISER, Part.DECLINED, Part.ROOM);
        assertThat(m.recurrence()).isNull();
    }

    @Test
    void aWholeDayIsTheSameDayForEverybody() {
        MeetingItem m = single(event("DTSTART;VALUE=DATE:20260504", "DTEND;VALUE=DATE:20260506"));
        assertThat(m.allDay()).isTrue();
        assertThat(m.at()).isEqualTo("2026-05-04T00:00:00Z");
        assertThat(m.ends()).isEqualTo("2026-05-06T00:00:00Z");
    }

    @Test
    void aSeriesKeepsItsLocalHourAcrossBothClockChanges() {
        assertThat(starts(weekly("20260325T090000", "RRULE:FREQ=WEEKLY;COUNT=2")))
                .containsExactly("2026-03-25T08:00:00Z", "2026-04-01T07:00:00Z");
        assertThat(starts(weekly("20261021T090000", "RRULE:FREQ=WEEKLY;COUNT=2")))
                .containsExactly("2026-10-21T07:00:00Z", "2026-10-28T08:00:00Z");
    }

    @Test
    void anHourThatIsSkippedIsReadWithTheOffsetBefore() {
        assertThat(starts(weekly("20260329T023000"))).containsExactly("2026-03-29T01:30:00Z");
    }

    @Test
    void anHourThatComesTwiceIsTheFirst() {
        assertThat(starts(weekly("20261025T023000"))).containsExactly("2026-10-25T00:30:00Z");
    }

    @ParameterizedTest
    @CsvSource({"EXDATE;TZID=Europe/Oslo:20260511T090000", "EXDATE:20260511T070000Z", "EXDATE;VALUE=DATE:20260511"})
    void anOccurrenceIsTakenOutHoweverItsDateIsWritten(String exdate) {
        assertThat(starts(weekly("20260504T090000", "RRULE:FREQ=WEEKLY;COUNT=3", exdate)))
                .containsExactly("2026-05-04T07:00:00Z", "2026-05-18T07:00:00Z");
    }

    @Test
    void aMovedOccurrenceLeavesItsPlaceAndKeepsItsIdentity() {
        String series = weekly("20260504T090000", "RRULE:FREQ=WEEKLY;COUNT=2");
        String moved = event(
                "RECURRENCE-ID;TZID=Europe/Oslo:20260511T090000",
                "DTSTART;TZID=Europe/Oslo:20260512T140000",
                "DURATION:PT2H");
        assertThat(starts(series, moved)).containsExactly("2026-05-04T07:00:00Z", "2026-05-12T12:00:00Z");
        MeetingItem item =
                (MeetingItem) read(YEAR, series, moved).found().get(1).item();
        assertThat(item.recurrence()).isEqualTo("2026-05-11T07:00:00Z");
        assertThat(Duration.between(item.at(), item.ends())).isEqualTo(Duration.ofHours(2));
    }

    @Test
    void anOccurrenceMovedOutOfTheWindowIsNotLeftBehind() {
        assertThat(starts(
                        weekly("20261228T090000", "RRULE:FREQ=DAILY;COUNT=2"),
                        event(
                                "RECURRENCE-ID;TZID=Europe/Oslo:20261229T090000",
                                "DTSTART;TZID=Europe/Oslo:20270105T090000")))
                .containsExactly("2026-12-28T08:00:00Z");
    }

    @Test
    void aCancelledOccurrenceSaysSo() {
        List<Occurrences.Occurrence> found = read(
                        YEAR,
                        weekly("20260504T090000", "RRULE:FREQ=WEEKLY;COUNT=2"),
                        event(
                                "RECURRENCE-ID;TZID=Europe/Oslo:20260511T090000",
                                "DTSTART;TZID=Europe/Oslo:20260511T090000",
                                "STATUS:CANCELLED"))
                .found();
        assertThat(found)
                .extracting(o -> ((MeetingItem) o.item()).state())
                .containsExactly(State.PLANNED, State.CANCELLED);
    }

    @Test
    void anExtraDateIsAddedAndAnOverrideAloneStands() {
        assertThat(starts(weekly("20260504T090000", "RDATE;TZID=Europe/Oslo:20260601T150000")))
                .containsExactly("2026-05-04T07:00:00Z", "2026-06-01T13:00:00Z");
        assertThat(starts(event(
                        "RECURRENCE-ID;TZID=Europe/Oslo:20260511T090000", "DTSTART;TZID=Europe/Oslo:20260511T100000")))
                .containsExactly("2026-05-11T08:00:00Z");
    }

    @Test
    void untilIsComparedAsAnInstant() {
        assertThat(starts(weekly("20260504T090000", "RRULE:FREQ=DAILY;UNTIL=20260506T070000Z")))
                .hasSize(3);
        assertThat(starts(weekly("20260504T090000", "RRULE:FREQ=DAILY;UNTIL=20260506T065959Z")))
                .hasSize(2);
        assertThat(starts(weekly("20260504T090000", "RRULE:FREQ=DAILY;UNTIL=20260506")))
                .hasSize(3);
    }

    @Test
    void aSeriesWithoutEndFillsTheWindowAndGoesOn() {
        Occurrences read = read(YEAR, weekly("20200106T090000", "RRULE:FREQ=WEEKLY"));
        assertThat(read.found()).hasSize(52);
        assertThat(read.goesOn()).isTrue();
        assertThat(read(YEAR, weekly("20260504T090000", "RRULE:FREQ=WEEKLY;COUNT=3"))
                        .goesOn())
                .isFalse();
    }

    @ParameterizedTest
    @ValueSource(strings = {"/vendor.example/20260101_1/Europe/Oslo", "W. Europe Standard Time", "Europe/Oslo"})
    void aZoneIsKnownByAnyOfItsNames(String tzid) {
        assertThat(starts(event("DTSTART;TZID=\"" + tzid + "\":20260504T090000")))
                .containsExactly("2026-05-04T07:00:00Z");
    }

    @Test
    void aZoneThatNobodyKnowsGoesByItsOwnRules() {
        String zone =
                "BEGIN:VTIMEZONE\r\nTZID:Harbour time\r\nBEGIN:STANDARD\r\nTZOFFSETFROM:+0530\r\nTZOFFSETTO:+0330\r\nDTSTART:19701025T030000\r\n"
                        + "RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU\r\nEND:STANDARD\r\nBEGIN:DAYLIGHT\r\nTZOFFSETFROM:+0330\r\nTZOFFSETTO:+0530\r\n"
                        + "DTSTART:19700329T020000\r\nRRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU\r\nEND:DAYLIGHT\r\nEND:VTIMEZONE\r\n";
        assertThat(starts(zone, event("DTSTART;TZID=Harbour time:20260504T090000")))
                .containsExactly("2026-05-04T03:30:00Z");
        assertThat(starts(zone, event("DTSTART;TZID=Harbour time:20261204T090000")))
                .containsExactly("2026-12-04T05:30:00Z");
    }

    @ParameterizedTest
    @CsvSource({"PUBLIC, PUBLIC", "PRIVATE, PRIVATE", "CONFIDENTIAL, CONFIDENTIAL", "X-SECRET, PRIVATE"})
    void aClassThatIsNotKnownIsPrivate(String written, Privacy privacy) {
        assertThat(single(event("DTSTART:20260504T090000Z", "CLASS:" + written)).privacy())
                .isEqualTo(privacy);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "RRULE:FREQ=SECONDLY",
                "RRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30",
                "RRULE:FREQ=NEVER",
                "RRULE:FREQ=MINUTELY;BYMONTH=13",
                "RRULE:FREQ=SECONDLY;BYMONTH=1;BYMONTHDAY=1;BYHOUR=25"
            })
    void aRuleMeantToHangIsRefusedInBoundedTime(String rule) {
        Instant began = Instant.now();
        List<Occurrences.Occurrence> found =
                read(YEAR, weekly("20260504T090000", rule)).found();
        assertThat(found).hasSizeLessThanOrEqualTo(1);
        assertThat(Duration.between(began, Instant.now())).isLessThan(Duration.ofSeconds(20));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "BEGIN:VCARD\r\nEND:VCARD\r\n",
                "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:1\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n",
                "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nDTSTART:20260504T090000Z\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n",
                "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART:soon\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
            })
    void whatCannotBeReadSaysWhyAndNothingOfItself(String text) {
        List<Occurrences.Occurrence> found = reader.read(text.getBytes(StandardCharsets.UTF_8), YEAR, "c.ics")
                .found();
        assertThat(found.stream().map(Occurrences.Occurrence::item))
                .allSatisfy(item -> assertThat(item)
                        .isInstanceOfSatisfying(
                                UnreadableItem.class,
                                u -> assertThat(u.reason()).isNotBlank().doesNotContain("soon")));
        assertThat(found).hasSizeLessThanOrEqualTo(1);
    }

    @Test
    void aHugeObjectIsRefusedAsAWhole() {
        String[] events = new String[3_000];
        java.util.Arrays.fill(events, event("DTSTART:20260504T090000Z"));
        assertThat(read(YEAR, events).found())
                .singleElement()
                .extracting(Occurrences.Occurrence::item)
                .isInstanceOf(UnreadableItem.class);
    }
}
