package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.until;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.api.RecordApi.RecordInfo;
import jandrel.api.RecordApi.RecordPage;
import jandrel.api.TriageApi.Choice;
import jandrel.api.TriageApi.DeedInfo;
import jandrel.api.TriageApi.DomainInfo;
import jandrel.api.TriageApi.Merge;
import jandrel.api.TriageApi.Settled;
import jandrel.api.TriageApi.StrangerInfo;
import jandrel.api.TriageApi.StrangerPage;
import jandrel.api.TriageApi.TwinsInfo;
import jandrel.api.TriageApi.TwoPeople;
import jandrel.demo.Providers;
import jandrel.demo.ServiceProcess;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;

/** A month of mail with strangers, settled at the console by keyboard alone; then the rest of triage by its interface. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class TriageTest {
    private static final Instant NOW = Instant.now().truncatedTo(ChronoUnit.SECONDS);
    private static Harbour h;
    private static String rep;
    private static int letters;

    @BeforeAll
    static void month() throws Exception {
        h = Harbour.open("acceptance_triage");
        rep = h.person("tess", "rep");
        String other = h.person("otto", "rep");
        h.account("known");
        for (int day = 1; day <= 30; day++) {
            if (day % 3 == 0) {
                both("Ida Moe <ida@northquay.example>", day);
            }
            if (day % 7 == 0) {
                in("Ole Vik <ole@northquay.example>", rep, day);
                in("Anna Berg <anna@known.example>", rep, day);
            }
            if (day % 10 == 0) {
                both("Bram of known <bram.private@fjordpost.example>", day);
                in("Supplier <offers@chandler.example>", other, day);
            }
            if (day % 2 == 0) {
                in("Gazette <news@gazette.example>", day % 4 == 0 ? rep : other, day);
            }
            if (day % 15 == 0) {
                both("Rosa Lind <rosa@fjordpost.example>", day);
            }
        }
        h.connectMail("tess");
        h.connectMail("otto");
        h.settle();
    }

    @AfterAll
    static void close() {
        h.close();
    }

    private static void in(String from, String to, int day) throws Exception {
        Instant at = NOW.minus(day, ChronoUnit.DAYS);
        h.providers.mail(to, "", at, letter("triage-" + letters++, at, from, to, "Day " + day, "x"));
    }

    private static void both(String them, int day) throws Exception {
        in(them, rep, day);
        Instant at = NOW.minus(day, ChronoUnit.DAYS).plusSeconds(600);
        h.providers.mail(rep, ".Sent", at, letter("triage-" + letters++, at, rep, them, "Re: day " + day, "x"));
    }

    private static StrangerPage strangers() throws Exception {
        return h.admin.get("/api/triage", StrangerPage.class);
    }

    private static List<String> addresses(StrangerPage page) {
        List<String> all = new ArrayList<>();
        page.domains().forEach(d -> d.strangers().forEach(s -> all.add(s.address())));
        return all;
    }

    private static List<RecordInfo> records(String name) throws Exception {
        return h.admin
                .get("/api/records?name=" + name.replace(" ", "%20"), RecordPage.class)
                .records();
    }

    @Test
    @Order(1)
    void strangersStandUnderTheirDomainsBestFirstWithWhatSpeaksForThem() throws Exception {
        StrangerPage page = strangers();
        assertThat(page.domains())
                .extracting(DomainInfo::domain)
                .containsExactly(
                        "fjordpost.example",
                        "northquay.example",
                        "known.example",
                        "chandler.example",
                        "gazette.example");
        StrangerInfo ida = page.domains().get(1).strangers().get(0);
        assertThat(ida.address()).isEqualTo("ida@northquay.example");
        assertThat(List.of(ida.in(), ida.out(), ida.people())).containsExactly(10L, 10L, 1L);
        assertThat(ida.twoWay()).isTrue();
        Map<String, StrangerInfo> all = new java.util.HashMap<>();
        page.domains().forEach(d -> d.strangers().forEach(s -> all.put(s.address(), s)));
        assertThat(all.get("anna@known.example").likely())
                .singleElement()
                .satisfies(l -> assertThat(l.name() + l.why()).contains("Account known", "domain"));
        assertThat(all.get("bram.private@fjordpost.example").likely())
                .singleElement()
                .satisfies(l -> assertThat(l.kind() + " " + l.why()).isEqualTo("contact a contact of the same name"));
        assertThat(all.get("news@gazette.example").bulk()).isGreaterThan(60);
        assertThat(h.process.signedIn("otto", Providers.PASSWORD).get("/api/triage", StrangerPage.class))
                .satisfies(own -> assertThat(addresses(own))
                        .containsExactlyInAnyOrder("offers@chandler.example", "news@gazette.example"));
    }

    @Test
    @Order(2)
    void theMonthIsSettledByKeyboardAlone() throws Exception {
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            page.navigate(h.process.url() + "/triage");
            page.getByLabel("Login").fill("admin");
            page.getByLabel("Password").fill(ServiceProcess.ADMIN_PASSWORD);
            page.keyboard().press("Enter");
            Locator rows = page.locator("tr[data-row]");
            assertThat(rows).hasCount(7);
            rows.first().focus();
            settle(page, "ida@northquay.example", "da", "made the account Northquay, with 2 contacts");
            settle(page, "bram.private@fjordpost.example", "i", "another address of Bram of known");
            settle(page, "anna@known.example", "c", "made a contact of anna@known.example");
            settle(page, "rosa@fjordpost.example", "l", "made a lead of rosa@fjordpost.example");
            settle(page, "offers@chandler.example", "h", "hid offers@chandler.example");
            settle(page, "news@gazette.example", "dx", "excluded gazette.example");
            assertThat(page.getByText("Everybody matches a record")).isVisible();
            h.settle();
            assertThat(strangers().total()).isZero();
            assertThat(h.timeline(h.record("Northquay"))).hasSize(24);
            assertThat(h.timeline(h.record("Account known"))).hasSize(10);
            assertThat(h.timeline(h.record("Rosa Lind"))).hasSize(4);
            assertThat(h.decisions("verdict=waiting"))
                    .extracting(d -> d.subject())
                    .hasSize(3);
            page.keyboard().press("u");
            assertThat(page.getByText("Undone: excluded gazette.example")).isVisible();
            until(() -> addresses(strangers()), List.of("news@gazette.example"));
        }
    }

    /** Moves to the row by arrow keys, then presses what settles it. */
    private static void settle(Page page, String address, String keys, String says) {
        page.keyboard().press("Home");
        Locator picked = page.locator("tr[data-row].picked");
        for (int i = 0; i < 10 && !picked.textContent().contains(address); i++) {
            page.keyboard().press("ArrowDown");
        }
        assertThat(page.locator("tr[data-row].picked")).containsText(address);
        for (String key : keys.split("")) {
            page.keyboard().press(key);
        }
        assertThat(page.getByRole(AriaRole.STATUS).filter(new Locator.FilterOptions().setHasText(says)))
                .isVisible();
        assertThat(page.locator("tr[data-row]").filter(new Locator.FilterOptions().setHasText(address)))
                .hasCount(0);
    }

    @Test
    @Order(3)
    void whatWasHiddenComesBackWithSomethingNew() throws Exception {
        h.providers.mail(
                "otto@corvane.example",
                "",
                NOW,
                letter("triage-new", NOW, "offers@chandler.example", "otto@corvane.example", "New", "x"));
        Harbour.soon().until(() -> addresses(strangers()).contains("offers@chandler.example"));
    }

    @Test
    @Order(4)
    void everyChoiceCanBeTakenBackOnce() throws Exception {
        Settled settled = h.admin.post(
                "/api/triage/settle",
                new Choice("new-account", List.of(), List.of("chandler.example"), null, "Chandler"),
                Settled.class);
        assertThat(settled.items()).isEqualTo(4);
        h.settle();
        assertThat(h.timeline(h.record("Chandler"))).hasSize(4);
        assertThat(h.admin.add("/api/triage/deeds/" + settled.deed() + "/undo", Map.of()))
                .isTrue();
        h.settle();
        assertThat(records("Chandler")).isEmpty();
        assertThat(addresses(strangers())).contains("offers@chandler.example");
        assertThat(h.admin.add("/api/triage/deeds/" + settled.deed() + "/undo", Map.of()))
                .isFalse();
        assertThat(h.admin.get("/api/triage/deeds", DeedInfo[].class)[0].undone())
                .isTrue();
    }

    @Test
    @Order(5)
    void twoContactsBecomeOneAndTwoAgain() throws Exception {
        h.csv("contacts", "key,name,addresses,account\ntwin,Bram of known,bram.twin@known.example,known");
        h.providers.mail(
                rep, "", NOW, letter("triage-twin", NOW, "bram.twin@known.example", rep, "From the twin", "x"));
        TwinsInfo twins = h.admin.get("/api/triage/twins", TwinsInfo[].class)[0];
        assertThat(twins.why()).isEqualTo("the same name at the same account");
        Harbour.soon()
                .until(() -> records("Bram of known").stream()
                        .anyMatch(r -> r.addresses().contains("bram.twin@known.example") && r.activities() == 1));
        RecordInfo twin = records("Bram of known").stream()
                .filter(r -> r.key().equals("twin"))
                .findFirst()
                .orElseThrow();
        UUID stays = twin.id().equals(twins.one()) ? twins.other() : twins.one();
        Settled merged = h.admin.post("/api/triage/merge", new Merge(stays, twin.id()), Settled.class);
        h.settle();
        assertThat(records("Bram of known"))
                .singleElement()
                .satisfies(r -> assertThat(r.addresses()).contains("bram.twin@known.example", "bram@known.example"));
        assertThat(h.timeline(stays)).extracting(a -> a.subject()).contains("From the twin");
        // the directory's file may go on naming the one that went
        h.csv("contacts", "key,name,addresses,account\ntwin,Bram of known,bram.twin@known.example,known");
        assertThat(records("Bram of known")).hasSize(1);
        assertThat(h.admin.add("/api/triage/deeds/" + merged.deed() + "/undo", Map.of()))
                .isTrue();
        h.settle();
        assertThat(records("Bram of known")).hasSize(2);
        assertThat(h.timeline(twin.id())).extracting(a -> a.subject()).containsExactly("From the twin");
        assertThat(h.timeline(stays)).extracting(a -> a.subject()).doesNotContain("From the twin");
        Settled apart = h.admin.post("/api/triage/apart", new TwoPeople(stays, twin.id()), Settled.class);
        assertThat(apart.says()).isEqualTo("Bram of known and Bram of known are two people");
        assertThat(h.admin.get("/api/triage/twins?of=" + stays, TwinsInfo[].class))
                .isEmpty();
        assertThat(h.admin.add("/api/triage/deeds/" + apart.deed() + "/undo", Map.of()))
                .isTrue();
        assertThat(h.admin.get("/api/triage/twins?of=" + stays, TwinsInfo[].class))
                .hasSize(1);
    }

    @Test
    @Order(6)
    void whoeverReadsAnItemCanPinItToARecordAndItStaysThere() throws Exception {
        h.providers.mail(
                rep, "", NOW, letter("triage-pin", NOW, "someone@lonely.example", rep, "About the known", "x"));
        until(() -> h.decisions("address=someone@lonely.example").size(), 1);
        UUID item = h.decisions("address=someone@lonely.example").get(0).item();
        UUID account = h.record("Account known");
        var tess = h.process.signedIn("tess", Providers.PASSWORD);
        assertThat(h.process
                        .signedIn("otto", Providers.PASSWORD)
                        .ask("POST", "/api/items/" + UUID.randomUUID() + "/pins", "{\"record\":\"" + account + "\"}")
                        .statusCode())
                .isEqualTo(404);
        assertThat(tess.ask("POST", "/api/items/" + item + "/pins", "{\"record\":\"" + account + "\"}")
                        .statusCode())
                .isEqualTo(204);
        Harbour.soon()
                .until(() ->
                        h.timeline(account).stream().anyMatch(a -> a.subject().equals("About the known")));
        var pinned = h.timeline(account).stream()
                .filter(a -> a.subject().equals("About the known"))
                .findFirst()
                .orElseThrow();
        assertThat(h.decisions("item=" + pinned.id()).get(0).trail())
                .contains("Person tess pinned it to Account known.");
        assertThat(pinned.evidence()).isEqualTo("ruling");
        assertThat(tess.ask("DELETE", "/api/items/" + item + "/pins/" + account, "")
                        .statusCode())
                .isEqualTo(204);
        Harbour.soon().until(() -> h.timeline(account).stream().noneMatch(a -> a.id().equals(pinned.id())));
    }
}
