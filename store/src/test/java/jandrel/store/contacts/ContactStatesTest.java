package jandrel.store.contacts;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactDetails.NameParts;
import jandrel.core.contacts.ContactField;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.ImportRejected;
import jandrel.core.policy.BookCondition;
import jandrel.core.policy.BookCondition.Comparison;
import jandrel.core.policy.BookCondition.Field;
import jandrel.core.policy.BookRules;
import jandrel.core.policy.BookRules.Gives;
import jandrel.store.StoreContext;
import jandrel.store.capture.Scene;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Source;
import jandrel.store.contacts.CardMapper.ContactSide;
import jandrel.store.directory.Directory;
import jandrel.store.kernel.RulesLock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.support.TransactionTemplate;

class ContactStatesTest {
    private static StoreContext store;
    private Scene scene;
    private CardMapper mapper;
    private ContactStates states;

    @BeforeAll
    static void open() throws Exception {
        store = new StoreContext("store_contacts");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void begin() throws Exception {
        scene = Scene.anew(store).people(1);
        mapper = store.get(CardMapper.class);
        states = store.get(ContactStates.class);
        store.get(Directory.class)
                .accounts(List.of(
                        new AccountRow(2, "brisund", "Brisund Havn", List.of(), "", ""),
                        new AccountRow(3, "twin-a", "Twin", List.of(), "", ""),
                        new AccountRow(4, "twin-b", "twin", List.of(), "", "")));
    }

    private UUID made(ContactDetails details) {
        return rules(() -> states.create(List.of(details), none(), "a test")).get(0);
    }

    private static List<String> none() {
        List<String> none = new ArrayList<>();
        none.add(null);
        return none;
    }

    private interface Work<T> {
        T done() throws ImportRejected;
    }

    private <T> T rules(Work<T> work) {
        return store.get(TransactionTemplate.class).execute(t -> {
            store.get(RulesLock.class).change();
            try {
                return work.done();
            } catch (ImportRejected rejected) {
                throw new IllegalStateException(rejected);
            }
        });
    }

    private void change(UUID contact, ContactDetails now) {
        rules(() -> {
            states.change(side(contact), now, "a test");
            return true;
        });
    }

    private ContactSide side(UUID contact) {
        return mapper.side(contact).orElseThrow();
    }

    private static ContactDetails random(SplittableRandom dice) {
        String[] names = {"Runa Halvorsen", "  Bo\tVik ", "李雷", "", "x".repeat(300), "Åse\nTwo"};
        String[] mails = {"runa@brisund.example", "not an address", "\u0000odd@x.example", "a@b@c", "bo@free.example"};
        String[] phones = {"+4790000017", "call me", "90 00", "112", "+47123456789012345678"};
        String[] companies = {"", "Brisund Havn", "BRISUND HAVN", "Twin", "Nobody & Sons", "y".repeat(900)};
        TreeMap<String, String> mail = new TreeMap<>();
        TreeMap<String, String> phone = new TreeMap<>();
        for (int n = 0; n < dice.nextInt(4); n++) {
            mail.put(mails[dice.nextInt(mails.length)].replace("\u0000", ""), dice.nextBoolean() ? "work" : "");
            phone.put(phones[dice.nextInt(phones.length)], dice.nextBoolean() ? "cell" : "");
        }
        return new ContactDetails(
                names[dice.nextInt(names.length)],
                new NameParts(names[dice.nextInt(4)], "", "", "", ""),
                companies[dice.nextInt(companies.length)],
                "",
                names[dice.nextInt(names.length)],
                "",
                mail,
                phone,
                new TreeMap<>(),
                new TreeMap<>(),
                "",
                "note " + dice.nextInt(9),
                new TreeSet<>());
    }

    @Test
    void whatWasAgreedOnIsWhatIsHereToTheLetterWhateverTheDirectoryCanHold() {
        for (long seed = 0; seed < 60; seed++) {
            SplittableRandom dice = new SplittableRandom(seed);
            ContactDetails first = named(random(dice));
            UUID contact = made(first);
            assertThat(ContactStates.here(side(contact))).as("seed %d", seed).isEqualTo(first);
            for (int n = 0; n < 5; n++) {
                ContactDetails next = random(dice);
                change(contact, next);
                assertThat(ContactStates.here(side(contact)))
                        .as("seed %d, change %d: or it would be sent back as a change of ours", seed, n)
                        .isEqualTo(next);
            }
        }
    }

    private static ContactDetails named(ContactDetails d) {
        return ContactField.NAME.put(d, ContactDetails.called("Somebody", NameParts.NONE));
    }

    @Test
    void whatTheDirectoryChangesSinceStandsAndAllElseStays() throws Exception {
        SplittableRandom dice = new SplittableRandom(5);
        ContactDetails agreed = named(random(dice));
        UUID contact = made(agreed);
        store.run("UPDATE contact SET name = 'Anna van Berg', title = 'Chair' WHERE id = '" + contact + "'");
        store.run("INSERT INTO contact_address (address, contact, by_hand) VALUES ('new@x.example', '" + contact
                + "', true)");
        ContactDetails here = ContactStates.here(side(contact));
        assertThat(here.name()).isEqualTo("Anna van Berg");
        assertThat(here.parts()).isEqualTo(new NameParts("Berg", "Anna van", "", "", ""));
        assertThat(here.title()).isEqualTo("Chair");
        assertThat(here.mails()).containsEntry("new@x.example", "").containsAllEntriesOf(agreed.mails());
        assertThat(here.organisation()).isEqualTo(agreed.organisation());
        assertThat(here.note()).isEqualTo(agreed.note());
    }

    @Test
    void aCompanyThatOneAccountIsCalledMovesTheContactThereAndAnyOtherDoesNot() throws Exception {
        UUID contact = made(named(random(new SplittableRandom(1))));
        ContactDetails now = ContactStates.here(side(contact));
        change(contact, organised(now, "brisund HAVN"));
        assertThat(side(contact).accountKey()).isEqualTo("brisund");
        change(contact, organised(now, "Twin"));
        assertThat(side(contact).accountKey()).as("two are called so").isEqualTo("brisund");
        // a file does not take back what came by a card
        store.get(Directory.class)
                .contacts(List.of(new ContactRow(
                        2, side(contact).key(), "Somebody else", List.of(), List.of(), "", "", null, null)));
        assertThat(side(contact).accountKey()).isEqualTo("brisund");
    }

    private static ContactDetails organised(ContactDetails d, String organisation) {
        return new ContactDetails(
                d.name(),
                d.parts(),
                organisation,
                d.unit(),
                d.title(),
                d.role(),
                d.mails(),
                d.phones(),
                d.places(),
                d.urls(),
                d.birthday(),
                d.note(),
                d.categories());
    }

    /** In their order, those alone of whom what is known meets the conditions, and no more of them than may go out. */
    @Test
    void whoMeetsConditionsGoesOut() throws Exception {
        scene.account("quay").account("pier");
        store.get(Directory.class)
                .contacts(IntStream.range(0, 700)
                        .mapToObj(i -> new ContactRow(
                                2,
                                "k" + i,
                                "Contact k" + (1_000 + i),
                                Scene.addresses("k" + i + "@quay.example"),
                                List.of(),
                                i % 7 == 0 ? "pier" : "quay",
                                "",
                                null,
                                null))
                        .toList());
        int source = scene.calendar(0).source();
        mapper.addBook(source);
        BookCondition pier = new BookCondition(Field.ORGANISATION, Comparison.CONTAINS, "PIER");
        BookCondition late = new BookCondition(Field.MAIL, Comparison.BEGINS_WITH, "k69");
        BookRules rules =
                giving(List.of(List.of(pier, new BookCondition(Field.NAME, Comparison.ENDS_WITH, "7")), List.of(late)));
        Source book = store.get(Connections.class).source(source).orElseThrow();
        List<String> names = store.get(Books.class).namesOut(scene.person(0), book, rules, 1_000);
        List<String> expected = IntStream.range(0, 700)
                .filter(i -> i % 70 == 7 || String.valueOf(i).startsWith("69"))
                .mapToObj(i -> "Contact k" + (1_000 + i))
                .toList();
        assertThat(names).hasSameSizeAs(expected).allMatch(n -> expected.contains(n.substring(0, n.indexOf(" ("))));
        assertThat(store.get(Books.class).namesOut(scene.person(0), book, rules, 3))
                .hasSize(3);
    }

    /** What a rule asks of a field that the company made for itself, is asked of the contact; a number as a number. */
    @Test
    void conditionsAskForOwnFields() throws Exception {
        scene.account("quay");
        Map<String, String> berths = Map.of("few", "9", "many", "120", "some", "12");
        List<ContactRow> rows = new ArrayList<>();
        berths.forEach((key, n) -> rows.add(new ContactRow(
                2,
                key,
                key,
                Scene.addresses(key + "@quay.example"),
                List.of(),
                "quay",
                "",
                null,
                null,
                Map.of("berths", n))));
        store.get(Directory.class).contacts(rows);
        scene.contact("none", "quay", "none@quay.example");
        int source = scene.calendar(0).source();
        mapper.addBook(source);
        Source book = store.get(Connections.class).source(source).orElseThrow();
        BookCondition atLeast = BookCondition.own("berths", Comparison.AT_LEAST, "12");
        BookCondition none = BookCondition.own("berths", Comparison.EMPTY, "");
        assertThat(store.get(Books.class).namesOut(scene.person(0), book, giving(List.of(List.of(atLeast))), 10))
                .extracting(n -> n.substring(0, 4))
                .containsExactlyInAnyOrder("many", "some");
        assertThat(store.get(Books.class).namesOut(scene.person(0), book, giving(List.of(List.of(none))), 10))
                .hasSize(1);
    }

    private static BookRules giving(List<List<BookCondition>> conditions) {
        BookRules safe = BookRules.SAFE;
        return new BookRules(
                safe.takes(),
                safe.categories(),
                safe.creates(),
                Gives.CONDITIONS,
                safe.recentDays(),
                safe.most(),
                safe.askAbove(),
                safe.removedThere(),
                safe.removedHere(),
                List.of(),
                conditions,
                false,
                "");
    }

    private static final String WAITING =
            "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock'";

    private static int number(String sql) {
        return Objects.requireNonNull(store.get(JdbcTemplate.class).queryForObject(sql, Integer.class));
    }

    /** A look that is under way while somebody approves does not ask again: what they approved would wait for ever. */
    @Test
    void anApprovalIsNotLostToALookThatIsUnderWay() throws Exception {
        int source = scene.calendar(0).source();
        mapper.addBook(source);
        Books books = store.get(Books.class);
        int many = BookRules.SAFE.askAbove() + 1;
        assertThat(books.mayGoOn(source, false, many, BookRules.SAFE)).isFalse();
        CompletableFuture<Boolean> look = store.get(TransactionTemplate.class).execute(approving -> {
            mapper.allow(source);
            CompletableFuture<Boolean> under =
                    CompletableFuture.supplyAsync(() -> books.mayGoOn(source, false, many, BookRules.SAFE));
            // it reads the book, and would write what it read once the approval is there
            for (int i = 0; i < 500 && number(WAITING) == 0; i++) {
                LockSupport.parkNanos(Duration.ofMillis(20).toNanos());
            }
            return under;
        });
        assertThat(look.get(10, TimeUnit.SECONDS)).isTrue();
        assertThat(mapper.book(source).orElseThrow().askedAt()).isNull();
    }
}
