package jandrel.formats.calendar;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Details.When;
import jandrel.core.reconcile.Field;
import jandrel.formats.calendar.MeetingFile.State;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class MeetingFileTest {
    private static final Instant TEN = Instant.parse("2026-05-04T08:00:00Z");
    private static final WriteOptions WRITING = new WriteOptions(
            3, TEN, "maren@corvane.example", "Maren Aldous", "mark-1", "meeting", true, true, Map.of());

    private static Details details(String title) {
        return new Details(
                title,
                new When(TEN, TEN.plusSeconds(3600), false, "Europe/Oslo"),
                "Pier 3; gate 2, left",
                "https://rooms.corvane.example/1",
                "First line\nsecond, with a \\ and a ;",
                false,
                Privacy.PRIVATE,
                15,
                new TreeSet<>(Set.of("bram@skarvik.example", "astrid@skarvik.example")),
                new TreeMap<>(Map.of("bram@skarvik.example", Answer.ACCEPTED)),
                false);
    }

    private static MeetingFile file(String... lines) throws UnreadableCalendar {
        return MeetingFile.read(String.join("\r\n", lines).getBytes(StandardCharsets.UTF_8));
    }

    private static MeetingFile again(MeetingFile file) throws UnreadableCalendar {
        return MeetingFile.read(file.bytes());
    }

    private static State state(MeetingFile file, @Nullable Instant recurrence) throws UnreadableCalendar {
        return again(file).state("u1", recurrence).orElseThrow();
    }

    private static String text(MeetingFile file) throws UnreadableCalendar {
        return new String(file.bytes(), StandardCharsets.UTF_8).replace("\r\n ", "");
    }

    @Test
    void whatIsWrittenIsReadAgain() throws UnreadableCalendar {
        MeetingFile file = MeetingFile.fresh();
        file.put("u1", null, details("Signing"), WRITING);
        State read = state(file, null);
        assertThat(read.details()).isEqualTo(details("Signing"));
        assertThat(read.mark()).isEqualTo("mark-1");
        assertThat(read.sequence()).isEqualTo(3);
        assertThat(read.organiser()).isEqualTo("maren@corvane.example");
        assertThat(read.changedAt()).isEqualTo(TEN);
        // the hour is told in the zone it is meant in, and the file brings the zone's rules along
        assertThat(text(file)).contains("DTSTART;TZID=Europe/Oslo:20260504T100000", "TZOFFSETTO:+0200");
    }

    @Test
    void whatIsNotKnownStaysInItsPlace() throws UnreadableCalendar {
        MeetingFile file = file(
                "BEGIN:VCALENDAR",
                "VERSION:2.0",
                "X-FILE:kept",
                "BEGIN:VEVENT",
                "UID:u1",
                "X-FIRST;X-P=\"a:b\":one",
                "DTSTART:20260504T080000Z",
                "DTEND:20260504T090000Z",
                "ATTACH:https://files.corvane.example/plan.pdf",
                "ATTENDEE;CN=Bram;PARTSTAT=ACCEPTED;X-ROLE=pilot:mailto:bram@skarvik.example",
                "ATTENDEE;CUTYPE=ROOM:mailto:pier3@corvane.example",
                "BEGIN:VALARM",
                "ACTION:EMAIL",
                "TRIGGER;RELATED=END:PT5M",
                "X-ALARM:kept",
                "END:VALARM",
                "BEGIN:X-OWN",
                "X-INNER:kept",
                "END:X-OWN",
                "END:VEVENT",
                "END:VCALENDAR");
        Details before = state(file, null).details();
        file.put("u1", null, Field.TITLE.put(before, details("Named at last")), WRITING);
        assertThat(text(file))
                .contains(
                        "X-FILE:kept",
                        "X-FIRST;X-P=\"a:b\":one",
                        "ATTACH:https://files.corvane.example/plan.pdf",
                        "ATTENDEE;CN=Bram;PARTSTAT=ACCEPTED;X-ROLE=pilot:mailto:bram@skarvik.example",
                        "ATTENDEE;CUTYPE=ROOM:mailto:pier3@corvane.example",
                        "TRIGGER;RELATED=END:PT5M",
                        "X-ALARM:kept",
                        "BEGIN:X-OWN",
                        "SUMMARY:Named at last",
                        "DTSTART:20260504T080000Z");
        assertThat(state(file, null).details()).isEqualTo(Field.TITLE.put(before, details("Named at last")));
    }

    private static MeetingFile weekly(String... more) throws UnreadableCalendar {
        String[] head = {
            "BEGIN:VCALENDAR",
            "VERSION:2.0",
            "BEGIN:VEVENT",
            "UID:u1",
            "DTSTART;TZID=Europe/Oslo:20260504T100000",
            "DURATION:PT1H",
            "SUMMARY:Weekly",
            "RRULE:FREQ=WEEKLY;COUNT=4"
        };
        String[] all = Arrays.copyOf(head, head.length + more.length + 2);
        System.arraycopy(more, 0, all, head.length, more.length);
        all[all.length - 2] = "END:VEVENT";
        all[all.length - 1] = "END:VCALENDAR";
        return file(all);
    }

    @Test
    void oneOccurrenceIsMovedAndTheOthersStay() throws UnreadableCalendar {
        MeetingFile file = weekly();
        Instant second = TEN.plusSeconds(7 * 86_400);
        Details was = state(file, second).details();
        assertThat(was.when().begins()).isEqualTo(second);
        When moved = new When(second.plusSeconds(7200), second.plusSeconds(10_800), false, "Europe/Oslo");
        file.put("u1", second, was.at(moved), WRITING);
        assertThat(state(file, second).details().when()).isEqualTo(moved);
        List<String> starts = new CalendarReader(CalendarLimits.USUAL)
                        .read(file.bytes(), new CalendarWindow(TEN.minusSeconds(1), TEN.plusSeconds(90 * 86_400)), "x")
                        .found()
                        .stream()
                        .map(o -> o.item().at().toString())
                        .toList();
        assertThat(starts)
                .containsExactly(
                        "2026-05-04T08:00:00Z", "2026-05-11T10:00:00Z", "2026-05-18T08:00:00Z", "2026-05-25T08:00:00Z");
    }

    @Test
    void anOccurrenceTakenOutIsAnExceptionAndTheLastMeetingLeavesNothing() throws UnreadableCalendar {
        MeetingFile file = weekly();
        Instant third = TEN.plusSeconds(14 * 86_400);
        assertThat(file.remove("u1", third)).isTrue();
        assertThat(text(file)).contains("EXDATE;TZID=Europe/Oslo:20260518T100000");
        assertThat(again(file).state("u1", third)).isEmpty();
        assertThat(again(file).state("u1", TEN)).isPresent();
        assertThat(file.remove("u1", null)).isFalse();
    }

    @Test
    void anExceptionOfASeriesIsNoneOfItsOccurrences() throws UnreadableCalendar {
        MeetingFile file = weekly("EXDATE:20260511T080000Z");
        assertThat(again(file).state("u1", TEN.plusSeconds(7 * 86_400))).isEmpty();
        assertThat(again(file).state("u1", TEN.plusSeconds(60))).isEmpty();
        // the series itself is no meeting of its own
        assertThat(again(file).state("u1", null)).isEmpty();
    }

    /** Whatever is edited, in whatever order: what is read back is what was written, and nothing else is touched. */
    @Test
    void anyChainOfEditsIsReadBackAsWritten() throws UnreadableCalendar {
        for (long seed = 0; seed < 400; seed++) {
            SplittableRandom random = new SplittableRandom(seed);
            MeetingFile file = MeetingFile.fresh();
            file.put("other", null, details("Not touched"), WRITING);
            Details now = details("Begins");
            file.put("u1", null, now, WRITING);
            for (int i = 0; i < 8; i++) {
                now = Field.values()[random.nextInt(Field.values().length)].put(now, drawn(random));
                file = again(file);
                file.put("u1", null, now, WRITING);
                assertThat(state(file, null).details()).as("seed %d", seed).isEqualTo(now);
            }
            assertThat(again(file).state("other", null).orElseThrow().details()).isEqualTo(details("Not touched"));
        }
    }

    private static Details drawn(SplittableRandom random) {
        boolean allDay = random.nextBoolean();
        Instant begins = allDay
                ? Instant.parse("2026-03-29T00:00:00Z")
                : Instant.parse("2026-03-28T00:30:00Z").plusSeconds(1800L * random.nextInt(96));
        TreeSet<String> guests = new TreeSet<>();
        TreeMap<String, Answer> answers = new TreeMap<>();
        for (int i = random.nextInt(4); i > 0; i--) {
            String guest = "guest" + random.nextInt(6) + "@skarvik.example";
            guests.add(guest);
            if (random.nextBoolean()) {
                answers.put(guest, Answer.values()[random.nextInt(4)]);
            }
        }
        String[] words = {
            "", "plain", "a;b,c\\d", "æøå — “quoted”", "long ".repeat(40).strip()
        };
        return new Details(
                words[random.nextInt(words.length)],
                new When(
                        begins,
                        begins.plusSeconds(allDay ? 86_400 : 5400),
                        allDay,
                        allDay
                                ? ""
                                : List.of("", "Europe/Oslo", "America/New_York", "Asia/Kathmandu")
                                        .get(random.nextInt(4))),
                words[random.nextInt(words.length)],
                random.nextBoolean() ? "" : "https://rooms.corvane.example/" + random.nextInt(9),
                words[random.nextInt(words.length)] + (random.nextBoolean() ? "\nand more" : ""),
                random.nextBoolean(),
                Privacy.values()[random.nextInt(3)],
                random.nextInt(3) - 1,
                guests,
                answers,
                random.nextBoolean());
    }
}
