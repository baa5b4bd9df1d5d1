package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Browsing.button;
import static jandrel.acceptance.Browsing.field;
import static jandrel.acceptance.Browsing.row;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import jandrel.api.ConnectionApi.AllowedHost;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.HostToAllow;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.ConnectionApi.ServerInfo;
import jandrel.demo.ServiceProcess;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What an administrator does with many connections, and with the server that they are at. */
@ExtendWith(Harbour.Shared.class)
class ManyConnectionsTest {
    private final Harbour h;

    ManyConnectionsTest(Harbour harbour) {
        h = harbour;
    }

    private ConnectionInfo connection(String account) throws Exception {
        return Arrays.stream(h.admin.get("/api/connections", ConnectionInfo[].class))
                .filter(c -> c.account().equals(account))
                .findFirst()
                .orElseThrow();
    }

    private void isSoon(String account, String state) {
        soon().until(() -> connection(account).state(), state::equals);
    }

    @Test
    void aTeamIsPausedAtOnceAndTheUndoResumesIt() throws Exception {
        List<String> accounts = List.of(h.person("many-ada", "rep"), h.person("many-bo", "rep"));
        h.csv(
                "people",
                "key,name,addresses,team\nmany-ada,Person many-ada,many-ada@corvane.example,Quays\n"
                        + "many-bo,Person many-bo,many-bo@corvane.example,Quays\n");
        h.connectMail("many-ada");
        h.connectMail("many-bo");
        for (String account : accounts) {
            isSoon(account, "capturing");
        }
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            String url = h.process.url() + "/connections?team=Quays";
            Browsing.signIn(page, url, "admin", ServiceProcess.ADMIN_PASSWORD);
            field(page, "Select all that are shown").click();
            button(page, "Pause 2").click();
            assertThat(page.getByText("2 connections paused")).isVisible();
            assertThat(row(page, "Person many-bo")).containsText("paused");
            button(page, "Undo").click();
            assertThat(row(page, "Person many-bo").getByText("paused")).hasCount(0);
        }
        assertThat(Client.of(h).run("pause", "--all", "--team", "Quays")).contains("2 connections paused.");
        assertThat(Client.of(h).run("look", "--all", "--team", "Quays"))
                .contains("many-bo@corvane.example: Nothing of it is looked at.", "0 connections synced now.");
        assertThat(Client.of(h).run("remind", "--all", "--team", "Quays"))
                .contains("No mail can go out", "jandrel.smtp.host");
        assertThat(Client.of(h).run("resume", "--all", "--team", "Quays", "--state", "paused"))
                .contains("2 connections captured again.");
    }

    @Test
    void whatEndedIsConnectedAgainByTheSameCommand() throws Exception {
        String account = h.person("many-cy", "rep");
        String[] connect = {"connect", "--person", "many-cy", "--server", "mail", "--account", account};
        assertThat(Client.of(h).run(connect)).contains("it is being read from");
        isSoon(account, "capturing");
        String id = connection(account).id().toString();
        Client.of(h).run("disconnect", id);
        assertThat(Client.of(h).run("look", id)).contains("Nothing of it is looked at");
        assertThat(Client.of(h).run(connect)).contains("it is being read from");
        isSoon(account, "capturing");
        assertThat(connection(account).id().toString()).isEqualTo(id);
    }

    @Test
    void anAccountThatIsNobodysAddressSaysSoAndIsAccepted() throws Exception {
        h.person("many-di", "rep");
        h.providers.addUser("many-shared@corvane.example");
        assertThat(Client.of(h)
                        .run(
                                "connect",
                                "--person",
                                "many-di",
                                "--server",
                                "mail",
                                "--account",
                                "many-shared@corvane.example"))
                .contains("but nothing is read: ", "jandrel accept ");
        String id = connection("many-shared@corvane.example").id().toString();
        assertThat(Client.of(h).run("accept", id)).contains("is taken as Person many-di’s");
        isSoon("many-shared@corvane.example", "capturing");
    }

    @Test
    void whatWasGivenForOneHostIsSentToNoOther() throws Exception {
        String account = h.person("many-eve", "rep");
        ServerInfo server = h.admin.post(
                "/api/servers",
                new NewServer("moving", "imap", "127.0.0.1", h.stand.port("IMAPS"), null),
                ServerInfo.class);
        Client.of(h).run("connect", "--person", "many-eve", "--server", "moving", "--account", account);
        isSoon(account, "capturing");
        String secrets = "SELECT count(*) FROM connection WHERE secret IS NOT NULL AND account = '" + account + "'";

        assertThat(Client.of(h).run("change-server", "moving", "--port", "1"))
                .contains("moving is at 127.0.0.1:1 now.");
        assertThat(h.process.count(secrets)).as("the same host").isEqualTo(1);
        assertThat(Client.of(h).run("change-server", "moving", "--host", "10.9.8.7"))
                .contains("This host leads into the company’s own network");
        assertThat(h.process.count(secrets)).isEqualTo(1);

        Instant changed;
        h.admin.post("/api/allowed-hosts", new HostToAllow("localhost"), AllowedHost[].class);
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            Browsing.signIn(page, h.process.url() + "/servers", "admin", ServiceProcess.ADMIN_PASSWORD);
            button(page, "Change moving").click();
            field(page, "Host").fill("localhost");
            field(page, "Port").fill(String.valueOf(h.stand.port("IMAPS")));
            assertThat(page.getByText("was given for 127.0.0.1, and is sent nowhere else"))
                    .isVisible();
            changed = Instant.now();
            button(page, "Save").click();
            assertThat(page.getByText("moving is changed; 1 account has to sign in again"))
                    .isVisible();
        }
        assertThat(h.process.count(secrets)).isZero();
        // a run that was to come anyway says the same
        Client.of(h).run("look", connection(account).id().toString());
        soon().until(() -> connection(account).lastRun() != null
                && connection(account).lastRun().isAfter(changed));
        assertThat(connection(account).state()).isEqualTo("needs-sign-in");
        assertThat(connection(account).detail()).contains("the server is now localhost");
        assertThat(Client.of(h).run("remove-server", "moving")).contains("The server is used");
        assertThat(server.hasSecret()).isFalse();
    }
}
