package jandrel.service.contacts;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.policy.BookRules.Takes;
import jandrel.store.StoreContext;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;

/** Lists of cards (RFC 6350 §6.1.4): who is in one counts as in a category of its name, whatever comes first. */
class GroupsOfCardsTest {
    private static StoreContext store;
    private BooksScene scene;
    private BookInMemory book;
    private final List<String> asked = new ArrayList<>();

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_groups_of_cards");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    private void scene(Takes takes) throws Exception {
        scene = BooksScene.takingIn(store, takes, false);
        book = scene.servers.get(0);
        book.reads = () -> asked.add(scene.tables());
    }

    private void card(String uid, String name, String... lines) {
        book.own(
                uid + ".vcf",
                ("BEGIN:VCARD\r\nVERSION:4.0\r\nUID:urn:uuid:" + uid + "\r\nFN:" + name + "\r\n"
                                + String.join("\r\n", lines) + "\r\nEND:VCARD\r\n")
                        .getBytes(StandardCharsets.UTF_8));
    }

    private void group(String name, String... members) {
        List<String> lines = new ArrayList<>(List.of("KIND:group"));
        for (String member : members) {
            lines.add("MEMBER:" + (member.contains("@") ? "mailto:" : "urn:uuid:")
                    + member.toUpperCase(java.util.Locale.ROOT));
        }
        card("zz-" + name, name, lines.toArray(String[]::new));
    }

    private String standing(String uid) {
        return store.get(JdbcTemplate.class)
                .queryForObject(
                        "SELECT standing || ' ' || why FROM card WHERE href LIKE ?", String.class, "%/" + uid + ".vcf");
    }

    /** The group comes last: of its members, nothing was kept at any moment before. */
    @Test
    void whoIsInAPrivateGroupIsNobodyElsesBusiness() throws Exception {
        scene(Takes.ALL);
        card("a", "Secret One", "EMAIL:c0@quay.example");
        card("b", "Secret Two", "EMAIL:c0@quay.example", "EMAIL:c1@quay.example");
        card("c", "Secret Three", "EMAIL:secret@elsewhere.example");
        card("d", "Open One", "EMAIL:c1@quay.example", "EMAIL:c2@quay.example");
        card("e", "Known One", "EMAIL:c2@quay.example");
        group("Family", "a", "b", "secret@elsewhere.example");
        scene.look(0);
        for (String secret : List.of("a", "b", "c")) {
            assertThat(standing(secret)).isEqualTo("LEFT_OUT PRIVATE_CATEGORY");
        }
        assertThat(standing("d")).isEqualTo("OPEN FITS_SEVERAL");
        assertThat(standing("e")).startsWith("TIED");
        assertThat(standing("zz-Family")).isEqualTo("LEFT_OUT GROUP");
        asked.add(scene.tables());
        assertThat(asked).hasSizeGreaterThan(1).noneMatch(t -> t.contains("ecret"));
    }

    @Test
    void whoComesIntoAPrivateGroupLaterIsLetGoAndComesBack() throws Exception {
        scene(Takes.ALL);
        card("a", "Known One", "EMAIL:c0@quay.example");
        card("b", "Known Two", "EMAIL:c1@quay.example");
        scene.look(0);
        assertThat(standing("a")).startsWith("TIED");
        group("Friends", "a");
        scene.look(0);
        assertThat(standing("a")).isEqualTo("LEFT_OUT PRIVATE_CATEGORY");
        group("Friends", "b");
        card("b", "Secret Name", "EMAIL:c1@quay.example");
        scene.look(0);
        assertThat(standing("a")).startsWith("TIED");
        assertThat(standing("b")).isEqualTo("LEFT_OUT PRIVATE_CATEGORY");
        assertThat(scene.tables()).doesNotContain("Secret Name");
        book.own("zz-Friends.vcf", null);
        scene.look(0);
        assertThat(standing("b")).startsWith("TIED");
    }

    @Test
    void aGroupIsChosenAsACategoryIs() throws Exception {
        scene(Takes.CATEGORIES);
        card("a", "Known One", "EMAIL:c0@quay.example");
        card("b", "New One", "EMAIL:new@elsewhere.example");
        card("c", "Other One", "EMAIL:other@elsewhere.example");
        group("CUSTOMERS", "a", "b");
        group("Choir", "c");
        scene.look(0);
        assertThat(standing("a")).startsWith("TIED");
        assertThat(standing("b")).as("became a contact").startsWith("TIED");
        assertThat(standing("c")).isEqualTo("LEFT_OUT NOT_CHOSEN");
        assertThat(scene.books())
                .as("groups and cards stay as they were")
                .contains("MEMBER:urn:uuid:A")
                .doesNotContain("CATEGORIES");
        group("CUSTOMERS", "c");
        scene.look(0);
        assertThat(standing("c")).startsWith("TIED");
        assertThat(standing("a")).as("what is agreed on stays").startsWith("TIED");
    }

    /** Groups that nothing asks for cost nothing, and a look without news reads none. */
    @Test
    void nobodyReadsWhatNobodyAsksFor() throws Exception {
        scene(Takes.ALL);
        card("a", "Known One", "EMAIL:c0@quay.example");
        group("Choir", "a");
        scene.look(0);
        asked.clear();
        scene.look(0);
        assertThat(asked).isEmpty();
        group("Choir", "a", "b");
        scene.look(0);
        assertThat(asked).as("the group as it was known, and as news").hasSizeLessThanOrEqualTo(2);
    }
}
