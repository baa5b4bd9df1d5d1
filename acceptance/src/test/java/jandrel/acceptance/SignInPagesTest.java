package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Browsing.button;
import static jandrel.acceptance.Browsing.field;
import static jandrel.acceptance.Browsing.row;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.demo.Providers;
import jandrel.demo.ServiceProcess;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Coming in, staying in and being shown out, in a browser. */
class SignInPagesTest {
    private static final String PASSWORD = Providers.PASSWORD;
    private static MailSink mail;
    private static Harbour h;
    private static Browsing browsing;

    @BeforeAll
    static void open() throws Exception {
        mail = new MailSink();
        h = Harbour.open("sign_in_pages", mail.settings());
        browsing = Browsing.open();
    }

    @AfterAll
    static void close() {
        browsing.close();
        h.close();
        mail.close();
    }

    private static void said(Page page, String text) {
        assertThat(page.getByText(text).first()).isVisible();
    }

    /** From an administrator's click to the first page of somebody new, and out again. */
    @Test
    void somebodyIsInvitedComesInAndIsShownOut() throws Exception {
        String address = "page-ida@corvane.example";
        h.csv("people", "key,name,addresses\npage-ida,Ida Page," + address);
        Page admin = browsing.page();
        Browsing.signIn(admin, h.process.url() + "/sign-ins", "admin", ServiceProcess.ADMIN_PASSWORD);
        button(admin, "Invite 1 person without one").click();
        said(admin, "1 letter on the way");
        assertThat(row(admin, "Ida Page")).containsText("invited until");
        String link = mail.link(address, 1);

        Page ida = browsing.page();
        ida.navigate(h.process.url() + "/welcome#" + link);
        said(ida, "nobody but you will know your password");
        assertThat(ida).hasURL(Pattern.compile(".*/welcome$"));
        field(ida, "New password").fill("idapage2026");
        button(ida, "Choose it and sign in").click();
        said(ida, "The password is too easy to guess");
        field(ida, "New password").fill(PASSWORD);
        button(ida, "Choose it and sign in").click();
        assertThat(ida).hasURL(Pattern.compile(".*/overview.*"));
        assertThat(row(admin, "Ida Page")).containsText("has a password");

        Page again = browsing.page();
        again.navigate(h.process.url() + "/welcome#" + link);
        said(again, "This address has been used, or its time is over");

        // a second device, which ends with the password
        Page phone = browsing.page();
        Browsing.signIn(phone, h.process.url() + "/account", address, PASSWORD);
        assertThat(phone.getByRole(AriaRole.ROW)).hasCount(3);
        ida.navigate(h.process.url() + "/account");
        field(ida, "Current password").fill(PASSWORD);
        field(ida, "New password").fill("lantern " + PASSWORD);
        button(ida, "Change it").click();
        said(ida, "every other session has ended");
        assertThat(ida.getByRole(AriaRole.ROW)).hasCount(2);
        phone.reload();
        assertThat(phone).hasURL(Pattern.compile(".*/sign-in.*"));

        button(admin, "End the sign-in of Ida Page").click();
        button(admin, "They have left").click();
        said(admin, "Ida Page has left");
        assertThat(row(admin, "Ida Page")).containsText("ended");
        ida.reload();
        assertThat(ida).hasURL(Pattern.compile(".*/sign-in.*"));
    }

    @Test
    void aFirstPasswordLeadsToChoosingOnesOwnAndAForgottenOneComesByMail() throws Exception {
        String address = "page-ole@corvane.example";
        h.csv("people", "key,name,addresses\npage-ole,Ole Page," + address);
        h.admin.ask(
                "POST",
                "/api/sign-ins",
                "{\"login\":\"page-ole\",\"name\":\"Ole Page\",\"password\":\"first-" + PASSWORD
                        + "\",\"role\":\"rep\",\"person\":\"page-ole\"}");
        Page page = browsing.page();
        page.navigate(h.process.url() + "/sign-in");
        field(page, "Login").fill("page-ole");
        field(page, "Password").fill("first-" + PASSWORD);
        button(page, "Sign in").click();
        said(page, "Choose a password of your own");
        page.navigate(h.process.url() + "/timeline");
        assertThat(page).hasURL(Pattern.compile(".*/sign-in.*"));
        field(page, "Login").fill("page-ole");
        field(page, "Password").fill("first-" + PASSWORD);
        button(page, "Sign in").click();
        field(page, "New password").fill(PASSWORD);
        button(page, "Choose it and go on").click();
        assertThat(page).hasURL(Pattern.compile(".*/timeline.*"));

        Page other = browsing.page();
        other.navigate(h.process.url() + "/sign-in");
        button(other, "Forgot your password?").click();
        field(other, "Login").fill("page-ole");
        button(other, "Send the letter").click();
        said(other, "Look into your mail");
        Harbour.soon()
                .until(() -> mail.to(address).stream().anyMatch(l -> l.subject().contains("new password")));
        String link = mail.to(address).stream()
                .filter(l -> l.subject().contains("new password"))
                .findFirst()
                .orElseThrow()
                .link();
        other.navigate(h.process.url() + "/welcome#" + link);
        field(other, "New password").fill("lantern " + PASSWORD);
        button(other, "Set it and sign in").click();
        assertThat(other).hasURL(Pattern.compile(".*/overview.*"));
        page.reload();
        assertThat(page).hasURL(Pattern.compile(".*/sign-in.*"));
    }

    @Test
    void aTokenIsMadeShownOnceUsedAndEnded() throws Exception {
        Page page = browsing.page();
        Browsing.signIn(page, h.process.url() + "/account", "admin", ServiceProcess.ADMIN_PASSWORD);
        button(page, "New token…").click();
        field(page, "What it is for").fill("Nightly figures");
        button(page, "Create token").click();
        String token = field(page, "Token").inputValue();
        assertThat(Calls.call(h.process.url(), token, "GET", "/api/records", "").statusCode())
                .isEqualTo(200);
        button(page, "Done").click();
        assertThat(row(page, "Nightly figures")).containsText("read");
        assertThat(page.getByRole(AriaRole.DIALOG)).hasCount(0);
        assertThat(page.content()).doesNotContain(token);
        button(page, "End Nightly figures").click();
        assertThat(row(page, "Nightly figures")).hasCount(0);
        assertThat(Calls.call(h.process.url(), token, "GET", "/api/records", "").statusCode())
                .isEqualTo(401);
    }
}
