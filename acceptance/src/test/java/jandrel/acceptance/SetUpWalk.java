package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Browsing.begins;
import static jandrel.acceptance.Browsing.button;
import static jandrel.acceptance.Browsing.field;
import static jandrel.acceptance.Browsing.row;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import jandrel.demo.ServiceProcess;
import java.nio.charset.StandardCharsets;

/** An administrator’s way from the first password to everybody connected, by the console alone. */
final class SetUpWalk {
    private final Harbour h;
    private final Page page;

    SetUpWalk(Harbour h, Page page) {
        this.h = h;
        this.page = page;
    }

    /** @param people 300 of them, as a file; {@code accounts} and {@code contacts} one each */
    void all(String people, String accounts, String contacts) {
        Browsing.signIn(page, h.process.url(), "admin", ServiceProcess.ADMIN_PASSWORD);
        assertThat(page.getByText("0 of 7 done").or(page.getByText("1 of 7 done")))
                .isVisible();
        step("Domains");
        field(page, "Our own domains").fill("corvane.example");
        button(page, "Save domains").click();
        assertThat(page.getByText("Saved; what carries them is decided again.")).isVisible();
        take("Our people", people, "300 lines");
        take("Accounts", accounts, "1 line");
        take("Contacts", contacts, "1 line");
        step("Servers");
        button(page, "New server…").click();
        field(page, "Name").fill("all mail");
        field(page, "Host").fill("127.0.0.1");
        field(page, "Port").fill(String.valueOf(h.stand.port("IMAPS")));
        Browsing.choose(page, "How people sign in there", "One master sign-in for all");
        field(page, "Master login").fill("jandrel");
        field(page, "Secret").fill("organisation-lights-26");
        field(page, "Account to try (may stay empty)").fill("floor0@corvane.example");
        button(page, "Check it").click();
        assertThat(page.getByLabel("What was tried")).containsText("found inbox");
        button(page, "Add").click();
        assertThat(begins(page, "all mail")).containsText("One master sign-in for all");
        step("Connect");
        // one first, to see that it is right
        page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("Person"))
                .fill("Person 77");
        page.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName("Person 77"))
                .click();
        Browsing.choose(page, "Server", "all mail");
        button(page, "Connect").click();
        assertThat(row(page, "Person 77")).containsText("capturing");
        assertThat(row(page, "Person 77").getByRole(AriaRole.CELL).nth(6)).hasText("1");
        button(page, "Connect everyone at all mail").click();
        assertThat(page.getByText("299 connected, 1 were already, 0 left.")).isVisible();
    }

    /** From the overview’s list of what is to be set up. */
    private void step(String action) {
        page.navigate(h.process.url());
        page.getByRole(AriaRole.LISTITEM)
                .getByRole(
                        AriaRole.LINK,
                        new Locator.GetByRoleOptions().setName(action).setExact(true))
                .click();
    }

    private void take(String kind, String lines, String says) {
        step("Import");
        Browsing.choose(page, "The file holds", kind);
        page.locator("input[type=file]")
                .setInputFiles(new FilePayload("theirs.csv", "text/csv", lines.getBytes(StandardCharsets.UTF_8)));
        button(page, "Take " + says).click();
        assertThat(page.getByText("Taken.")).isVisible();
    }
}
