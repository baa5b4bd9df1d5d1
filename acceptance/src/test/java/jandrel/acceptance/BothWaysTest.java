package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.HeldInfo;
import jandrel.api.ConnectionApi.SourceInfo;
import jandrel.api.MeetingApi.ConflictInfo;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.MeetingDetail;
import jandrel.api.MeetingApi.NewMeeting;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Meetings on both sides, over Radicale. */
class BothWaysTest extends Diaries {
    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("bothways", Map.of("JANDREL_LOOK_EVERY", "1s"));
        h.bothWays();
    }

    @AfterAll
    static void close() {
        h.close();
    }

    @Test
    void whatIsMadeHereStandsOnTheTimelineAtOnceAndInTheCalendarSoon() throws Exception {
        Someone who = someone("maker");
        MadeMeeting made = who.service()
                .post(
                        "/api/meetings",
                        wanted("call", "Ask for the survey", 30, who.account(), "bram@maker.example"),
                        MadeMeeting.class);
        assertThat(made.says()).contains("on its way");
        assertThat(only(who)).isNotNull().extracting(ActivityInfo::subject).isEqualTo("Ask for the survey");
        untilInStep(who, made.item());
        assertThat(file(who))
                .contains(
                        "SUMMARY:Ask for the survey", "TZID=Europe/Oslo", "TRIGGER:-PT15M", "mailto:bram@maker.example")
                .contains("ORGANIZER;CN=Person maker:mailto:maker@corvane.example");
        // the calendar shows it, too, and it is still one; nothing comes back as a change of somebody's
        String before = file(who);
        h.settle();
        Thread.sleep(2_500);
        assertThat(file(who)).isEqualTo(before);
        assertThat(h.timeline(who.account())).hasSize(1);
        assertThat(open(who, made.item()).conflicts()).isEmpty();
        assertThat(open(who, made.item()).moved()).isEmpty();
    }

    @Test
    void whatIsChangedInTheCalendarIsChangedHereAndTheOtherWayRound() throws Exception {
        Someone who = someone("changer");
        UUID item = who.service()
                .post("/api/meetings", wanted("meeting", "Signing", 40, who.account()), MadeMeeting.class)
                .item();
        untilInStep(who, item);
        write(who, file(who).replace("SUMMARY:Signing", "SUMMARY:Signing\\, at last\r\nX-OWN;A=b:kept"));
        soon().until(() -> open(who, item).meeting().title().equals("Signing, at last"));
        who.service().put("/api/meetings/" + item, moved(in(44)), MadeMeeting.class);
        // it stands where it was moved to before any calendar has answered
        assertThat(only(who)).isNotNull().extracting(ActivityInfo::at).isEqualTo(in(44));
        untilInStep(who, item);
        assertThat(file(who)).contains("SUMMARY:Signing\\, at last", "X-OWN;A=b:kept");
        MeetingDetail detail = open(who, item);
        assertThat(detail.meeting().begins()).isEqualTo(in(44));
        assertThat(detail.meeting().ends()).isEqualTo(in(45));
        assertThat(detail.moved()).singleElement().satisfies(m -> {
            assertThat(m.wasBegins()).isEqualTo(in(40));
            assertThat(m.begins()).isEqualTo(in(44));
            assertThat(m.by()).isEqualTo("Person changer");
        });
    }

    @Test
    void aDeletionOnEitherSideIsOneOnBoth() throws Exception {
        Someone who = someone("deleter");
        UUID first = who.service()
                .post("/api/meetings", wanted("meeting", "First", 50, who.account()), MadeMeeting.class)
                .item();
        untilInStep(who, first);
        h.providers.removeEvent(who.address(), h.providers.files(who.address()).get(0));
        soon().until(() -> h.timeline(who.account()).isEmpty());
        UUID second = who.service()
                .post("/api/meetings", wanted("meeting", "Second", 52, who.account()), MadeMeeting.class)
                .item();
        untilInStep(who, second);
        who.service().delete("/api/meetings/" + second);
        soon().until(() -> h.providers.files(who.address()).isEmpty());
        soon().until(() -> h.timeline(who.account()).isEmpty());
        Thread.sleep(2_500);
        assertThat(h.providers.files(who.address())).isEmpty();
    }

    @Test
    void aMeetingOfTheCalendarIsMovedHereAndWhatIsNotKnownStays() throws Exception {
        Someone who = someone("mover");
        h.providers.event(
                who.address(),
                "weekly.ics",
                "BEGIN:VEVENT",
                "UID:weekly@corvane.example",
                "DTSTAMP:20260101T000000Z",
                "DTSTART:" + basic(in(60)),
                "DURATION:PT1H",
                "RRULE:FREQ=WEEKLY;COUNT=3",
                "SUMMARY:Weekly",
                "ATTACH:https://files.corvane.example/plan.pdf",
                "ATTENDEE;X-SEAT=4:mailto:bram@mover.example",
                "END:VEVENT");
        soon().until(() -> h.timeline(who.account()).size() == 3);
        ActivityInfo second = h.timeline(who.account()).get(1);
        who.service()
                .put("/api/meetings/" + second.id(), moved(second.at().plus(2, ChronoUnit.HOURS)), MadeMeeting.class);
        untilInStep(who, second.id());
        assertThat(file(who))
                .contains("RRULE:FREQ=WEEKLY;COUNT=3", "RECURRENCE-ID:" + basic(second.at()))
                .contains(
                        "ATTENDEE;X-SEAT=4:mailto:bram@mover.example", "ATTACH:https://files.corvane.example/plan.pdf");
        h.settle();
        assertThat(h.timeline(who.account()))
                .extracting(ActivityInfo::at)
                .containsExactly(
                        second.at().plus(7, ChronoUnit.DAYS),
                        second.at().plus(2, ChronoUnit.HOURS),
                        second.at().minus(7, ChronoUnit.DAYS));
    }

    @Test
    void whatLosesIsKeptAndOneStepBringsItBack() throws Exception {
        Someone who = someone("loser");
        UUID item = who.service()
                .post("/api/meetings", wanted("meeting", "Agreed", 70, who.account()), MadeMeeting.class)
                .item();
        untilInStep(who, item);
        String connection = connection("loser").id().toString();
        who.service().post("/api/connections/" + connection + "/pause", Map.of(), ConnectionInfo.class);
        who.service().put("/api/meetings/" + item, title("Ours"), MadeMeeting.class);
        // a program that says when: an hour from now, so later than ours
        write(
                who,
                file(who)
                        .replace("SUMMARY:Agreed", "SUMMARY:Theirs")
                        .replaceAll("LAST-MODIFIED:[0-9TZ]+", "LAST-MODIFIED:" + basic(in(2))));
        who.service().post("/api/connections/" + connection + "/resume", Map.of(), ConnectionInfo.class);
        soon().until(() -> !open(who, item).conflicts().isEmpty());
        ConflictInfo conflict = open(who, item).conflicts().get(0);
        assertThat(conflict.field()).isEqualTo("title");
        assertThat(conflict.here()).isEqualTo("Ours");
        assertThat(conflict.calendar()).isEqualTo("Theirs");
        assertThat(conflict.stands()).isEqualTo("calendar");
        untilInStep(who, item);
        assertThat(open(who, item).meeting().title()).isEqualTo("Theirs");
        who.service().post("/api/conflicts/" + conflict.id() + "/bring-back", Map.of(), MadeMeeting.class);
        untilInStep(who, item);
        soon().until(() -> file(who).contains("SUMMARY:Ours"));
        assertThat(open(who, item).meeting().title()).isEqualTo("Ours");
        // the journal says that there was one, and no word of the meeting
        String journal = h.admin.get("/api/journal?limit=200", Object.class).toString();
        assertThat(journal).contains("settled a conflict").doesNotContain("Theirs");
    }

    private static ConnectionInfo connection(String person) throws Exception {
        return Arrays.stream(h.admin.get("/api/connections", ConnectionInfo[].class))
                .filter(c -> c.account().equals(person + "@corvane.example"))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void whenMuchVanishesAtOnceSomebodyIsAskedFirst() throws Exception {
        Someone who = someone("vanisher");
        for (int i = 0; i < 24; i++) {
            h.providers.event(
                    who.address(),
                    "m" + i + ".ics",
                    "BEGIN:VEVENT",
                    "UID:mass-" + i,
                    "DTSTAMP:20260101T000000Z",
                    "DTSTART:" + basic(in(80 + i)),
                    "DURATION:PT30M",
                    "SUMMARY:Meeting " + i,
                    "ATTENDEE:mailto:bram@vanisher.example",
                    "END:VEVENT");
        }
        soon().until(() -> h.timeline(who.account()).size() == 24);
        who.service()
                .post("/api/connections/" + connection("vanisher").id() + "/pause", Map.of(), ConnectionInfo.class);
        for (int i = 0; i < 9; i++) {
            h.providers.removeEvent(who.address(), "m" + i + ".ics");
        }
        who.service()
                .post("/api/connections/" + connection("vanisher").id() + "/resume", Map.of(), ConnectionInfo.class);
        soon().until(() -> connection("vanisher").sources().stream()
                .anyMatch(s -> !s.held().isEmpty()));
        SourceInfo held = connection("vanisher").sources().get(0);
        assertThat(held.held()).isEqualTo("9 of 24 vanished at once");
        HeldInfo list = who.service().get("/api/sources/" + held.id() + "/held", HeldInfo.class);
        assertThat(list.meetings()).hasSize(9).anyMatch(m -> m.title().equals("Meeting 3"));
        assertThat(h.timeline(who.account())).hasSize(24);
        who.service().ask("POST", "/api/sources/" + held.id() + "/let-pass", "{}");
        soon().until(() -> h.timeline(who.account()).size() == 15);
        soon().until(() -> connection("vanisher").sources().get(0).held().isEmpty());
    }

    @Test
    void aMeetingIsItsOrganisersToChange() throws Exception {
        Someone who = someone("invitee");
        event(
                who,
                "theirs",
                60,
                "ORGANIZER;CN=Bram Holm:mailto:bram@invitee.example",
                "ATTENDEE;PARTSTAT=TENTATIVE:mailto:invitee@corvane.example");
        soon().until(() -> h.timeline(who.account()).size() == 1);
        UUID item = h.timeline(who.account()).get(0).id();
        MeetingDetail detail = open(who, item);
        assertThat(detail.mayChange()).isFalse();
        assertThat(detail.whyNot()).contains("Bram Holm", "only they can change it");
        assertThat(detail.guests())
                .singleElement()
                .satisfies(g -> assertThat(g.answer()).isEqualTo("tentative"));
        assertThatThrownBy(() -> who.service().put("/api/meetings/" + item, title("Mine"), MadeMeeting.class))
                .hasMessageContaining("only they can change it");
    }

    @Test
    void whereMeetingsOnlyGoOutOursIsPutBackAndADeletionStays() throws Exception {
        Someone who = someone("oneway");
        UUID item = who.service()
                .post("/api/meetings", wanted("meeting", "Tide report", 30, who.account()), MadeMeeting.class)
                .item();
        untilInStep(who, item);
        try {
            h.everyone(Map.of("meetings", "out"));
            write(who, file(who).replace("SUMMARY:Tide report", "SUMMARY:Not that"));
            soon().until(() -> !open(who, item).conflicts().isEmpty());
            ConflictInfo conflict = open(who, item).conflicts().get(0);
            assertThat(conflict.stands()).isEqualTo("here");
            assertThat(conflict.calendar()).isEqualTo("Not that");
            soon().until(() -> file(who).contains("SUMMARY:Tide report"));
            assertThat(open(who, item).meeting().title()).isEqualTo("Tide report");
            who.service().put("/api/meetings/" + item, title("Tide report, final"), MadeMeeting.class);
            soon().until(() -> file(who).contains("SUMMARY:Tide report\\, final"));
            h.providers.removeEvent(
                    who.address(), h.providers.files(who.address()).get(0));
            soon().until(() -> "detached".equals(open(who, item).stand().state()));
            assertThat(h.providers.files(who.address())).isEmpty();
            assertThat(only(who)).isNotNull().extracting(ActivityInfo::subject).isEqualTo("Tide report, final");
        } finally {
            h.bothWays();
        }
    }

    @Test
    void whatDoesNotFitIsNamedAndNothingIsMade() throws Exception {
        Someone who = someone("misfit2");
        NewMeeting wrong = new NewMeeting(
                "meeting",
                " ",
                in(2),
                in(1),
                null,
                "Nowhere/There",
                List.of(who.account()),
                List.of("nobody"),
                null,
                null,
                "http://plain.example",
                null,
                null,
                null,
                999_999,
                null);
        assertThatThrownBy(() -> who.service().post("/api/meetings", wrong, MadeMeeting.class))
                .hasMessageContaining("title")
                .hasMessageContaining("zone")
                .hasMessageContaining("nobody")
                .hasMessageContaining("https://")
                .hasMessageContaining("reminder");
        assertThat(h.timeline(who.account())).isEmpty();
    }
}
