package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.MeasureApi.NewKeptSelection;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.NoticeApi.NoticeChoiceInfo;
import jandrel.api.NoticeApi.NoticeInfo;
import jandrel.api.NoticeApi.NoticeMarks;
import jandrel.api.NoticeApi.NoticePage;
import jandrel.api.NoticeApi.NoticeSnooze;
import jandrel.api.SessionApi.NewSignIn;
import jandrel.api.SessionApi.NewToken;
import jandrel.api.SessionApi.SignInInfo;
import jandrel.api.SessionApi.Token;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** What concerns somebody: in the console of two devices, by the client and by mail. */
class NoticesTest {
    private static MailSink mail;
    private static Harbour h;
    private static String weekly = "";

    @BeforeAll
    static void open() throws Exception {
        mail = new MailSink();
        h = Harbour.open("notices", mail.settings());
        // looked at every half a minute, while the other tests run
        weekly = h.person("note-wes", "rep");
        Service wes = h.process.signedIn("note-wes", Providers.PASSWORD);
        Map<String, String> query = Map.of("by", "week", "zone", "Europe/Oslo");
        wes.post("/api/kept-figures", new NewKeptSelection("Who writes", "contact", query, true), Object.class);
        wes.post("/api/kept-figures", new NewKeptSelection("Seen alone", "contact", query, false), Object.class);
        h.process.run("UPDATE kept_figures SET told = told - 7");
    }

    @AfterAll
    static void close() {
        h.close();
        mail.close();
        assertThat(mail.all().stream().map(l -> l.to() + ": " + l.subject()))
                .as("whatever was told by mail, was told once")
                .doesNotHaveDuplicates();
    }

    private static Instant inMinutes(int minutes) {
        return Instant.now().truncatedTo(ChronoUnit.SECONDS).plus(minutes, ChronoUnit.MINUTES);
    }

    private static UUID meeting(Service who, String title, int minutes, UUID record) throws Exception {
        return who.post("/api/meetings", Diaries.wanted(title, inMinutes(minutes), record), MadeMeeting.class)
                .item();
    }

    private static NoticePage notices(Service who) throws Exception {
        return who.get("/api/notices", NoticePage.class);
    }

    private static void tell(Service who, String what, Object body) throws Exception {
        assertThat(who.ask("POST", "/api/notices/" + what, Client.json(body)).statusCode())
                .isEqualTo(204);
    }

    private static List<String> unread(Service who) throws Exception {
        return notices(who).notices().stream()
                .filter(n -> !n.read() && n.snoozedUntil() == null)
                .map(NoticeInfo::title)
                .toList();
    }

    private static NoticeChoiceInfo choice(boolean rings, boolean mails, int minutes, boolean daily) {
        String passed = LocalTime.now(ZoneOffset.UTC).isBefore(LocalTime.of(0, 1)) ? "00:00" : "00:01";
        return new NoticeChoiceInfo(rings, mails, minutes, false, daily, passed, "UTC", null);
    }

    /** But for those that say that a sign-in was made, and claimed. */
    private static List<String> subjects(String to) {
        return mail.all().stream()
                .filter(s -> s.to().equals(to))
                .map(MailSink.Letter::subject)
                .filter(subject ->
                        !subject.contains("a sign-in in your name") && !subject.contains("password was changed"))
                .toList();
    }

    private static Page device(Browsing browsing, String login) {
        Page page = browsing.page();
        Browsing.signIn(page, h.process.url() + "/overview", login, Providers.PASSWORD);
        assertThat(bell(page)).isVisible();
        return page;
    }

