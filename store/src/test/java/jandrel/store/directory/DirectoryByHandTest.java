package jandrel.store.directory;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectoryFile;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.PersonRow;
import jandrel.core.directory.DirectoryRows.Row;
import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.OwnFields;
import jandrel.core.directory.RecordKind;
import jandrel.store.StoreContext;
import jandrel.store.capture.Scene;
import jandrel.store.directory.Directory.Edit;
import jandrel.store.directory.DirectoryTables.TableLine;
import jandrel.store.directory.DirectoryTables.Wanted;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.StaleVersion;
import jandrel.store.people.PeopleImport;
import jandrel.store.timeline.RecordFilter;
import jandrel.store.timeline.Timelines;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What somebody sets here and what files say of the same records; and the tables that show both. */
class DirectoryByHandTest {
    private static StoreContext store;
    private static Directory directory;
    private static DirectoryTables tables;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_by_hand");
        directory = store.get(Directory.class);
        tables = store.get(DirectoryTables.class);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void someCustomers() throws Exception {
        Scene.anew(store).people(2);
        directory.accounts(List.of(account("port", "Port", ""), account("quay", "Quay", "p1")));
        directory.contacts(List.of(contact("bram", "Bram", "port", "Master", "bram@port.example")));
    }

    private static AccountRow account(String key, String name, String owner) {
        return new AccountRow(1, key, name, List.of(), owner, "");
    }

    private static ContactRow contact(String key, String name, String account, String title, String... addresses) {
        return onLine(1, key, name, account, title, addresses);
    }

    private static ContactRow onLine(
            long line, String key, String name, String account, String title, String... addresses) {
        List<EmailAddress> all = Arrays.stream(addresses).map(EmailAddress::of).toList();
        return new ContactRow(line, key, name, all, List.of(), account, title, null, null);
    }

    private static TableLine row(DirectoryFile file, String key) {
        return tables.page(wanted(file, "name", Map.of()), 0, 100).stream()
                .filter(l -> l.key().equals(key))
                .findFirst()
                .orElseThrow();
    }

    private static Wanted wanted(DirectoryFile file, String sort, Map<String, String> filters) {
        boolean descending = sort.startsWith("-");
        return new Wanted(file, "", filters, descending ? sort.substring(1) : sort, descending, false, OwnFields.NONE);
    }

    private static void byHand(ContactRow row, @Nullable Set<String> marks, String... columns) throws ImportRejected {
        TableLine now = row(DirectoryFile.CONTACTS, row.key());
        directory.change(
                RecordKind.CONTACT,
                List.of(row),
                List.of(new Edit(now.id(), row.key(), now.version(), Set.of(columns), marks, null)));
    }

    private static String bram(String column) {
        return row(DirectoryFile.CONTACTS, "bram").values().get(column);
    }

    @Test
    void whatSomebodySetNoFileChangesUntilItMayAgain() throws Exception {
        byHand(contact("bram", "ignored", "", "Director"), null, "title");
        assertThat(List.of(bram("name"), bram("title"), bram("account"))).containsExactly("Bram", "Director", "port");
        directory.contacts(List.of(contact("bram", "Bram Holm", "quay", "Master", "bram@port.example")));
        assertThat(List.of(bram("name"), bram("title"), bram("account")))
                .containsExactly("Bram Holm", "Director", "quay");
        byHand(contact("bram", "", "", ""), Set.of());
        assertThat(bram("title")).isEqualTo("Director");
        directory.contacts(List.of(contact("bram", "Bram Holm", "quay", "Master", "bram@port.example")));
        assertThat(bram("title")).isEqualTo("Master");
    }

    @Test
    void theSameFileAgainChangesNothingWhereSomebodySetSomething() throws Exception {
        byHand(contact("bram", "", "", "Director"), null, "title");
        long version = row(DirectoryFile.CONTACTS, "bram").version();
        assertThat(directory
                        .contacts(List.of(contact("bram", "Bram", "port", "Master", "bram@port.example")))
                        .unchanged())
                .isEqualTo(1);
        assertThat(row(DirectoryFile.CONTACTS, "bram").version()).isEqualTo(version);
    }

    /** An address that somebody takes away does not come back with the next file; one that they add stays. */
    @Test
    void addressesFollowWhoeverTypedThem() throws Exception {
        byHand(contact("bram", "", "", "", "new@port.example"), null, "addresses");
        assertThat(bram("addresses")).isEqualTo("new@port.example");
        directory.contacts(List.of(contact("bram", "Bram", "port", "Master", "bram@port.example", "c@port.example")));
        assertThat(bram("addresses")).isEqualTo("new@port.example");
        byHand(contact("bram", "", "", ""), Set.of());
        directory.contacts(List.of(contact("bram", "Bram", "port", "Master", "bram@port.example")));
        assertThat(bram("addresses")).isEqualTo("bram@port.example new@port.example");
    }

