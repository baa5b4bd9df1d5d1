package jandrel.store.timeline;

import static jandrel.store.capture.Scene.NOON;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.Content;
import jandrel.core.item.Inside;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.Sketch;
import jandrel.core.item.ThreadHeaders;
import jandrel.core.timeline.Ruling;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.StoreContext;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Scene;
import jandrel.store.kernel.PageCursor;
import jandrel.store.timeline.Timelines.Entry;
import jandrel.store.timeline.Timelines.Order;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is wanted of a timeline: filters, conversations, what is planned, and that no filter tells what an outline does not. */
class TimelineFilterTest {
    private static final Viewer ADMINISTRATOR = new Viewer(Role.ADMINISTRATOR, null);
    private static final String BRAM = "bram@port.example";
    private static final String OURS = "p0@corvane.example";
    private static StoreContext store;
    private static Timelines timelines;
    private static Scene scene;
    private static UUID port;

    @BeforeAll
    static void fill() throws Exception {
        store = new StoreContext("test_timeline_filter");
        timelines = store.get(Timelines.class);
        scene = Scene.anew(store)
                .people(2)
                .account("port", "port.example")
                .account("quay", "quay.example")
                .contact("bram", "port", BRAM);
        Intake intake = store.get(Intake.class);
        intake.take(
                scene.place(0),
                List.of(
                        seen("1/1", mail(1, "r", "Buoys", BRAM, OURS)),
                        seen("1/2", mail(2, "s", "Re: Buoys", OURS, BRAM, "r")),
                        seen("1/3", mail(3, "t", "Re: Buoys", BRAM, OURS, "s")),
                        attached("1/4", mail(4, "u", "Chart", BRAM, OURS)),
                        seen("1/5", mail(5, "v", "Closed", BRAM, OURS))),
                List.of(),
                null);
        intake.take(
                scene.place(1),
                List.of(seen("1/1", mail(6, "w", "Lamps", BRAM, "p1@corvane.example"))),
                List.of(),
                null);
        intake.take(
                scene.calendar(0),
                List.of(
                        seen("a", meeting(8, MeetingItem.Sort.CALL)),
                        seen("b", meeting(20, MeetingItem.Sort.MEETING)),
                        seen("c", meeting(30, MeetingItem.Sort.MEETING))),
                List.of(),
                null);
        port = timelines
                .records(RecordFilter.named("account", "port"), Order.NAME, NOON, 0, 5)
                .get(0)
                .id();
        UUID closed = subject("Closed").id();
        store.get(Rulings.class)
                .rule(closed, new Ruling(false, Set.of(), "Person 0", "nobody else"), scene.person(0), "p0");
        scene.settle();
    }

    @AfterAll
    static void close() {
        store.close();
    }

    private static Instant day(int day) {
        return NOON.plus(day, ChronoUnit.DAYS);
    }

    private static FetchedItem seen(String position, jandrel.core.item.Item item) {
        return new FetchedItem(
                position, item, () -> new Content("\n\nNews of " + item.subject() + "\n\nmore", "", List.of()));
    }

    private static FetchedItem attached(String position, MailItem item) {
        return new FetchedItem(
                position,
                item,
                () -> new Content("", "", List.of(new Content.Attachment("chart.pdf", "application/pdf", 9))));
    }

    private static MailItem mail(int day, String id, String subject, String from, String to, String... before) {
        return new MailItem(
                        "mail:" + id,
                        day(day),
                        true,
                        List.of(
                                new Party(Part.FROM, EmailAddress.of(from), ""),
                                new Party(Part.TO, EmailAddress.of(to), "")),
                        subject,
                        Nature.ORDINARY,
                        List.of(),
                        new ThreadHeaders(id, List.of(before), before.length > 0),
                        Inside.NOTHING)
                .saying(Sketch.of(subject));
    }

    private static MeetingItem meeting(int day, MeetingItem.Sort sort) {
        return new MeetingItem(
                "meeting:" + day,
                "m" + day,
                null,
                day(day),
                day(day).plusSeconds(3_600),
                false,
                "UTC",
                List.of(
                        new Party(Part.ORGANISER, EmailAddress.of(OURS), ""),
                        new Party(Part.ACCEPTED, EmailAddress.of(BRAM), "")),
                "Meeting " + day,
                "",
                "",
                MeetingItem.Privacy.PUBLIC,
                MeetingItem.State.PLANNED,
                0,
                0,
                List.of(),
                sort,
                MeetingItem.Transparency.OPAQUE);
    }