    private static Locator bell(Page page) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(java.util.regex.Pattern.compile("^Notices")));
    }

    private static Locator ringing(Page page) {
        return page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Reminders"));
    }

    /** It rings on both; read on one it is gone on the other, without a reload. */
    @Test
    void aReminderRingsOnEachDeviceComesByMailAndIsGoneEverywhereOnceRead() throws Exception {
        String address = h.person("note-rita", "rep");
        UUID record = h.account("reminded");
        Service rita = h.process.signedIn("note-rita", Providers.PASSWORD);
        rita.put("/api/notices/choice", choice(true, true, 10, false), NoticeChoiceInfo.class);
        try (Browsing browsing = Browsing.open()) {
            Page desk = device(browsing, "note-rita");
            Page phone = device(browsing, "note-rita");
            assertThat(bell(desk)).hasAccessibleName("Notices");
            meeting(rita, "Sound the channel", 8, record);
            meeting(rita, "Much later", 300, record);
            for (Page page : List.of(desk, phone)) {
                assertThat(ringing(page)).containsText("Sound the channel");
                assertThat(ringing(page)).not().containsText("Much later");
                assertThat(bell(page)).hasAccessibleName("Notices, 1 unread");
            }
            soon().until(() -> subjects(address).size() == 1);
            org.assertj.core.api.Assertions.assertThat(subjects(address).get(0)).endsWith("Sound the channel");
            org.assertj.core.api.Assertions.assertThat(mail.all())
                    .filteredOn(l -> l.to().equals(address) && l.subject().endsWith("Sound the channel"))
                    .singleElement()
                    .extracting(MailSink.Letter::text, org.assertj.core.api.InstanceOfAssertFactories.STRING)
                    .contains("Auto-Submitted: auto-generated", "/calendar?view=agenda&open=");
            ringing(desk)
                    .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Done"))
                    .click();
            for (Page page : List.of(desk, phone)) {
                assertThat(bell(page)).hasAccessibleName("Notices");
                assertThat(ringing(page)).not().containsText("Sound the channel");
            }
        }
    }

    /** On Mondays, as text with a small plot, and where the same stands in the console. */
    @Test
    void keptFiguresComeOnceAWeek() {
        soon().until(() -> !subjects(weekly).isEmpty());
        org.assertj.core.api.Assertions.assertThat(subjects(weekly)).containsExactly("Jandrel: Who writes");
        org.assertj.core.api.Assertions.assertThat(mail.to(weekly))
                .filteredOn(l -> l.subject().equals("Jandrel: Who writes"))
                .singleElement()
                .extracting(MailSink.Letter::text, org.assertj.core.api.InstanceOfAssertFactories.STRING)
                .contains("Auto-Submitted: auto-generated", "By week: meetings held")
                .contains(h.process.url() + "/measures?measure=contact&by=week");
    }

    @Test
    void itIsPutOffReadAndUnreadAndGoneWithItsCause() throws Exception {
        h.person("note-sven", "rep");
        UUID record = h.account("put-off");
        Service sven = h.process.signedIn("note-sven", Providers.PASSWORD);
        UUID item = meeting(sven, "Weigh anchor", 5, record);
        assertThat(unread(sven)).containsExactly("Weigh anchor");
        NoticePage page = notices(sven);
        NoticeInfo notice = page.notices().get(0);
        assertThat(notice.rings()).isTrue();
        assertThat(notice.detail()).contains("Account put-off");
        tell(sven, "snooze", new NoticeSnooze(notice.key(), 5));
        assertThat(unread(sven)).isEmpty();
        assertThat(notices(sven).next()).isBetween(inMinutes(4), inMinutes(6));
        tell(sven, "read", new NoticeMarks(List.of(notice.key(), "nonsense"), true));
        assertThat(notices(sven).notices().get(0).read()).isTrue();
        assertThat(h.process.count("SELECT count(*) FROM notice_state WHERE key = 'nonsense'"))
                .isZero();
        tell(sven, "read", new NoticeMarks(List.of(notice.key()), false));
        assertThat(unread(sven)).containsExactly("Weigh anchor");
        assertThat(sven.ask("POST", "/api/notices/snooze", "{\"key\":\"x\",\"minutes\":0}")
                        .statusCode())
                .isEqualTo(400);
        assertThat(sven.ask("DELETE", "/api/meetings/" + item, "").statusCode()).isEqualTo(200);
        soon().until(() -> notices(sven).notices().isEmpty());
    }

    /** Nobody is told of what is not theirs, whatever they may read otherwise. */
    @Test
    void eachIsToldOfTheirOwn() throws Exception {
        String tora = h.person("note-tora", "rep");
        h.person("note-uma", "manager");
        UUID record = h.account("own");
        Service its = h.process.signedIn("note-tora", Providers.PASSWORD);
        Service manager = h.process.signedIn("note-uma", Providers.PASSWORD);
        meeting(its, "Hers alone", 5, record);
        h.connectMail("note-tora");
        Instant at = Instant.now().truncatedTo(ChronoUnit.SECONDS).minus(1, ChronoUnit.HOURS);
        h.providers.mail(tora, "", at, letter("who-1", at, "ida@unknown-port.example", tora, "Hello", "Text"));
        soon().until(() -> unread(its).size() == 2);
        assertThat(unread(its)).containsExactly("Hers alone", "1 person you met is on no record");
        assertThat(unread(manager)).isEmpty();
        String connection = "/api/connections/"
                + Arrays.stream(h.admin.get("/api/connections", ConnectionInfo[].class))
                        .filter(c -> c.account().equals(tora))
                        .findFirst()
                        .orElseThrow()
                        .id();
        h.admin.ask("POST", connection + "/password", "{\"password\":\"not hers\"}");
        String signIn = "Has to be signed in again: " + tora;
        soon().until(() -> unread(its).contains(signIn));
        assertThat(unread(manager)).isEmpty();
        assertThat(unread(h.admin)).contains(signIn);
        h.admin.ask("POST", connection + "/pause", "");
        assertThat(unread(h.admin)).isEmpty();
    }

    @Test
    void oneMailADaySaysWhatThereIsAndNoneWhereThereIsNothing() throws Exception {
        String vera = h.person("note-vera", "rep");
        String wim = h.person("note-wim", "rep");
        UUID record = h.account("daily");
        Service its = h.process.signedIn("note-vera", Providers.PASSWORD);
        meeting(its, "Paint the buoys", 5, record);
        its.put("/api/notices/choice", choice(true, false, 15, true), NoticeChoiceInfo.class);
        h.process
                .signedIn("note-wim", Providers.PASSWORD)
                .put("/api/notices/choice", choice(true, false, 15, true), NoticeChoiceInfo.class);
        soon().until(() -> subjects(vera).size() == 1);
        assertThat(subjects(vera).get(0)).startsWith("Jandrel, ").endsWith(": 1 notice");
        List<String> refused = new ArrayList<>();
        for (String bad : List.of("\"dailyAt\":\"25:00\"", "\"zone\":\"Nowhere\"", "\"minutesBefore\":-2")) {
            String body = Client.json(choice(true, true, 5, true));
            String name = bad.substring(0, bad.indexOf(':') + 1);
            String changed = body.replaceFirst(name + "(\"[^\"]*\"|[-\\d]+)", bad);
            if (its.ask("PUT", "/api/notices/choice", changed).statusCode() != 400) {
                refused.add(bad);
            }
        }
        assertThat(refused).isEmpty();
        assertThat(subjects(wim)).isEmpty();
    }

    @Test
    void theClientShowsReadsAndChooses() throws Exception {
        h.person("note-yara", "rep");
        UUID record = h.account("by-client");
        Service its = h.process.signedIn("note-yara", Providers.PASSWORD);
        meeting(its, "Oil the lamp", 5, record);
        Client client = Client.as(h, "note-yara");
        assertThat(client.run("notices")).contains("Oil the lamp", "Account by-client");
        assertThat(client.run("notices", "read", "--all")).contains("1 notice");
        assertThat(client.run("notices")).contains("Nothing is unread");
        assertThat(client.run("notices", "choose", "--before", "30m", "--mail", "on"))
                .contains("30 minutes before");
        assertThat(its.get("/api/notices/choice", NoticeChoiceInfo.class).mails())
                .isTrue();
    }

    /** To whom it belongs, and of a program's to administrators; nobody else is told. */
    @Test
    void aTokenThatEndsSoonIsToldOf() throws Exception {
        h.person("note-toke", "rep");
        Service toke = h.process.signedIn("note-toke", Providers.PASSWORD);
        toke.post("/api/session/tokens", new NewToken("Soon over", 5, List.of("read")), Token.class);
        toke.post("/api/session/tokens", new NewToken("Much later", 90, List.of("read")), Token.class);
        UUID program = h.admin
                .post("/api/sign-ins", new NewSignIn("note-sync", "Sync", null, "rep", null, true), SignInInfo.class)
                .id();
        h.admin.post("/api/sign-ins/" + program + "/tokens", new NewToken("Of sync", 5, List.of("read")), Token.class);
        assertThat(unread(toke))
                .containsOnlyOnce("The token “Soon over” ends soon")
                .doesNotContain("The token “Of sync” ends soon");
        assertThat(unread(h.admin))
                .contains("The token “Of sync” ends soon")
                .doesNotContain("The token “Soon over” ends soon");
        assertThat(h.admin.ask("POST", "/api/sign-ins/" + program + "/end", "").statusCode())
                .isEqualTo(204);
        assertThat(unread(h.admin)).doesNotContain("The token “Of sync” ends soon");
    }
}
