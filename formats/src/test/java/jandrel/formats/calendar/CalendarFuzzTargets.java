package jandrel.formats.calendar;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.Item;
import jandrel.core.item.MeetingItem;
import jandrel.core.reconcile.Details;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/** What calendar objects are put through, for {@link jandrel.formats.Fuzzing}. Each throws what a reader must never throw. */
public final class CalendarFuzzTargets {
    private static final CalendarWindow YEAR =
            new CalendarWindow(Instant.parse("2026-01-01T00:00:00Z"), Instant.parse("2027-01-01T00:00:00Z"));
    private static final CalendarReader READER = new CalendarReader(CalendarLimits.USUAL);

    private CalendarFuzzTargets() {}

    public static void object(byte[] input) {
        List<Occurrences.Occurrence> found = READER.read(input, YEAR, "x").found();
        if (found.size() > CalendarLimits.USUAL.occurrences() + CalendarLimits.USUAL.components()) {
            throw new AssertionError("it gives more than the limit");
        }
        found.stream()
                .map(Occurrences.Occurrence::item)
                .filter(MeetingItem.class::isInstance)
                .limit(2)
                .forEach(item -> change(input, item));
    }

    /** What could be read can be changed, and says then what it was to say. */
    private static void change(byte[] input, Item item) {
        MeetingItem meeting = (MeetingItem) item;
        try {
            MeetingFile file = MeetingFile.read(input);
            Details was = file.state(meeting.uid(), meeting.recurrence())
                    .map(MeetingFile.State::details)
                    .orElse(null);
            if (was == null) {
                return;
            }
            file.put(
                    meeting.uid(),
                    meeting.recurrence(),
                    was.titled("Another"),
                    new WriteOptions(
                            2, Instant.parse("2026-05-04T12:00:00Z"), "", "", "m", "meeting", true, true, Map.of()));
            Details is = MeetingFile.read(file.bytes())
                    .state(meeting.uid(), meeting.recurrence())
                    .orElseThrow(() -> new AssertionError("it is not there after it was written"))
                    .details();
            if (!is.title().equals("Another")
                    || !is.when().begins().equals(was.when().begins())) {
                throw new AssertionError("it says something else after it was written");
            }
        } catch (UnreadableCalendar declared) {
            // it says so
        }
    }

    public static void reply(byte[] input) {
        String text = new String(input, StandardCharsets.UTF_8);
        MeetingIds.of(text);
        Reply.of(text, EmailAddress.of("bram@skarvik.example"));
    }
}
