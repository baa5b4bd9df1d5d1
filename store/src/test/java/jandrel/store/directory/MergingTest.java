package jandrel.store.directory;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.core.address.DomainName;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.LeadRow;
import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.core.directory.DirectoryRows.OpportunityState;
import jandrel.core.directory.DirectoryRows.Period;
import jandrel.core.directory.ImportRejected;
import jandrel.store.StoreContext;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Scene;
import jandrel.store.triage.Pins;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Two records that become one, what files say of the one that went, and the way back. */
class MergingTest {
    /** All that the directory holds, but for how often and when it was changed. */
    static final String DIRECTORY = """
            SELECT string_agg(line, E'\\n' ORDER BY line) FROM (
                SELECT 'account ' || (to_jsonb(a) - 'version' - 'changed_at')::text AS line FROM account a
                UNION ALL SELECT 'domain ' || to_jsonb(d)::text FROM account_domain d
                UNION ALL SELECT 'contact ' || (to_jsonb(c) - 'version' - 'changed_at')::text FROM contact c
                UNION ALL SELECT 'address ' || to_jsonb(x)::text FROM contact_address x
                UNION ALL SELECT 'phone ' || to_jsonb(f)::text FROM contact_phone f
                UNION ALL SELECT 'stay ' || to_jsonb(s)::text FROM contact_stay s
                UNION ALL SELECT 'opportunity ' || (to_jsonb(o) - 'version' - 'changed_at')::text FROM opportunity o
                UNION ALL SELECT 'part ' || to_jsonb(p)::text FROM opportunity_contact p
                UNION ALL SELECT 'lead ' || (to_jsonb(l) - 'version' - 'changed_at')::text FROM lead l
                UNION ALL SELECT 'lead address ' || to_jsonb(y)::text FROM lead_address y
                UNION ALL SELECT 'merged ' || to_jsonb(m)::text FROM merged_account m
                UNION ALL SELECT 'merged ' || to_jsonb(m)::text FROM merged_contact m
                UNION ALL SELECT 'merged ' || to_jsonb(m)::text FROM merged_lead m
                UNION ALL SELECT 'pin ' || to_jsonb(n)::text FROM pin n) all_of_it
            """;

    private static StoreContext store;
    private static Merging merging;
    private Scene scene;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_merging");
        merging = store.get(Merging.class);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void customers() throws Exception {
        scene = Scene.anew(store).people(2);
        accounts();
        scene.contact("bram", "port", "bram@port.example").contact("ida", "quay", "ida@quay.example");
        opportunity("port", "bram");
        opportunity("quay", "ida");
        leads();
    }

    private static void accounts() throws ImportRejected {
        store.get(Directory.class)
                .accounts(List.of(
                        account("group", ""),
                        account("port", "group", "port.example"),
                        account("quay", "", "quay.example"),
                        account("jetty", "quay", "jetty.example")));
    }

    private static AccountRow account(String key, String above, String... domains) {
        List<DomainName> all = Arrays.stream(domains).map(DomainName::of).toList();
        return new AccountRow(2, key, "Account " + key, all, "", above);
    }

    private static void opportunity(String account, String... contacts) throws ImportRejected {
        store.get(Directory.class)
                .opportunities(List.of(new OpportunityRow(
                        2,
                        "deal-" + account,
                        "Deal of " + account,
                        account,
                        "",
                        OpportunityState.OPEN,
                        null,
                        "",
                        Period.ONCE,
                        "",
                        "",
                        List.of(contacts))));
    }

    private static void leads() throws ImportRejected {
        store.get(Directory.class)
                .leads(List.of(
                        new LeadRow(2, "rosa", "Rosa", Scene.addresses("rosa@a.example", "rosa@b.example"), "", ""),
                        new LeadRow(
                                2, "rosa2", "Rosa L", Scene.addresses("rosa@b.example", "rosa@c.example"), "", "")));
    }

    private static UUID id(String kind, String key) {
        return store.get(RecordRefs.class).byKey(kind, key).orElseThrow().id();
    }

    private static String merge(String kind, String stays, String goes) {
        return merging.merge(kind, id(kind, stays), id(kind, goes));
    }

    private static String keys(String sql) throws SQLException {
        return store.text("SELECT string_agg(key, ' ' ORDER BY key) FROM (" + sql + ") q (key)");
    }

    private static String ofAccount(String key) throws SQLException {
        String of = " = '" + id("account", key) + "'";
        return keys(
                "SELECT domain FROM account_domain WHERE account" + of + " UNION SELECT key FROM contact WHERE account"
                        + of + " UNION SELECT key FROM opportunity WHERE account" + of
                        + " UNION SELECT key FROM account WHERE above"
                        + of);
    }

