package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Browsing.button;
import static jandrel.acceptance.Browsing.field;
import static jandrel.acceptance.Browsing.row;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.api.ConnectionApi.CheckOutcome;
import jandrel.api.SessionApi.Credentials;
import jandrel.api.SessionApi.Forgotten;
import jandrel.api.SessionApi.InvitePeople;
import jandrel.api.SessionApi.SignInInfo;
import jandrel.api.SingleSignOnApi.NewProvider;
import jandrel.api.SingleSignOnApi.PasswordRule;
import jandrel.api.SingleSignOnApi.ProviderInfo;
import jandrel.api.SingleSignOnApi.RoleOfGroup;
import jandrel.demo.Providers;
import jandrel.demo.ServiceProcess;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Signing in at a real provider, which tells the truth or does not. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class SingleSignOnTest {
    private static final String SECRET = "console-lights-26";
    private static MailSink mail;
    private static Harbour h;
    private static StandinProcess provider;

    @BeforeAll
    static void open() throws Exception {
        mail = new MailSink();
        h = Harbour.open("single_sign_on", mail.settings());
        provider = StandinProcess.provider(h.stand, h.process.url() + "/api/session/provider", Providers.PASSWORD);
    }

    @AfterAll
    static void close() throws Exception {
        h.close();
        provider.close();
        mail.close();
    }

    @AfterEach
    void truthful() throws Exception {
        provider.say("", "", "");
    }

    private static String person(String key) throws Exception {
        h.csv("people", "key,name,addresses\n" + key + ",Person " + key + "," + key + "@corvane.example");
        return key + "@corvane.example";
    }

    private static NewProvider wanted(String otherwise, RoleOfGroup... roles) {
        return new NewProvider("Corvane", provider.url(), "jandrel-console", SECRET, null, List.of(roles), otherwise);
    }

    /** The one that the first test adds. */
    private static ProviderInfo known() throws Exception {
        return h.admin.get("/api/providers", ProviderInfo[].class)[0];
    }

    private static SignOnWalk walk() throws Exception {
        return new SignOnWalk(h.stand, h.process.url());
    }

    private static String to(SignOnWalk walk, String login) throws Exception {
        return walk.to(known().id().toString(), "", login);
    }

    private static Optional<SignInInfo> signIn(String login) throws Exception {
        return Arrays.stream(h.admin.get("/api/sign-ins", SignInInfo[].class))
                .filter(s -> s.login().equals(login))
                .findFirst();
    }

    /** An administrator adds the provider; somebody signs in with it, and signing out here signs them out there. */
    @Test
    @Order(0)
    void fromTheFirstClickToSignedOutEverywhere() throws Exception {
        String nell = person("sso-nell");
        try (Browsing browsing = Browsing.open()) {
            Page admin = browsing.page();
            Browsing.signIn(admin, h.process.url() + "/sign-ins", "admin", ServiceProcess.ADMIN_PASSWORD);
            button(admin, "Single sign-on…").click();
            assertThat(admin.getByText("People sign in with passwords alone")).isVisible();
            button(admin, "New provider…").click();
            field(admin, "Name, as people know it").fill("Corvane");
            field(admin, "Issuer").fill(provider.url() + "/");
            field(admin, "Client id").fill("jandrel-console");
            field(admin, "Client secret").fill(SECRET);
            button(admin, "Check it").click();
            assertThat(admin.getByLabel("What was tried")).containsText("type it exactly like that");
            field(admin, "Issuer").fill(provider.url());
            button(admin, "Check it").click();
            assertThat(admin.getByLabel("What was tried")).containsText("it signs with one key");
            assertThat(admin.getByLabel("What was tried").getByLabel("failed")).hasCount(0);
            button(admin, "Add").click();
            assertThat(row(admin, "Corvane")).containsText("as in the directory");
            admin.getByRole(AriaRole.DIALOG).getByText("Close").click();

            Page page = browsing.page();
            page.navigate(h.process.url() + "/timeline");
            page.getByText("Sign in with Corvane").click();
            page.getByPlaceholder("Username").fill(nell);
            page.getByPlaceholder("Password").fill(Providers.PASSWORD);
            button(page, "Sign in").click();
            assertThat(page).hasURL(Pattern.compile(".*/timeline.*"));
            assertThat(row(admin, "Person sso-nell")).containsText("signs in with Corvane");
            page.navigate(h.process.url() + "/account");
            assertThat(page.getByText("There is no password to change here")).isVisible();
            button(page, "Sign out").click();
            assertThat(page).hasURL(h.process.url() + "/sign-in");
            page.getByText("Sign in with Corvane").click();
            assertThat(page.getByPlaceholder("Username")).isVisible();
        }
        soon().until(() -> mail.all().stream()
                .anyMatch(l -> l.to().equals(nell) && l.subject().contains("you signed in with Corvane")));
        assertThat(h.admin.ask("GET", "/api/journal?kind=sign-in", "").body()).contains("claimed", nell);
    }

    @ParameterizedTest
    @Order(1)
    @ValueSource(
            strings = {
                "issuer",
                "audience",
                "two audiences",
                "nonce",
                "no nonce",
                "expired",
                "future",
                "unsigned",
                "by the client’s secret",
                "key",
                "key of that name"
            })
    void whatCannotBeBelievedLetsNobodyIn(String lie) throws Exception {
        String login = person("sso-lied");
        provider.say(lie, "", "");
        SignOnWalk walk = walk();
        assertThat(to(walk, login)).startsWith("/sign-in?problem=token&from=Corvane");
        assertThat(walk.whoami()).isEqualTo(401);
        assertThat(signIn(login)).isEmpty();
    }

    @ParameterizedTest
    @Order(1)
    @CsvSource({"unverified, '', unverified", "'', nobody@corvane.example, nobody", "'', sso-key, nobody"})
    void onlyAnAddressThatIsVerifiedAndSomebodysLetsThemIn(String lie, String email, String problem) throws Exception {
        String login = person("sso-key");
        provider.say(lie, "", email);
        SignOnWalk walk = walk();
        assertThat(to(walk, login)).startsWith("/sign-in?problem=" + problem);
        assertThat(walk.whoami()).isEqualTo(401);
    }

    /** Some providers say nothing of a person in the token, and all of it when asked (OpenID Connect Core 1.0, §5.3). */
    @Test
    @Order(1)
    void whereTheTokenIsShortTheProviderIsAsked() throws Exception {
        String login = person("sso-short");
        provider.say("no email", "", "");
        assertThat(to(walk(), login)).isEqualTo("/overview");
        assertThat(signIn(login)).isPresent();
    }

    @Test
    @Order(1)
    void aNewKeyIsLearntAtOnce() throws Exception {
        String login = person("sso-rotated");
        assertThat(to(walk(), login)).isEqualTo("/overview");
        provider.rotateKeys();
        SignOnWalk walk = walk();
        assertThat(to(walk, login)).isEqualTo("/overview");
        assertThat(walk.whoami()).isEqualTo(200);
    }

    /** The answer is worth something in the browser that asked, once. */
    @Test
    @Order(1)
    void anAnswerIsNobodyElsesAndGoodOnce() throws Exception {
        String login = person("sso-answered");
        SignOnWalk walk = walk();
        walk.get(h.process.url() + "/api/session/providers/" + known().id() + "/start");
        String cookie = walk.cookie("jandrel_sign_on");
        assertThat(cookie).isNotEmpty();
        assertThat(to(walk, login)).isEqualTo("/overview");
        for (String kept : List.of("", "forged", cookie)) {
            SignOnWalk other = walk();
            if (!kept.isEmpty()) {
                other.keep("jandrel_sign_on", kept);
            }
            assertThat(other.get(walk.answer()).headers().firstValue("Location").orElseThrow())
                    .startsWith("/sign-in?problem=expired");
            assertThat(other.whoami()).isEqualTo(401);
        }
        assertThat(walk.cookie("jandrel_sign_on")).isEmpty();
        assertThat(walk.get(walk.answer()).headers().firstValue("Location").orElseThrow())
                .startsWith("/sign-in?problem=expired");
    }

    @ParameterizedTest
    @Order(1)
    @CsvSource({
        "/timeline, /timeline",
        "//evil.example, /overview",
        "/%5Cevil.example, /overview",
        "https://evil.example, /overview",
        "/%0d%0aSet-Cookie:x=y, /overview"
    })
    void nobodyIsSentElsewhere(String wanted, String ends) throws Exception {
        String login = person("sso-sent");
        assertThat(walk().to(known().id().toString(), "?to=" + wanted, login)).isEqualTo(ends);
    }

    @Test
    @Order(2)
    void groupsSayWhoIsWhat() throws Exception {
        String login = person("sso-grouped");
        NewProvider wanted =
                wanted("none", new RoleOfGroup("sales-ops", "administrator"), new RoleOfGroup("sales", "rep"));
        h.admin.put("/api/providers/" + known().id(), wanted, ProviderInfo.class);
        for (String[] one : new String[][] {
            {"sales", "rep"}, {"sales,sales-ops", "administrator"}, {"other", "role"}, {"sales", "rep"}
        }) {
            provider.say("", one[0], "");
            String ends = to(walk(), login);
            if (one[1].equals("role")) {
                assertThat(ends).startsWith("/sign-in?problem=role");
            } else {
                assertThat(ends).isEqualTo("/overview");
                assertThat(signIn(login).orElseThrow().role()).isEqualTo(one[1]);
            }
        }
        h.admin.put("/api/providers/" + known().id(), wanted("rep"), ProviderInfo.class);
    }

    /** A first password that somebody else gave dies; another account of that provider never opens it. */
    @Test
    @Order(2)
    void aSignInIsClaimedOnceByOneAccount() throws Exception {
        String login = h.person("sso-claimed", "rep");
        h.process.run("UPDATE sign_in SET temporary = true WHERE login = 'sso-claimed'");
        SignOnWalk walk = walk();
        assertThat(to(walk, login)).isEqualTo("/overview");
        assertThat(walk.get(h.process.url() + "/api/session").body())
                .contains("\"login\":\"sso-claimed\"", "\"choosePassword\":false", "\"password\":false");
        assertThat(Calls.call(
                                h.process.url(),
                                "",
                                "POST",
                                "/api/tokens",
                                new Credentials("sso-claimed", Providers.PASSWORD, null, null))
                        .statusCode())
                .isEqualTo(401);
        provider.say("", "", login);
        SignOnWalk impostor = walk();
        assertThat(to(impostor, "impostor@elsewhere.example")).startsWith("/sign-in?problem=taken");
        assertThat(impostor.whoami()).isEqualTo(401);
        // and the account never opens anybody else's
        provider.say("", "", person("sso-moved"));
        assertThat(to(walk(), login)).startsWith("/sign-in?problem=taken");
    }

    @Test
    @Order(2)
    void whoLeftIsOutAndDoesNotComeBackByThemselves() throws Exception {
        String login = person("sso-leaving");
        SignOnWalk walk = walk();
        assertThat(to(walk, login)).isEqualTo("/overview");
        assertThat(walk.whoami()).isEqualTo(200);
        assertThat(h.admin
                        .ask(
                                "POST",
                                "/api/people/" + signIn(login).orElseThrow().person() + "/left",
                                "")
                        .statusCode())
                .isEqualTo(204);
        assertThat(walk.whoami()).isEqualTo(401);
        assertThat(to(walk(), login)).startsWith("/sign-in?problem=ended");
        h.admin.post("/api/sign-ins/invite", new InvitePeople(List.of(login), null), Object.class);
        assertThat(to(walk(), login)).isEqualTo("/overview");
        assertThat(walk.whoami()).isEqualTo(401);
    }

    @Test
    @Order(3)
    void withoutPasswordsOnlyWhoIsNamedHasOne() throws Exception {
        h.person("sso-typed", "rep");
        person("sso-later");
        assertThat(h.admin
                        .ask("PUT", "/api/password-rule", Client.json(new PasswordRule(false, List.of())))
                        .statusCode())
                .isEqualTo(409);
        assertThat(h.admin
                        .ask("PUT", "/api/password-rule", Client.json(new PasswordRule(false, List.of("sso-typed"))))
                        .statusCode())
                .isEqualTo(400);
        h.admin.put("/api/password-rule", new PasswordRule(false, List.of("admin")), PasswordRule.class);
        try {
            Credentials right = new Credentials("sso-typed", Providers.PASSWORD, null, null);
            Credentials wrong = new Credentials("sso-typed", "something else 26", null, null);
            assertThat(Calls.call(h.process.url(), "", "POST", "/api/session", right)
                            .statusCode())
                    .isEqualTo(403);
            assertThat(Calls.call(h.process.url(), "", "POST", "/api/tokens", right)
                            .body())
                    .contains("Passwords are switched off here");
            // nothing tells it to who does not know the password
            assertThat(Calls.call(h.process.url(), "", "POST", "/api/session", wrong)
                            .statusCode())
                    .isEqualTo(401);
            assertThat(Calls.cookie(h.process.url(), "admin", ServiceProcess.ADMIN_PASSWORD))
                    .isNotEmpty();
            Calls.call(h.process.url(), "", "POST", "/api/session/forgotten", new Forgotten("sso-typed"));
            h.admin.post("/api/sign-ins/invite", new InvitePeople(List.of("sso-later"), null), Object.class);
            soon().until(() -> mail.all().stream()
                    .anyMatch(l -> l.to().startsWith("sso-later@")
                            && l.text().contains("/sign-in")
                            && !l.text().contains("/welcome")));
            assertThat(mail.all()).noneMatch(l -> l.subject().contains("set a new password"));
            assertThat(h.admin
                            .ask("DELETE", "/api/providers/" + known().id(), "")
                            .statusCode())
                    .isEqualTo(409);
            try (Browsing browsing = Browsing.open()) {
                Page page = browsing.page();
                page.navigate(h.process.url() + "/sign-in");
                assertThat(page.getByText("Sign in with Corvane")).isVisible();
                assertThat(field(page, "Password")).hasCount(0);
                button(page, "Emergency sign-in with a password").click();
                field(page, "Login").fill("admin");
                field(page, "Password").fill(ServiceProcess.ADMIN_PASSWORD);
                page.keyboard().press("Enter");
                assertThat(page).hasURL(Pattern.compile(".*/overview.*"));
            }
        } finally {
            h.admin.put("/api/password-rule", new PasswordRule(true, List.of()), PasswordRule.class);
        }
    }

    @Test
    @Order(3)
    void aProviderThatIsNotThereSaysSoAndOthersGoOn() throws Exception {
        NewProvider dead = new NewProvider("Dead", "https://127.0.0.1:9", "jandrel", "", null, null, null);
        ProviderInfo added = h.admin.post("/api/providers", dead, ProviderInfo.class);
        assertThat(walk().to(added.id().toString(), "", "x")).startsWith("/sign-in?problem=provider&from=Dead");
        CheckOutcome outcome = h.admin.post("/api/providers/check", dead, CheckOutcome.class);
        assertThat(outcome.passed()).isFalse();
        assertThat(outcome.steps().get(0).says()).contains("does not answer");
        assertThat(h.admin
                        .ask(
                                "POST",
                                "/api/providers",
                                Client.json(Map.of("name", "x", "issuer", "http://x.example", "clientId", "y")))
                        .statusCode())
                .isEqualTo(400);
        assertThat(to(walk(), person("sso-meanwhile"))).isEqualTo("/overview");
        h.admin.delete("/api/providers/" + added.id());
    }

    /** Whom it let in is out. */
    @Test
    @Order(4)
    void aProviderThatIsRemovedOpensNothing() throws Exception {
        SignOnWalk walk = walk();
        assertThat(to(walk, person("sso-last"))).isEqualTo("/overview");
        assertThat(walk.whoami()).isEqualTo(200);
        h.admin.delete("/api/providers/" + known().id());
        assertThat(walk.whoami()).isEqualTo(401);
        assertThat(walk.get(walk.answer()).headers().firstValue("Location").orElseThrow())
                .startsWith("/sign-in?problem=");
    }
}
