package jandrel.store.directory;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectoryFile;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.OwnField;
import jandrel.core.directory.OwnField.Kind;
import jandrel.core.directory.RecordKind;
import jandrel.store.StoreContext;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Scene;
import jandrel.store.directory.Directory.Edit;
import jandrel.store.directory.DirectoryTables.TableLine;
import jandrel.store.directory.DirectoryTables.Wanted;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Fields of contacts that the company made for itself: the list, and what is in them. */
class OwnFieldsTest {
    private static final OwnField BERTHS = new OwnField("berths", "Berths", Kind.NUMBER, List.of());
    private static final OwnField SEGMENT =
            new OwnField("segment", "Segment", Kind.CHOICE, List.of("Gold", "Silver", "Tin"));

    private static StoreContext store;
    private static Directory directory;
    private static DirectoryTables tables;
    private static OwnFieldList fields;
    private Scene scene;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_own_fields");
        directory = store.get(Directory.class);
        tables = store.get(DirectoryTables.class);
        fields = store.get(OwnFieldList.class);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void threeContacts() throws Exception {
        scene = Scene.anew(store);
        store.run("DELETE FROM own_field");
        fields.change(List.of(BERTHS, SEGMENT), "ina");
        take(contact("ada", Map.of("berths", "9", "segment", "Gold")));
        take(contact("bo", Map.of("berths", "120", "segment", "Silver")));
        take(contact("cy", Map.of("berths", "", "segment", "")));
    }

    private static ContactRow contact(String key, Map<String, String> own) {
        List<EmailAddress> address = List.of(EmailAddress.of(key + "@x.example"));
        return new ContactRow(2, key, key, address, List.of(), "", "", null, null, own);
    }

    private static int take(ContactRow row) throws ImportRejected {
        return directory.contacts(List.of(row)).unchanged();
    }

    private static List<String> keys(String sort, Map<String, String> filters) {
        boolean descending = sort.startsWith("-");
        Wanted wanted = new Wanted(
                DirectoryFile.CONTACTS,
                "",
                filters,
                descending ? sort.substring(1) : sort,
                descending,
                false,
                fields.fields());
        assertThat(tables.count(wanted)).isEqualTo(tables.page(wanted, 0, 10).size());
        return tables.page(wanted, 0, 10).stream().map(TableLine::key).toList();
    }

    private static @Nullable String cell(String key, String column) {
        return line(key).values().get(column);
    }

    private static TableLine line(String key) {
        Wanted all = new Wanted(DirectoryFile.CONTACTS, key + "@", Map.of(), "name", false, false, fields.fields());
        return tables.page(all, 0, 1).get(0);
    }

    @Test
    void aTableShowsSortsAndNarrowsThem() {
        assertThat(DirectoryTables.columns(DirectoryFile.CONTACTS, fields.fields()))
                .endsWith("berths", "segment");
        assertThat(DirectoryTables.columns(DirectoryFile.LEADS, fields.fields()))
                .doesNotContain("berths");
        assertThat(keys("berths", Map.of())).as("as numbers, empty ones last").containsExactly("ada", "bo", "cy");
        assertThat(keys("-berths", Map.of())).containsExactly("bo", "ada", "cy");
        assertThat(keys("name", Map.of("segment", "=gold"))).containsExactly("ada");
        assertThat(keys("name", Map.of("segment", "-"))).containsExactly("cy");
        assertThat(cell("bo", "berths")).isEqualTo("120");
    }

    /** What a merge of before brings back, say. */
    @Test
    void whatIsNoNumberStopsNothing() throws Exception {
        store.run("UPDATE contact SET own = '{\"berths\": \"seven\"}' WHERE key = 'ada'");
        store.run("UPDATE contact SET own = '{\"berths\": \"1e999999\"}' WHERE key = 'cy'");
        assertThat(keys("-berths", Map.of())).startsWith("bo");
        assertThat(keys("name", Map.of("berths", "120"))).containsExactly("bo");
        assertThat(cell("ada", "berths")).isEmpty();
    }

    /** A file that does not name a field changes nothing in it; one that names it and has nothing there empties it. */
    @Test
    void aFileChangesWhatItNames() throws Exception {
        assertThat(take(contact("ada", Map.of()))).isEqualTo(1);
        assertThat(take(contact("ada", Map.of("segment", "Gold", "berths", "9"))))
                .isEqualTo(1);
        assertThat(take(contact("ada", Map.of("segment", "")))).isZero();
        assertThat(cell("ada", "segment")).isEmpty();
        assertThat(cell("ada", "berths")).isEqualTo("9");
    }