    /** What they had, and what they share. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "account port quay",
                "account quay port",
                "account quay jetty",
                "account jetty quay",
                "account group port",
                "account port group",
                "contact bram ida",
                "lead rosa rosa2",
                "lead rosa2 rosa"
            })
    void aMergeAndItsWayBackLeaveTheDirectoryAsItWas(String which) throws Exception {
        String[] words = which.split(" ", -1);
        if (words[0].equals("contact")) {
            store.run(
                    "INSERT INTO contact_stay SELECT id, (SELECT id FROM account WHERE key = 'group'), '2026-03-01' FROM contact");
            store.run(
                    "INSERT INTO contact_stay SELECT id, (SELECT id FROM account WHERE key = 'jetty'), '2026-04-01' FROM contact"
                            + " WHERE key = 'ida'");
            store.get(Amending.class).give(id("contact", "bram"), List.of("both@port.example"));
            store.get(Amending.class).give(id("contact", "ida"), List.of("both@port.example"));
            store.run("UPDATE contact SET own = '{\"berths\": \"7\", \"segment\": \"Gold\"}' WHERE key = 'ida'");
            store.run("UPDATE contact SET own = '{\"segment\": \"Silver\"}' WHERE key = 'bram'");
        }
        store.run("INSERT INTO pin (item, record, kind, by_name, owners) SELECT gen_random_uuid(), id, '" + words[0]
                + "', 't', ARRAY[id] FROM " + words[0] + " WHERE key = '" + words[2] + "'");
        String was = store.text(DIRECTORY);
        UUID stays = id(words[0], words[1]);
        UUID went = id(words[0], words[2]);
        String before = merge(words[0], words[1], words[2]);
        assertThat(store.get(RecordRefs.class).byKey(words[0], words[2])).isEmpty();
        assertThat(store.get(RecordRefs.class).mergedInto(went)).contains(stays);
        assertThat(store.count("SELECT count(*) FROM pin WHERE record = '" + stays + "' AND owners <> '{}'"))
                .isEqualTo(1);
        merging.split(words[0], stays, before);
        assertThat(store.text(DIRECTORY)).isEqualTo(was);
        assertThat(store.get(RecordRefs.class).mergedInto(went)).isEmpty();
    }

    /** Merges of before say nothing of fields that the company made for itself. */
    @Test
    void aMergeOfBeforeThereWereOwnFieldsCanBeUndone() throws Exception {
        UUID stays = id("contact", "bram");
        String before = merge("contact", "bram", "ida");
        store.run("UPDATE contact SET own = '{\"berths\": \"7\"}' WHERE key = 'bram'");
        merging.split(
                "contact",
                stays,
                store.text(
                        "SELECT ('" + before.replace("'", "''") + "'::jsonb #- '{contact,own}' #- '{had,own}')::text"));
        assertThat(store.text("SELECT string_agg(key || own::text, ' ' ORDER BY key) FROM contact"))
                .isEqualTo("bram{\"berths\": \"7\"} ida{}");
    }

    @Test
    void whatTheOneThatStaysSaysInOwnFieldsGoesBefore() throws Exception {
        store.run("UPDATE contact SET own = '{\"berths\": \"7\", \"segment\": \"Gold\"}' WHERE key = 'ida'");
        store.run("UPDATE contact SET own = '{\"segment\": \"Silver\"}' WHERE key = 'bram'");
        UUID stays = id("contact", "bram");
        String before = merge("contact", "bram", "ida");
        String own = "SELECT own::text FROM contact WHERE key = 'bram'";
        assertThat(store.text(own)).isEqualTo("{\"berths\": \"7\", \"segment\": \"Silver\"}");
        store.run("UPDATE contact SET own = '{\"berths\": \"9\", \"segment\": \"Silver\"}' WHERE key = 'bram'");
        merging.split("contact", stays, before);
        assertThat(store.text(own))
                .as("what somebody wrote since is theirs")
                .isEqualTo("{\"berths\": \"9\", \"segment\": \"Silver\"}");
    }

    @Test
    void oneAccountHasWhatTheTwoHadAndFilesMayGoOnNamingBoth() throws Exception {
        merge("account", "port", "quay");
        for (int night = 0; night < 2; night++) {
            assertThat(ofAccount("port")).isEqualTo("@port.example @quay.example bram deal-port deal-quay ida jetty");
            accounts();
            scene.contact("ida", "quay", "ida@quay.example");
            opportunity("quay", "ida");
        }
        assertThat(keys("SELECT key FROM account")).isEqualTo("group jetty port");
    }

    @Test
    void filesMayGoOnNamingAContactOrLeadThatWent() throws Exception {
        merge("contact", "bram", "ida");
        merge("lead", "rosa", "rosa2");
        opportunity("quay", "ida");
        leads();
        assertThat(keys(
                        "SELECT c.key FROM opportunity_contact p JOIN contact c ON c.id = p.contact WHERE p.opportunity = '"
                                + id("opportunity", "deal-quay") + "'"))
                .isEqualTo("bram");
        assertThat(keys("SELECT address FROM lead_address")).isEqualTo("rosa@a.example rosa@b.example rosa@c.example");
    }

