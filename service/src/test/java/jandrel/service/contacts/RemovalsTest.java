package jandrel.service.contacts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.RecordKind;
import jandrel.core.policy.BookRules;
import jandrel.core.policy.BookRules.Removed;
import jandrel.sources.DavObject;
import jandrel.sources.SourceTrouble;
import jandrel.store.StoreContext;
import jandrel.store.capture.CursorConflict;
import jandrel.store.contacts.BookStands;
import jandrel.store.contacts.CardLedger;
import jandrel.store.contacts.RemovedCards;
import jandrel.store.contacts.RemovedContact;
import jandrel.store.directory.Directory;
import jandrel.store.notices.Causes;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.jdbc.core.JdbcTemplate;

/** What becomes of one side where the other removes a contact: in a real database, with a book in memory. */
class RemovalsTest {
    private static StoreContext store;
    private static JdbcTemplate sql;

    @BeforeAll
    static void open() throws Exception {
        store = new StoreContext("service_removals");
        sql = store.get(JdbcTemplate.class);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    private static BooksScene inStep(Removed there, Removed here) throws Exception {
        BooksScene scene = BooksScene.bothWays(store, there, here);
        scene.look(0);
        scene.look(0);
        assertThat(scene.servers.get(0).all()).hasSize(3);
        return scene;
    }

    private static Map<String, Object> contact(String key) {
        return sql.queryForMap("SELECT id, name, version, archived_at FROM contact WHERE key = ?", key);
    }

    private static UUID id(String key) {
        return (UUID) contact(key).get("id");
    }

    private static boolean isArchived(String key) {
        return contact(key).get("archived_at") != null;
    }

    private static void archive(String key, boolean archived) throws Exception {
        edit(key, Set.of(), "", archived);
    }

    private static void edit(String key, Set<String> columns, String title, boolean archived) throws Exception {
        Map<String, Object> row = contact(key);
        store.get(Directory.class)
                .change(
                        RecordKind.CONTACT,
                        List.of(new ContactRow(
                                2, key, row.get("name").toString(), List.of(), List.of(), "", title, null, null)),
                        List.of(new Directory.Edit(
                                (UUID) row.get("id"), key, (Long) row.get("version"), columns, null, archived)));
    }

    private static String text(BooksScene scene) {
        return scene.books();
    }

    private static boolean stands(BooksScene scene, String key) {
        return text(scene).contains(key + "@quay.example");
    }

    private static String name(BooksScene scene, String key) {
        return scene.servers.get(0).all().stream()
                .filter(c -> new String(c.bytes(), StandardCharsets.UTF_8).contains(key + "@quay.example"))
                .map(DavObject::href)
                .map(h -> h.substring(h.lastIndexOf('/') + 1))
                .findFirst()
                .orElseThrow();
    }

    private static List<RemovedContact> waiting() {
        return store.get(RemovedCards.class).waiting(null);
    }

    private static void answer(boolean removes) {
        RemovedCards removed = store.get(RemovedCards.class);
        List<RemovedContact> asked = waiting();
        assertThat(asked).hasSize(1);
        assertThat(removed.answer(asked, removes, "ina")).hasSize(1);
        assertThat(removed.answer(asked, removes, "ina")).as("once alone").isEmpty();
    }

    @ParameterizedTest
    @EnumSource(Removed.class)
    void whatIsArchivedHereIsRemovedHereAndComesBackIntoStep(Removed here) throws Exception {
        BooksScene scene = inStep(Removed.KEEP, here);
        archive("c0", true);
        scene.look(0);
        assertThat(stands(scene, "c0")).isEqualTo(here != Removed.REMOVE);
        assertThat(waiting()).hasSize(here == Removed.ASK ? 1 : 0);
        archive("c0", false);
        scene.look(0);
        scene.look(0);
        assertThat(waiting()).isEmpty();
        assertThat(stands(scene, "c0")).isTrue();
        edit("c0", Set.of("title"), "Harbour master", false);
        scene.look(0);
        assertThat(text(scene)).as("it is exchanged again").contains("Harbour master");
        assertThat(scene.servers.get(0).all()).hasSize(3);
        assertThat(isArchived("c0")).isFalse();
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void whatIsRemovedHereWaitsUntilSomebodySaysWhatBecomesOfTheCard(boolean removes) throws Exception {
        BooksScene scene = inStep(Removed.REMOVE, Removed.ASK);
        archive("c0", true);
        scene.look(0);
        scene.look(0);
        assertThat(stands(scene, "c0")).isTrue();
        assertThat(store.get(BookStands.class).standing(id("c0")))
                .singleElement()
                .matches(BookStands.Standing::asked);
        assertThat(waiting()).singleElement().satisfies(r -> {
            assertThat(r.here()).isTrue();
            assertThat(r.name()).isEqualTo(contact("c0").get("name"));
        });
        answer(removes);
        scene.look(0);
        assertThat(stands(scene, "c0")).isEqualTo(!removes);
        assertThat(isArchived("c0")).isTrue();
        assertThat(waiting()).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void whatABookRemovesWaitsUntilSomebodySaysWhatBecomesOfTheContact(boolean removes) throws Exception {
        BooksScene scene = inStep(Removed.ASK, Removed.REMOVE);
        scene.servers.get(0).own(name(scene, "c1"), null);
        scene.look(0);
        assertThat(isArchived("c1")).isFalse();
        UUID owner = scene.connections.get(0).person();
        Causes causes = store.get(Causes.class);
        assertThat(causes.removedCards(owner))
                .hasValueSatisfying(c -> assertThat(c.count()).isOne());
        edit("c1", Set.of("title"), "Harbour master", false);
        scene.look(0);
        assertThat(stands(scene, "c1")).as("what changes here is no answer").isFalse();
        answer(removes);
        scene.look(0);
        scene.look(0);
        assertThat(isArchived("c1")).isEqualTo(removes);
        assertThat(stands(scene, "c1")).isFalse();
        assertThat(waiting()).isEmpty();
        assertThat(causes.removedCards(owner)).isEmpty();
    }

    /** Its owner put it back, or changed it: that is an answer, too. */
    @Test
    void whatChangesThereMeanwhileIsLookedAtAnew() throws Exception {
        BooksScene scene = inStep(Removed.ASK, Removed.ASK);
        DavObject card = scene.servers.get(0).all().stream()
                .filter(c -> c.href().endsWith(name(scene, "c1")))
                .findFirst()
                .orElseThrow();
        scene.servers.get(0).own(name(scene, "c1"), null);
        scene.look(0);
        assertThat(waiting()).hasSize(1);
        scene.servers.get(0).own(card.href().substring(card.href().lastIndexOf('/') + 1), card.bytes());
        scene.look(0);
        assertThat(waiting()).isEmpty();
        edit("c1", Set.of("title"), "Harbour master", false);
        scene.look(0);
        assertThat(text(scene)).contains("Harbour master");
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void aContactThatGoesHereTooIsNoQuestionAnyMore(boolean archived) throws Exception {
        BooksScene scene = inStep(Removed.ASK, Removed.ASK);
        scene.servers.get(0).own(name(scene, "c1"), null);
        scene.look(0);
        assertThat(waiting()).hasSize(1);
        if (archived) {
            archive("c1", true);
        } else {
            sql.update("DELETE FROM contact WHERE id = ?", id("c1"));
        }
        scene.look(0);
        assertThat(waiting()).isEmpty();
        assertThat(sql.queryForObject("SELECT count(*) FROM card WHERE removal <> ''", Integer.class))
                .isZero();
        assertThat(sql.queryForObject("SELECT count(*) FROM outbox WHERE kind = 'CARD'", Integer.class))
                .isZero();
    }

    @Test
    void aNewCardOfSomebodyArchivedIsLeftOutUntilTheyComeBack() throws Exception {
        BooksScene scene = inStep(Removed.KEEP, Removed.REMOVE);
        archive("c2", true);
        scene.look(0);
        assertThat(stands(scene, "c2")).isFalse();
        String own = "BEGIN:VCARD\r\nVERSION:3.0\r\nUID:own\r\nFN:Their own\r\nN:own;;;;\r\n"
                + "EMAIL:c2@quay.example\r\nX-OWN:kept\r\nEND:VCARD\r\n";
        scene.servers.get(0).own("own.vcf", own.getBytes(StandardCharsets.UTF_8));
        scene.look(0);
        assertThat(sql.queryForObject("SELECT why FROM card WHERE href LIKE '%own.vcf'", String.class))
                .isEqualTo("ARCHIVED");
        assertThat(text(scene)).contains(own);
        assertThat(sql.queryForObject("SELECT count(*) FROM contact", Integer.class))
                .isEqualTo(3);
        archive("c2", false);
        scene.look(0);
        scene.look(0);
        assertThat(text(scene)).contains("X-OWN:kept");
        assertThat(sql.queryForObject("SELECT count(*) FROM contact", Integer.class))
                .isEqualTo(3);
    }

    @Test
    void muchThatIsArchivedAtOnceEmptiesNoBookBeforeSomebodySaysSo() throws Exception {
        BooksScene scene = BooksScene.bothWays(store, Removed.KEEP, Removed.REMOVE);
        for (int n = 0; n < 30; n++) {
            sql.update(
                    "INSERT INTO contact (id, key, name) VALUES (?, ?, ?)", UUID.randomUUID(), "many" + n, "Many " + n);
        }
        scene.look(0);
        scene.look(0);
        assertThat(scene.servers.get(0).all()).hasSize(33);
        sql.update("UPDATE contact SET archived_at = now() WHERE key LIKE 'many%'");
        scene.look(0);
        assertThat(scene.servers.get(0).all()).hasSize(33);
        Integer source = sql.queryForObject("SELECT id FROM source WHERE held_count = 30", Integer.class);
        sql.update("UPDATE source SET let_pass = true WHERE id = ?", source);
        scene.look(0);
        assertThat(scene.servers.get(0).all()).hasSize(3);
        assertThat(sql.queryForObject("SELECT held_count FROM source WHERE id = ?", Integer.class, source))
                .isZero();
    }

    @Test
    void whatACardReplacedCanBeBroughtBackThoughTheCardIsPrivateAndGone() throws Exception {
        BooksScene scene = BooksScene.takingIn(store, BookRules.Takes.ALL, false);
        edit("c0", Set.of("title"), "Harbour master", false);
        own(scene, "TITLE:Pilot");
        scene.look(0);
        assertThat(sql.queryForObject("SELECT title FROM contact WHERE key = 'c0'", String.class))
                .isEqualTo("Pilot");
        own(scene, "CLASS:PRIVATE");
        scene.look(0);
        scene.servers.get(0).own("own.vcf", null);
        scene.look(0);
        scene.look(0);
        BookStands stands = store.get(BookStands.class);
        BookStands.Conflict conflict = stands.conflicts(null, null).get(0);
        assertThat(conflict.here()).isEqualTo("Harbour master");
        assertThat(stands.books(null)).allSatisfy(b -> assertThat(b.privately()).isZero());
        assertThat(store.get(CardLedger.class).bringBack(conflict.id(), "ina")).contains(id("c0"));
        assertThat(sql.queryForObject("SELECT title FROM contact WHERE key = 'c0'", String.class))
                .isEqualTo("Harbour master");
    }

    /** What is removed is removed before the card can be private, where the book is looked at between. */
    @ParameterizedTest
    @CsvSource({"KEEP, false", "ASK, false", "REMOVE, false", "KEEP, true", "ASK, true"})
    void aCardThatIsPrivateByTheTimeItsContactIsRemovedIsItsOwnersBusiness(Removed here, boolean isLookedAtBetween)
            throws Exception {
        BooksScene scene = inStep(Removed.ASK, here);
        String name = name(scene, "c0");
        archive("c0", true);
        if (isLookedAtBetween) {
            scene.look(0);
        }
        String text = new String(
                scene.servers.get(0).all().stream()
                        .filter(c -> c.href().endsWith(name))
                        .findFirst()
                        .orElseThrow()
                        .bytes(),
                StandardCharsets.UTF_8);
        String secret = text.replace("END:VCARD", "CLASS:PRIVATE\r\nEND:VCARD");
        scene.servers.get(0).own(name, secret.getBytes(StandardCharsets.UTF_8));
        scene.look(0);
        scene.look(0);
        assertThat(waiting()).isEmpty();
        assertThat(sql.queryForList(
                        "SELECT standing || ' ' || why FROM card WHERE href LIKE ?", String.class, "%/" + name))
                .containsExactly("LEFT_OUT PRIVATE");
        archive("c0", false);
        edit("c0", Set.of("title"), "Harbour master", false);
        scene.look(0);
        scene.look(0);
        assertThat(text(scene)).contains(secret);
    }

    @Test
    void aCardThatComesBackAsTwoIsOneThatMovedAndOneThatSomebodyIsAskedAbout() throws Exception {
        BooksScene scene = inStep(Removed.REMOVE, Removed.REMOVE);
        String name = name(scene, "c0");
        byte[] card = scene.servers.get(0).all().stream()
                .filter(c -> c.href().endsWith(name))
                .findFirst()
                .orElseThrow()
                .bytes();
        scene.servers.get(0).own(name, null);
        scene.servers.get(0).own("copy-a.vcf", card);
        scene.servers.get(0).own("copy-b.vcf", card);
        scene.look(0);
        scene.look(0);
        assertThat(isArchived("c0")).isFalse();
        assertThat(sql.queryForList(
                        "SELECT standing FROM card WHERE href LIKE '%/copy-_.vcf' ORDER BY standing", String.class))
                .containsExactly("OPEN", "TIED");
        assertThat(scene.servers.get(0).all()).hasSize(4);
    }

    /** What cards give of a name is made of the name where there is no card any more. */
    @Test
    void aCardThatGoesBeforeItWasEverInStepComesBackWithAWholeName() throws Exception {
        BooksScene scene = BooksScene.bothWays(store, Removed.ASK, Removed.ASK);
        scene.servers
                .get(0)
                .own(
                        "own.vcf",
                        "BEGIN:VCARD\r\nVERSION:3.0\r\nUID:own\r\nFN:Ida\r\nN:Ida;;;;\r\nEMAIL:c2@quay.example\r\nEND:VCARD\r\n"
                                .getBytes(StandardCharsets.UTF_8));
        scene.servers.get(0).fault = BookInMemory.Fault.LOST_BEFORE;
        assertThatThrownBy(() -> scene.look(0)).isInstanceOf(SourceTrouble.class);
        scene.servers.get(0).fault = BookInMemory.Fault.NONE;
        scene.servers.get(0).own("own.vcf", null);
        for (int look = 0; look < 4; look++) {
            try {
                scene.look(0);
            } catch (CursorConflict again) {
                // the next look goes on
            }
        }
        assertThat(text(scene)).contains("FN:Contact c2\r\nN:c2;Contact;;;\r\n");
    }

    private static void own(BooksScene scene, String line) {
        String card = String.join(
                "\r\n",
                "BEGIN:VCARD",
                "VERSION:3.0",
                "UID:own",
                "FN:" + contact("c0").get("name"),
                "EMAIL:c0@quay.example",
                line,
                "END:VCARD",
                "");
        scene.servers.get(0).own("own.vcf", card.getBytes(StandardCharsets.UTF_8));
    }
}