    private static Entry subject(String subject) {
        return all(TimelineFilter.ALL).stream()
                .filter(e -> e.item() != null && e.item().subject().equals(subject))
                .findFirst()
                .orElseThrow();
    }

    private static List<Entry> all(TimelineFilter filter) {
        List<Entry> found = timelines.page(port, filter, ADMINISTRATOR, PageCursor.TOP, 50);
        assertThat(timelines.count(port, filter, ADMINISTRATOR)).isEqualTo(found.size());
        return found;
    }

    private static TimelineFilter filter(String kind, String sort, String direction, String who, boolean attached) {
        return new TimelineFilter(
                kind, sort, direction, null, who, attached, "", DecisionFilter.FIRST, DecisionFilter.LAST);
    }

    /** One message is closed: what asks for what an outline does not tell never finds it. */
    @ParameterizedTest
    @CsvSource({
        "'', '', '', '', false, 9",
        "mail, '', '', '', false, 6",
        "meeting, '', '', '', false, 3",
        "meeting, CALL, '', '', false, 1",
        "meeting, MEETING, '', '', false, 2",
        "'', '', in, '', false, 4",
        "'', '', out, '', false, 1",
        "'', '', '', BRAM@port, false, 8",
        "'', '', '', 100%, false, 0",
        "'', '', '', p1@, false, 1",
        "'', '', '', '', true, 1",
    })
    void filtersNarrow(String kind, String sort, String direction, String who, boolean attached, int found) {
        assertThat(all(filter(kind, sort, direction, who, attached))).hasSize(found);
    }

    @Test
    void personEvidenceAndDatesNarrowToo() {
        Instant first = DecisionFilter.FIRST;
        Instant last = DecisionFilter.LAST;
        assertThat(all(new TimelineFilter("", "", "", scene.person(1), "", false, "", first, last)))
                .hasSize(1);
        assertThat(all(new TimelineFilter("", "", "", null, "", false, "CONTACT", first, last)))
                .hasSize(9);
        assertThat(all(new TimelineFilter("", "", "", null, "", false, "DOMAIN", first, last)))
                .isEmpty();
        assertThat(all(TimelineFilter.ALL.from(day(2)).until(day(4)))).hasSize(2);
    }

    @Test
    void aClosedMessageStandsAsAnOutlineWhereNothingIsAskedOfIt() {
        assertThat(all(filter("mail", "", "", "", false)))
                .filteredOn(e -> e.visibility() == Visibility.OUTLINE)
                .singleElement()
                .satisfies(e -> assertThat(e.at()).isEqualTo(day(5)));
    }

    @Test
    void pagesOfWhatIsFilteredNeitherRepeatNorSkip() {
        TimelineFilter mail = filter("mail", "", "", "", false);
        List<Entry> first = timelines.page(port, mail, ADMINISTRATOR, PageCursor.TOP, 4);
        Entry last = first.get(3);
        List<Entry> second = timelines.page(port, mail, ADMINISTRATOR, new PageCursor(last.sorted(), last.id()), 4);
        assertThat(second).hasSize(2).doesNotContainAnyElementsOf(first);
    }

    @Test
    void aConversationIsTheSameForAllItsMessagesAndEndsWhereTheListDoes() {
        List<Entry> mail = all(filter("mail", "", "", "", false));
        Map<UUID, List<UUID>> all = timelines.conversations(port, mail, DecisionFilter.LAST, ADMINISTRATOR);
        List<UUID> buoys = mail.stream()
                .filter(e -> e.item() != null && e.item().subject().endsWith("Buoys"))
                .map(Entry::id)
                .toList();
        assertThat(all.keySet()).containsExactlyInAnyOrderElementsOf(buoys);
        assertThat(all.get(buoys.get(2))).as("the newest first").containsExactlyElementsOf(buoys);
        Map<UUID, List<UUID>> early = timelines.conversations(port, mail, day(3), ADMINISTRATOR);
        assertThat(early.get(buoys.get(2))).containsExactly(buoys.get(1), buoys.get(2));
    }

