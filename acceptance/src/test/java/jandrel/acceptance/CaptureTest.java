package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.until;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.ActivityApi.ActivityDetail;
import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.NewPassword;
import jandrel.api.DecisionApi.DecisionInfo;
import jandrel.api.ExclusionApi.ExclusionInfo;
import jandrel.api.ExclusionApi.NewExclusions;
import jandrel.demo.Providers;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** From real mailboxes and calendars to a customer's timeline, and back off it. */
@ExtendWith(Harbour.Shared.class)
class CaptureTest {
    private static final Instant DAY =
            Instant.now().truncatedTo(ChronoUnit.HOURS).minus(3, ChronoUnit.DAYS);
    private final Harbour h;

    CaptureTest(Harbour harbour) {
        h = harbour;
    }

    @Test
    void oneMessageInThreeFoldersStandsOnceWithItsTextAndItsReasons() throws Exception {
        String ann = h.person("ann", "rep");
        String ben = h.person("ben", "rep");
        UUID account = h.account("once");
        String mail = letter(
                "once-1",
                DAY,
                ann,
                "bram@once.example, " + ben,
                "Nine buoys",
                "The text of it.\r\n\r\n> What was said.");
        h.providers.mail(ann, ".Sent", DAY, mail);
        h.providers.mail(ben, "", DAY, "Received: by mx.example\r\n" + mail);
        h.providers.mail(ann, "", DAY, "Received: by mx.example\r\n" + mail);
        h.connectMail("ann");
        h.connectMail("ben");
        h.settle();
        ActivityInfo activity = h.timeline(account).get(0);
        assertThat(h.timeline(account)).hasSize(1);
        assertThat(activity.owners()).extracting(o -> o.name()).containsExactlyInAnyOrder("Person ann", "Person ben");
        ActivityDetail opened = h.admin.get("/api/activities/" + activity.id(), ActivityDetail.class);
        assertThat(opened.text()).contains("The text of it.", "> What was said.");
        assertThat(opened.newText()).isEqualTo("The text of it.");
        assertThat(opened.decisions())
                .hasSize(3)
                .allSatisfy(d ->
                        assertThat(d.trail().get(0)).isEqualTo("bram@once.example is an address of Bram of once."));
        assertThat(opened.links()).extracting(l -> l.kind()).containsExactlyInAnyOrder("account", "contact");
    }

    @Test
    void whatArrivesLaterIsCapturedAndABrokenMessageStopsNothing() throws Exception {
        String cleo = h.person("cleo", "rep");
        UUID account = h.account("later");
        h.connectMail("cleo");
        h.settle();
        h.providers.mail(cleo, "", DAY, "\u0000\u0001 beyond repair");
        h.providers.mail(cleo, "", DAY, letter("later-1", DAY, "bram@later.example", cleo, "Late", "x"));
        until(() -> h.timeline(account).size(), 1);
        List<DecisionInfo> unreadable = h.decisions("verdict=unreadable&person=" + personId("cleo"));
        assertThat(unreadable)
                .singleElement()
                .satisfies(d -> assertThat(d.trail().get(0)).startsWith("It could not be read: "));
    }

    @Test
    void anExclusionTakesOffAndItsRemovalBringsBackWithTheText() throws Exception {
        String dora = h.person("dora", "rep");
        UUID account = h.account("undo");
        h.providers.mail(
                dora, "", DAY, letter("undo-1", DAY, "bram@undo.example", dora, "Back again", "Word for word."));
        h.connectMail("dora");
        h.settle();
        assertThat(h.timeline(account)).hasSize(1);
        h.admin.post("/api/exclusions", new NewExclusions("undo.example", "test", null, null, null), Object.class);
        h.settle();
        assertThat(h.timeline(account)).isEmpty();
        assertThat(h.process.count("SELECT count(*) FROM body WHERE text LIKE '%Word for word%'"))
                .isZero();
        ExclusionInfo made = exclusion("undo.example");
        assertThat(made.items()).isEqualTo(1);
        assertThat(h.decisions("exclusion=" + made.id()))
                .singleElement()
                .satisfies(
                        d -> assertThat(d.trail().get(0)).contains("covered by the exclusion “undo.example” (test)"));
        assertThat(h.admin.ask("DELETE", "/api/exclusions/" + made.id(), "").statusCode())
                .isEqualTo(204);
        h.settle();
        ActivityInfo back = h.timeline(account).get(0);
        assertThat(h.admin
                        .get("/api/activities/" + back.id(), ActivityDetail.class)
                        .text())
                .contains("Word for word.");
    }

