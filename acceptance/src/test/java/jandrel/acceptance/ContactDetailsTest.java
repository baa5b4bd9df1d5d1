package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.ContactApi.CardFact;
import jandrel.api.ContactApi.ContactCard;
import jandrel.api.ContactApi.ContactChange;
import jandrel.api.ContactApi.ContactMore;
import jandrel.api.ContactApi.OfKind;
import jandrel.api.ContactApi.PostalAddress;
import jandrel.api.RecordApi.RecordPage;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** What is entered here of a contact, and what becomes of its cards in real address books. */
class ContactDetailsTest {
    private static Harbour h;
    private static UUID runa;
    private static List<String> given;

    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("details", Map.of("JANDREL_LOOK_EVERY", "1s"));
        h.admin.post(
                "/api/servers",
                new NewServer("books", "carddav", "127.0.0.1", h.stand.port("CALDAV"), "/"),
                Object.class);
        h.everyone(Map.of("contacts", "both", "books", AddressBookTest.rules(100)));
        String who = h.person("detailer", "rep");
        h.providers.book(who);
        h.providers.card(
                who,
                "runa.vcf",
                "UID:runa-detailer",
                "FN:Runa Detailer",
                "N:Detailer;Runa;;;",
                "EMAIL;TYPE=INTERNET:runa@detailer.example",
                "item1.TEL;TYPE=CELL:+47 900 00 117",
                "item1.X-ABLabel:boat",
                "X-SHOE-SIZE;W=3:39",
                "CATEGORIES:Choir",
                "PHOTO;ENCODING=b;TYPE=JPEG:/9j/4AAQSkZJRgABAQ==");
        given = card().lines().toList();
        h.admin.post(
                "/api/connections",
                new NewConnection("detailer", "books", "detailer@corvane.example", Providers.PASSWORD),
                Object.class);
        soon().until(() -> !found().isEmpty());
        runa = found().get(0);
        soon().until(() -> known().books().stream().anyMatch(b -> b.state().equals("in step")));
    }

    @AfterAll
    static void close() {
        h.close();
    }

    private static List<UUID> found() throws Exception {
        return h.admin.get("/api/records?name=Runa%20Detailer", RecordPage.class).records().stream()
                .map(r -> r.id())
                .toList();
    }

    private static String card() throws Exception {
        return h.providers.cardText("detailer@corvane.example", "runa.vcf").orElse("");
    }

    private static ContactCard known() throws Exception {
        return h.admin.get("/api/records/" + runa + "/address-books", ContactCard.class);
    }

    private static ContactMore more() throws Exception {
        return Objects.requireNonNull(known().details());
    }

    private static ContactMore with(ContactMore m, String birthday, List<PostalAddress> places, List<String> tags) {
        return new ContactMore(
                m.name(), m.unit(), m.role(), m.mails(), m.phones(), places, m.urls(), birthday, m.note(), tags);
    }

    private static ContactCard put(Service who, ContactMore seen, ContactMore wanted, String... over) throws Exception {
        return who.put(
                "/api/records/" + runa + "/details", new ContactChange(seen, wanted, List.of(over)), ContactCard.class);
    }

    @Test
    void whatIsEnteredGoesOutAndNothingElseOfTheCardChanges() throws Exception {
        ContactMore seen = more();
        assertThat(seen.phones()).containsExactly(new OfKind("+4790000117", "cell"));
        PostalAddress quay = new PostalAddress("Quay 1; left", "Skarvik", "", "4001", "Norway", "work");
        ContactMore wanted = new ContactMore(
                seen.name(),
                "Berths",
                "Buyer",
                List.of(new OfKind("runa@detailer.example", "work"), new OfKind("stranger@elsewhere.example", "work")),
                seen.phones(),
                List.of(quay),
                List.of(new OfKind("https://detailer.example/runa", "")),
                "--04-11",
                "Rings on Mondays,\r\nnever before nine",
                List.of("Choir", "berths"));
        ContactMore now = Objects.requireNonNull(put(h.admin, seen, wanted).details());
        assertThat(now.mails()).as("kinds alone").containsExactly(new OfKind("runa@detailer.example", "work"));
        assertThat(now.places().get(0).street()).isEqualTo("Quay 1, left");
        assertThat(known().facts())
                .contains(new CardFact("postal addresses", "Quay 1, left, Skarvik, 4001, Norway (work)"));
        soon().until(() -> card().contains("BDAY:"));
        List<String> lines = card().lines().toList();
        // one line has a kind, and one a tag more; all else stands as its owner wrote it
        List<String> same = new ArrayList<>(given);
        same.removeIf(l -> l.startsWith("EMAIL") || l.startsWith("CATEGORIES") || l.startsWith("REV"));
        assertThat(lines).containsAll(same);
        assertThat(card())
                .containsPattern("ADR;TYPE=WORK:;;Quay 1\\\\, left;Skarvik;;4001;Norway")
                .containsPattern("EMAIL[^:]*WORK[^:]*:runa@detailer.example")
                .contains("BDAY:--04-11", "ROLE:Buyer", "URL:https://detailer.example/runa", "X-SHOE-SIZE;W=3:39")
                .contains("NOTE:Rings on Mondays\\,\\nnever before nine")
                .doesNotContain("stranger");
        assertThat(h.process.count("SELECT count(*) FROM journal WHERE who = 'admin' AND after_ LIKE '%Quay 1%'"))
                .isEqualTo(1);
        assertThat(h.process.count("SELECT count(*) FROM journal WHERE coalesce(after_, '') LIKE '%Mondays%'"))
                .as("what somebody noted of a person is not in the journal")
                .isZero();
    }

    @Test
    void twoWhoEnterDifferentThingsDoNotUndoEachOtherAndOfTheSameTheSecondIsTold() throws Exception {
        ContactMore seen = more();
        put(h.admin, seen, with(seen, "1979-04-11", seen.places(), List.of("winter")));
        // from what they saw before that
        ContactMore both =
                Objects.requireNonNull(put(h.admin, seen, with(seen, seen.birthday(), seen.places(), List.of("spring")))
                        .details());
        assertThat(both.tags()).contains("winter", "spring");
        assertThat(both.birthday()).isEqualTo("1979-04-11");
        assertThatThrownBy(() -> put(h.admin, seen, with(seen, "1980-01-01", seen.places(), List.of())))
                .hasMessageContaining("Somebody else changed this meanwhile");
        assertThat(more()).isEqualTo(both);
        assertThatThrownBy(() -> put(h.admin, seen, seen, "birthdays"))
                .hasMessageContaining("Nothing here is called “birthdays”");
        // told so, they put theirs in its place, and undo nothing else
        ContactMore mine = Objects.requireNonNull(
                put(h.admin, seen, with(seen, "1980-01-01", seen.places(), seen.tags()), "birthday")
                        .details());
        assertThat(mine).isEqualTo(with(both, "1980-01-01", both.places(), both.tags()));
        put(h.admin, mine, with(mine, "", mine.places(), seen.tags()));
    }

    @Test
    void whatCannotBeKeptIsRefusedWholeAndSoIsWhoMayNot() throws Exception {
        ContactMore seen = more();
        assertThatThrownBy(() -> put(h.admin, seen, with(seen, "yesterday", seen.places(), List.of("kept?"))))
                .hasMessageContaining("Nothing was changed");
        assertThatThrownBy(() -> h.admin.put("/api/records/" + runa + "/details", Map.of(), ContactCard.class))
                .hasMessageContaining("The request is missing “seen”, “wanted”, “over”");
        List<String> tags = new ArrayList<>();
        tags.add(null);
        assertThatThrownBy(() -> h.admin.put(
                        "/api/records/" + runa + "/details",
                        Map.of("seen", seen, "wanted", Map.of("tags", tags), "over", List.of()),
                        ContactCard.class))
                .hasMessageContaining("“wanted.name”")
                .hasMessageContaining("one of “wanted.tags”");
        assertThatThrownBy(() -> put(h.process.signedIn("detailer", Providers.PASSWORD), seen, seen))
                .hasMessageContaining("Your role does not allow this");
        assertThatThrownBy(() -> h.admin.put(
                        "/api/records/" + UUID.randomUUID() + "/details",
                        new ContactChange(seen, seen, List.of()),
                        ContactCard.class))
                .hasMessageContaining("There is no such contact");
        assertThat(more()).isEqualTo(seen);
    }

    @Test
    void anAdministratorEntersThemOnTheContactsPageAndTakesThemBack() throws Exception {
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            List<String> errors = new ArrayList<>();
            page.onPageError(errors::add);
            Browsing.signIn(
                    page,
                    h.process.url() + "/timeline/" + runa + "?view=facts",
                    "admin",
                    ServiceProcess.ADMIN_PASSWORD);
            Locator edit = page.getByTitle("Change what is known besides");
            edit.click();
            page.getByLabel("Unit of the company").fill("Moorings");
            Browsing.button(page, "Add a web address").click();
            Locator web = Browsing.field(page, "Web address");
            web.last().fill("not one");
            Locator save = page.locator("form.known")
                    .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Save"));
            save.click();
            assertThat(page.getByText("“not one” is no address of the web")).isVisible();
            web.last().fill("https://moorings.example");
            save.click();
            assertThat(page.getByText("https://moorings.example")).isVisible();
            soon().until(() -> more().unit().equals("Moorings"));
            Browsing.button(page, "Undo").click();
            assertThat(page.getByText("https://moorings.example")).hasCount(0);
            soon().until(() -> more().unit().isEmpty() || more().unit().equals("Berths"));
            assertThat(errors).isEmpty();
        }
    }
}