    @Test
    void whatIsPlannedComesTheNearestFirst() {
        TimelineFilter ahead = TimelineFilter.ALL.from(day(10));
        assertThat(timelines.nearest(port, ahead, ADMINISTRATOR, 3))
                .extracting(Entry::at)
                .containsExactly(day(20), day(30));
        assertThat(timelines.count(port, ahead, ADMINISTRATOR)).isEqualTo(2);
    }

    @Test
    void weeksAddUpToTheTimeline() {
        List<TimelineWeek> weeks = timelines.weeks(port);
        assertThat(weeks.stream().mapToLong(TimelineWeek::mail).sum()).isEqualTo(6);
        assertThat(weeks.stream().mapToLong(TimelineWeek::meetings).sum()).isEqualTo(3);
        assertThat(weeks).isSortedAccordingTo(Comparator.comparing(TimelineWeek::begins));
        assertThat(weeks)
                .allSatisfy(w -> assertThat(
                                Duration.between(Instant.EPOCH, w.begins()).toDays() % 7)
                        .as("a Monday")
                        .isEqualTo(4));
    }

    @Test
    void aPreviewIsOfWhatIsReadInFull() {
        List<Entry> mail = all(filter("mail", "", "", "", false));
        Map<UUID, Timelines.Preview> previews = timelines.previews(mail, ADMINISTRATOR);
        Entry lamps = subject("Lamps");
        Entry chart = subject("Chart");
        assertThat(previews.get(lamps.id()).text()).contains("News of Lamps");
        assertThat(previews.get(chart.id()).attachments()).isOne();
        assertThat(previews).hasSize(5);
    }

    @Test
    void recordsAreSortedByWhatTheirTimelinesAmountTo() {
        assertThat(names(Order.ACTIVITY)).startsWith("Account port");
        assertThat(names(Order.TOUCH)).startsWith("Account port");
        assertThat(names(Order.NEXT)).startsWith("Account port");
        assertThat(names(Order.NAME)).containsExactly("Account port", "Account quay");
        assertThat(timelines.records(new RecordFilter("", "", scene.person(0), null, false), Order.NAME, NOON, 0, 5))
                .isEmpty();
        assertThat(timelines.recordCount(new RecordFilter("", "", scene.person(0), null, false), NOON))
                .isZero();
    }

    /** The port was last touched on the sixth day, and has meetings on the 8th, 20th and 30th; the quay has nothing. */
    @ParameterizedTest
    @CsvSource({
        "7, WEEK, port",
        "7, DAY, ''",
        "7, NEVER, quay",
        "13, WEEK, port",
        "13, DAY, ''",
        "45, MONTH, port",
        "100, QUARTER, port",
        "300, LONGER, port",
        "300, QUARTER, ''",
        "300, NEVER, quay"
    })
    void everyRecordIsInOneBucketOfItsLastTouch(int now, RecordFilter.Touch touch, String found) {
        RecordFilter filter = new RecordFilter("account", "", null, touch, false);
        assertThat(timelines.records(filter, Order.NAME, day(now), 0, 5))
                .extracting(KnownRecord::key)
                .containsExactlyElementsOf(found.isEmpty() ? List.of() : List.of(found));
        Timelines.Touches touches = timelines.touches("account", day(now));
        assertThat(touches.touched())
                .containsEntry(touch, (long) (found.isEmpty() ? 0 : 1))
                .allSatisfy((t, n) -> assertThat(
                                timelines.recordCount(new RecordFilter("account", "", null, t, false), day(now)))
                        .isEqualTo(n));
        assertThat(touches.touched().values().stream().mapToLong(n -> n).sum()).isEqualTo(2);
    }

    @Test
    void thoseWithNothingNextHaveNoMeetingAhead() {
        RecordFilter nothing = new RecordFilter("account", "", null, null, true);
        assertThat(timelines.recordCount(nothing, day(10))).isOne();
        assertThat(timelines.recordCount(nothing, day(31))).isEqualTo(2);
        assertThat(timelines.touches("account", day(31)).nothingNext()).isEqualTo(2);
    }

    private static List<String> names(Order order) {
        return timelines.records(RecordFilter.named("account", ""), order, day(10), 0, 5).stream()
                .map(KnownRecord::name)
                .toList();
    }
}