    private ExclusionInfo exclusion(String what) throws Exception {
        return Arrays.stream(h.admin.get("/api/exclusions", ExclusionInfo[].class))
                .filter(e -> e.what().equals(what))
                .findFirst()
                .orElseThrow();
    }

    private UUID personId(String key) throws Exception {
        return Arrays.stream(h.admin.get("/api/people", jandrel.api.DirectoryApi.PersonInfo[].class))
                .filter(p -> p.key().equals(key))
                .findFirst()
                .orElseThrow()
                .id();
    }

    @Test
    void aStrangerWaitsUntilSomebodyKnowsThem() throws Exception {
        String edda = h.person("edda", "rep");
        h.providers.mail(
                edda, "", DAY, letter("stranger-1", DAY, "new@unknown.example", edda, "Who am I", "Fetched late."));
        h.connectMail("edda");
        h.settle();
        assertThat(h.decisions("address=new@unknown.example"))
                .singleElement()
                .satisfies(d -> assertThat(d.verdict()).isEqualTo("waiting"));
        assertThat(h.process.count("SELECT count(*) FROM body WHERE text LIKE '%Fetched late%'"))
                .isZero();
        h.csv("contacts", "key,name,addresses\nstranger,Nora New,new@unknown.example");
        h.settle();
        UUID contact = h.record("Nora New");
        assertThat(h.admin
                        .get("/api/activities/" + h.timeline(contact).get(0).id(), ActivityDetail.class)
                        .text())
                .contains("Fetched late.");
    }

    @Test
    void aSeriesFollowsItsCalendar() throws Exception {
        String finn = h.person("finn", "rep");
        UUID account = h.account("series");
        String start = day(-14) + "T090000Z";
        String moved = day(-7) + "T090000Z";
        String[] master = {
            "BEGIN:VEVENT",
            "UID:series-1",
            "DTSTAMP:20260101T000000Z",
            "DTSTART:" + start,
            "DURATION:PT1H",
            "RRULE:FREQ=WEEKLY;COUNT=3",
            "SUMMARY:Weekly",
            "ORGANIZER:mailto:" + finn,
            "ATTENDEE:mailto:bram@series.example",
            "END:VEVENT"
        };
        h.providers.event(finn, "series.ics", master);
        h.connectCalendar("finn");
        h.settle();
        assertThat(h.timeline(account)).hasSize(3);
        h.providers.event(
                finn,
                "series.ics",
                join(
                        master,
                        "BEGIN:VEVENT",
                        "UID:series-1",
                        "DTSTAMP:20260102T000000Z",
                        "RECURRENCE-ID:" + moved,
                        "DTSTART:" + day(-6) + "T140000Z",
                        "DURATION:PT2H",
                        "SEQUENCE:1",
                        "SUMMARY:Weekly\\, moved",
                        "ORGANIZER:mailto:" + finn,
                        "ATTENDEE:mailto:bram@series.example",
                        "END:VEVENT"));
        until(
                () -> h.timeline(account).stream().map(ActivityInfo::subject).toList(),
                List.of("Weekly", "Weekly, moved", "Weekly"));
        assertThat(h.timeline(account).get(1).at()).isEqualTo(Instant.parse(iso(day(-6)) + "T14:00:00Z"));
        h.providers.removeEvent(finn, "series.ics");
        until(() -> h.timeline(account).size(), 0);
        assertThat(h.decisions("rule=gone&person=" + personId("finn")))
                .hasSize(3)
                .allSatisfy(d -> assertThat(d.subject()).isEmpty());
    }

