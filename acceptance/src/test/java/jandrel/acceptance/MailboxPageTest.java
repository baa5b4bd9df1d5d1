package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Browsing.button;
import static jandrel.acceptance.Browsing.choose;
import static jandrel.acceptance.Browsing.field;
import static jandrel.acceptance.Harbour.letter;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.api.PolicyApi.CoverageInfo;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A rep connects what is theirs without anybody's help, sees what comes of it, and narrows who sees it. */
@ExtendWith(Harbour.Shared.class)
class MailboxPageTest {
    private final Harbour h;

    MailboxPageTest(Harbour harbour) {
        h = harbour;
    }

    private static Locator part(Page page, String label) {
        return page.getByLabel(label, new Page.GetByLabelOptions().setExact(true));
    }

    @Test
    void aRepConnectsTheirOwnMailAndSeesWhatComesOfIt() throws Exception {
        String address = h.person("own-mia", "rep");
        h.account("own-harbour");
        Instant now = Instant.now();
        for (int i = 0; i < 260; i++) {
            Instant at = now.minus(i + 1, ChronoUnit.HOURS);
            String from = i % 2 == 0
                    ? "bram@own-harbour.example"
                    : i % 4 == 1 ? "stranger@nowhere.example" : "colleague@corvane.example";
            h.providers.mail(address, "", at, letter("own-mia-" + i, at, from, address, "Berth " + i, "x"));
        }
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            Browsing.signIn(page, h.process.url() + "/mailbox", "own-mia", Providers.PASSWORD);
            Locator mail = part(page, "Connect your mail");
            assertThat(mail.getByLabel("Account")).hasAttribute("placeholder", address);
            mail.getByLabel("Password there").fill("wrong");
            button(page, "Connect your mail").click();
            assertThat(part(page, "Your mail")).containsText("needs sign in");
            button(page, "New password").click();
            field(page, "Password").fill(Providers.PASSWORD);
            page.keyboard().press("Enter");
            assertThat(part(page, "Your mail"))
                    .containsText(
                            "260 messages seen, 130 of them on timelines, 65 waiting until somebody says who the people are");
            assertThat(page.getByText("Berth 0")).isVisible();
            assertThat(page.getByText("Left out: everybody on it is from our own company.")
                            .first())
                    .isVisible();
            part(page, "Connect your calendar").getByLabel("Password there").fill(Providers.PASSWORD);
            button(page, "Connect your calendar").click();
            assertThat(part(page, "Your calendars")).containsText("0 meetings seen");
            assertThat(page.getByRole(AriaRole.LISTITEM)
                            .filter(new Locator.FilterOptions().setHasText("mail"))
                            .first())
                    .isVisible();
            choose(page, "What your sources bring is read by", "those who are on it");
            assertThat(page.getByText("Who sees yours is changed")).isVisible();
        }
        Service mia = h.process.signedIn("own-mia", Providers.PASSWORD);
        assertThat(mia.get("/api/coverage", CoverageInfo[].class)[0].sharing()).isEqualTo("those-on-it");
        // what others may connect is theirs alone
        HttpResponse<String> others = mia.ask("GET", "/api/servers", "");
        assertThat(others.statusCode()).isEqualTo(403);
        assertThat(mia.ask("GET", "/api/offers", "").body())
                .contains("calendars")
                .doesNotContain("127.0.0.1");
    }

    @Test
    void whoIsNobodyOfTheCompanyIsToldSo() throws Exception {
        h.admin.addSignIn("own-nobody", "Nobody", Providers.PASSWORD, "auditor", null);
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            Browsing.signIn(page, h.process.url() + "/mailbox", "own-nobody", Providers.PASSWORD);
            assertThat(page.getByText("This sign-in belongs to no person of the company"))
                    .isVisible();
        }
    }
}
