package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.api.DecisionApi.DayCounts;
import jandrel.api.MeetingApi.CalendarPage;
import jandrel.api.MeetingApi.DayInfo;
import jandrel.api.MeetingApi.FeedInfo;
import jandrel.api.MeetingApi.FreePage;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.MeetingChange;
import jandrel.api.MeetingApi.MeetingDetail;
import jandrel.api.MeetingApi.MeetingInfo;
import jandrel.api.MeetingApi.NewFeed;
import jandrel.api.MeetingApi.NewMeeting;
import jandrel.api.MeetingApi.OutcomeCount;
import jandrel.api.SessionApi.Whoami;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Who sees what of meetings: in the calendar, as free time, by what one follows, by a subscription. */
class LookingAtMeetingsTest extends Diaries {
    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("lookingatmeetings", Map.of("JANDREL_LOOK_EVERY", "1s"));
        h.bothWays();
    }

    @AfterAll
    static void close() {
        h.close();
    }

    @Test
    void theCalendarShowsWhoIsBusyAndNotWhy() throws Exception {
        Someone who = someone("planner2");
        Someone other = someone("onlooker");
        UUID owner = java.util.Objects.requireNonNull(
                who.service().get("/api/session", Whoami.class).person());
        NewMeeting secret = wanted("Secret talks", in(110), who.account(), true);
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

    /** Not every zone that has a name means the same to a database, or anything. */
    @ParameterizedTest
    @ValueSource(strings = {"Europe/Oslo", "UTC", "Z", "GMT+14", "UTC-11:00", "+13:59:59", "Etc/GMT+12", "EST5EDT"})
    void daysAreThoseOfTheZoneThatIsAskedFor(String zone) throws Exception {
        Someone who = someone("zoned" + Math.abs(zone.hashCode()));
        UUID owner = java.util.Objects.requireNonNull(
                who.service().get("/api/session", Whoami.class).person());
        Instant begins = in(130);
        who.service().post("/api/meetings", wanted("Zoned", begins, who.account()), MadeMeeting.class);
        String name = URLEncoder.encode(zone, StandardCharsets.UTF_8);
        CalendarPage page = who.service()
                .get(
                        "/api/calendar?from=" + in(100) + "&until=" + in(180) + "&perDay=4&people=" + owner + "&zone="
                                + name,
                        CalendarPage.class);
        assertThat(page.days()).first().isEqualTo(new DayInfo(LocalDate.ofInstant(begins, ZoneId.of(zone)), 1));
        DayCounts[] days = h.admin.get("/api/decisions/days?days=3&zone=" + name, DayCounts[].class);
        assertThat(days).hasSize(3);
        assertThat(days[2].day()).isEqualTo(LocalDate.now(ZoneId.of(zone)).toString());
    }

    /** Two who edit one meeting: neither takes back what the other wrote without having seen it. */
    @Test
    void aChangeThatMeetsAnotherIsMergedOrRefusedWithBothValues() throws Exception {
        Someone who = someone("merging");
        Instant begins = Instant.now().truncatedTo(ChronoUnit.HOURS).plus(50, ChronoUnit.HOURS);
        UUID item = who.service()
                .post("/api/meetings", wanted("Buoys", begins, who.account()), MadeMeeting.class)
                .item();
        MeetingChange renamed = title("Buoys, by one").havingSeen(title("Buoys"));
        who.service().put("/api/meetings/" + item, renamed, MadeMeeting.class);
        // another field, changed from the same beginning
        Instant later = begins.plus(1, ChronoUnit.HOURS);
        h.admin.put("/api/meetings/" + item, moved(later).havingSeen(moved(begins)), MadeMeeting.class);
        assertThat(open(who, item).meeting())
                .satisfies(m -> assertThat(m.title()).isEqualTo("Buoys, by one"))
                .satisfies(m -> assertThat(m.begins()).isEqualTo(later));
        // the same field
        assertThatThrownBy(() -> h.admin.put(
                        "/api/meetings/" + item,
                        title("Buoys, by the other").havingSeen(title("Buoys")),
                        MadeMeeting.class))
                .hasMessageContaining("title is “Buoys, by one” now, you wrote “Buoys, by the other”");
        assertThat(open(who, item).meeting().title()).isEqualTo("Buoys, by one");
        // whoever has read it may replace it; and what is the same already is no conflict
        h.admin.put(
                "/api/meetings/" + item,
                title("Buoys, by the other").havingSeen(title("Buoys, by one")),
                MadeMeeting.class);
        who.service()
                .put(
                        "/api/meetings/" + item,
                        title("Buoys, by the other").havingSeen(title("Buoys")),
                        MadeMeeting.class);
        assertThat(open(who, item).meeting().title()).isEqualTo("Buoys, by the other");
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
                .extracting(jandrel.api.MeetingApi.SpanInfo::from)
                .containsExactly(in(200), in(206));
        // nothing but the time of it is known
        assertThat(who.service().get("/api/decisions?limit=50", Object.class).toString())
                .doesNotContain("among-ourselves");
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
        assertThat(outcome(who, item).statusCode()).isEqualTo(204);
        assertThat(open(who, item).meeting().state()).isEqualTo("missed");
        assertThat(open(who, item).outcomeBy()).isEqualTo("Person teller");
        OutcomeCount[] weeks = who.service().get("/api/calendar/outcomes?zone=Europe/Oslo", OutcomeCount[].class);
        assertThat(weeks)
                .filteredOn(w -> w.personName().equals("Person teller"))
                .singleElement()
                .matches(w -> w.missed() == 1 && w.held() == 0);
        UUID ahead = who.service()
                .post("/api/meetings", wanted("meeting", "Tomorrow", 26, who.account()), MadeMeeting.class)
                .item();
        assertThat(outcome(who, ahead).body()).contains("not begun");
    }

    private static HttpResponse<String> outcome(Someone who, UUID item) throws Exception {
        return who.service().ask("PUT", "/api/meetings/" + item + "/outcome", "{\"state\": \"missed\"}");
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
}
