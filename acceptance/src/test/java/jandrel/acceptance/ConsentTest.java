package jandrel.acceptance;

import static jandrel.acceptance.Browsing.button;
import static jandrel.acceptance.Browsing.field;
import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.ConsentPage;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.SessionApi.InvitePeople;
import jandrel.api.SingleSignOnApi.NewProvider;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.regex.Pattern;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.subethamail.smtp.server.SMTPServer;

/** Signing in by consent at an authorisation server, losing it, being told, and signing in again with no gap. */
@Tag("alone")
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class ConsentTest {
    private static final String WHO = "vera@corvane.example";
    private static final DateTimeFormatter ICAL =
            DateTimeFormatter.ofPattern("uuuuMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);
    private final List<String> notices = new CopyOnWriteArrayList<>();
    private Harbour h;
    private StandinProcess standin;
    private SMTPServer mailServer;
    private Wire outgoing;
    private Wire tokens;
    private Service vera;

    @BeforeAll
    void fill() throws Exception {
        mailServer = SMTPServer.port(StandinProcess.freePort())
                .messageHandler((context, from, to, data) ->
                        notices.add("to " + to + "\n" + new String(data, java.nio.charset.StandardCharsets.UTF_8)))
                .build();
        mailServer.start();
        outgoing = new Wire(mailServer.getPort());
        h = Harbour.open(
                "acceptance_consent",
                Map.of(
                        "JANDREL_SMTP_HOST", "127.0.0.1",
                        "JANDREL_SMTP_PORT", String.valueOf(outgoing.port()),
                        "JANDREL_SMTP_TLS", "false",
                        "JANDREL_SMTP_FROM", "jandrel@corvane.example",
                        "JANDREL_SMTP_ADMINISTRATOR", "salesops@corvane.example",
                        "JANDREL_LOOK_EVERY", "1s",
                        "JANDREL_ANSWERS_WITHIN", "3s"));
        tokens = new Wire(h.stand.port("TOKENS"));
        standin = new StandinProcess(h.stand, tokens.port(), h.process.url() + "/api/consent", Providers.PASSWORD);
        h.person("vera", "rep");
        h.account("consent");
        arrive("first");
        server("mail by consent", "imap", h.stand.port("IMAPS"), "/", "oauth", "client-lights-26");
        server("calendars by consent", "caldav", h.stand.port("TOKENS"), "/dav/", "oauth", "client-lights-26");
        server("mail by key", "imap", h.stand.port("IMAPS"), "/", "organisation-key", standin.organisationKey);
        vera = h.process.signedIn("vera", Providers.PASSWORD);
    }

    private void server(String name, String kind, int port, String path, String signIn, String secret)
            throws Exception {
        h.admin.post(
                "/api/servers",
                new NewServer(
                        name,
                        kind,
                        "127.0.0.1",
                        port,
                        path,
                        signIn,
                        null,
                        secret,
                        standin.url(),
                        "jandrel",
                        "mail calendar",
                        null),
                Object.class);
    }

    private void arrive(String id) throws Exception {
        Instant at = Instant.now().minus(1, ChronoUnit.HOURS);
        h.providers.mail(WHO, "", at, letter("consent-" + id, at, "bram@consent.example", WHO, "About " + id, "x"));
    }

    @AfterAll
    void close() throws Exception {
        h.close();
        standin.close();
        tokens.close();
        outgoing.close();
        mailServer.stop();
    }

    @Test
    @Order(0)
    void whoGetsASignInIsToldOfItByMail() {
        soon().until(() -> notices.stream().anyMatch(n -> n.startsWith("to " + WHO) && n.contains("in your name")));
        assertThat(notices).noneMatch(n -> n.contains(Providers.PASSWORD));
    }

    /** The mails that ask for a new consent, among all that the service has sent so far. */
    private List<String> askedAgain() {
        return notices.stream()
                .filter(n -> n.contains("Subject: Jandrel needs you to sign in again")
                        || n.startsWith("to salesops@corvane.example"))
                .toList();
    }

    private ConnectionInfo connection(String server) throws Exception {
        return Arrays.stream(vera.get("/api/connections", ConnectionInfo[].class))
                .filter(c -> c.server().equals(server))
                .findFirst()
                .orElseThrow();
    }

    private void until(String server, String state) {
        Awaitility.await()
                .atMost(Duration.ofSeconds(90))
                .pollInterval(Duration.ofMillis(300))
                .until(() -> connection(server).state(), state::equals);
    }

    /** As a person does it: from the console's address to the provider's page and back. */
    private void consentInTheBrowser(String server) throws Exception {
        try (Browsing browsing = Browsing.open()) {
            Page p = browsing.page();
            p.navigate(h.process.url() + "/mailbox");
            p.getByLabel("Login").fill("vera");
            p.getByLabel("Password").fill(Providers.PASSWORD);
            p.keyboard().press("Enter");
            p.click("section:has(span:text-is('at " + server + "')) button:has-text('Sign in at the provider')");
            p.waitForURL(url -> url.startsWith(standin.url()));
            p.fill("input[name=username]", WHO);
            p.fill("input[name=password]", Providers.PASSWORD);
            p.click("button[type=submit]");
            p.waitForURL(url -> url.contains("/oauth2/authorize") || url.contains("consent="));
            if (!p.url().contains("consent=")) {
                p.locator("input[type=checkbox]").all().forEach(box -> box.check());
                p.click("button[type=submit]");
                p.waitForURL(url -> url.contains("consent="));
            }
            assertThat(p.url()).contains("/mailbox?consent=given");
        }
    }

    @Test
    @Order(1)
    void aPersonConsentsInTheBrowserAndIsCaptured() throws Exception {
        vera.post("/api/connections", new NewConnection("vera", "mail by consent", WHO, null, null), Object.class);
        assertThat(connection("mail by consent").state()).isEqualTo("waiting-for-consent");
        consentInTheBrowser("mail by consent");
        until("mail by consent", "capturing");
        assertThat(h.timeline(h.record("Account consent"))).hasSize(1);
        assertThat(connection("mail by consent").agreedBy()).isEqualTo(WHO);
    }

    @Test
    @Order(2)
    void calendarsTakeTheTokenToo() throws Exception {
        vera.post("/api/connections", new NewConnection("vera", "calendars by consent", WHO, null, null), Object.class);
        consentInTheBrowser("calendars by consent");
        until("calendars by consent", "capturing");
    }

    /** Each connects what is theirs in two clicks and a consent, and sees what comes of it. */
    @ParameterizedTest(name = "{0}")
    @Order(2)
    @ValueSource(strings = {"invited", "elsewhere"})
    void whoComesInByThemselvesConnectsTheirMailAndCalendar(String how) throws Exception {
        String address = how + "@corvane.example";
        h.providers.addUser(address);
        h.providers.calendar(address);
        h.csv("people", "key,name,addresses\n" + how + ",Person " + how + "," + address);
        h.account("own-" + how);
        String customer = "bram@own-" + how + ".example";
        Instant at = Instant.now().minus(1, ChronoUnit.HOURS);
        h.providers.mail(address, "", at, letter("mine-" + how, at, customer, address, "For " + how, "x"));
        h.providers.event(
                address,
                "mine.ics",
                "BEGIN:VEVENT",
                "UID:mine-" + how,
                "DTSTAMP:" + ICAL.format(at),
                "DTSTART:" + ICAL.format(at),
                "DURATION:PT30M",
                "SUMMARY:Berth of " + how,
                "ORGANIZER:mailto:" + address,
                "ATTENDEE:mailto:" + customer,
                "END:VEVENT");
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            if (how.equals("invited")) {
                h.admin.post("/api/sign-ins/invite", new InvitePeople(List.of(how), null), Object.class);
                page.navigate(h.process.url() + "/welcome#" + linkFor(address));
                field(page, "New password").fill(Providers.PASSWORD);
                button(page, "Choose it and sign in").click();
            } else {
                h.admin.post(
                        "/api/providers",
                        new NewProvider(
                                "Corvane",
                                standin.url(),
                                "jandrel-console",
                                "console-lights-26",
                                null,
                                List.of(),
                                null),
                        Object.class);
                page.navigate(h.process.url() + "/");
                page.getByText("Sign in with Corvane").click();
                signInAtTheProvider(page, address);
            }
            page.waitForURL(Pattern.compile(".*/overview.*"));
            page.getByText("Your mailbox").first().click();
            connect(page, "Connect your mail", "mail by consent", address);
            PlaywrightAssertions.assertThat(field(page, "Your mail"))
                    .containsText("1 message seen, 1 of them on timelines");
            PlaywrightAssertions.assertThat(page.getByText("For " + how)).isVisible();
            connect(page, "Connect your calendar", "calendars by consent", address);
            PlaywrightAssertions.assertThat(field(page, "Your calendars")).containsText("1 meeting seen");
            PlaywrightAssertions.assertThat(page.getByText("Berth of " + how)).isVisible();
        }
    }

    private static void signInAtTheProvider(Page page, String address) {
        page.getByPlaceholder("Username").fill(address);
        page.getByPlaceholder("Password").fill(Providers.PASSWORD);
        button(page, "Sign in").click();
    }

    /** The service's page, the provider's for as long as it asks, and back. */
    private void connect(Page page, String what, String server, String address) {
        Locator form = field(page, what);
        form.getByRole(AriaRole.COMBOBOX, new Locator.GetByRoleOptions().setName("Where"))
                .press("ArrowDown");
        page.getByRole(
                        AriaRole.OPTION,
                        new Page.GetByRoleOptions().setName(server).setExact(true))
                .click();
        form.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(what))
                .click();
        page.waitForURL(url -> url.startsWith(standin.url()) || url.contains("consent="));
        if (page.url().contains("/login")) {
            signInAtTheProvider(page, address);
            page.waitForURL(url -> !url.contains("/login"));
        }
        if (!page.url().contains("consent=")) {
            page.locator("input[type=checkbox]").all().forEach(box -> box.check());
            page.click("button[type=submit]");
        }
        page.waitForURL(url -> url.contains("/mailbox?consent=given"));
    }

    private String linkFor(String address) {
        soon().until(() -> notices.stream().anyMatch(n -> n.startsWith("to " + address) && n.contains("/welcome#")));
        String letter = notices.stream()
                .filter(n -> n.startsWith("to " + address) && n.contains("/welcome#"))
                .findFirst()
                .orElseThrow()
                .replace("=\r\n", "");
        return letter.replaceFirst("(?s).*/welcome#([A-Za-z0-9_-]{43}).*", "$1");
    }

    @Test
    @Order(3)
    void aTokenThatWasTakenBackIsNoticedToldAndMendedWithNoGap() throws Exception {
        assertThat(standin.takeBack(WHO)).isPositive();
        until("mail by consent", "needs-sign-in");
        arrive("gap");
        soon().until(() -> askedAgain().size() >= 2);
        assertThat(askedAgain()).anySatisfy(n -> assertThat(n).startsWith("to " + WHO));
        assertThat(askedAgain()).anySatisfy(n -> assertThat(n).startsWith("to salesops@corvane.example"));
        assertThat(askedAgain())
                .allSatisfy(n -> assertThat(n)
                        .contains("Sign in again", "Auto-Submitted")
                        .doesNotContain("About"));
        String failures = "SELECT failures FROM connection WHERE id = '"
                + connection("mail by consent").id() + "'";
        long tries = h.process.count(failures);
        Thread.sleep(4_000);
        assertThat(h.process.count(failures)).as("it is not hammered").isEqualTo(tries);
        consentInTheBrowser("mail by consent");
        until("mail by consent", "capturing");
        soon().until(() -> h.timeline(h.record("Account consent")).size() == 2);
    }

    @Test
    @Order(4)
    void theOrganisationsKeyOpensEveryAccount() throws Exception {
        h.person("quill", "rep");
        Client client = Client.of(h);
        assertThat(client.run("connect-everyone", "--server", "mail by key")).contains("4 connected");
        soon().until(() -> Arrays.stream(h.admin.get("/api/connections", ConnectionInfo[].class))
                .anyMatch(c -> c.server().equals("mail by key") && c.state().equals("capturing")));
    }

    @Test
    @Order(5)
    void anAnswerThatThisBrowserDidNotAskForChangesNothing() throws Exception {
        UUID id = connection("mail by consent").id();
        ConsentPage page = vera.post("/api/connections/" + id + "/consent", Map.of(), ConsentPage.class);
        assertThat(page.url()).contains("code_challenge_method=S256", "login_hint=");
        String state = page.url().replaceAll(".*[?&]state=([^&]+).*", "$1");
        assertThat(h.process.count("SELECT count(*) FROM consent")).isPositive();
        Service nobody = new Service(h.process.url());
        assertThat(nobody.ask("GET", "/api/consent?state=made-up&code=stolen", "")
                        .headers()
                        .firstValue("location"))
                .contains("/mailbox?consent=late");
        assertThat(nobody.ask("GET", "/api/consent?state=" + state + "&code=stolen", "")
                        .headers()
                        .firstValue("location"))
                .as("the state alone, from a browser without the mark of the one that asked")
                .contains("/mailbox?consent=late");
        assertThat(h.process.count("SELECT count(*) FROM consent WHERE state = '" + state + "'"))
                .as("the right browser can still bring the answer")
                .isEqualTo(1);
    }

    @Test
    @Order(6)
    void whoRefusesAtTheProviderIsToldSoAndTheJournalKeepsIt() throws Exception {
        ConnectionInfo before = connection("mail by consent");
        HttpResponse<String> asked = vera.ask("POST", "/api/connections/" + before.id() + "/consent", "{}");
        String cookie = consentCookie(asked);
        assertThat(cookie).contains("HttpOnly", "SameSite=Lax", "Path=/api/consent");
        String mark = cookie.substring(0, cookie.indexOf(';'));
        HttpResponse<String> back = HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(h.process.url() + "/api/consent?error=access_denied&state="
                                        + mark.substring(mark.indexOf('=') + 1)))
                                .header("Cookie", mark)
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        assertThat(back.headers().firstValue("location")).contains("/mailbox?consent=refused");
        assertThat(consentCookie(back)).contains("Max-Age=0");
        assertThat(h.process.count("SELECT count(*) FROM journal WHERE what = 'refused consent for'"))
                .isEqualTo(1);
        assertThat(connection("mail by consent").agreedBy()).isEqualTo(before.agreedBy());
    }

    private static String consentCookie(HttpResponse<String> answer) {
        return answer.headers().allValues("set-cookie").stream()
                .filter(c -> c.startsWith("jandrel_consent="))
                .findFirst()
                .orElseThrow();
    }

    /** Of the authorisation server and the mail server that notices go out by. */
    @ParameterizedTest
    @EnumSource(
            value = Wire.Mode.class,
            names = {"HANGS", "CLOSES", "REFUSES"})
    @Order(7)
    void whileSignInsAndNoticesHaveASickServerTheOthersGoOnAndAllIsWellSoonAfter(Wire.Mode mode) throws Exception {
        String well = "steady" + mode.ordinal();
        h.person(well, "rep");
        UUID account = h.account(well);
        h.connectMail(well);
        soon().until(() -> state(well).equals("capturing"));
        tokens.is(mode);
        outgoing.is(mode);
        String sick = "ailing" + mode.ordinal();
        long began = System.nanoTime();
        h.person(sick, "rep");
        assertThat(Duration.ofNanos(System.nanoTime() - began))
                .as("nobody waits for their notice to go out")
                .isLessThan(Duration.ofSeconds(8));
        h.admin.post(
                "/api/connections",
                new NewConnection(sick, "mail by key", sick + "@corvane.example", null, null),
                Object.class);
        soon().until(() -> state(sick).equals("unreachable"));
        for (int i = 1; i <= 2; i++) {
            int expected = i;
            String id = well + "-" + i;
            String from = "bram@" + well + ".example";
            Instant at = Instant.now().minus(1, ChronoUnit.HOURS);
            h.providers.arrives(
                    well + "@corvane.example", letter(id, at, from, well + "@corvane.example", "About " + id, "x"));
            // twice what is promised, as the machine that runs the tests is busy
            Awaitility.await()
                    .atMost(Duration.ofSeconds(4))
                    .pollInterval(Duration.ofMillis(50))
                    .until(() -> h.timeline(account).size() == expected);
        }
        assertThat(state(well)).isEqualTo("capturing");
        assertThat(state(sick)).isEqualTo("unreachable");
        tokens.is(Wire.Mode.PASSES);
        outgoing.is(Wire.Mode.PASSES);
        Awaitility.await()
                .atMost(Duration.ofSeconds(15))
                .until(() -> state(sick).equals("capturing"));
    }

    private String state(String who) throws Exception {
        return Arrays.stream(h.admin.get("/api/connections", ConnectionInfo[].class))
                .filter(c -> c.account().startsWith(who + "@"))
                .map(ConnectionInfo::state)
                .findFirst()
                .orElse("");
    }
}
