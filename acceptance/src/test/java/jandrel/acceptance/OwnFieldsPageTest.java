package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import jandrel.api.DirectoryApi.FieldInfo;
import jandrel.api.DirectoryApi.FieldList;
import jandrel.api.DirectoryApi.TablePage;
import jandrel.api.DirectoryApi.TableRow;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Fields of contacts that the company made for itself: in the console, by HTTP and by the client. */
@ExtendWith(Harbour.Shared.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class OwnFieldsPageTest {
    private final Harbour h;
    private Browsing browsing;

    OwnFieldsPageTest(Harbour harbour) {
        h = harbour;
    }

    @BeforeAll
    void open() throws Exception {
        browsing = Browsing.open();
        h.person("own-rep", "rep");
        h.account("own-port");
        h.csv(
                "contacts",
                "key,name,addresses,account\nown-ada,Ada Own,ada@own-port.example,own-port\nown-bo,Bo Own,bo@own-port.example,own-port");
    }

    @AfterAll
    void close() throws Exception {
        // the service is others', too
        h.admin.put("/api/fields", new FieldList(List.of()), FieldList.class);
        browsing.close();
    }

    private TableRow row(String key) throws Exception {
        return h.admin
                .get("/api/directory/contacts?find=" + key.replace("own-", "") + "@own-port.example", TablePage.class)
                .rows()
                .get(0);
    }

    private static Locator button(Locator on, String name) {
        return on.getByRole(
                AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(name).setExact(true));
    }

    @Test
    void theyAreMadeFilledInFoundAndTakenFromAFile() throws Exception {
        Page page = browsing.page();
        Browsing.signIn(page, h.process.url() + "/directory?kind=contacts", "admin", ServiceProcess.ADMIN_PASSWORD);
        Locator main = page.locator("main");
        button(main, "Fields…").click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog.getByText("There are none yet.")).isVisible();
        button(dialog, "Add a field").click();
        dialog.getByLabel("Name").fill("Customer segment");
        assertThat(dialog.getByLabel("Key")).hasValue("customer_segment");
        Browsing.choose(page, "Holds", "A choice");
        dialog.getByLabel("Choices, with commas between").fill("Gold, Silver");
        button(dialog, "Add a field").click();
        dialog.getByLabel("Name").nth(1).fill("Berths");
        dialog.getByLabel("Key").nth(1).fill("title");
        dialog.getByRole(AriaRole.COMBOBOX, new Locator.GetByRoleOptions().setName("Holds"))
                .nth(1)
                .press("ArrowDown");
        page.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName("A number"))
                .click();
        button(dialog, "Save").click();
        assertThat(dialog.getByRole(AriaRole.ALERT)).containsText("“title” means something else already");
        dialog.getByLabel("Key").nth(1).fill("berths");
        button(dialog, "Save").click();
        assertThat(page.locator(".v-snackbar")).containsText("Saved the fields of contacts");
        assertThat(page.getByRole(AriaRole.COLUMNHEADER, new Page.GetByRoleOptions().setName("Customer segment")))
                .isVisible();

        // a record's page asks for them by their kinds
        page.navigate(h.process.url() + "/timeline/" + row("own-ada").id() + "?view=facts");
        Browsing.choose(page, "Customer segment", "Gold");
        page.getByLabel("Berths").fill("seven");
        button(main, "Save").click();
        assertThat(main.getByText("“seven” is not a number like 12 or 3.5").first())
                .isVisible();
        page.getByLabel("Berths").fill("7.50");
        button(main, "Save").click();
        assertThat(page.locator(".v-snackbar")).containsText("Saved Ada Own");
        assertThat(row("own-ada").values())
                .containsEntry("customer_segment", "Gold")
                .containsEntry("berths", "7.5");
        assertThat(row("own-ada").byHand()).contains("berths", "customer_segment");

        // a file of somebody else's knows them by their names
        page.navigate(h.process.url() + "/directory?kind=import");
        Browsing.choose(page, "The file holds", "Contacts");
        String file = "ID,Name,E-mail,customer segment,BERTHS\nown-bo,Bo Own,bo@own-port.example,silver,\"1,250.0\"\n"
                + "own-cy,Cy Own,cy@own-port.example,Tin,3\n";
        page.locator("input[type=file]")
                .setInputFiles(new FilePayload("own.csv", "text/csv", file.getBytes(StandardCharsets.UTF_8)));
        Locator effect = page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("What it would do"));
        assertThat(effect).containsText("Customer segment: “Tin” is not one of Gold, Silver");
        button(main, "Take 1 line").click();
        assertThat(page.getByText("1 changed, 0 as they were, 1 left out.")).isVisible();
        assertThat(row("own-bo").values())
                .containsEntry("customer_segment", "Silver")
                .containsEntry("berths", "1250");
        assertThat(h.admin
                        .get("/api/directory/contacts?where.customer_segment==silver", TablePage.class)
                        .rows())
                .extracting(TableRow::key)
                .containsExactly("own-bo");

        // and everything that goes out names them
        Client client = Client.of(h);
        assertThat(client.run("fields")).contains("customer_segment", "one of Gold, Silver", "berths");
        assertThat(client.run("change", "contacts", "own-bo", "berths=8")).contains("Changed 1 contact");
        assertThat(client.run("directory", "contacts", "--where", "customer_segment=gold"))
                .contains("Ada Own", "Gold", "7.5")
                .doesNotContain("Bo Own");
        assertThat(client.run("change", "contacts", "own-bo", "customer_segment=Tin"))
                .contains("“Tin” is not one of Gold, Silver");
        assertThat(client.run("fields", "shoe")).contains("there is no field “shoe”");
        assertThat(client.run("fields", "customer_segment", "--choices", "Silver,Lead"))
                .contains("contacts have Gold in it: give them another first");
        assertThat(h.admin.ask("GET", "/api/export/records.ndjson", "").body())
                .contains("\"customer_segment\":\"Gold\"");
    }

    @ParameterizedTest
    @CsvSource({
        "Segment, S, text, '', a key has 1 to 40 small letters",
        "account_name, S, text, '', means something else already",
        "web-address, S, text, '', a key has 1 to 40 small letters",
        "place, S, text, '', means something else already",
        "segment, '', text, '', a name has 1 to 80 characters",
        "segment, S, shape, '', “shape” is not text",
        "segment, S, choice, '', a choice has 1 to 100",
        "segment, S, choice, Gold|gold, one of them is there twice",
    })
    void whatDoesNotFitIsRefused(String key, String name, String kind, String choices, String says) throws Exception {
        List<String> all = choices.isEmpty() ? List.of() : List.of(choices.split("\\|", -1));
        FieldList wanted = new FieldList(List.of(new FieldInfo(key, name, kind, all, 0)));
        HttpResponse<String> refused = h.admin.ask("PUT", "/api/fields", Client.json(wanted));
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body()).contains(says);
    }

    @Test
    void aRepReadsThemAndMakesNone() throws Exception {
        Service rep = h.process.signedIn("own-rep", Providers.PASSWORD);
        assertThat(rep.ask("GET", "/api/fields", "").statusCode()).isEqualTo(200);
        assertThat(rep.ask("PUT", "/api/fields", Client.json(new FieldList(List.of())))
                        .statusCode())
                .isEqualTo(403);
        for (String nothing : List.of("{}", "[]", "{\"fields\":null}", "{\"fields\":[null]}")) {
            assertThat(h.admin.ask("PUT", "/api/fields", nothing).statusCode())
                    .as(nothing)
                    .isEqualTo(400);
        }
    }
}