    @Test
    void nothingIsDecidedAgainForThem() throws Exception {
        scene.people(1);
        store.get(Intake.class)
                .take(
                        scene.place(0),
                        List.of(Scene.seen("1/1", Scene.mail("1", "p0@corvane.example", "ada@x.example"))),
                        List.of(),
                        null);
        scene.settle();
        take(contact("ada", Map.of("segment", "Tin")));
        assertThat(store.count("SELECT count(*) FROM reconsider")).isZero();
        directory.contacts(List.of(new ContactRow(
                2, "ada", "Ada", List.of(EmailAddress.of("ada@x.example")), List.of(), "", "", null, null, Map.of())));
        assertThat(store.count("SELECT count(*) FROM reconsider")).isPositive();
    }

    @Test
    void whatSomebodySetNoFileChanges() throws Exception {
        TableLine ada = line("ada");
        directory.change(
                RecordKind.CONTACT,
                List.of(contact("ada", Map.of("segment", "Tin"))),
                List.of(new Edit(ada.id(), "ada", ada.version(), Set.of("segment"), null, null)));
        assertThat(take(contact("ada", Map.of("segment", "Gold", "berths", "9"))))
                .isEqualTo(1);
        assertThat(take(contact("ada", Map.of("segment", "Gold", "berths", "10"))))
                .isZero();
        assertThat(line("ada").byHand()).containsExactly("segment");
        assertThat(List.of(
                        Objects.requireNonNull(cell("ada", "segment")), Objects.requireNonNull(cell("ada", "berths"))))
                .containsExactly("Tin", "10");
    }

    /** One who edits the name of a contact changes none of its own fields, and the other way round. */
    @Test
    void whatNobodyNamedStays() throws Exception {
        TableLine bo = line("bo");
        directory.change(
                RecordKind.CONTACT,
                List.of(contact("bo", Map.of("berths", "", "segment", "Tin"))),
                List.of(new Edit(bo.id(), "bo", bo.version(), Set.of("berths"), null, null)));
        assertThat(cell("bo", "berths")).isEmpty();
        assertThat(cell("bo", "segment")).isEqualTo("Silver");
    }

    @Test
    void aFieldThatIsTakenOffTheListComesBackWithWhatWasInIt() throws Exception {
        fields.change(List.of(SEGMENT), "ina");
        assertThat(DirectoryTables.columns(DirectoryFile.CONTACTS, fields.fields()))
                .doesNotContain("berths");
        assertThat(line("bo").values()).doesNotContainKey("berths");
        fields.change(List.of(SEGMENT, new OwnField("berths", "Places", Kind.NUMBER, List.of())), "ina");
        assertThat(cell("bo", "berths")).isEqualTo("120");
        assertThat(fields.used()).isEqualTo(Map.of("berths", 2L, "segment", 2L));
    }

    private static String refused(OwnField... wanted) {
        OwnFieldList.DoesNotFit misfit =
                catchThrowableOfType(OwnFieldList.DoesNotFit.class, () -> fields.change(List.of(wanted), "ina"));
        return misfit == null ? "" : misfit.reasons().toString();
    }

    @Test
    void whatIsInAFieldStaysWhatItIs() throws Exception {
        assertThat(refused(SEGMENT, new OwnField("berths", "Berths", Kind.DATE, List.of())))
                .isEqualTo(
                        "{1=Misfit[of=kind, why=it holds a number in 2 contacts: keep that kind, or use another key]}");
        assertThat(refused(new OwnField("segment", "Segment", Kind.CHOICE, List.of("Silver"))))
                .isEqualTo("{0=Misfit[of=choices, why=contacts have Gold in it: give them another first]}");
        assertThat(refused(new OwnField("segment", "Segment", Kind.CHOICE, List.of("Silver", "Gold", "Lead")), BERTHS))
                .as("nobody is Tin")
                .isEmpty();
        fields.change(List.of(SEGMENT), "ina");
        assertThat(refused(SEGMENT, new OwnField("berths", "Berths", Kind.TEXT, List.of())))
                .as("what was taken off the list holds numbers still")
                .contains("it holds a number");
        assertThat(store.count("SELECT count(*) FROM journal j WHERE j::text LIKE '%fields of contacts%'"))
                .isGreaterThan(2);
    }
}
