package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Browsing.button;
import static jandrel.acceptance.Browsing.field;
import static org.assertj.core.api.Assertions.assertThat;

import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import com.microsoft.playwright.Page;
import jandrel.api.SessionApi.ChosenPassword;
import jandrel.api.SessionApi.Credentials;
import jandrel.api.SessionApi.SignInInfo;
import jandrel.api.SingleSignOnApi.PasswordRule;
import jandrel.demo.Providers;
import jandrel.demo.ServiceProcess;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.regex.Pattern;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** A code from a phone besides the password: set up, asked for, taken once, and helped out of. */
class SecondFactorTest {
    private static final String LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";
    private static final String PROOF = "{\"password\":\"" + Providers.PASSWORD + "\"}";
    private static Harbour h;

    @BeforeAll
    static void open() {
        h = Harbour.open("second_factor");
    }

    @AfterAll
    static void close() {
        h.close();
    }

    /** What a phone would show. */
    private static String shown(String secret, Instant when) throws Exception {
        String plain = secret.replace(" ", "");
        byte[] key = new byte[plain.length() * 5 / 8];
        for (int i = 0; i < key.length * 8; i++) {
            int bit = LETTERS.indexOf(plain.charAt(i / 5)) >> (4 - i % 5) & 1;
            key[i / 8] |= (byte) (bit << (7 - i % 8));
        }
        TimeBasedOneTimePasswordGenerator phone = new TimeBasedOneTimePasswordGenerator();
        return phone.generateOneTimePasswordString(new SecretKeySpec(key, phone.getAlgorithm()), when);
    }

    private static int token(String login, String code) throws Exception {
        return Calls.call(
                        h.process.url(),
                        "",
                        "POST",
                        "/api/tokens",
                        new Credentials(login, Providers.PASSWORD, null, null, code))
                .statusCode();
    }

