package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.ContactApi.BookInfo;
import jandrel.api.ContactApi.BookPreview;
import jandrel.api.ContactApi.BookUndone;
import jandrel.api.ContactApi.CardChoice;
import jandrel.api.ContactApi.CardConflict;
import jandrel.api.ContactApi.CardFact;
import jandrel.api.ContactApi.ContactBook;
import jandrel.api.ContactApi.ContactCard;
import jandrel.api.ContactApi.NoAccount;
import jandrel.api.ContactApi.OpenCard;
import jandrel.api.ContactApi.PrivateCategories;
import jandrel.api.ExclusionApi.NewExclusions;
import jandrel.api.PolicyApi.AudienceInfo;
import jandrel.api.PolicyApi.PolicyInfo;
import jandrel.api.RecordApi.RecordInfo;
import jandrel.api.RecordApi.RecordPage;
import jandrel.demo.DemoPolicy;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Contacts on both sides, over Radicale. */
class AddressBookTest {
    private static Harbour h;

    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("books", Map.of("JANDREL_LOOK_EVERY", "1s"));
        h.admin.post(
                "/api/servers",
                new NewServer("books", "carddav", "127.0.0.1", h.stand.port("CALDAV"), "/"),
                Object.class);
        h.everyone(Map.of("contacts", "both", "books", rules(6)));
    }

    @AfterAll
    static void close() {
        h.close();
    }

    /** Everything flows, of an owner's accounts. */
    static Map<String, Object> rules(int askAbove) {
        return Map.of(
                "takes",
                "all",
                "categories",
                List.of(),
                "creates",
                true,
                "gives",
                "own-accounts",
                "recentDays",
                90,
                "most",
                100,
                "askAbove",
                askAbove,
                "removedThere",
                "keep",
                "removedHere",
                "remove");
    }

    /** A person with an address book. */
    private static String someone(String key) throws Exception {
        String address = h.person(key, "rep");
        h.providers.book(address);
        return address;
    }

    private static void connect(String key) throws Exception {
        h.admin.post(
                "/api/connections",
                new NewConnection(key, "books", key + "@corvane.example", Providers.PASSWORD),
                Object.class);
    }

    private static BookInfo book(String key) throws Exception {
        return Arrays.stream(h.admin.get("/api/address-books", BookInfo[].class))
                .filter(b -> b.personName().equals("Person " + key))
                .findFirst()
                .orElseThrow();
    }

    private static boolean isThere(String key) throws Exception {
        return Arrays.stream(h.admin.get("/api/address-books", BookInfo[].class))
                .anyMatch(b -> b.personName().equals("Person " + key) && b.lastRun() != null);
    }

    private static void untilInStep(String key, int cards) {
        soon().until(() -> isThere(key) && book(key).pending() == 0 && book(key).alike() == cards);
    }

    private static List<RecordInfo> records(String name) throws Exception {
        return h.admin
                .get("/api/records?name=" + name.replace(" ", "%20"), RecordPage.class)
                .records();
    }

    private static String card(String key, String name) throws Exception {
        return h.providers.cardText(key + "@corvane.example", name).orElse("");
    }

    private static List<String> lines(String card) {
        return card.lines().toList();
    }

    /** Something that answers with nothing. */
    private static void ask(Service who, String path, Object body) throws Exception {
        assertThat(who.add(path, body)).as(path).isTrue();
    }

    /** The contact's columns, as a file would give them. */
    private static void contact(String key, String name, String address, String account, String title)
            throws Exception {
        h.csv(
                "contacts",
                "key,name,addresses,account,title\n" + key + "," + name + "," + address + "," + account + "," + title);
    }

    @Test
    void aCardAndAContactFillEachOtherInAndWhatIsNotKnownStays() throws Exception {
        String who = someone("filler");
        h.account("filler");
        contact("filler-runa", "Runa Filler", "runa@filler.example", "filler", "Harbour master");
        h.providers.card(
                who,
                "runa.vcf",
                "UID:runa-filler",
                "FN:Runa Filler",
                "N:Filler;Runa;;;",
                "EMAIL;TYPE=INTERNET,WORK:runa@filler.example",
                "item1.TEL;TYPE=CELL:+47 900 00 017",
                "item1.X-ABLabel:boat",
                "X-SHOE-SIZE;W=3:39",
                "BDAY:1979-04-11",
                "PHOTO;ENCODING=b;TYPE=JPEG:/9j/4AAQSkZJRgABAQ==");
        // as the server writes it, which has its own way with lines
        List<String> given = lines(card("filler", "runa.vcf"));
        connect("filler");
        untilInStep("filler", 1);
        soon().until(() -> card("filler", "runa.vcf").contains("TITLE:Harbour master"));
        assertThat(lines(card("filler", "runa.vcf"))).containsAll(given).contains("ORG:Account filler");
        assertThat(h.process.count("SELECT count(*) FROM contact_phone p JOIN contact c ON c.id = p.contact"
                        + " WHERE c.key = 'filler-runa' AND p.phone = '+4790000017'"))
                .isEqualTo(1);
        assertThat(records("Runa Filler")).as("no double").hasSize(1);

        // a change on either side reaches the other, and nothing goes to and fro afterwards
        h.providers.wholeCard(
                who, "runa.vcf", card("filler", "runa.vcf").replace("TITLE:Harbour master", "TITLE:Director"));
        soon().until(() ->
                h.process.count("SELECT count(*) FROM contact WHERE key = 'filler-runa' AND title = 'Director'") == 1);
        h.process.run("UPDATE contact SET title = 'Chair', version = version + 1, changed_at = now()"
                + " WHERE key = 'filler-runa'");
        soon().until(() -> card("filler", "runa.vcf").contains("TITLE:Chair"));
        untilInStep("filler", 1);
        String before = card("filler", "runa.vcf");
        Thread.sleep(2_500);
        assertThat(card("filler", "runa.vcf")).as("no echo").isEqualTo(before);
        assertThat(h.admin.get("/api/card-conflicts", CardConflict[].class))
                .noneMatch(c -> c.contactName().equals("Runa Filler"));
        UUID runa = records("Runa Filler").get(0).id();
        ContactCard known = h.admin.get("/api/records/" + runa + "/address-books", ContactCard.class);
        assertThat(known.books()).containsExactly(new ContactBook("People", "Person filler", "in step", false));
        assertThat(known.facts()).containsExactly(new CardFact("birthday", "1979-04-11"));
    }

    @Test
    void whatIsPrivateAndWhoIsOursNeverComesInAndNothingOfItIsKept() throws Exception {
        String who = someone("keeper");
        h.providers.card(who, "p1.vcf", "UID:p1", "FN:Secret Friend", "N:Friend;Secret;;;", "CLASS:PRIVATE");
        h.providers.card(who, "p2.vcf", "UID:p2", "FN:Aunt Betty", "N:;Betty;;;", "CATEGORIES:Choir");
        h.providers.card(who, "p3.vcf", "UID:p3", "FN:Person keeper", "N:;Me;;;", "EMAIL:keeper@corvane.example");
        connect("keeper");
        soon().until(() -> isThere("keeper"));
        UUID connection = book("keeper").connection();
        Service me = h.process.signedIn("keeper", Providers.PASSWORD);
        // Betty was a card like any other until her owner said so
        soon().until(() -> records("Aunt Betty").size() == 1);
        me.put(
                "/api/connections/" + connection + "/private-categories",
                new PrivateCategories(List.of("choir")),
                PrivateCategories.class);
        soon().until(() -> book("keeper").privately() == 2);
        assertThat(book("keeper").leftOut()).isEqualTo(1);
        assertThat(records("Secret Friend")).isEmpty();
        assertThat(h.process.count("SELECT count(*) FROM card"
                        + " WHERE (name || coalesce(details, '') || coalesce(base, '')) ~ 'Secret|Betty'"))
                .isZero();
        assertThat(h.process.count("SELECT count(*) FROM journal"
                        + " WHERE coalesce(before_, '') || coalesce(after_, '') || name ~ 'Secret Friend'"))
                .isZero();
        BookPreview preview = me.get("/api/address-books/" + book("keeper").source() + "/preview", BookPreview.class);
        assertThat(preview.cards()).extracting(c -> c.says() + " " + c.count()).contains("Left out: a colleague 1");
    }

    @Test
    void muchAtOnceWaitsUntilSomebodyHasSeenItAndIsTakenBackAsABatch() throws Exception {
        String who = someone("bulk");
        for (int n = 0; n < 9; n++) {
            h.providers.card(
                    who,
                    "c" + n + ".vcf",
                    "UID:c" + n,
                    "FN:Crowd Member" + n,
                    "N:Member" + n + ";Crowd;;;",
                    "ORG:Crowdworks",
                    "EMAIL:m" + n + "@crowdworks.example");
        }
        connect("bulk");
        soon().until(() -> isThere("bulk") && book("bulk").waits() != null);
        assertThat(book("bulk").creates()).isEqualTo(9);
        assertThat(records("Crowd Member")).isEmpty();
        Service me = h.process.signedIn("bulk", Providers.PASSWORD);
        BookPreview preview = me.get("/api/address-books/" + book("bulk").source() + "/preview", BookPreview.class);
        assertThat(preview.creates()).hasSize(9).contains("Crowd Member4 (Crowdworks)");
        ask(me, "/api/address-books/" + book("bulk").source() + "/approve", Map.of());
        untilInStep("bulk", 9);
        assertThat(records("Crowd Member")).hasSize(9);
        // nobody knows their company: they wait, with what they may be at
        h.csv("accounts", "key,name,domains\ncrowd,Crowdwork Ltd,crowdworks.example");
        assertThat(me.get("/api/cards/no-account", NoAccount[].class))
                .filteredOn(c -> c.name().equals("Crowd Member3"))
                .singleElement()
                .satisfies(c -> assertThat(c.likely().get(0).key()).isEqualTo("crowd"));
        BookUndone undone =
                me.post("/api/address-books/" + book("bulk").source() + "/take-back", Map.of(), BookUndone.class);
        assertThat(undone).isEqualTo(new BookUndone(9, 0));
        assertThat(records("Crowd Member")).isEmpty();
        soon().until(() -> book("bulk").waits() != null && book("bulk").creates() == 9);
        Thread.sleep(1_500);
        assertThat(records("Crowd Member"))
                .as("it does not begin by itself again")
                .isEmpty();
        assertThat(h.providers.cards(who)).as("their cards are as they were").hasSize(9);
        ask(me, "/api/address-books/" + book("bulk").source() + "/approve", Map.of());
        untilInStep("bulk", 9);
    }

    @Test
    void contactsOfOnesOwnAccountsGoOutAndAreTakenBack() throws Exception {
        String who = someone("giver");
        h.csv("accounts", "key,name,domains,owner\ngiver,Account giver,giver.example,giver");
        contact("giver-a", "Ada Giver", "ada@giver.example", "giver", "Buyer");
        contact("giver-b", "Bo Giver", "bo@giver.example", "giver", "");
        connect("giver");
        untilInStep("giver", 2);
        assertThat(h.providers.cards(who)).hasSize(2);
        String cards = card("giver", h.providers.cards(who).get(0))
                + card("giver", h.providers.cards(who).get(1));
        assertThat(cards)
                .contains("FN:Ada Giver", "N:Giver;Ada;;;", "ORG:Account giver", "TITLE:Buyer", "ada@giver.example");
        // one that its owner removes stays removed, and the contact stays
        String ada = h.providers.cards(who).stream()
                .filter(c -> soonCard("giver", c).contains("FN:Ada"))
                .findFirst()
                .orElseThrow();
        h.providers.removeCard(who, ada);
        soon().until(() -> book("giver").apart() == 1);
        assertThat(records("Ada Giver")).hasSize(1);
        Thread.sleep(1_500);
        assertThat(h.providers.cards(who)).hasSize(1);
        BookUndone undone =
                h.admin.post("/api/address-books/" + book("giver").source() + "/take-back", Map.of(), BookUndone.class);
        assertThat(undone.contacts()).isZero();
        soon().until(() -> h.providers.cards(who).isEmpty());
        assertThat(records("Bo Giver")).hasSize(1);
        soon().until(() -> book("giver").waits() != null);
        ask(h.admin, "/api/address-books/" + book("giver").source() + "/approve", Map.of());
        soon().until(() -> h.providers.cards(who).size() == 1);
    }

    @Test
    void whereThePolicySaysSoOnlyWhatMeetsConditionsComesInAndGoesOut() throws Exception {
        String who = someone("picky");
        h.csv("accounts", "key,name\npicky,Port of Picky");
        contact("picky-a", "Ada Picky", "ada@picky.example", "picky", "Buyer");
        contact("picky-b", "Bo Picky", "bo@picky.example", "picky", "");
        h.providers.card(who, "in.vcf", "UID:in", "FN:Cia In", "N:In;Cia;;;", "ORG:PORT OF PICKY;Yard");
        h.providers.card(who, "out.vcf", "UID:out", "FN:Dag Out", "N:Out;Dag;;;", "ORG:Elsewhere");
        h.providers.card(who, "alt.vcf", "UID:alt", "FN:Eli Alt", "N:Alt;Eli;;;", "CATEGORIES:customers");
        Client client = Client.of(h);
        assertThat(client.run("policy", "add", "Picky", "--people", "picky", "--take-if", "shoe size"))
                .contains("is no condition");
        client.run(
                "policy",
                "add",
                "Picky",
                "--people",
                "picky",
                "--contacts",
                "both",
                "--take-if",
                "organisation contains \"port of\" and title empty",
                "--take-if",
                "category is Customers",
                "--give-if",
                "organisation begins-with Port and title filled");
        assertThat(client.run("policy", "show", "Picky"))
                .contains("those whose organisation contains “port of” and title is empty, or category is “Customers”")
                .contains("those whose organisation begins with “Port” and title is filled in, at most 500");
        client.run("policy", "on", "Picky");
        connect("picky");
        soon().until(() -> records("Cia In").size() == 1
                && records("Eli Alt").size() == 1
                && h.providers.cards(who).size() == 4);
        assertThat(records("Dag Out")).isEmpty();
        assertThat(h.providers.cards(who).stream()
                        .map(c -> soonCard("picky", c))
                        .filter(c -> c.contains("Picky;")))
                .singleElement()
                .asString()
                .contains("FN:Ada Picky", "TITLE:Buyer");
    }

    @Test
    void whoIsExcludedIsOutOfItAndBackOnceTheyAreNot() throws Exception {
        String who = someone("shut");
        h.account("shut");
        h.providers.card(who, "bram.vcf", "UID:shut", "FN:Bram of shut", "N:Shut;Bram;;;", "EMAIL:bram@shut.example");
        connect("shut");
        untilInStep("shut", 1);
        ask(h.admin, "/api/exclusions", new NewExclusions("shut.example", "a friend", null, null, null));
        soon().until(() -> book("shut").leftOut() == 1 && book("shut").alike() == 0);
        h.process.run("UPDATE contact SET title = 'Not for the card' WHERE key = 'shut-bram'");
        Thread.sleep(1_500);
        assertThat(card("shut", "bram.vcf")).doesNotContain("Not for the card");
        h.process.run("DELETE FROM exclusion WHERE key = '@shut.example'");
        untilInStep("shut", 1);
        soon().until(() -> card("shut", "bram.vcf").contains("Not for the card"));
    }

    /** Its own policy, as the others go both ways. */
    @Test
    void whereContactsOnlyGoOutWhatSomebodyWroteDownThemselvesIsLeftAlone() throws Exception {
        String who = someone("outer");
        PolicyInfo only = h.admin.post(
                "/api/policies",
                new DemoPolicy(
                                "Out only",
                                new AudienceInfo(false, List.of("outer"), List.of(), List.of()),
                                "everyone",
                                true,
                                90,
                                60,
                                false,
                                "out",
                                null)
                        .rules(),
                PolicyInfo.class);
        ask(h.admin, "/api/policies/" + only.id() + "/on", Map.of());
        h.csv("accounts", "key,name,domains,owner\nouter,Account outer,outer.example,outer");
        contact("outer-own", "Own Card", "own@outer.example", "outer", "Director");
        contact("outer-new", "New Card", "new@outer.example", "outer", "");
        String own = "TITLE:What I call them";
        h.providers.card(
                who,
                "own.vcf",
                "UID:own",
                "FN:My Own",
                "N:Own;My;;;",
                "EMAIL:own@outer.example",
                own,
                "NOTE:Likes tea");
        String before = card("outer", "own.vcf");
        connect("outer");
        soon().until(() -> h.providers.cards(who).size() == 2);
        String made = h.providers.cards(who).stream()
                .filter(c -> !c.equals("own.vcf"))
                .findFirst()
                .orElseThrow();
        soon().until(() -> isThere("outer") && book("outer").pending() == 0);
        assertThat(card("outer", "own.vcf")).isEqualTo(before);
        // what its owner adds to ours is theirs, and what we know is put back
        h.providers.wholeCard(
                who,
                made,
                card("outer", made)
                        .replace("FN:New Card", "FN:Changed")
                        .replace("END:VCARD", "NOTE:Allergic to nuts\r\nEND:VCARD"));
        soon().until(() -> card("outer", made).contains("FN:New Card"));
        assertThat(card("outer", made)).contains("NOTE:Allergic to nuts");
        assertThat(records("Changed")).isEmpty();
        assertThat(records("My Own")).isEmpty();
    }

    private static String soonCard(String key, String name) {
        try {
            return card(key, name);
        } catch (Exception broken) {
            throw new IllegalStateException(broken);
        }
    }

    @Test
    void whatBothSidesChangedIsSettledAndWhatLostComesBack() throws Exception {
        String who = someone("clash");
        h.account("clash");
        h.providers.card(
                who,
                "bram.vcf",
                "UID:clash",
                "FN:Bram of clash",
                "N:Clash;Bram;;;",
                "EMAIL:bram@clash.example",
                "TITLE:One");
        connect("clash");
        untilInStep("clash", 1);
        UUID connection = book("clash").connection();
        ask(h.admin, "/api/connections/" + connection + "/pause", Map.of());
        h.process.run("UPDATE contact SET title = 'Ours', version = version + 1, changed_at = now() - interval '1 hour'"
                + " WHERE key = 'clash-bram'");
        h.providers.wholeCard(who, "bram.vcf", card("clash", "bram.vcf").replace("TITLE:One", "TITLE:Theirs"));
        ask(h.admin, "/api/connections/" + connection + "/resume", Map.of());
        soon().until(() -> Arrays.stream(h.admin.get("/api/card-conflicts", CardConflict[].class))
                .anyMatch(c -> c.contactName().equals("Bram of clash")));
        CardConflict conflict = Arrays.stream(h.admin.get("/api/card-conflicts", CardConflict[].class))
                .filter(c -> c.contactName().equals("Bram of clash"))
                .findFirst()
                .orElseThrow();
        assertThat(conflict.field()).isEqualTo("title");
        assertThat(conflict.stands()).isEqualTo("book");
        assertThat(conflict.here()).isEqualTo("Ours");
        // it is noted before anything is written, so that nothing is lost in between
        soon().until(() ->
                h.process.count("SELECT count(*) FROM contact WHERE key = 'clash-bram' AND title = 'Theirs'") == 1);
        ask(h.admin, "/api/card-conflicts/" + conflict.id() + "/bring-back", Map.of());
        soon().until(() -> card("clash", "bram.vcf").contains("TITLE:Ours"));
        assertThatThrownBy(() ->
                        h.admin.post("/api/card-conflicts/" + conflict.id() + "/bring-back", Map.of(), Object.class))
                .hasMessageContaining("nothing to bring back");
    }

    @Test
    void aCardThatFitsSeveralIsForAPersonToSettle() throws Exception {
        String who = someone("settler");
        h.account("settler");
        contact("settler-a", "Desk North", "desk@settler.example", "settler", "");
        contact("settler-b", "Desk South", "desk@settler.example", "settler", "");
        h.providers.card(who, "desk.vcf", "UID:desk", "FN:The Desk", "N:;Desk;;;", "EMAIL:desk@settler.example");
        connect("settler");
        Service me = h.process.signedIn("settler", Providers.PASSWORD);
        soon().until(() -> me.get("/api/cards", OpenCard[].class).length == 1);
        OpenCard open = me.get("/api/cards", OpenCard[].class)[0];
        assertThat(open.fits()).extracting(f -> f.name()).containsExactly("Desk North", "Desk South");
        assertThat(open.fits().get(0).speaks()).containsExactly("the same address");
        someone("stranger");
        Service other = h.process.signedIn("stranger", Providers.PASSWORD);
        assertThat(other.get("/api/cards", OpenCard[].class)).isEmpty();
        CardChoice south = new CardChoice("contact", open.fits().get(1).id());
        assertThatThrownBy(() -> other.post("/api/cards/" + open.id() + "/settle", south, Object.class))
                .hasMessageContaining("no such card");
        assertThatThrownBy(() -> me.post(
                        "/api/cards/" + open.id() + "/settle",
                        new CardChoice("contact", UUID.randomUUID()),
                        Object.class))
                .hasMessageContaining("does not fit this contact");
        ask(me, "/api/cards/" + open.id() + "/settle", south);
        untilInStep("settler", 1);
        assertThat(me.get("/api/cards", OpenCard[].class)).isEmpty();
    }

    @Test
    void whoComesInByACardMakesTheirWaitingMailAppear() throws Exception {
        String who = someone("waiting");
        h.connectMail("waiting");
        h.providers.mail(
                who,
                "",
                Instant.now().minus(2, ChronoUnit.HOURS),
                Harbour.letter(
                        "waiting-1",
                        Instant.now().minus(2, ChronoUnit.HOURS),
                        "una@newcomer.example",
                        who,
                        "Berths",
                        "Hello"));
        soon().until(() -> h.process.count("SELECT count(*) FROM sighting WHERE verdict = 'waiting'") == 1);
        h.providers.card(
                who, "una.vcf", "UID:una", "FN:Una Newcomer", "N:Newcomer;Una;;;", "EMAIL:una@newcomer.example");
        connect("waiting");
        soon().until(() -> records("Una Newcomer").size() == 1);
        UUID una = records("Una Newcomer").get(0).id();
        soon().until(() -> h.timeline(una).size() == 1);
    }
}