    @Test
    void whoeverSawAnOlderVersionOverwritesNothing() throws Exception {
        TableLine seen = row(DirectoryFile.CONTACTS, "bram");
        byHand(contact("bram", "", "", "Director"), null, "title");
        Edit late = new Edit(seen.id(), "bram", seen.version(), Set.of("title"), null, null);
        assertThatThrownBy(() ->
                        directory.change(RecordKind.CONTACT, List.of(contact("bram", "", "", "Diver")), List.of(late)))
                .isInstanceOf(StaleVersion.class);
        assertThat(bram("title")).isEqualTo("Director");
        PeopleImport people = store.get(PeopleImport.class);
        TableLine person = row(DirectoryFile.PEOPLE, "p0");
        PersonRow row = new PersonRow(1, "p0", "P", List.of(EmailAddress.of("p0@corvane.example")), "West", "");
        people.change(List.of(row), Map.of(person.id(), person.version()));
        assertThat(row(DirectoryFile.PEOPLE, "p0").values()).containsEntry("team", "West");
        assertThatThrownBy(() -> people.change(List.of(row), Map.of(person.id(), person.version())))
                .isInstanceOf(StaleVersion.class);
    }

    @Test
    void theArchivedAreInNoListAndComeBack() throws Exception {
        TableLine port = row(DirectoryFile.ACCOUNTS, "port");
        for (boolean archived : new boolean[] {true, false}) {
            TableLine now =
                    tables.some(DirectoryFile.ACCOUNTS, new UUID[] {port.id()}).get(0);
            directory.change(
                    RecordKind.ACCOUNT,
                    List.of(account("port", "Port", "")),
                    List.of(new Edit(port.id(), "port", now.version(), Set.of(), null, archived)));
            int there = archived ? 0 : 1;
            assertThat(tables.count(wanted(DirectoryFile.ACCOUNTS, "name", Map.of("name", "=port"))))
                    .isEqualTo(there);
            assertThat(store.get(Timelines.class).recordCount(RecordFilter.named("account", "Port"), Scene.NOON))
                    .isEqualTo(there);
            assertThat(tables.count(
                            new Wanted(DirectoryFile.ACCOUNTS, "", Map.of(), "name", false, true, OwnFields.NONE)))
                    .isEqualTo(1 - there);
        }
    }

    /** Nothing is written by looking. */
    @Test
    void aPreviewSaysWhatWouldComeAndChangesNothing() {
        FileImport.Fitting plan = directory.preview(
                RecordKind.CONTACT,
                List.of(
                        onLine(2, "bram", "Bram", "port", "Diver", "bram@port.example"),
                        onLine(3, "ida", "Ida", "nowhere", ""),
                        onLine(4, "ole", "Ole", "quay", "")));
        assertThat(plan.rows()).extracting(Row::line).containsExactly(2L, 4L);
        assertThat(List.of(plan.plan().change("bram"), plan.plan().change("ole"))
                        .toString())
                .isEqualTo("[CHANGED, ADDED]");
        assertThat(plan.problems())
                .singleElement()
                .satisfies(p -> assertThat(p.reason()).contains("nowhere"));
        assertThat(bram("title")).isEqualTo("Master");
        assertThat(tables.count(wanted(DirectoryFile.CONTACTS, "name", Map.of())))
                .isEqualTo(1);
    }

    @ParameterizedTest
    @CsvSource({
        "name, '', '', 'a100 b%c c_d port quay'",
        "-name, '', '', 'quay port c_d b%c a100'",
        "owner, '', '', 'a100 quay b%c c_d port'",
        "name, owner, 'person 1', 'quay'",
        "name, owner, =p0, 'a100'",
        "name, owner, -, 'b%c c_d port'",
        "name, name, %, 'b%c'",
        "name, name, _, 'c_d'",
        "name, name, x) OR (true, ''",
        "name, contacts, 1, port",
        "-contacts, contacts, =0, 'a100 b%c c_d quay'",
    })
    void tablesAreSortedAndNarrowed(String sort, String column, String filter, String expected) throws Exception {
        directory.accounts(
                List.of(account("a100", "a100", "p0"), account("b%c", "b%c", ""), account("c_d", "c_d", "")));
        Wanted wanted = wanted(DirectoryFile.ACCOUNTS, sort, column.isEmpty() ? Map.of() : Map.of(column, filter));
        List<String> found = new ArrayList<>();
        tables.page(wanted, 0, 100).forEach(l -> found.add(l.key()));
        assertThat(String.join(" ", sorted(found, sort, expected))).isEqualTo(expected == null ? "" : expected);
        assertThat(tables.count(wanted)).isEqualTo(found.size());
        if (!found.isEmpty()) {
            assertThat(tables.page(wanted, 1, 1).stream().map(TableLine::key))
                    .containsExactlyElementsOf(found.subList(1, Math.min(2, found.size())));
        }
    }

    /** Those that an order does not tell apart come by an id that nobody knows beforehand. */
    private static List<String> sorted(List<String> found, String sort, String expected) {
        int told = sort.equals("owner") ? 2 : sort.equals("-contacts") ? 0 : found.size();
        List<String> all = new ArrayList<>(found.subList(0, Math.min(told, found.size())));
        found.stream().skip(told).sorted().forEach(all::add);
        return all;
    }
}