    @Test
    void theSameMeetingInTwoCalendarsIsOneAndAPrivateOneIsAnOutlineToOthers() throws Exception {
        String gus = h.person("gus", "rep");
        String hal = h.person("hal", "rep");
        UUID account = h.account("shared");
        for (String who : new String[] {gus, hal}) {
            h.providers.event(
                    who,
                    "m.ics",
                    "BEGIN:VEVENT",
                    "UID:shared-1",
                    "DTSTAMP:20260101T000000Z",
                    "DTSTART:" + day(-2) + "T090000Z",
                    "DURATION:PT1H",
                    "SUMMARY:Both of us",
                    "ORGANIZER:mailto:" + gus,
                    "ATTENDEE:mailto:" + hal,
                    "ATTENDEE:mailto:bram@shared.example",
                    "END:VEVENT");
        }
        h.providers.event(
                gus,
                "p.ics",
                "BEGIN:VEVENT",
                "UID:shared-2",
                "DTSTAMP:20260101T000000Z",
                "DTSTART:" + day(-1) + "T090000Z",
                "DURATION:PT1H",
                "CLASS:PRIVATE",
                "SUMMARY:Between ourselves",
                "ORGANIZER:mailto:" + gus,
                "ATTENDEE:mailto:bram@shared.example",
                "END:VEVENT");
        h.connectCalendar("gus");
        h.connectCalendar("hal");
        h.settle();
        List<ActivityInfo> seen = h.timeline(account);
        assertThat(seen).hasSize(2);
        assertThat(seen.get(0).visibility()).isEqualTo("outline");
        assertThat(seen.get(0).subject() + seen.get(0).people())
                .doesNotContain("ourselves")
                .doesNotContain("bram");
        assertThat(seen.get(1).owners()).hasSize(2);
        String own = h.process
                .signedIn("gus", Providers.PASSWORD)
                .ask("GET", "/api/records/" + account + "/timeline", "")
                .body();
        assertThat(own).contains("Between ourselves");
    }

    @Test
    void aRefusedSignInIsSaidAndMendedWithoutAGap() throws Exception {
        String ida = h.person("ida", "rep");
        UUID account = h.account("mended");
        h.providers.password(ida, "another");
        h.connectMail("ida");
        until(() -> connection("ida").state(), "needs-sign-in");
        assertThat(connection("ida").detail()).contains("renew the password");
        h.providers.mail(ida, "", DAY, letter("mended-1", DAY, "bram@mended.example", ida, "In the gap", "x"));
        h.admin.ask("POST", "/api/connections/" + connection("ida").id() + "/password", "{\"password\":\"another\"}");
        until(() -> h.timeline(account).size(), 1);
        until(() -> connection("ida").state(), "capturing");
        assertThat(h.process.service.log())
                .doesNotContain(Providers.PASSWORD)
                .doesNotContain("In the gap")
                .doesNotContain("bram@mended.example");
        assertThat(new NewPassword("another").toString()).doesNotContain("another");
        assertThat(h.process.count(
                        "SELECT count(*) FROM connection WHERE position('another' in encode(secret, 'escape')) > 0"))
                .isZero();
    }

    private ConnectionInfo connection(String key) throws Exception {
        return Arrays.stream(h.admin.get("/api/connections", ConnectionInfo[].class))
                .filter(c -> c.personName().equals("Person " + key))
                .findFirst()
                .orElseThrow();
    }

    private static String day(int fromToday) {
        return DateTimeFormatter.BASIC_ISO_DATE.format(
                Instant.now().atOffset(ZoneOffset.UTC).toLocalDate().plusDays(fromToday));
    }

    private static String iso(String basic) {
        return basic.substring(0, 4) + "-" + basic.substring(4, 6) + "-" + basic.substring(6);
    }

    private static String[] join(String[] lines, String... more) {
        return java.util.stream.Stream.concat(Arrays.stream(lines), Arrays.stream(more))
                .toArray(String[]::new);
    }
}
