package jandrel.store.directory;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.core.address.DomainName;
import jandrel.core.address.PhoneNumber;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.LeadRow;
import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.core.directory.DirectoryRows.OpportunityState;
import jandrel.core.directory.DirectoryRows.Period;
import jandrel.core.directory.DirectoryRows.Row;
import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.RecordKind;
import jandrel.store.StoreContext;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Scene;
import jandrel.store.directory.ImportUndo.Left;
import jandrel.store.directory.ImportUndo.Undone;
import jandrel.store.kernel.FileImport;
import java.math.BigDecimal;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.support.TransactionTemplate;

/** What a file brought is undone as a whole: everything is as before to the letter, but for what somebody did since. */
class ImportUndoTest {
    private static StoreContext store;
    private static ImportUndo undo;
    private static Directory directory;
    private static JdbcTemplate sql;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_import_undo");
        undo = store.get(ImportUndo.class);
        directory = store.get(Directory.class);
        sql = store.get(JdbcTemplate.class);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void before() throws Exception {
        Scene.anew(store).people(2);
        taken(
                RecordKind.ACCOUNT,
                account("group", "Group", "", "group.example"),
                account("port", "Port", "group", "port.example"));
        taken(
                RecordKind.CONTACT,
                new ContactRow(
                        2,
                        "bram",
                        "Bram",
                        Scene.addresses("bram@port.example", "bram@home.example"),
                        List.of(PhoneNumber.of("+4722000001").orElseThrow()),
                        "port",
                        "Pilot",
                        LocalDate.of(2026, 2, 3),
                        null,
                        Map.of()),
                contact("ida", "Ida", "group", null, "ida@group.example"));
        taken(RecordKind.LEAD, lead("rosa", "Rosa", "rosa@a.example"));
        taken(RecordKind.OPPORTUNITY, deal("deal", "port", "12000", "bram", "ida"));
    }

    private static AccountRow account(String key, String name, String above, String... domains) {
        return new AccountRow(
                2, key, name, Arrays.stream(domains).map(DomainName::of).toList(), "", above);
    }

    private static ContactRow contact(String key, String name, String account, LocalDate since, String... addresses) {
        return new ContactRow(
                2, key, name, Scene.addresses(addresses), List.of(), account, "Diver", null, since, Map.of());
    }

    private static LeadRow lead(String key, String name, String... addresses) {
        return new LeadRow(2, key, name, Scene.addresses(addresses), "", "");
    }

    private static OpportunityRow deal(String key, String account, String value, String... contacts) {
        return new OpportunityRow(
                2,
                key,
                "Deal",
                account,
                "",
                OpportunityState.OPEN,
                new BigDecimal(value),
                "EUR",
                Period.ONCE,
                "",
                "",
                List.of(contacts));
    }

    private static UUID taken(RecordKind kind, Row... rows) {
        UUID file = UUID.randomUUID();
        store.get(TransactionTemplate.class).executeWithoutResult(t -> {
            try {
                undo.begin(file, kind, "theirs.csv", "ina");
                FileImport.Taken all = directory.takeFitting(kind, List.of(rows), file);
                assertThat(all.problems()).isEmpty();
            } catch (ImportRejected rejected) {
                throw new AssertionError(rejected);
            }
        });
        return file;
    }

    private static Undone undone(UUID file) throws ImportRejected {
        return undo.undo(file, "ina").orElseThrow();
    }

    private static String all() {
        return sql.queryForObject(MergingTest.DIRECTORY, String.class);
    }

    private static UUID id(String kind, String key) {
        return store.get(RecordRefs.class).byKey(kind, key).orElseThrow().id();
    }

    @Test
    void accountsAreAsBefore() throws Exception {
        String before = all();
        UUID file = taken(
                RecordKind.ACCOUNT,
                account("port", "Port of Skarvik", "quay", "skarvik.example"),
                account("quay", "Quay", "", "port.example"),
                account("jetty", "Jetty", "quay", "jetty.example"));
        assertThat(all()).isNotEqualTo(before);
        Undone undone = undone(file);
        assertThat(all()).isEqualTo(before);
        assertThat(undone).isEqualTo(new Undone(2, 0, 1, List.of()));
    }

