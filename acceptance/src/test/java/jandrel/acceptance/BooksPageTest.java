package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Browsing.button;
import static jandrel.acceptance.Browsing.row;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.RecordApi.RecordPage;
import jandrel.demo.Providers;
import jandrel.demo.ServiceProcess;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Contacts in the console: switched on, seen before they come, settled, brought back and taken back. */
class BooksPageTest {
    private static long contacts(Harbour h, String name) throws Exception {
        return h.admin
                .get("/api/records?kind=contact&name=" + name.replace(" ", "%20"), RecordPage.class)
                .total();
    }

    private static void crowd(Harbour h, String who) throws Exception {
        for (int n = 0; n < 4; n++) {
            h.providers.card(
                    who,
                    "c" + n + ".vcf",
                    "UID:crowd-" + n,
                    "FN:Crowd Member" + n,
                    "N:Member" + n + ";Crowd;;;",
                    "ORG:Ravnkilde Marin",
                    "EMAIL:m" + n + "@crowd.example");
        }
    }

    @Test
    void contactsAreSwitchedOnSeenSettledBroughtBackAndTakenBack() throws Exception {
        try (Harbour h = Harbour.open("books_page", Map.of("JANDREL_LOOK_EVERY", "1s"));
                Browsing browsing = Browsing.open()) {
            String who = h.person("paige", "rep");
            h.providers.book(who);
            h.account("twin");
            h.csv("accounts", "key,name\nravn,Ravnkilde Marine");
            h.csv(
                    "contacts",
                    "key,name,addresses,account,title\ntwin-a,Desk North,desk@twin.example,twin,\n"
                            + "twin-b,Desk South,desk@twin.example,twin,\ntwin-bram,Bram of twin,bram@twin.example,twin,Director");
            h.providers.card(who, "desk.vcf", "UID:desk", "FN:The Desk", "N:;Desk;;;", "EMAIL:desk@twin.example");
            h.providers.card(
                    who,
                    "bram.vcf",
                    "UID:bram",
                    "FN:Bram of twin",
                    "N:Twin;Bram;;;",
                    "EMAIL:bram@twin.example",
                    "TITLE:Deputy",
                    "REV:2020-01-01T00:00:00Z");
            h.providers.card(who, "aunt.vcf", "UID:aunt", "FN:Aunt", "N:;Aunt;;;", "CLASS:PRIVATE");
            crowd(h, who);
            h.admin.post(
                    "/api/servers",
                    new NewServer("books", "carddav", "127.0.0.1", h.stand.port("CALDAV"), "/"),
                    Object.class);
            h.admin.post(
                    "/api/connections", new NewConnection("paige", "books", who, Providers.PASSWORD), Object.class);

            Page page = browsing.page();
            Browsing.signIn(page, h.process.url() + "/policy", "admin", ServiceProcess.ADMIN_PASSWORD);
            page.locator(".pick")
                    .filter(new Locator.FilterOptions().setHasText("Everyone"))
                    .click();
            Browsing.choose(page, "Contacts", "are kept the same in address books and here");
            page.getByLabel("Ask above").fill("3");
            button(page, "Apply this change").click();
            page.navigate(h.process.url() + "/address-books");
            Locator book = row(page, "Person paige");
            assertThat(book).containsText("waits for approval");
            assertThat(book).containsText("both ways");
            assertThat(contacts(h, "Crowd Member")).isZero();

            book.click();
            Locator pane = page.getByLabel("Address book", new Page.GetByLabelOptions().setExact(true));
            assertThat(pane).containsText("It would make 4 new contacts.");
            assertThat(pane).containsText("Crowd Member2 (Ravnkilde Marin)");
            assertThat(pane).containsText("Left out: marked as private");
            button(page, "Approve and start").click();
            assertThat(pane).not().containsText("Nothing happens yet");
            soon().until(() -> contacts(h, "Crowd Member") == 4);

            // one card fits two
            page.keyboard().press("2");
            assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("The Desk")))
                    .isVisible();
            button(page, "It is Desk South").click();
            assertThat(page.getByText("Every card is somebody’s")).isVisible();

            // nobody knows their company, but one is called alike
            page.keyboard().press("3");
            row(page, "Crowd Member1")
                    .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Ravnkilde Marine"))
                    .click();
            assertThat(page.getByText("Crowd Member1 is at Ravnkilde Marine")).isVisible();
            soon().until(() -> h.process.count("SELECT count(*) FROM contact c JOIN account a ON a.id = c.account"
                            + " WHERE c.name = 'Crowd Member1' AND a.key = 'ravn'")
                    == 1);
            // the card says so, too
            soon().until(() -> h.providers.cardText(who, "c1.vcf").orElse("").contains("ORG:Ravnkilde Marine"));