    /** What stood above may have become a part of what stood below, which the file still tells the other way. */
    @Test
    void noAccountBecomesAPartOfItself() throws Exception {
        merge("account", "jetty", "quay");
        accounts();
        assertThat(keys("SELECT key FROM account WHERE above IS NULL")).isEqualTo("group jetty");
        String before = merge("account", "jetty", "group");
        assertThat(ofAccount("jetty")).contains("port");
        // what the merge took away would be a part of its own part
        UUID jetty = id("account", "jetty");
        merging.split("account", jetty, before);
        before = merge("account", "group", "port");
        store.get(Directory.class).accounts(List.of(account("group", "jetty"), account("jetty", "", "jetty.example")));
        merging.split("account", id("account", "group"), before);
        assertThat(ofAccount("group")).isEqualTo("port");
    }

    @Test
    void whatWasMergedOnCannotBeSplitBeforeThat() throws Exception {
        UUID quay = id("account", "quay");
        String first = merge("account", "quay", "jetty");
        UUID port = id("account", "port");
        String second = merge("account", "port", "quay");
        assertThatThrownBy(() -> merging.split("account", quay, first))
                .isInstanceOf(Merging.NoWayBack.class)
                .hasMessageContaining("Undo that first");
        merging.split("account", port, second);
        merging.split("account", quay, first);
        assertThat(keys("SELECT key FROM account")).isEqualTo("group jetty port quay");
        assertThat(ofAccount("jetty")).isEqualTo("@jetty.example");
    }

    /** Somebody takes the one that stayed out of the directory: what was merged into it is not lost. */
    @Test
    void whatWentComesBackThoughTheOtherIsGone() throws Exception {
        accountsOnly();
        UUID one = id("account", "one");
        String before = merge("account", "one", "other");
        store.get(Amending.class).remove(Set.of(), Set.of(), Set.of("one"), Set.of());
        assertThat(keys("SELECT domain FROM account_domain WHERE domain LIKE '%other%'"))
                .isEqualTo("null");
        merging.split("account", one, before);
        assertThat(ofAccount("other")).isEqualTo("@other.example");
        UUID bram = id("contact", "bram");
        before = merge("contact", "bram", "ida");
        store.get(Amending.class).remove(Set.of("bram"), Set.of(), Set.of(), Set.of());
        merging.split("contact", bram, before);
        assertThat(keys("SELECT address FROM contact_address")).isEqualTo("ida@quay.example");
        UUID rosa = id("lead", "rosa");
        before = merge("lead", "rosa", "rosa2");
        store.get(Amending.class).remove(Set.of(), Set.of("rosa"), Set.of(), Set.of());
        merging.split("lead", rosa, before);
        assertThat(keys("SELECT address FROM lead_address")).isEqualTo("rosa@b.example rosa@c.example");
    }

    private static void accountsOnly() throws ImportRejected {
        store.get(Directory.class)
                .accounts(List.of(account("one", "", "one.example"), account("other", "", "other.example")));
    }

    /** The account of a contact who went may be another one by the time that they come back. */
    @Test
    void aContactComesBackToTheAccountThatTheirsIsAPartOf() throws Exception {
        UUID bram = id("contact", "bram");
        String before = merge("contact", "bram", "ida");
        merge("account", "port", "quay");
        merging.split("contact", bram, before);
        assertThat(ofAccount("port")).contains("ida");
    }

    /** What somebody pinned to a record is shown on the one that it became, though no address of theirs is on it. */
    @ParameterizedTest
    @ValueSource(strings = {"contact bram ida", "account port quay", "lead rosa rosa2"})
    void whatIsPinnedFollows(String which) throws Exception {
        String[] words = which.split(" ", -1);
        store.get(Intake.class)
                .take(
                        scene.place(1),
                        List.of(Scene.seen("1/1", Scene.mail("1", "p0@corvane.example", "somebody@else.example"))),
                        List.of(),
                        null);
        UUID item = UUID.fromString(store.text("SELECT item FROM sighting"));
        UUID goes = id(words[0], words[2]);
        store.get(Pins.class).pin(item, store.get(RecordRefs.class).find(goes).orElseThrow(), "t");
        scene.settle();
        String shownOn = "SELECT DISTINCT record FROM link WHERE kind = '" + words[0] + "'";
        assertThat(store.text(shownOn)).isEqualTo(goes.toString());
        UUID stays = id(words[0], words[1]);
        String before = merge(words[0], words[1], words[2]);
        scene.settle();
        assertThat(store.text(shownOn)).isEqualTo(stays.toString());
        merging.split(words[0], stays, before);
        scene.settle();
        assertThat(store.text("SELECT string_agg(record::text, ' ') FROM (" + shownOn + ") r"))
                .isEqualTo(goes.toString());
    }
}
