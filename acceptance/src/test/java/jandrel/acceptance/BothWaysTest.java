package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.api.Activities.ActivityInfo;
import jandrel.api.Connections.ConnectionInfo;
import jandrel.api.Connections.HeldInfo;
import jandrel.api.Connections.SourceInfo;
import jandrel.api.Meetings.CalendarPage;
import jandrel.api.Meetings.ConflictInfo;
import jandrel.api.Meetings.FeedInfo;
import jandrel.api.Meetings.FreePage;
import jandrel.api.Meetings.MadeMeeting;
import jandrel.api.Meetings.MeetingChange;
import jandrel.api.Meetings.MeetingDetail;
import jandrel.api.Meetings.MeetingInfo;
import jandrel.api.Meetings.NewFeed;
import jandrel.api.Meetings.NewMeeting;
import jandrel.api.Sessions.Whoami;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Meetings on both sides, over Radicale. */
class BothWaysTest {
    private static final Instant HOUR = Instant.now().truncatedTo(ChronoUnit.HOURS);
    private static Harbour h;

    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("bothways", Map.of("JANDREL_LOOK_EVERY", "1s"));
        h.bothWays();
    }

    @AfterAll
    static void close() {
        h.close();
    }

    private static Instant in(int hours) {
        return HOUR.plus(hours, ChronoUnit.HOURS);
    }

    private static NewMeeting wanted(String sort, String title, int from, UUID record, String... guests) {
        return new NewMeeting(
                sort,
                title,
                in(from),
                in(from + 1),
                null,
                "Europe/Oslo",
                List.of(record),
                List.of(guests),
                null,
                "Pier 3",
                null,
                "What to bring",
                null,
                null,
                15,
                null);
    }

    private static MeetingChange title(String title) {
        return new MeetingChange(title, null, null, null, null, null, null, null, null, null, null, null, null, null);
    }

    private static MeetingChange moved(Instant begins) {
        return new MeetingChange(null, begins, null, null, null, null, null, null, null, null, null, null, null, null);
    }

    /** Somebody with a calendar, an account of theirs, and their sign-in. */
    private record Someone(String address, UUID account, Service service) {}

    private static Someone someone(String key) throws Exception {
        String address = h.person(key, "rep");
        UUID account = h.account(key);
        h.connectCalendar(key);
        h.settle();
        return new Someone(address, account, h.process.signedIn(key, Providers.PASSWORD));
    }

    private static MeetingDetail open(Someone who, UUID item) throws Exception {
        return who.service().get("/api/meetings/" + item, MeetingDetail.class);
    }

    private static String file(Someone who) throws Exception {
        List<String> files = h.providers.files(who.address());
        return files.size() == 1 ? h.providers.file(who.address(), files.get(0)).orElse("") : files.toString();
    }

    private static void write(Someone who, String text) throws Exception {
        h.providers.file(who.address(), h.providers.files(who.address()).get(0), text);
    }

    private static void untilInStep(Someone who, UUID item) {
        soon().until(() -> {
            MeetingDetail d = open(who, item);
            return d.stand() != null && d.stand().state().equals("in-step");
        });
    }

    private static @Nullable ActivityInfo only(Someone who) throws Exception {
        List<ActivityInfo> timeline = h.timeline(who.account());
        return timeline.size() == 1 ? timeline.get(0) : null;
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

    private static String basic(Instant at) {
        return at.toString().replaceAll("[-:]", "");
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
    void theCalendarShowsWhoIsBusyAndNotWhy() throws Exception {
        Someone who = someone("planner2");
        Someone other = someone("onlooker");
        UUID owner = java.util.Objects.requireNonNull(
                who.service().get("/api/session", Whoami.class).person());
        NewMeeting secret = new NewMeeting(
                "meeting",
                "Secret talks",
                in(110),
                in(111),
                null,
                null,
                List.of(who.account()),
                null,
                null,
                null,
                null,
                null,
                null,
                true,
                null,
                null);
        UUID item =
                who.service().post("/api/meetings", secret, MadeMeeting.class).item();
        String query = "/api/calendar?from=" + in(100) + "&until=" + in(120) + "&people=" + owner;
        MeetingInfo mine =
                who.service().get(query, CalendarPage.class).meetings().get(0);
        assertThat(mine.title()).isEqualTo("Secret talks");
        assertThat(mine.state()).isEqualTo("planned");
        assertThat(mine.mine()).isTrue();
        MeetingInfo theirs =
                other.service().get(query, CalendarPage.class).meetings().get(0);
        assertThat(theirs.visibility()).isEqualTo("outline");
        assertThat(theirs.title()).isEmpty();
        assertThat(theirs.state()).isEmpty();
        assertThatThrownBy(() -> other.service().get("/api/meetings/" + item, MeetingDetail.class))
                .hasMessageContaining("no such meeting");
        assertThatThrownBy(() -> other.service().put("/api/meetings/" + item, title("Mine now"), MadeMeeting.class))
                .hasMessageContaining("no such meeting");
        FreePage free = other.service()
                .get(
                        "/api/calendar/free?from=" + in(109) + "&until=" + in(113) + "&people=" + owner
                                + "&opens=00:00&closes=23:59&minutes=30",
                        FreePage.class);
        assertThat(free.people().get(0).busy())
                .singleElement()
                .satisfies(b -> assertThat(b.from()).isEqualTo(in(110)));
        assertThat(free.free())
                .noneMatch(f -> f.from().isBefore(in(111)) && f.until().isAfter(in(110)));
    }

    private static void event(Someone who, String name, int from, String... more) throws Exception {
        List<String> lines = new java.util.ArrayList<>(List.of(
                "BEGIN:VEVENT",
                "UID:" + from + "@" + who.address(),
                "DTSTAMP:20260101T000000Z",
                "DTSTART:" + basic(in(from)),
                "DURATION:PT1H",
                "SUMMARY:" + name));
        lines.addAll(List.of(more));
        lines.add("END:VEVENT");
        h.providers.event(who.address(), "e" + from + ".ics", lines.toArray(String[]::new));
    }

    @Test
    void freeTimeGoesByAllThatACalendarShowsAndByWhatTakesTime() throws Exception {
        Someone who = someone("planner3");
        UUID person = java.util.Objects.requireNonNull(
                who.service().get("/api/session", Whoami.class).person());
        // about no customer, so left out; at another's request but free; and a whole day that only marks it
        event(who, "among-ourselves", 200, "ATTENDEE:mailto:onlooker@corvane.example");
        event(who, "free", 202, "TRANSP:TRANSPARENT", "ATTENDEE:mailto:bram@planner3.example");
        event(who, "off", 204, "STATUS:CANCELLED", "ATTENDEE:mailto:bram@planner3.example");
        event(who, "busy", 206, "ATTENDEE:mailto:bram@planner3.example");
        soon().until(() -> h.timeline(who.account()).size() == 2);
        FreePage page = who.service()
                .get(
                        "/api/calendar/free?from=" + in(199) + "&until=" + in(210) + "&people=" + person
                                + "&opens=00:00&closes=23:59&minutes=30",
                        FreePage.class);
        assertThat(page.people().get(0).busy())
                .extracting(jandrel.api.Meetings.SpanInfo::from)
                .containsExactly(in(200), in(206));
        // nothing but the time of it is known
        assertThat(who.service().get("/api/decisions?limit=50", Object.class).toString())
                .doesNotContain("among-ourselves");
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
    void whatIsFollowedIsKeptInSightAndItsOwnerAloneSaysSo() throws Exception {
        Someone who = someone("follower");
        UUID other = h.account("followed");
        who.service().post("/api/meetings", wanted("call", "Near", 20, who.account()), MadeMeeting.class);
        who.service().post("/api/meetings", wanted("call", "Far", 21, other), MadeMeeting.class);
        String query = "/api/calendar?from=" + in(10) + "&until=" + in(30) + "&followed=true";
        assertThat(who.service().get(query, CalendarPage.class).meetings()).isEmpty();
        assertThat(who.service().ask("PUT", "/api/followed/" + other, "{}").statusCode())
                .isEqualTo(204);
        assertThat(who.service().get(query, CalendarPage.class).meetings())
                .extracting(MeetingInfo::title)
                .containsExactly("Far");
        assertThat(h.admin.get(query, CalendarPage.class).meetings()).isEmpty();
        who.service().delete("/api/followed/" + other);
        assertThat(who.service().get(query, CalendarPage.class).meetings()).isEmpty();
        assertThat(who.service()
                        .ask("PUT", "/api/followed/" + UUID.randomUUID(), "{}")
                        .statusCode())
                .isEqualTo(404);
    }

    @Test
    void whatHasEndedWasHeldUnlessSomebodySaysOtherwise() throws Exception {
        Someone who = someone("teller");
        UUID item = who.service()
                .post("/api/meetings", wanted("meeting", "Yesterday", -26, who.account()), MadeMeeting.class)
                .item();
        assertThat(open(who, item).meeting().state()).isEqualTo("held");
        assertThat(told(who, item).statusCode()).isEqualTo(204);
        assertThat(open(who, item).meeting().state()).isEqualTo("missed");
        assertThat(open(who, item).told()).isEqualTo("Person teller");
        UUID ahead = who.service()
                .post("/api/meetings", wanted("meeting", "Tomorrow", 26, who.account()), MadeMeeting.class)
                .item();
        assertThat(told(who, ahead).body()).contains("not begun");
    }

    private static HttpResponse<String> told(Someone who, UUID item) throws Exception {
        return who.service().ask("PUT", "/api/meetings/" + item + "/told", "{\"state\": \"missed\"}");
    }

    @Test
    void aSubscriptionGivesWhatItsMakerSeesUntilItIsRevoked() throws Exception {
        Someone who = someone("reader3");
        who.service().post("/api/meetings", wanted("meeting", "Open day", 30, who.account()), MadeMeeting.class);
        FeedInfo feed = who.service().post("/api/feeds", new NewFeed("record", who.account()), FeedInfo.class);
        HttpResponse<String> read = fetched(feed.address());
        assertThat(read.headers().firstValue("content-type").orElse("")).startsWith("text/calendar");
        assertThat(read.body()).contains("BEGIN:VEVENT", "SUMMARY:Open day").doesNotContain("What to bring");
        Someone other = someone("reader4");
        FeedInfo theirs = other.service().post("/api/feeds", new NewFeed("record", who.account()), FeedInfo.class);
        h.sharing("owner");
        h.settle();
        assertThat(fetched(theirs.address()).body()).contains("SUMMARY:Busy").doesNotContain("Open day");
        h.bothWays();
        h.settle();
        who.service().delete("/api/feeds/" + feed.id());
        assertThat(fetched(feed.address()).statusCode()).isEqualTo(404);
        assertThat(fetched(feed.address().replaceAll("feeds/.*", "feeds/guessed.ics"))
                        .statusCode())
                .isEqualTo(404);
    }

    private static HttpResponse<String> fetched(@Nullable String address) throws Exception {
        return HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(String.valueOf(address)))
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
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