            // or it is a company of its own
            row(page, "Crowd Member2")
                    .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("New account"))
                    .click();
            assertThat(page.getByText("3 contacts are at Ravnkilde Marin, a new account"))
                    .isVisible();
            soon().until(() -> h.process.count(
                            "SELECT count(*) FROM contact c JOIN account a ON a.id = c.account"
                                    + " JOIN account_domain d ON d.account = a.id"
                                    + " WHERE c.name LIKE 'Crowd Member%' AND a.name = 'Ravnkilde Marin' AND d.domain = '@crowd.example'")
                    == 3);
            button(page, "Undo").click();
            assertThat(page.getByText("Undone: ")).isVisible();
            assertThat(row(page, "Crowd Member2")
                            .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("New account")))
                    .isVisible();
            assertThat(h.process.count("SELECT count(*) FROM account WHERE name = 'Ravnkilde Marin'"))
                    .isZero();

            // ours was newer; theirs is one click away
            page.keyboard().press("4");
            Locator conflict = row(page, "Bram of twin").filter(new Locator.FilterOptions().setHasText("Deputy"));
            assertThat(conflict).containsText("Director");
            conflict.getByText("Use the other value").click();
            soon().until(() -> h.process.count("SELECT count(*) FROM contact WHERE title = 'Deputy'") == 1);

            removals(h, page, who);
            ownBook(h, page);

            page.navigate(h.process.url() + "/address-books");
            Locator people = row(page, "Person paige").filter(new Locator.FilterOptions().setHasText("People"));
            people.click();
            button(page, "Take back 4…").click();
            button(page, "Take back 4").click();
            assertThat(page.getByText("contacts and 0 cards are taken back")).isVisible();
            assertThat(people).containsText("waits for approval");
            soon().until(() -> contacts(h, "Crowd Member") == 0);
            assertThat(h.providers.cards(who)).as("their cards are theirs").hasSize(6);
        }
    }

    /** Opens the policy that covers them. */
    private static void everyone(Harbour h, Page page) {
        page.navigate(h.process.url() + "/policy");
        page.locator(".pick")
                .filter(new Locator.FilterOptions().setHasText("Everyone"))
                .click();
    }

    /** What goes out has a book of its own, made where there is none. */
    private static void ownBook(Harbour h, Page page) {
        everyone(h, page);
        Browsing.choose(page, "Which contacts", "of the whole directory");
        Browsing.choose(page, "Into which book", "a book of their own, called");
        page.getByLabel("Name of that book").fill("Corvane & customers");
        page.getByLabel("Name of that book").press("Tab");
        button(page, "Apply this change").click();
        page.navigate(h.process.url() + "/address-books");
        assertThat(row(page, "Corvane & customers")).containsText("contacts go there");
        soon().until(() -> h.process.count("SELECT count(*) FROM card d JOIN source o ON o.id = d.source"
                        + " WHERE o.label = 'Corvane & customers' AND d.made_here AND d.base IS NOT NULL")
                == 1);
    }

    /** What one side removes, somebody says of whether the other does, too. */
    private static void removals(Harbour h, Page page, String who) throws Exception {
        everyone(h, page);
        Browsing.choose(page, "Removed from a book", "stays until somebody says whether to archive them");
        Browsing.choose(page, "Removed here", "stay until somebody says whether to remove them");
        button(page, "Apply this change").click();
        page.navigate(h.process.url() + "/address-books?view=removed");
        assertThat(page.getByText("Nothing waits that was removed on one side")).isVisible();

        h.providers.removeCard(who, "c2.vcf");
        Locator there = row(page, "Crowd Member2");
        assertThat(there).containsText("of Person paige");
        button(page, "Archive the contact").click();
        assertThat(page.getByText("Crowd Member2 is archived")).isVisible();
        soon().until(() -> contacts(h, "Crowd Member2") == 0);

        Client client = Client.of(h);
        assertThat(client.run("change", "contacts", "twin-bram", "--archive"))
                .contains("Changed 1 contact.")
                .contains("What was archived stands in 1 address book");
        assertThat(row(page, "Bram of twin")).containsText("Remove the card");
        String asked = client.run("contacts", "removed");
        assertThat(asked).contains("Bram of twin").contains("1 open removal");
        String id = asked.replaceAll("(?s).*([0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}).*", "$1");
        assertThat(client.run("contacts", "answer", id, "--keep")).contains("1 removal answered.");
        assertThat(page.getByText("Nothing waits that was removed on one side")).isVisible();
        assertThat(h.providers.cardText(who, "bram.vcf")).as("it stays").isPresent();
        assertThat(client.run("change", "contacts", "twin-bram", "--bring-back"))
                .contains("Changed 1 contact.");
        soon().until(() -> h.process.count("SELECT count(*) FROM card d JOIN contact c ON c.id = d.contact"
                        + " WHERE c.key = 'twin-bram' AND NOT d.detached")
                == 1);
    }
}
