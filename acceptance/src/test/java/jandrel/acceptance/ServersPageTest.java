package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Browsing.begins;
import static jandrel.acceptance.Browsing.button;
import static jandrel.acceptance.Browsing.field;
import static jandrel.acceptance.Browsing.row;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.ConnectionApi.ServerInfo;
import jandrel.demo.Providers;
import jandrel.demo.ServiceProcess;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A server is tried step by step before it is added, and each failure says what to do. */
@ExtendWith(Harbour.Shared.class)
class ServersPageTest {
    private final Harbour h;

    ServersPageTest(Harbour harbour) {
        h = harbour;
    }

    @Test
    void aServerIsCheckedAddedAndRemovedUnlessItIsUsed() throws Exception {
        String address = h.person("server-ida", "rep");
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            Browsing.signIn(page, h.process.url() + "/servers", "admin", ServiceProcess.ADMIN_PASSWORD);
            assertThat(page.getByText("New server…")).isVisible();
            page.keyboard().press("c");
            Locator tried = page.getByLabel("What was tried");
            field(page, "Name").fill("Harbour mail");
            field(page, "Host").fill("127.0.0.1");
            field(page, "Port").fill("1");
            button(page, "Check it").click();
            assertThat(tried).containsText("nothing answers at port 1; check the port");
            field(page, "Port").fill(String.valueOf(h.stand.port("POSTGRES")));
            button(page, "Check it").click();
            assertThat(tried).containsText("it does not speak TLS at this port");
            field(page, "Port").fill(String.valueOf(h.stand.port("IMAPS")));
            field(page, "Account to try (may stay empty)").fill(address);
            field(page, "Its password, kept nowhere").fill("wrong");
            button(page, "Check it").click();
            assertThat(tried).containsText("its certificate is trusted");
            assertThat(tried.getByRole(AriaRole.LISTITEM).last()).containsText("sign-in");
            assertThat(tried.getByLabel("failed")).hasCount(1);
            field(page, "Its password, kept nowhere").fill(Providers.PASSWORD);
            button(page, "Check it").click();
            assertThat(tried).containsText("found inbox");
            assertThat(tried.getByLabel("failed")).hasCount(0);
            try (UntrustedServer untrusted = new UntrustedServer()) {
                field(page, "Port").fill(String.valueOf(untrusted.port()));
                button(page, "Check it").click();
                assertThat(tried)
                        .containsText("its certificate is not trusted for this name; add the company’s own authority");
            }
            Browsing.choose(page, "Kind", "Calendars (CalDAV)");
            field(page, "Port").fill(String.valueOf(h.stand.port("CALDAV")));
            field(page, "Path").fill("/nowhere/");
            button(page, "Check it").click();
            assertThat(tried).containsText("there are no calendars for this person at that path; check the path");
            Browsing.choose(page, "Kind", "Mail (IMAP)");
            field(page, "Port").fill(String.valueOf(h.stand.port("IMAPS")));
            button(page, "Check it").click();
            assertThat(tried).containsText("found inbox");
            button(page, "Add").click();
            Locator mail = begins(page, "Harbour mail");
            assertThat(mail).containsText("Each with a password");
            button(page, "Remove Harbour mail").click();
            assertThat(mail).hasCount(0);

            assertThat(page.getByRole(
                            AriaRole.CELL,
                            new Page.GetByRoleOptions().setName("here").setExact(true)))
                    .hasCount(0);
            h.connectMail("server-ida");
            button(page, "Remove mail").click();
            assertThat(page.getByText("The server is used. By ").first()).isVisible();
        }
        assertThat(h.admin.ask("GET", "/api/journal?kind=server", "").body()).contains("removed");
    }

    /** What is inside the company's network is reached while it is allowed, and not a moment longer: by listening neither. */
    @Test
    void aHostInsideIsReachedWhileItIsAllowed() throws Exception {
        String address = h.person("server-inga", "rep");
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            Browsing.signIn(page, h.process.url() + "/servers", "admin", ServiceProcess.ADMIN_PASSWORD);
            Locator settings = row(page, "the service’s settings");
            assertThat(settings).containsText("127.0.0.1");
            assertThat(settings.getByRole(AriaRole.BUTTON)).hasCount(0);
            field(page, "Name or address of a host").fill("LocalHost");
            page.keyboard().press("Enter");
            assertThat(page.getByText("LocalHost may be reached")).isVisible();
            h.admin.post(
                    "/api/servers",
                    new NewServer("inside", "imap", "localhost", h.stand.port("IMAPS"), null),
                    ServerInfo.class);
            h.admin.post(
                    "/api/connections",
                    new NewConnection("server-inga", "inside", address, Providers.PASSWORD),
                    Object.class);
            soon().until(() -> of(address).live());
            page.reload();
            Locator inside = begins(page, "localhost inside");
            assertThat(inside).isVisible();
            button(page, "Forbid localhost").click();
            assertThat(inside).hasCount(0);
            soon().until(() -> of(address).state().equals("refused"));
            assertThat(of(address).detail()).contains("network");
            assertThat(of(address).live()).isFalse();
            button(page, "Undo").click();
            assertThat(inside).isVisible();
            soon().until(() -> of(address).live());
            assertThat(of(address).state()).isEqualTo("capturing");
        }
        assertThat(h.admin.ask("DELETE", "/api/allowed-hosts/127.0.0.1", "").body())
                .contains("stands in the service’s settings");
        assertThat(Client.of(h).run("forbid-host", "localhost")).contains("localhost is reached no longer");
        assertThat(Client.of(h).run("forbid-host", "localhost")).contains("There is no such allowed host");
        assertThat(Client.of(h).run("allowed-hosts")).contains("127.0.0.1").doesNotContain("localhost");
        // it is offered to nobody else
        h.admin.ask("DELETE", "/api/connections/" + of(address).id() + "?forGood=true", "");
        assertThat(Client.of(h).run("remove-server", "inside")).contains("inside is removed");
    }

    private ConnectionInfo of(String account) throws Exception {
        return Arrays.stream(h.admin.get("/api/connections", ConnectionInfo[].class))
                .filter(c -> c.account().equals(account))
                .findFirst()
                .orElseThrow();
    }
}
