package jandrel.store.triage;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.PhoneNumber;
import jandrel.core.decide.ManualOverride;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.Exclusion;
import jandrel.core.directory.ImportRejected;
import jandrel.core.item.Content;
import jandrel.core.item.Inside;
import jandrel.core.item.MailItem;
import jandrel.core.item.ThreadHeaders;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Scene;
import jandrel.store.capture.SourceRef;
import jandrel.store.directory.Amending;
import jandrel.store.directory.Directory;
import jandrel.store.directory.Merging;
import jandrel.store.directory.RecordRefs;
import jandrel.store.directory.Retiring;
import jandrel.store.policy.Exclusions;
import jandrel.store.timeline.Timelines;
import jandrel.store.triage.Strangers.Likely;
import jandrel.store.triage.Strangers.Meant;
import java.sql.SQLException;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Strangers who seem to be a contact by what they wrote. */
class AlikeTest {
    private static final String STRANGER = "ida.private@elsewhere.example";
    private static final String OURS = "p1@corvane.example";
    private static StoreContext store;
    private Scene scene;
    private SourceRef place;
    private int next = 1;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_alike");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void directory() throws Exception {
        scene = Scene.anew(store).people(3).account("a", "a.example");
        place = scene.place(1);
        contact("ida", "ida@a.example", "+4722550102");
        contact("ole", "ole@a.example", "+4722550199");
    }

    private void contact(String key, String address, String... phones) throws ImportRejected {
        named(key, key, address, "a", phones);
    }

    private void named(String key, String name, String address, String account, String... phones)
            throws ImportRejected {
        List<PhoneNumber> numbers = Stream.of(phones).map(PhoneNumber::new).toList();
        store.get(Directory.class)
                .contacts(List.of(
                        new ContactRow(2, key, name, Scene.addresses(address), numbers, account, "", null, null)));
    }

    private void seen(MailItem mail, String... phones) {
        List<PhoneNumber> numbers = Stream.of(phones).map(PhoneNumber::new).toList();
        store.get(Intake.class)
                .take(
                        place,
                        List.of(new FetchedItem(
                                "1/" + next++, mail, () -> Content.EMPTY, () -> numbers, ManualOverride.NONE)),
                        List.of(),
                        null);
    }

    private static MailItem strand(MailItem mail, String own, String... before) {
        return new MailItem(
                mail.identity(),
                mail.at(),
                true,
                mail.parties(),
                mail.subject(),
                mail.nature(),
                List.of(),
                new ThreadHeaders(own, List.of(before), before.length > 0),
                Inside.NOTHING);
    }

    private List<String> alike(Viewer viewer) {
        return store.get(Strangers.class).alike(viewer, List.of(new Meant(STRANGER, "elsewhere.example", ""))).stream()
                .map((Likely l) -> l.key() + ": " + l.why())
                .toList();
    }

    private Viewer owner() {
        return new Viewer(Role.REP, scene.person(1));
    }

    @Test
    void theNumberInTheirSignaturePointsToTheContactThatHasIt() throws Exception {
        seen(Scene.mail("1", STRANGER, OURS), "+4722550102", "+4790000000");
        assertThat(alike(owner())).containsExactly("ida: the same telephone number in their signature");
        assertThat(store.get(Strangers.class).all(owner(), "", Scene.NOON))
                .singleElement()
                .satisfies(s -> assertThat(s.sameNumber()).isTrue());
        // a rep is told of their own mail alone
        assertThat(alike(new Viewer(Role.REP, scene.person(2)))).isEmpty();
        // decided again, it is still known, though the text is not at hand
        scene.contact("other", "a", STRANGER);
        scene.settle();
        store.get(Amending.class).remove(Set.of("other"), Set.of(), Set.of(), Set.of());
        scene.settle();
        assertThat(alike(owner())).hasSize(1);
        // a number that three have is a switchboard's
        contact("eva", "eva@a.example", "+4722550102");
        assertThat(alike(owner())).hasSize(2);
        contact("jon", "jon@a.example", "+4722550102");
        assertThat(alike(owner())).isEmpty();
    }

    @Test
    void nothingOfALeftOutMessageIsKept() throws Exception {
        seen(Scene.mail("1", STRANGER, OURS), "+4722550102");
        assertThat(store.count("SELECT count(*) FROM stranger_phone")).isEqualTo(1);
        store.get(Exclusions.class).add(List.of(Exclusion.of(UUID.randomUUID(), STRANGER, "")), "t");
        scene.settle();
        assertThat(store.count("SELECT count(*) FROM stranger_phone")).isZero();
    }

    @Test
    void anAnswerFromAnotherAddressPointsToWhomWasWrittenTo() {
        seen(strand(Scene.mail("1", OURS, "ida@a.example"), "first"));
        seen(strand(Scene.mail("2", STRANGER, OURS), "second", "older", "first"));
        assertThat(alike(owner())).containsExactly("ida: they answered what was written to ida@a.example");
    }

    @Test
    void itPointsToNobodyWhereTwoWereWrittenToOrTheyThemselves() {
        seen(strand(Scene.mail("1", OURS, "ida@a.example", "ole@a.example"), "first"));
        seen(strand(Scene.mail("2", STRANGER, OURS), "second", "first"));
        assertThat(alike(owner())).isEmpty();
        seen(strand(Scene.mail("3", OURS, "ida@a.example", STRANGER), "third"));
        seen(strand(Scene.mail("4", STRANGER, OURS), "fourth", "third"));
        assertThat(alike(owner())).isEmpty();
    }

    @Test
    void theOrderInWhichTheTwoAreSeenDoesNotMatter() {
        seen(strand(Scene.mail("2", STRANGER, OURS), "second", "first"));
        seen(strand(Scene.mail("1", OURS, "ida@a.example"), "first"));
        assertThat(alike(owner())).hasSize(1);
    }

    @Test
    void twoContactsWithOneNumberMayBeOneAndAMergeKeepsBothNumbers() throws Exception {
        contact("ida2", "ida@b.example", "+4722550102", "+4790000001");
        TwinContacts twins = store.get(TwinContacts.class);
        assertThat(twins.all(null, 10))
                .singleElement()
                .satisfies(t -> assertThat(t.why()).isEqualTo("both have the telephone number +4722550102"));
        UUID stays = id("ida");
        String before = store.get(Merging.class).merge("contact", stays, id("ida2"));
        assertThat(phones("ida")).containsExactly("+4722550102", "+4790000001");
        // the directory's file does not take away what a merge gave
        contact("ida", "ida@a.example", "+4722550103");
        assertThat(phones("ida")).contains("+4790000001", "+4722550103");
        contact("ida", "ida@a.example", "+4722550102");
        store.get(Merging.class).split("contact", stays, before);
        assertThat(phones("ida")).containsExactly("+4722550102");
        assertThat(phones("ida2")).containsExactly("+4722550102", "+4790000001");
    }

    @Test
    void namesOfOneAccountMayBeOnePersonUntilSomebodySaysOtherwise() throws Exception {
        String[] names = {
            "Runa Halvorsen", "Halvorsen, Rúna", "R. Halvorsen", "Runa Haug", "Runa Halvorsen", "Siri Moe", "Siri Moe"
        };
        for (int i = 0; i < names.length; i++) {
            named("q" + (i + 1), names[i], "q" + (i + 1) + "@a.example", i == 4 ? "" : "a");
        }
        TwinContacts twins = store.get(TwinContacts.class);
        assertThat(twins.all(id("q1"), 10))
                .extracting(t -> t.why())
                .containsExactlyInAnyOrder(
                        "the same name at the same account",
                        "at the same account, and one name may be short for the other");
        assertThat(twins.all(id("q4"), 10)).isEmpty();
        assertThat(twins.all(id("q5"), 10)).isEmpty();
        assertThat(twins.all(null, 100)).hasSize(4);
        KeptApart apart = store.get(KeptApart.class);
        apart.put("contact", id("q2"), id("q1"), "t");
        apart.put("contact", id("q2"), id("q1"), "t");
        assertThat(twins.all(id("q1"), 10)).hasSize(1);
        assertThat(twins.all(id("q2"), 10)).hasSize(1);
        apart.forget("contact", id("q1"), id("q2"));
        assertThat(twins.all(id("q1"), 10)).hasSize(2);
        // an address that an office has says nothing of who they are
        for (int i = 0; i < 11; i++) {
            named("office" + i, "Somebody " + (char) ('A' + i) + (char) ('A' + i), "office@a.example", "a");
            assertThat(twins.all(null, 100)).hasSize(i < 10 ? 4 + i * (i + 1) / 2 : 4);
        }
        // by a card that somebody made for this: every word of it is shared
        String book = IntStream.range(0, 60_000).mapToObj(i -> "w" + i).collect(Collectors.joining(" "));
        named("q8", book, "q8@a.example", "a");
        named("q9", book, "q9@a.example", "a");
        assertThat(twins.all(null, 100)).hasSize(4);
        // one that is in no list is asked about no more
        store.get(Retiring.class).archive(id("q7"), "t");
        assertThat(twins.all(null, 100)).hasSize(3);
        assertThat(twins.all(null, 2)).hasSize(2);
    }

    private UUID id(String key) {
        return store.get(RecordRefs.class).byKey("contact", key).orElseThrow().id();
    }

    private List<String> phones(String key) {
        return List.of(store.get(Timelines.class)
                .record(id(key), Scene.NOON)
                .orElseThrow()
                .phones());
    }
}
