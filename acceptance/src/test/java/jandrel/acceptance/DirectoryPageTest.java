package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import jandrel.api.DirectoryApi.RowEdit;
import jandrel.api.DirectoryApi.RowEdits;
import jandrel.api.DirectoryApi.RowsChanged;
import jandrel.api.DirectoryApi.TablePage;
import jandrel.api.DirectoryApi.TableRow;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.formats.table.ForeignTable;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;

/** The directory that one works in, in headless Chromium and over HTTP. */
@ExtendWith(Harbour.Shared.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class DirectoryPageTest {
    private final Harbour h;
    private Browsing browsing;
    private Page page;

    DirectoryPageTest(Harbour harbour) {
        h = harbour;
    }

    @BeforeAll
    void open() throws Exception {
        browsing = Browsing.open();
        String dora = h.person("dir-dora", "rep");
        h.account("dir-port");
        h.account("dir-quay");
        Instant at = Instant.now().truncatedTo(ChronoUnit.SECONDS).minus(2, ChronoUnit.HOURS);
        h.providers.mail(dora, "", at, letter("dir-1", at, "wim@dir-new.example", dora, "From nobody known", "Text"));
        h.connectMail("dir-dora");
        h.settle();
    }

    @AfterAll
    void close() {
        browsing.close();
    }

    @BeforeEach
    void newPage() {
        page = signedIn();
    }

    @AfterEach
    void closePage() {
        page.context().close();
    }

    private Page signedIn() {
        Page opened = browsing.page();
        Browsing.signIn(opened, h.process.url() + "/directory", "admin", ServiceProcess.ADMIN_PASSWORD);
        assertThat(opened.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Directory")))
                .isVisible();
        return opened;
    }

    private static Locator button(Page on, String name) {
        return on.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private static Locator said(Page on) {
        return on.locator(".v-snackbar");
    }

    private TableRow row(String kind, String name) throws Exception {
        return h.admin
                .get("/api/directory/" + kind + "?where.name=" + name.replace(" ", "%20"), TablePage.class)
                .rows()
                .get(0);
    }

    /** Who may be the same person stands on each other's page, until somebody says otherwise; both choices can be taken back. */
    @Test
    void whoMayBeTheSamePersonIsMergedOrToldApart() throws Exception {
        h.csv(
                "contacts",
                "key,name,addresses,account\ndir-twin,Turid Naes,turid@dir-quay.example,dir-quay\n"
                        + "dir-twin2,T. Naes,t.naes@dir-quay.example,dir-quay");
        UUID turid = h.record("Turid Naes");
        page.navigate(h.process.url() + "/timeline/" + turid + "?view=facts");
        Locator note = page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("May be the same person"));
        assertThat(note).containsText("t.naes@dir-quay.example");
        assertThat(note).containsText("one name may be short for the other");

        button(page, "T. Naes is another person").click();
        assertThat(note).hasCount(0);
        said(page).getByText("Undo").click();
        assertThat(note).isVisible();

        button(page, "Merge T. Naes into this contact").click();
        assertThat(note).hasCount(0);
        assertThat(said(page)).containsText("merged T. Naes into Turid Naes");
        assertThat(row("contacts", "Turid Naes").values().get("addresses")).contains("t.naes@dir-quay.example");
        said(page).getByText("Undo").click();
        assertThat(note).isVisible();
        assertThat(row("contacts", "T. Naes").key()).isEqualTo("dir-twin2");
    }

    /** The mail that came before anybody knew its author stands on the new contact's timeline, and goes with it again. */
    @Test
    void aRecordIsMadeEditedOnTwoScreensMergedAndAllThatUndone() throws Exception {
        page.navigate(h.process.url() + "/directory?kind=contacts");
        button(page, "New contact").click();
        page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Wim Aas");
        page.getByLabel("Mail address").fill("wim@dir-new.example");
        button(page, "Create").click();
        assertThat(said(page)).containsText("Wim Aas; 1 decision");
        UUID wim = h.record("Wim Aas");
        soon().until(() -> h.timeline(wim).size() == 1);

        Page other = signedIn();
        for (Page each : List.of(page, other)) {
            each.navigate(h.process.url() + "/timeline/" + wim + "?view=facts");
            assertThat(each.getByLabel("Title")).isVisible();
        }
        other.getByLabel("Title").fill("Diver");
        page.getByLabel("Title").fill("Captain");
        button(page, "Save").click();
        assertThat(said(page)).containsText("Saved Wim Aas");
        // what the other one typed is still there, beside what was saved meanwhile
        assertThat(other.getByText("Changed meanwhile: Title is now “Captain”."))
                .isVisible();
        assertThat(other.getByLabel("Title")).hasValue("Diver");
        button(other, "Save").click();
        assertThat(said(other)).containsText("Saved Wim Aas");
        assertThat(row("contacts", "Wim Aas").values()).containsEntry("title", "Diver");
        assertThat(row("contacts", "Wim Aas").byHand()).contains("title");
        other.context().close();

        assertThat(page.getByLabel("Title")).hasValue("Diver");
        button(page, "Merge…").click();
        page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("The contact that stays"))
                .fill("Bram of dir-port");
        page.getByRole(AriaRole.OPTION).first().click();
        button(page, "Merge").click();
        assertThat(said(page)).containsText("merged Wim Aas into Bram of dir-port; 1 decision");
        // the way back stays while the pointer is on it, however long the decision takes
        said(page).getByText("Undo").hover();
        UUID bram = h.record("Bram of dir-port");
        soon().until(() -> h.timeline(bram).size() == 1);
        // who has the address of the one that went finds the one that it became
        Page late = signedIn();
        late.navigate(h.process.url() + "/timeline/" + wim + "?view=facts");
        assertThat(late.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Bram of dir-port")))
                .isVisible();
        assertThat(late).hasURL(h.process.url() + "/timeline/" + bram + "?view=facts");
        late.context().close();
        said(page).getByText("Undo").click();
        // until that is done, there is no such record
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Wim Aas")))
                .isVisible();
        soon().until(() -> h.timeline(wim).size() == 1 && h.timeline(bram).isEmpty());
    }

    /** An account that is there twice: what both have is the one's, until it is undone. */
    @Test
    void twoAccountsBecomeOneAndTwoAgain() throws Exception {
        h.csv(
                "accounts",
                "key,name,domains\ndir-yard,Yard of Dorn AS,yard.example\ndir-yard2,Yard of Dorn,dorn.example");
        h.csv("contacts", "key,name,addresses,account\ndir-eli,Eli Dorn,eli@dorn.example,dir-yard2");
        UUID stays = row("accounts", "Yard of Dorn AS").id();
        Page page = signedIn();
        page.navigate(h.process.url() + "/timeline/" + stays + "?view=facts");
        assertThat(page.getByText("names that differ in their form alone")).isVisible();
        button(page, "Merge Yard of Dorn into this account").click();
        assertThat(said(page)).containsText("merged Yard of Dorn into Yard of Dorn AS");
        said(page).getByText("Undo").hover();
        TableRow eli = row("contacts", "Eli Dorn");
        assertThat(eli.values()).containsEntry("account", "dir-yard");
        assertThat(page.getByText("Eli Dorn")).isVisible();
        said(page).getByText("Undo").click();
        soon().until(() -> row("contacts", "Eli Dorn").values().get("account").equals("dir-yard2"));
        button(page, "Yard of Dorn is another customer").click();
        assertThat(said(page)).containsText("are two customers");
        assertThat(page.getByText("May be the same customer")).hasCount(0);

        UUID lead = h.record("Eli Dorn");
        HttpResponse<String> refused =
                h.admin.ask("POST", "/api/triage/merge", Client.json(Map.of("stays", stays, "goes", lead)));
        assertThat(refused.statusCode()).isEqualTo(400);
        assertThat(refused.body()).contains("These are two kinds of records");
    }

    /** Somebody else saved between loading and saving: nothing is lost, nothing is overwritten unseen. */
    @Test
    void whoComesSecondIsToldAndDecides() throws Exception {
        h.account("dir-race");
        TableRow seen = row("accounts", "Account dir-race");
        RowEdits first =
                new RowEdits(List.of(new RowEdit(seen.id(), seen.version(), Map.of("name", "First"), null, null)));
        RowsChanged done = h.admin.put("/api/directory/accounts", first, RowsChanged.class);
        HttpResponse<String> second = h.admin.ask("PUT", "/api/directory/accounts", Client.json(first));
        assertThat(second.statusCode()).isEqualTo(409);
        assertThat(second.body()).contains("Somebody else changed this");
        h.admin.put("/api/directory/accounts", new RowEdits(done.undo()), RowsChanged.class);
        TableRow now = h.admin.get("/api/directory/accounts/" + seen.id(), TableRow.class);
        assertThat(now.values()).isEqualTo(seen.values());
        assertThat(now.byHand()).isEqualTo(seen.byHand());
    }

    @Test
    void severalAtOnceAllOrNone() throws Exception {
        h.account("dir-bulk-1");
        h.account("dir-bulk-2");
        page.navigate(h.process.url() + "/directory?find=dir-bulk");
        assertThat(page.getByText("2 accounts")).isVisible();
        page.getByLabel("All on this page").check();
        page.getByLabel("New owner").fill("Person dir-dora");
        page.getByRole(AriaRole.OPTION).first().click();
        button(page, "Set owner").click();
        assertThat(said(page)).containsText("2 accounts have a new owner");
        assertThat(page.locator("tbody").getByText("Person dir-dora")).hasCount(2);
        said(page).getByText("Undo").click();
        assertThat(page.locator("tbody").getByText("Person dir-dora")).hasCount(0);
        page.getByLabel("Select Account dir-bulk-1").check();
        button(page, "Archive").click();
        assertThat(page.getByText("1 account", new Page.GetByTextOptions().setExact(true)))
                .isVisible();

        TableRow one = row("accounts", "Account dir-bulk-2");
        TableRow two = row("accounts", "Account dir-quay");
        HttpResponse<String> refused = h.admin.ask(
                "PUT",
                "/api/directory/accounts",
                Client.json(new RowEdits(List.of(
                        new RowEdit(one.id(), one.version(), Map.of("name", "Changed"), null, null),
                        new RowEdit(two.id(), two.version(), Map.of("domains", "dir-port.example"), null, null)))));
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body()).contains("already belongs to");
        assertThat(row("accounts", "dir-bulk-2").values()).containsEntry("name", "Account dir-bulk-2");
        Service dora = h.process.signedIn("dir-dora", Providers.PASSWORD);
        assertThat(dora.ask("PUT", "/api/directory/accounts", Client.json(new RowEdits(List.of())))
                        .statusCode())
                .as("a rep reads the directory, and does not change it")
                .isEqualTo(403);
        assertThat(dora.ask("GET", "/api/directory/accounts?sort=password", "").statusCode())
                .isEqualTo(400);
    }

    private static final String FOREIGN = """
            Contact ID;First name;Last name;Customer;E-mail;Street address;Notes
            901;Ida;Moe;Account dir-port;ida@dir-port.example;Quay 3;x
            902;Ole;Berg;dir-quay.example;ole@dir-quay.example;Pier 1;y
            903;Eva;Lund;No Such Company;eva@nowhere.example;;
            904;Per;Vik;Account dir-port;not an address;;
            """;

    @Test
    void aFileWithHeadingsOfItsOwnIsMatchedShownTakenAndItsRestDownloaded() throws Exception {
        page.navigate(h.process.url() + "/directory?kind=import");
        Browsing.choose(page, "The file holds", "Contacts");
        page.locator("input[type=file]")
                .setInputFiles(new FilePayload("theirs.csv", "text/csv", FOREIGN.getBytes(StandardCharsets.UTF_8)));
        Locator effect = page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("What it would do"));
        assertThat(effect).containsText("2 added");
        assertThat(effect).containsText("2 left out");
        assertThat(effect).containsText("there is no account with the key “No Such Company”");
        // what was not known is said by hand, and what it comes to is shown at once
        Browsing.choose(page, "What Notes is", "Title");
        assertThat(effect).containsText("2 added");
        assertThat(h.admin
                        .get("/api/directory/contacts?find=ida@dir-port.example", TablePage.class)
                        .total())
                .as("looking changes nothing")
                .isZero();
        button(page, "Take 2 lines").click();
        assertThat(page.getByText("2 added, 0 changed, 0 as they were, 2 left out."))
                .isVisible();
        TableRow ida = row("contacts", "Ida Moe");
        assertThat(ida.values())
                .containsEntry("account_name", "Account dir-port")
                .containsEntry("addresses", "ida@dir-port.example")
                .containsEntry("title", "x");
        Download rest = page.waitForDownload(
                () -> page.getByText("Download the lines that were left out").click());
        assertThat(Files.readString(rest.path()))
                .contains("903,Eva,Lund", "there is no account", "904,Per,Vik", "is not a mail address")
                .doesNotContain("Ida");
        // the same file again: its columns are remembered, and there is nothing to do
        button(page, "Another file").click();
        page.locator("input[type=file]")
                .setInputFiles(new FilePayload("theirs.csv", "text/csv", FOREIGN.getBytes(StandardCharsets.UTF_8)));
        assertThat(effect).containsText("2 as they are");
        // and all of it is undone: nothing is left of it, on any screen
        button(page, "Cancel").click();
        page.getByLabel("Undo theirs.csv").first().click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("is removed (2)");
        button(page, "Undo the file").click();
        assertThat(dialog).containsText("2 removed, 0 as before.");
        button(page, "Close").click();
        assertThat(page.getByLabel("Undo theirs.csv")).hasCount(0);
        assertThat(h.admin
                        .get("/api/directory/contacts?find=ida@dir-port.example", TablePage.class)
                        .total())
                .isZero();
    }

    private byte[] exported(String format) throws Exception {
        HttpResponse<byte[]> answer = HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(h.process.url() + "/api/directory/accounts/export." + format
                                        + "?where.name=dir-port"))
                                .header(
                                        "Authorization",
                                        "Bearer " + Client.of(h).token())
                                .build(),
                        HttpResponse.BodyHandlers.ofByteArray());
        assertThat(answer.statusCode()).isEqualTo(200);
        return answer.body();
    }

    /** Files are larger than what people type. */
    @Test
    void aFileOfHundredsOfKilobytesIsTaken() throws Exception {
        StringBuilder file = new StringBuilder("key,name,addresses\n");
        for (int i = 0; i < 3_000; i++) {
            file.append("dir-many-%d,Many %d,many%d@dir-many.example\n".formatted(i, i, i));
        }
        assertThat(h.csv("leads", file.toString()).added()).isEqualTo(3_000);
        assertThat(h.admin
                        .get("/api/directory/leads?find=dir-many", TablePage.class)
                        .total())
                .isEqualTo(3_000);
    }

    /** What a table shows comes out, and goes in again as it was. */
    @Test
    void aTableIsExportedAsItIsNarrowed() throws Exception {
        for (String format : List.of("csv", "xlsx")) {
            ForeignTable table = ForeignTable.of(exported(format));
            assertThat(table.heading()).startsWith("key", "name", "domains", "owner");
            assertThat(table.lines()).hasSize(1);
            assertThat(table.lines().get(0)).startsWith("dir-port", "Account dir-port", "dir-port.example");
        }
    }

    @Test
    void theClientListsChangesAndTakesInFiles() throws Exception {
        h.account("dir-cli");
        Client client = Client.of(h);
        assertThat(client.run("directory", "contacts", "--where", "account==dir-cli"))
                .contains("dir-cli-bram", "bram@dir-cli.example", "1 contact");
        assertThat(client.run("change", "contacts", "dir-cli-bram", "title=Pilot", "account=dir-port"))
                .contains("Changed 1 contact");
        assertThat(client.run("directory", "contacts", "--find", "dir-cli-bram"))
                .contains("Pilot", "Account dir-port");
        assertThat(client.run("change", "contacts", "dir-cli-bram", "account=no-such"))
                .contains("there is no account with the key");
        assertThat(client.run("change", "accounts", "dir-cli", "--archive")).contains("Changed 1 account");
        assertThat(client.run("directory", "accounts", "--find", "dir-cli")).contains("No accounts");
        Path folder = Files.createTempDirectory("directory");
        Path theirs = Files.writeString(
                folder.resolve("theirs.csv"), "Who,Where,Mail\nKai,Account dir-port,kai@dir-port.example\n,x,y\n");
        assertThat(client.run("import-from", "contacts", theirs.toString())).contains("Nothing is the name");
        Path mapping = Files.writeString(folder.resolve("mapping.txt"), "Who = name\nWhere = account\n");
        Path rest = folder.resolve("rest.csv");
        assertThat(client.run(
                        "import-from",
                        "contacts",
                        theirs.toString(),
                        "--mapping",
                        mapping.toString(),
                        "--left-out",
                        rest.toString()))
                .contains("1 added, 0 changed, 0 as they are, 1 left out", "Nothing was changed");
        assertThat(Files.readString(rest)).contains("the cell is empty").doesNotContain("Kai");
        assertThat(client.run("import-from", "contacts", theirs.toString(), "--mapping", mapping.toString(), "--take"))
                .contains("Taken: 1 added", "jandrel imports undo ");
        Path table = folder.resolve("contacts.xlsx");
        assertThat(client.run("directory", "contacts", "--find", "kai@dir-port", "--to", table.toString()))
                .contains("Written");
        assertThat(ForeignTable.of(Files.readAllBytes(table)).lines()).hasSize(1);
        String files = client.run("imports");
        String id = files.lines()
                .filter(line -> line.contains("theirs.csv") && line.contains("contacts"))
                .map(line -> line.substring(0, 36))
                .findFirst()
                .orElseThrow();
        assertThat(client.run("imports", "undo", id))
                .contains("1 removed, 0 archived, 0 as before, 0 left as they are.");
        assertThat(client.run("directory", "contacts", "--find", "kai@dir-port"))
                .contains("No contacts");
        assertThat(client.run("imports", "undo", id)).contains("There is nothing to undo");
        assertThat(client.run("imports")).contains("undone");
    }
}
