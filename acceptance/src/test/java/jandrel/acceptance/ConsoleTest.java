package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Harbour.letter;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.demo.ServiceProcess;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;

/** The console in headless Chromium. */
@ExtendWith(Harbour.Shared.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ConsoleTest {
    private final Harbour h;
    private final List<String> errors = new ArrayList<>();
    private Browsing browsing;
    private Page page;

    ConsoleTest(Harbour harbour) {
        h = harbour;
    }

    @BeforeAll
    void open() throws Exception {
        browsing = Browsing.open();
        String kit = h.person("kit", "rep");
        h.account("console");
        Instant at = Instant.now().truncatedTo(ChronoUnit.SECONDS).minus(2, ChronoUnit.DAYS);
        for (int i = 0; i < 60; i++) {
            Instant each = at.minusSeconds(3_600L * i);
            h.providers.mail(
                    kit,
                    "",
                    each,
                    letter(
                            "console-" + i,
                            each,
                            "Bram <bram@console.example>",
                            kit,
                            "Letter " + i,
                            "Text of letter " + i + ".\r\n\r\nOn Monday Kit wrote:\r\n> Kit’s own words."));
        }
        String html = letter(
                        "console-html",
                        at.plusSeconds(60),
                        "Bram <bram@console.example>",
                        kit,
                        "Laid out",
                        "<p>Bold <b>words</b></p><script>document.title='owned'</script><img src=x onerror=\"document.title='owned'\">")
                .replace("Subject:", "Content-Type: text/html\r\nSubject:");
        h.providers.mail(kit, "", at.plusSeconds(60), html);
        h.connectMail("kit");
        // numbers that too few people are behind are not shown to those who may not read the items
        h.account("several");
        for (String key : new String[] {"kim", "kai", "koa"}) {
            String who = h.person(key, "rep");
            h.providers.mail(who, "", at, letter(key + "-1", at, "ada@several.example", who, "For " + key, "x"));
            h.connectMail(key);
        }
        h.settle();
    }

    @AfterAll
    void close() {
        browsing.close();
    }

    @BeforeEach
    void newPage() {
        page = browsing.page();
        page.onPageError(errors::add);
        page.onConsoleMessage(m -> {
            if (m.type().equals("error") && !m.text().contains("status of 4")) {
                errors.add(m.text());
            }
        });
    }

    @AfterEach
    void noErrors() {
        page.context().close();
        Assertions.assertThat(errors).isEmpty();
    }

    private void signIn(String login, String password, String path) {
        Browsing.signIn(page, h.process.url() + path, login, password);
    }

    private Locator find() {
        return labelled("Find");
    }

    private Locator labelled(String label) {
        return page.getByLabel(label, new Page.GetByLabelOptions().setExact(true));
    }

    private Locator heading(String words) {
        return page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName(words));
    }

    private void button(String name) {
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name))
                .click();
    }

    private void administrator(String path) {
        signIn("admin", ServiceProcess.ADMIN_PASSWORD, path);
    }

    @Test
    void whatIsNoPageIsSaidByTheConsole() {
        administrator("/measuers/by-month");
        assertThat(page.locator("h1")).hasText("There is no such page");
        assertThat(page.locator("main")).containsText("/measuers/by-month");
        page.getByText("Go to the overview").click();
        assertThat(page).hasURL(h.process.url() + "/overview");
    }

    @Test
    void aWrongPasswordIsSaidAndTheRightOneLeadsWhereOneWanted() {
        signIn("admin", "wrong", "/exclusions");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Login or password is wrong");
        page.getByLabel("Password").fill(ServiceProcess.ADMIN_PASSWORD);
        page.keyboard().press("Enter");
        assertThat(heading("Exclusions")).isVisible();
        Assertions.assertThat(page.url()).endsWith("/exclusions");
        page.getByLabel("Sign out").click();
        assertThat(page.getByLabel("Login")).isVisible();
        page.navigate(h.process.url() + "/timeline");
        assertThat(page.getByLabel("Login")).isVisible();
    }

    @Test
    void whoComesToTheSignInItselfGoesOnToTheOverview() {
        administrator("/sign-in");
        assertThat(page.getByText("Captured in the last 30 days")).isVisible();
    }

    @Test
    void aTimelineIsWalkedByKeyboardAndReadWithItsReasons() {
        administrator("/timeline");
        assertThat(page.getByText("Pick a record on the left")).isVisible();
        page.keyboard().press("/");
        page.keyboard().type("console");
        Locator record = page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Account console"));
        assertThat(page.locator("[data-row]")).hasCount(1);
        record.focus();
        page.keyboard().press("Enter");
        assertThat(heading("Account console")).isVisible();
        Locator rows = page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Activities"))
                .locator("[data-row]");
        assertThat(rows).hasCount(50);
        rows.first().focus();
        page.keyboard().press("ArrowDown");
        page.keyboard().press("Enter");
        Locator panel = page.getByRole(AriaRole.ARTICLE);
        assertThat(panel).containsText("Text of letter 0.");
        assertThat(panel).not().containsText("own words");
        page.getByText("Show the whole text").click();
        assertThat(panel).containsText("own words");
        assertThat(panel).containsText("bram@console.example is an address of Bram of console.");
        page.keyboard().press("Escape");
        assertThat(panel).hasCount(0);
        // more comes in as one reads on
        rows.last().scrollIntoViewIfNeeded();
        assertThat(rows).hasCount(61);
    }

    @Test
    void aTimelineIsFilteredAndTheAddressKeepsIt() throws Exception {
        administrator("/timeline/" + h.record("Account console") + "?who=bram");
        Locator rows = page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Activities"))
                .locator("[data-row]");
        assertThat(rows).hasCount(50);
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("meetings").setExact(true))
                .click();
        assertThat(page.getByText("Nothing on this timeline fits")).isVisible();
        page.reload();
        assertThat(page.getByText("Nothing on this timeline fits")).isVisible();
        Assertions.assertThat(page.url()).contains("kind=meeting").contains("who=bram");
        page.getByText("Show all", new Page.GetByTextOptions().setExact(true)).click();
        assertThat(rows).hasCount(50);
        // what a message says stands on its line
        assertThat(rows.nth(3)).containsText("Text of letter");
        assertThat(rows.nth(3)).containsText("from Bram");
        rows.nth(3).click();
        assertThat(page.getByRole(AriaRole.ARTICLE)).containsText("Text of letter");
        Assertions.assertThat(page.url()).contains("open=");
        page.goBack();
        assertThat(page.getByRole(AriaRole.ARTICLE)).hasCount(0);
    }

    @Test
    void whatWasDoneIsUndoneFromWhereItIsSaid() {
        administrator("/exclusions");
        Locator text = page.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Addresses, domains"));
        text.fill("undone.example");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Exclude 1"))
                .click();
        assertThat(page.getByText("1 exclusion added")).isVisible();
        find().fill("undone");
        assertThat(page.locator("tbody tr")).hasCount(1);
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Undo").setExact(true))
                .click();
        assertThat(page.getByText("Undone: 1 exclusion added")).isVisible();
        assertThat(page.locator("tbody tr")).hasCount(0);
    }

    @Test
    void hostileHtmlRunsNowhere() {
        administrator("/timeline");
        page.getByPlaceholder("part of a name").fill("console");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Account console"))
                .click();
        page.getByText("Laid out").click();
        page.getByText("Show as it was laid out").click();
        assertThat(page.frameLocator("iframe").locator("b")).hasText("words");
        Assertions.assertThat(page.title()).isEqualTo("Timelines · Jandrel");
        Assertions.assertThat(page.locator("iframe").getAttribute("sandbox"))
                .doesNotContain("allow-scripts")
                .doesNotContain("allow-same-origin");
    }

    @Test
    void decisionsAreFilteredAndExplained() {
        administrator("/decisions");
        labelled("Address or domain").fill("console.example");
        assertThat(page.getByText("61 decisions")).isVisible();
        page.locator("tr[data-row]").first().click();
        assertThat(page.getByRole(AriaRole.ARTICLE)).containsText("logged");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("unreadable"))
                .click();
        assertThat(page.getByText("No decision fits")).isVisible();
        labelled("Address or domain").fill("not an address");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("neither an address nor a domain");
        page.getByText("Show all, future too").click();
        assertThat(page.locator("tr[data-row]").first()).isVisible();
    }

    @Test
    void manyExclusionsAreCheckedAddedCountedAndRemoved() {
        administrator("/exclusions");
        Locator text = page.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("addresses, domains"));
        text.fill("one.example\nnot one, two@two.example");
        assertThat(page.getByText("line 2: “not one”: it is neither an address nor a domain"))
                .isVisible();
        assertThat(page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Exclude 2")))
                .isDisabled();
        text.fill("one.example\ntwo@two.example");
        labelled("Reason").fill("by test");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Exclude 2"))
                .click();
        assertThat(page.getByText("2 exclusions added")).isVisible();
        find().fill("by test");
        assertThat(page.locator("tbody tr")).hasCount(2);
        for (String what : new String[] {"one.example", "two@two.example"}) {
            page.getByLabel("Remove " + what).click();
            page.getByRole(AriaRole.DIALOG)
                    .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Remove"))
                    .click();
            assertThat(page.getByText(what + " is no longer excluded")).isVisible();
        }
        assertThat(page.locator("tbody tr")).hasCount(0);
    }

    @Test
    void aRepSeesTheirOwnConnectionsAndNoAdministration() {
        signIn("kit", jandrel.demo.Providers.PASSWORD, "/connections");
        assertThat(page.locator("tbody tr")).hasCount(1);
        assertThat(page.locator("tbody tr").first()).containsText("capturing");
        Locator pages = page.locator("nav[aria-label=Pages]");
        assertThat(pages).containsText("Exclusions");
        for (String closed : new String[] {"Policies", "Journal"}) {
            assertThat(pages).not().containsText(closed);
        }
        assertThat(page.getByText("Connect a person")).hasCount(0);
    }

    @Test
    void aPolicyIsEditedInItsSentencesBesideWhatThatWouldDo() {
        administrator("/policy");
        page.locator(".pick")
                .filter(new Locator.FilterOptions().setHasText("Everyone"))
                .click();
        Browsing.choose(page, "Who reads it", "the owner alone");
        assertThat(Browsing.button(page, "Apply this change")).isVisible();
        assertThat(page.getByText("By reason")).isVisible();
        page.getByText("Discard changes").click();
        assertThat(Browsing.button(page, "Apply this change")).hasCount(0);
    }

    @Test
    void coverageTellsOfEverybodyAndTheJournalOfEveryChange() {
        administrator("/coverage");
        find().fill("Person kit");
        assertThat(page.locator("tbody tr")).hasCount(1);
        assertThat(page.locator("tbody tr").first()).containsText("capturing");
        page.navigate(h.process.url() + "/journal");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Verify the chain"))
                .click();
        assertThat(page.getByText("fit; the last hash is")).isVisible();
        Browsing.choose(page, "What", "connection");
        assertThat(page.locator("tbody tr").first()).containsText("connection");
    }

    @Test
    void keysAreListedAndNightIsOneClickAway() {
        administrator("/coverage");
        assertThat(heading("Coverage")).isVisible();
        page.keyboard().press("g");
        page.keyboard().press("w");
        assertThat(heading("Decisions")).isVisible();
        page.keyboard().press("?");
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("Filter by address or domain");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Close"))
                .click();
        page.getByLabel("Theme: system").click();
        page.getByLabel("Theme: day").click();
        assertThat(page.locator(".v-theme--night").first()).isVisible();
        page.reload();
        assertThat(page.locator(".v-theme--night").first()).isVisible();
    }

    @Test
    void thePaletteJumpsToPagesAndRecordsByTyping() {
        administrator("/coverage");
        assertThat(heading("Coverage")).isVisible();
        page.keyboard().press("Control+k");
        page.getByLabel("What to look for").fill("plcs");
        assertThat(page.getByRole(AriaRole.OPTION).first()).containsText("Policies");
        page.keyboard().press("Enter");
        assertThat(heading("Policies")).isVisible();
        page.keyboard().press("Control+k");
        page.getByLabel("What to look for").fill("qqqqqq");
        assertThat(page.getByText("Nothing fits")).isVisible();
        page.keyboard().press("Escape");
        assertThat(page.getByLabel("What to look for")).hasCount(0);
    }

    @Test
    void whatAListIsNarrowedToStandsInItsAddress() {
        administrator("/coverage");
        find().fill("Person kit");
        assertThat(page).hasURL(java.util.regex.Pattern.compile(".*[?&]find=Person(\\+|%20)kit.*"));
        page.reload();
        assertThat(find()).hasValue("Person kit");
        assertThat(page.locator("tbody tr")).hasCount(1);
    }
}