    @Test
    void contactsAreAsBeforeWithTheirNumbersAndWhereTheyWere() throws Exception {
        String before = all();
        UUID file = taken(
                RecordKind.CONTACT,
                contact("bram", "Bram Moe", "group", LocalDate.of(2026, 5, 1), "bram@new.example"),
                contact("ida", "Ida", "group", null, "ida@group.example"),
                contact("tove", "Tove", "port", null, "tove@port.example"));
        assertThat(all())
                .contains("2026-05-01", "bram@new.example")
                .doesNotContain("bram@home.example", "+4722000001", "Pilot");
        Undone undone = undone(file);
        assertThat(all()).isEqualTo(before);
        assertThat(undone).isEqualTo(new Undone(1, 0, 1, List.of()));
        assertThat(undo.undo(file, "ina")).as("a second time").isEmpty();
        assertThat(all()).isEqualTo(before);
    }

    @Test
    void leadsAndOpportunitiesAreAsBefore() throws Exception {
        String before = all();
        UUID leads = taken(
                RecordKind.LEAD, lead("rosa", "Rosa L", "rosa@b.example"), lead("olav", "Olav", "olav@a.example"));
        UUID deals = taken(
                RecordKind.OPPORTUNITY, deal("deal", "group", "900.50", "ida"), deal("other", "port", "1", "bram"));
        undone(deals);
        undone(leads);
        assertThat(all()).isEqualTo(before);
    }

    @Test
    void whatSomebodyChangedSinceStaysAndIsNamed() throws Exception {
        UUID file = taken(
                RecordKind.CONTACT,
                contact("bram", "Bram Moe", "port", null, "bram@port.example"),
                contact("ida", "Ida Moe", "group", null, "ida@group.example"),
                contact("tove", "Tove", "port", null, "tove@port.example"),
                contact("olga", "Olga", "port", null, "olga@port.example"),
                contact("nils", "Nils", "port", null, "nils@port.example"));
        taken(RecordKind.CONTACT, contact("bram", "Bram M.", "port", null, "bram@port.example"));
        taken(RecordKind.OPPORTUNITY, deal("deal", "port", "12000", "tove"));
        store.get(Amending.class).give(id("contact", "olga"), List.of("olga@home.example"));
        Undone undone = undone(file);
        assertThat(undone.left())
                .extracting(Left::name, Left::why)
                .containsExactlyInAnyOrder(
                        org.assertj.core.groups.Tuple.tuple("Bram M.", "it was changed since"),
                        org.assertj.core.groups.Tuple.tuple("Tove", "something else belongs to it by now"),
                        org.assertj.core.groups.Tuple.tuple("Olga", "something else belongs to it by now"));
        assertThat(undone.removed()).isOne();
        assertThat(undone.restored()).isOne();
        assertThat(all())
                .contains("\"Bram M.\"", "\"Ida\"", "\"Tove\"", "\"Olga\"")
                .doesNotContain("Nils", "Ida Moe");
    }

    @Test
    void accountsThatSomethingIsAtStayWithThoseThatTheyArePartsOf() throws Exception {
        UUID file = taken(
                RecordKind.ACCOUNT,
                account("top", "Top", ""),
                account("middle", "Middle", "top"),
                account("used", "Used", "middle"),
                account("free", "Free", "top"));
        taken(RecordKind.CONTACT, contact("ida", "Ida", "used", null, "ida@group.example"));
        Undone undone = undone(file);
        assertThat(undone.left()).extracting(Left::name).containsExactlyInAnyOrder("Used", "Middle", "Top");
        assertThat(undone.removed()).isOne();
    }

    @Test
    void aDomainThatIsAnothersByNowStaysThere() throws Exception {
        UUID file = taken(RecordKind.ACCOUNT, account("port", "Port", "group", "new.example"));
        taken(RecordKind.ACCOUNT, account("quay", "Quay", "", "port.example"));
        Undone undone = undone(file);
        assertThat(undone.left())
                .extracting(Left::why)
                .containsExactly("a domain that it had is another account’s now");
        assertThat(all()).contains("@new.example");
    }

    @Test
    void anAccountThatWouldBeAPartOfItselfUndoesNothing() throws Exception {
        UUID file = taken(RecordKind.ACCOUNT, account("port", "Port", "", "port.example"));
        taken(RecordKind.ACCOUNT, account("group", "Group", "port", "group.example"));
        String before = all();
        assertThatThrownBy(() -> undone(file)).isInstanceOf(ImportRejected.class);
        assertThat(all()).isEqualTo(before);
        assertThat(undo.newest(10))
                .filteredOn(t -> t.id().equals(file))
                .singleElement()
                .satisfies(t -> assertThat(t.undoneAt()).isNull());
    }