    @Test
    void itIsSetUpAskedForAndNoneIsGoodTwice() throws Exception {
        h.person("factor-una", "rep");
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            Browsing.signIn(page, h.process.url() + "/account", "factor-una", Providers.PASSWORD);
            field(page, "Your password").fill("wrong");
            button(page, "Set it up").click();
            assertThat(page.getByText("The current password is wrong")).isVisible();
            field(page, "Your password").fill(Providers.PASSWORD);
            button(page, "Set it up").click();
            assertThat(page.getByLabel("What the phone reads")).isVisible();
            String secret = page.locator(".secret").innerText();
            // nothing is asked for until a code has shown that it works
            assertThat(token("factor-una", null)).isEqualTo(200);
            field(page, "The code that it shows").fill("000000");
            button(page, "Switch it on").click();
            assertThat(page.getByText("The code does not fit")).isVisible();
            Instant now = Instant.now();
            field(page, "The code that it shows").fill(shown(secret, now));
            button(page, "Switch it on").click();
            assertThat(page.getByLabel("Recovery codes").locator("li")).hasCount(10);
            String recovery =
                    page.getByLabel("Recovery codes").locator("li").first().innerText();

            assertThat(token("factor-una", null)).isEqualTo(428);
            assertThat(token("factor-una", shown(secret, now))).isEqualTo(401);
            assertThat(token("factor-una", shown(secret, now.plusSeconds(3_600))))
                    .isEqualTo(401);
            assertThat(token("factor-una", recovery)).isEqualTo(200);
            assertThat(token("factor-una", recovery)).isEqualTo(401);

            Page again = browsing.page();
            Browsing.signIn(again, h.process.url() + "/account", "factor-una", Providers.PASSWORD);
            field(again, "Code from your phone, or a recovery code").fill(shown(secret, now.plusSeconds(30)));
            again.keyboard().press("Enter");
            assertThat(again).hasURL(Pattern.compile(".*/account"));
            assertThat(again.getByText("Signed in").first()).isVisible();
        }
        assertThat(h.admin.ask("GET", "/api/journal?kind=sign-in", "").body()).contains("set up the second factor of");
    }

    /** Guessing codes is as slow as guessing passwords. */
    @Test
    void codesAreNotGuessed() throws Exception {
        String id = setUp("factor-guessed");
        int[] answers = new int[8];
        for (int i = 0; i < answers.length; i++) {
            answers[i] = token("factor-guessed", "00000" + i);
        }
        assertThat(answers).startsWith(401, 401, 401, 401).endsWith(429, 429);
        // somebody whose phone is lost is helped by an administrator
        assertThat(h.admin
                        .ask("DELETE", "/api/sign-ins/" + id + "/second-factor", "")
                        .statusCode())
                .isEqualTo(204);
        assertThat(token("factor-guessed", null)).isEqualTo(200);
    }

    /** A letter about a forgotten password goes to the mailbox: who reads that has one factor, not two. */
    @Test
    void aNewPasswordByMailDoesNotPassIt() throws Exception {
        String secret = secretOf("factor-reset");
        String link = "a-link-that-came-by-mail";
        h.process.run("INSERT INTO sign_in_link (hash, sign_in, purpose, made_at, expires_at) SELECT sha256('" + link
                + "'), id, 'reset', now(), now() + interval '1 hour' FROM sign_in WHERE login = 'factor-reset'");
        assertThat(chosen(link, null)).isEqualTo(428);
        assertThat(chosen(link, "123456")).isEqualTo(401);
        // what was refused used up nothing
        assertThat(chosen(link, shown(secret, Instant.now().plusSeconds(30)))).isEqualTo(200);
    }

    private static int chosen(String link, String code) throws Exception {
        return Calls.call(
                        h.process.url(),
                        "",
                        "PUT",
                        "/api/session/link",
                        new ChosenPassword(link, "quiet harbour lights 27", code))
                .statusCode();
    }

    /** Who gave somebody a first password does not set up a factor in their name. */
    @Test
    void aFirstPasswordIsGoodForNoSecondFactor() throws Exception {
        h.person("factor-first", "rep");
        var first = h.process.signedIn("factor-first", Providers.PASSWORD);
        h.process.run("UPDATE sign_in SET temporary = true WHERE login = 'factor-first'");
        assertThat(first.ask("GET", "/api/session/second-factor", "").statusCode())
                .isEqualTo(403);
        assertThat(first.ask("POST", "/api/session/second-factor", PROOF).statusCode())
                .isEqualTo(403);
    }

    private static String setUp(String login) throws Exception {
        secretOf(login);
        return Arrays.stream(h.admin.get("/api/sign-ins", SignInInfo[].class))
                .filter(s -> s.login().equals(login))
                .findFirst()
                .orElseThrow()
                .id()
                .toString();
    }

    /** Of somebody new, who has set it up. */
    private static String secretOf(String login) throws Exception {
        h.person(login, "rep");
        var own = h.process.signedIn(login, Providers.PASSWORD);
        String secret = own.ask("POST", "/api/session/second-factor", PROOF)
                .body()
                .replaceFirst("(?s).*\"secret\":\"([A-Z2-7]+)\".*", "$1");
        assertThat(own.ask("PUT", "/api/session/second-factor", "{\"code\":\"" + shown(secret, Instant.now()) + "\"}")
                        .statusCode())
                .isEqualTo(200);
        assertThat(own.ask("GET", "/api/session/second-factor", "").body()).contains("\"on\":true", "\"codesLeft\":10");
        return secret;
    }

    /** Until it is set up, an administrator can do nothing else; people of other roles are not asked. */
    @Test
    void aRuleCanAskItOfAdministrators() throws Exception {
        h.person("factor-rep", "rep");
        h.admin.put("/api/password-rule", new PasswordRule(true, List.of(), true), PasswordRule.class);
        assertThat(h.admin.ask("GET", "/api/connections", "").statusCode()).isEqualTo(403);
        assertThat(h.process
                        .signedIn("factor-rep", Providers.PASSWORD)
                        .ask("GET", "/api/connections", "")
                        .statusCode())
                .isEqualTo(200);
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            Browsing.signIn(page, h.process.url() + "/connections", "admin", ServiceProcess.ADMIN_PASSWORD);
            assertThat(page.getByText("Administrators need a code besides their password here."))
                    .isVisible();
            field(page, "Your password").fill(ServiceProcess.ADMIN_PASSWORD);
            button(page, "Set it up").click();
            field(page, "The code that it shows")
                    .fill(shown(page.locator(".secret").innerText(), Instant.now()));
            button(page, "Switch it on").click();
            assertThat(page.getByLabel("Recovery codes")).isVisible();
            button(page, "Done").click();
            assertThat(page.getByText("Administrators need a code besides their password here."))
                    .hasCount(0);
        }
        assertThat(h.admin.ask("GET", "/api/connections", "").statusCode()).isEqualTo(200);
        h.admin.put("/api/password-rule", new PasswordRule(true, List.of(), false), PasswordRule.class);
    }
}
