package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Harbour.letter;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.demo.Providers;
import jandrel.demo.ServiceProcess;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Locale;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;

/** The page on which everybody begins, in headless Chromium. */
@ExtendWith(Harbour.Shared.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class OverviewTest {
    private final Harbour h;
    private Browsing browsing;
    private Page page;

    OverviewTest(Harbour harbour) {
        h = harbour;
    }

    @BeforeAll
    void open() throws Exception {
        browsing = Browsing.open();
        String oda = h.person("oda", "rep");
        h.account("overview");
        Instant at = Instant.now().truncatedTo(ChronoUnit.SECONDS).minus(2, ChronoUnit.HOURS);
        h.providers.mail(oda, "", at, letter("overview-1", at, "bram@overview.example", oda, "Morning", "Text"));
        h.connectMail("oda");
        h.settle();
    }

    @AfterAll
    void close() {
        browsing.close();
    }

    @BeforeEach
    void newPage() {
        page = browsing.page();
    }

    @AfterEach
    void closePage() {
        page.context().close();
    }

    private void signIn(String login, String password, String path) {
        Browsing.signIn(page, h.process.url() + path, login, password);
    }

    /** Every figure is as many as the rows behind its link. */
    @Test
    void theOverviewSaysWhatItsLinksShow() {
        signIn("admin", ServiceProcess.ADMIN_PASSWORD, "/overview");
        Locator figures = page.locator(".overview a.figure");
        assertThat(figures).hasCount(3);
        for (int i = 0; i < 3; i++) {
            long said = Long.parseLong(figures.nth(i).innerText().replace(",", ""));
            figures.nth(i).click();
            assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Decisions")))
                    .isVisible();
            String shown = said == 0 ? "No decision fits" : String.format(Locale.UK, "%1$,d of %1$,d decision", said);
            assertThat(page.getByText(shown)).isVisible();
            page.goBack();
            assertThat(figures).hasCount(3);
        }
        Locator people = page.locator(".overview a[href='/coverage']").first();
        String all = people.innerText();
        people.click();
        assertThat(page.locator(".bar > [aria-live=polite]").first()).hasText(all);
    }

    @Test
    void aManagersFiguresAreAsManyAsTheirLinksShow() throws Exception {
        h.person("mona", "manager");
        signIn("mona", Providers.PASSWORD, "/overview");
        Locator rows = page.locator(".overview a.row");
        assertThat(rows).hasCount(7);
        for (int i = 0; i < 7; i++) {
            String n = rows.nth(i).locator("b").innerText();
            rows.nth(i).click();
            Locator count = page.locator(".picker span[aria-live=polite]");
            assertThat(count).hasText(n.equals("1") ? "1 record" : n + " records");
            page.goBack();
            assertThat(rows).hasCount(7);
        }
        assertThat(page.getByText("Meetings held and missed")).isVisible();
    }

    @Test
    void everyRoleBeginsWithWhatIsTheirs() throws Exception {
        signIn("oda", Providers.PASSWORD, "/overview");
        assertThat(page.getByText("Your connections")).isVisible();
        assertThat(page.getByText("Today and tomorrow")).isVisible();
        Locator left = page.locator(".overview h3 a");
        String said = left.innerText();
        left.click();
        assertThat(page.getByText(
                        said.startsWith("0 ")
                                ? "No decision fits"
                                : said.replace("items", "").replace("item", "").strip() + " decision"))
                .isVisible();
        h.admin.post(
                "/api/sign-ins",
                Map.of("login", "audra", "name", "Audra", "password", "buoy-and-tide-26", "role", "auditor"),
                Object.class);
        page.context().clearCookies();
        signIn("audra", "buoy-and-tide-26", "/overview");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Verify the chain"))
                .click();
        assertThat(page.getByText("fit; the last hash is")).isVisible();
        assertThat(page.getByText("Changes of policies")).isVisible();
        Locator logged = Browsing.row(page, "Everyone").getByRole(AriaRole.LINK).first();
        String figure = logged.innerText();
        logged.click();
        assertThat(page.getByText("of " + figure + " decision")).isVisible();
    }
}
