package jandrel.service.contacts;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.policy.BookRules.Takes;
import jandrel.store.StoreContext;
import jandrel.store.connections.Connections;
import jandrel.store.contacts.Books;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;

/** Companies on cards that become accounts, where a policy says so: never a second one for a company that may be there. */
class NewAccountsTest {
    private static StoreContext store;
    private BooksScene scene;
    private BookInMemory book;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_new_accounts");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    private void scene(boolean makesAccounts) throws Exception {
        scene = BooksScene.takingIn(store, Takes.ALL, makesAccounts);
        book = scene.servers.get(0);
        store.run("INSERT INTO free_mail_domain (domain) VALUES ('@fjordpost.example') ON CONFLICT DO NOTHING");
    }

    private void card(String uid, String company, String... mails) {
        StringBuilder card = new StringBuilder("BEGIN:VCARD\r\nVERSION:3.0\r\nUID:" + uid + "\r\nFN:Card " + uid
                + "\r\nN:" + uid + ";Card;;;\r\nORG:" + company + "\r\n");
        List.of(mails).forEach(m -> card.append("EMAIL:").append(m).append("\r\n"));
        book.own(uid + ".vcf", card.append("END:VCARD\r\n").toString().getBytes(StandardCharsets.UTF_8));
    }

    /** As {@code NAME: its domains, those that are at it}. */
    private List<String> made() {
        return store.get(JdbcTemplate.class).queryForList("""
                SELECT a.name || ': ' || concat_ws(' ', (SELECT string_agg(d.domain, ' ' ORDER BY d.domain) FROM account_domain d WHERE d.account = a.id),
                    (SELECT string_agg(c.name, ' ' ORDER BY c.name) FROM contact c WHERE c.account = a.id))
                FROM account a WHERE a.key LIKE 'card-%' ORDER BY 1
                """, String.class);
    }

    private String at(String name) {
        return store.get(JdbcTemplate.class)
                .queryForObject(
                        "SELECT coalesce(a.name, '') FROM contact c LEFT JOIN account a ON a.id = c.account WHERE c.name = ?",
                        String.class,
                        name);
    }

    @Test
    void aCompanyOfTwoBecomesOneAccountAndOneThatMayBeThereNone() throws Exception {
        scene(true);
        card("a", "Ravnkilde Marine", "a@ravnkilde.example", "a@fjordpost.example");
        card("b", "RAVNKILDE MARINE", "b@ravnkilde.example");
        card("c", "Account quays", "c@elsewhere.example");
        card("d", "account QUAY", "d@quay.example");
        card("e", "", "e@nowhere.example");
        card("f", "Zyx Works", "f@ravnkilde.example");
        scene.look(0);
        assertThat(made()).containsExactly("Ravnkilde Marine: @ravnkilde.example Card a Card b", "Zyx Works: Card f");
        assertThat(at("Card c")).as("nearly one that is there: a person says").isEmpty();
        assertThat(at("Card d")).isEqualTo("Account quay");
        assertThat(at("Card e")).isEmpty();
        card("g", "Ravnkilde Marine AS", "g@ravnkilde.example");
        scene.look(0);
        assertThat(made()).hasSize(2);
        assertThat(at("Card g")).as("by the domain").isEqualTo("Ravnkilde Marine");
        assertThat(store.text("SELECT string_agg(DISTINCT made_by, '') FROM account WHERE key LIKE 'card-%'"))
                .startsWith("the address book of ");
    }

    @Test
    void whereThePolicySaysNothingOfItNoneIsMade() throws Exception {
        scene(false);
        card("a", "Ravnkilde Marine", "a@ravnkilde.example");
        scene.look(0);
        assertThat(made()).isEmpty();
        assertThat(at("Card a")).isEmpty();
    }

    /** What came of a book goes with it, but for an account that something else is at, or that somebody changed. */
    @Test
    void takingBackTakesAccountsBackThatNobodyUses() throws Exception {
        scene(true);
        card("a", "Ravnkilde Marine", "a@ravnkilde.example");
        card("b", "Zyx Works", "b@zyx.example");
        card("c", "Quillon", "c@quillon.example");
        scene.look(0);
        assertThat(made()).hasSize(3);
        store.run("UPDATE account SET version = 2, name = 'Quillon AS' WHERE name = 'Quillon'");
        store.run(
                "INSERT INTO contact (id, key, name, title, account) SELECT gen_random_uuid(), 'other', 'Other', '', id"
                        + " FROM account WHERE name = 'Zyx Works'");
        int source = (int) store.count("SELECT id FROM source");
        store.get(Books.class).undo(store.get(Connections.class).source(source).orElseThrow(), "ina");
        assertThat(made()).containsExactly("Quillon AS: @quillon.example", "Zyx Works: @zyx.example Other");
    }
}