    @Test
    void aContactThatStandsInAnAddressBookIsArchivedNotRemoved() throws Exception {
        UUID file = taken(RecordKind.CONTACT, contact("tove", "Tove", "port", null, "tove@port.example"));
        sql.update(
                "INSERT INTO contact_details (contact, details, columns) VALUES (?, '{}', '{}')",
                id("contact", "tove"));
        assertThat(undone(file)).isEqualTo(new Undone(0, 1, 0, List.of()));
        assertThat(sql.queryForObject("SELECT archived_at IS NOT NULL FROM contact WHERE key = 'tove'", Boolean.class))
                .isTrue();
    }

    @Test
    void aContactOfARecordThatWasMergedSinceIsAtTheOneThatItBecame() throws Exception {
        taken(RecordKind.ACCOUNT, account("quay", "Quay", "", "quay.example"));
        UUID file = taken(
                RecordKind.CONTACT, contact("bram", "Bram", "group", null, "bram@port.example", "bram@home.example"));
        store.get(Merging.class).merge("account", id("account", "quay"), id("account", "port"));
        undone(file);
        assertThat(sql.queryForObject(
                        "SELECT a.key FROM contact c JOIN account a ON a.id = c.account WHERE c.key = 'bram'",
                        String.class))
                .isEqualTo("quay");
    }

    @Test
    void whatCarriesAnAddressOfTheFileIsDecidedAgain() throws Exception {
        Scene scene = Scene.anew(store).people(1);
        store.get(Intake.class)
                .take(
                        scene.place(0),
                        List.of(Scene.seen("1/1", Scene.mail("m", "ida@quay.example", "p0@corvane.example"))),
                        List.of(),
                        null);
        assertThat(verdict()).isEqualTo("waiting");
        UUID file = taken(RecordKind.ACCOUNT, account("quay", "Quay", "", "quay.example"));
        scene.settle();
        assertThat(verdict()).isEqualTo("logged");
        undone(file);
        scene.settle();
        assertThat(verdict()).isEqualTo("waiting");
    }

    /** What is undone is no change of somebody's. */
    @Test
    void severalFilesAreUndoneOneAfterTheOtherTheNewestFirst() throws Exception {
        String before = all();
        UUID first = taken(
                RecordKind.CONTACT,
                contact("bram", "Bram M", "port", null, "bram@port.example"),
                contact("tove", "Tove", "port", null, "tove@port.example"));
        UUID second = taken(
                RecordKind.CONTACT,
                contact("bram", "Bram Mo", "group", null, "bram@new.example"),
                contact("tove", "Tove L", "port", null, "tove@port.example"));
        UUID third = taken(
                RecordKind.CONTACT,
                contact("bram", "Bram Moe", "port", null, "bram@port.example"),
                contact("tove", "Tove Lie", "group", null, "tove@new.example"));
        assertThat(undone(third)).isEqualTo(new Undone(0, 0, 2, List.of()));
        assertThat(undone(second)).isEqualTo(new Undone(0, 0, 2, List.of()));
        assertThat(undone(first)).isEqualTo(new Undone(1, 0, 1, List.of()));
        assertThat(all()).isEqualTo(before);
    }

    @Test
    void whatIsLongAgoCannotBeUndoneAndIsForgotten() throws Exception {
        UUID file = taken(RecordKind.CONTACT, contact("bram", "Bram Moe", "port", null, "bram@port.example"));
        sql.update("UPDATE import_taken SET at = at - interval '30 days 1 minute' WHERE id = ?", file);
        String before = all();
        assertThat(undo.newest(100)).extracting(ImportTaken::id).doesNotContain(file);
        assertThat(undo.undo(file, "ina")).isEmpty();
        assertThat(all()).isEqualTo(before);
        undo.forget(Instant.now());
        assertThat(sql.queryForObject("SELECT count(*) FROM import_change WHERE import = ?", Integer.class, file))
                .isZero();
    }

    private static String verdict() {
        return sql.queryForObject("SELECT verdict FROM sighting", String.class);
    }
}
