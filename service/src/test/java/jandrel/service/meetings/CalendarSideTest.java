package jandrel.service.meetings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import jandrel.core.item.MeetingItem;
import jandrel.core.policy.Keeping;
import jandrel.sources.CalendarServer;
import jandrel.sources.DavObject;
import jandrel.sources.SourceTrouble;
import jandrel.store.capture.CursorConflict;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Source;
import jandrel.store.meetings.ManagedMeetings;
import jandrel.store.meetings.ManagedMeetings.ManagedMeeting;
import jandrel.store.people.People;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** How often a calendar is asked for the files of what was made here. */
class CalendarSideTest {
    private static final UUID CONNECTION = UUID.randomUUID();
    private static final UUID OWNER = UUID.randomUUID();
    private final ManagedMeetings plans = mock(ManagedMeetings.class);
    private final Connections connections = mock(Connections.class);
    private final CalendarServer server = mock(CalendarServer.class);
    private final Map<UUID, ManagedMeeting> known = new HashMap<>();
    private final Map<String, DavObject> files = new HashMap<>();
    private final List<Collection<String>> asked = new ArrayList<>();
    private CalendarSide side;

    @BeforeEach
    void open() {
        when(plans.one(any())).thenAnswer(call -> Optional.ofNullable(known.get(call.<UUID>getArgument(0))));
        when(plans.some(any()))
                .thenAnswer(call -> call.<Collection<UUID>>getArgument(0).stream()
                        .map(known::get)
                        .filter(Objects::nonNull)
                        .toList());
        when(connections.source(anyInt()))
                .thenAnswer(call -> Optional.of(source(
                        call.getArgument(0), call.<Integer>getArgument(0) < 9 ? CONNECTION : UUID.randomUUID())));
        when(server.objects(any(), any())).thenAnswer(call -> {
            Collection<String> hrefs = call.getArgument(1);
            asked.add(List.copyOf(hrefs));
            return hrefs.stream().filter(files::containsKey).map(files::get).toList();
        });
        People.Person owner = new People.Person(OWNER, "o", "Owner", "", "rep", null, new String[0]);
        side = new CalendarSide(CONNECTION, server, plans, connections, owner, Keeping.SAFE, true);
    }

    private static Source source(int id, UUID connection) {
        return new Source(
                id,
                connection,
                "calendar",
                "/c" + id + "/",
                "",
                "",
                null,
                true,
                "",
                true,
                "",
                true,
                0,
                0,
                new String[0],
                false,
                false,
                0);
    }

    private UUID standing(int calendar, String title) {
        UUID id = UUID.randomUUID();
        String href = "/c" + calendar + "/" + id + ".ics";
        known.put(
                id,
                new ManagedMeeting(
                        id,
                        UUID.randomUUID(),
                        id + "@corvane.example",
                        null,
                        OWNER,
                        false,
                        "x",
                        true,
                        mock(MeetingItem.class),
                        null,
                        0,
                        Instant.EPOCH,
                        false,
                        calendar,
                        href,
                        false,
                        "",
                        false,
                        1));
        file(id, title, "1");
        return id;
    }

    private void file(UUID id, String title, String tag) {
        String text = String.join(
                "\r\n",
                "BEGIN:VCALENDAR",
                "VERSION:2.0",
                "BEGIN:VEVENT",
                "UID:" + id + "@corvane.example",
                "DTSTAMP:20260101T000000Z",
                "DTSTART:20260301T100000Z",
                "DURATION:PT1H",
                "SUMMARY:" + title,
                "END:VEVENT",
                "END:VCALENDAR",
                "");
        String href = Objects.requireNonNull(known.get(id)).href();
        files.put(href, new DavObject(href, tag, text.getBytes(StandardCharsets.UTF_8)));
    }

    private String title(UUID id) {
        return Objects.requireNonNull(side.find(id).details()).title();
    }

    @Test
    void manyAreReadInOneRequestForEachCalendar() {
        List<UUID> ids = new ArrayList<>();
        IntStream.range(0, 40).forEach(i -> ids.add(standing(1 + i % 2, "Meeting " + i)));
        side.ahead(ids);
        assertThat(asked).hasSize(2).allSatisfy(hrefs -> assertThat(hrefs).hasSize(20));
        for (int i = 0; i < 40; i++) {
            assertThat(title(ids.get(i))).isEqualTo("Meeting " + i);
        }
        assertThat(asked).hasSize(2);
    }

    @Test
    void aSecondLookIsAtWhatIsThereThen() {
        UUID id = standing(1, "Before");
        side.ahead(List.of(id));
        file(id, "After", "2");
        assertThat(title(id)).isEqualTo("Before");
        assertThat(title(id)).isEqualTo("After");
    }

    @Test
    void thatOneIsGoneIsBelievedOfARequestForItAlone() {
        UUID stays = standing(1, "Stays");
        UUID goes = standing(1, "Goes");
        String href = Objects.requireNonNull(known.get(goes)).href();
        DavObject file = Objects.requireNonNull(files.remove(href));
        side.ahead(List.of(stays, goes));
        files.put(href, file);
        assertThat(title(goes)).isEqualTo("Goes");
        files.remove(href);
        assertThat(side.find(goes).details()).isNull();
        assertThat(title(stays)).isEqualTo("Stays");
    }

    @Test
    void whatStandsAtAnotherServerIsNotAskedForHere() {
        UUID elsewhere = standing(9, "Elsewhere");
        side.ahead(List.of(elsewhere));
        assertThat(asked).isEmpty();
        assertThatThrownBy(() -> side.find(elsewhere)).isInstanceOf(CursorConflict.class);
    }

    @Test
    void aCalendarThatMayNotBeReadIsToldForEachAndABrokenServerForAll() {
        UUID id = standing(1, "Closed");
        for (SourceTrouble.Kind kind : SourceTrouble.Kind.values()) {
            doThrow(new SourceTrouble(kind, "no")).when(server).objects(any(), any());
            if (kind == SourceTrouble.Kind.FORBIDDEN) {
                side.ahead(List.of(id));
            } else {
                assertThatThrownBy(() -> side.ahead(List.of(id))).isInstanceOf(SourceTrouble.class);
            }
            assertThatThrownBy(() -> side.find(id)).isInstanceOf(SourceTrouble.class);
        }
    }
}
