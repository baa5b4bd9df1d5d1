package jandrel.store.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.Content;
import jandrel.core.item.Item;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.search.InvalidSearch;
import jandrel.core.search.SearchQuery;
import jandrel.core.timeline.Ruling;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Scene;
import jandrel.store.capture.SourceRef;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Every role, every kind of item, every way to ask. Of each kind there are two that say the same: one that all may read and one that its
 * owner keeps to themselves. The words of the closed one are found by its owner, and by nobody else.
 */
class SearchLeaksTest {
    /** Of each: what only the closed one says, and who is on it. */
    private static final Map<String, String> KINDS = new LinkedHashMap<>();

    private static final int OWNER = 1;
    private static StoreContext store;
    private static Scene scene;
    private static Map<String, Viewer> viewers;

    @BeforeAll
    static void fill() throws Exception {
        store = new StoreContext("test_search_leaks");
        scene = Scene.anew(store).people(4).account("port", "port.example");
        int day = 0;
        for (String kind : List.of("received", "sent", "attached", "meeting", "wordless", "private")) {
            String secret = "quokka" + kind;
            KINDS.put(kind, secret);
            for (boolean closed : new boolean[] {false, true}) {
                String word = closed ? secret : "plain" + kind;
                take(kind, closed ? OWNER : 0, word, ++day);
            }
        }
        Finding.indexed(store);
        Viewer owner = new Viewer(Role.REP, scene.person(OWNER));
        for (String secret : KINDS.values()) {
            store.get(Rulings.class)
                    .rule(
                            Finding.found(store, secret, owner)
                                    .hits()
                                    .get(0)
                                    .entry()
                                    .id(),
                            new Ruling(false, Set.of(), "Person 1", "nobody else"),
                            scene.person(OWNER),
                            "p1");
        }
        scene.settle();
        viewers = new LinkedHashMap<>();
        viewers.put("administrator", new Viewer(Role.ADMINISTRATOR, null));
        viewers.put("administrator who is a person", new Viewer(Role.ADMINISTRATOR, scene.person(2)));
        viewers.put("auditor", new Viewer(Role.AUDITOR, null));
        viewers.put("owner, but auditor", new Viewer(Role.AUDITOR, scene.person(OWNER)));
        viewers.put("manager", new Viewer(Role.MANAGER, scene.person(2)));
        viewers.put("colleague", new Viewer(Role.REP, scene.person(3)));
        viewers.put("owner of the open ones", new Viewer(Role.REP, scene.person(0)));
        viewers.put("nobody", new Viewer(Role.REP, null));
    }

    @AfterAll
    static void close() {
        store.close();
    }

    /** The word stands in subject, text, name of what is attached, address and name of who wrote or came. */
    private static void take(String kind, int person, String word, int day) {
        String ours = "p" + person + "@corvane.example";
        String guest = word + "@port.example";
        String text = "Common words of all, then " + word + " and no more of them.";
        boolean mail = Set.of("received", "sent", "attached").contains(kind);
        Item item = kind.equals("sent")
                ? Finding.mail(word, day, "Common " + word, ours, "Person", guest)
                : mail
                        ? Finding.mail(word, day, "Common " + word, guest, "Guest " + word, ours)
                        : Finding.meeting(
                                word,
                                day,
                                "Common " + word,
                                ours,
                                guest,
                                kind.equals("private") ? Privacy.PRIVATE : Privacy.PUBLIC);
        Content content = kind.equals("wordless")
                ? Content.EMPTY
                : new Content(
                        text,
                        "",
                        kind.equals("attached")
                                ? List.of(new Content.Attachment(word + " plan.pdf", "application/pdf", 9))
                                : List.of());
        SourceRef source = mail ? scene.place(person) : scene.calendar(person);
        store.get(Intake.class).take(source, List.of(new FetchedItem(word, item, () -> content)), List.of(), null);
    }

    /** {@code %s} is the word, {@code %.9s} its beginning; then the kinds of which its owner finds it so. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            value = {
                "%s | all",
                "%.9s* | all",
                "\"common %s\" | all",
                "\"common %.9s*\" | all",
                "common %s | all",
                "%s -plain | all",
                "%s -\"plain words\" | all",
                "from:%s | received attached",
                "to:%s | sent meeting wordless private",
                "with:%s | all",
                "with:%.9s -plain | all",
                "\"%s\" | all",
                "with:%s@port.example | all",
                "%s of:\"Person 1\" | all",
                "%s -of:\"Person 0\" | all",
                "%s in:\"Account port\" | all",
                "%s -in:nowhere | all",
                "%s has:attachment | attached",
                "%s -has:attachment | received sent meeting wordless private",
                "%s after:2000-01-01 | all",
                "%s before:2100-01-01 | all",
                "%s after:2000-01-01 -from:nobody -to:nobody -with:nobody | all",
            })
    void nobodyFindsWhatSomebodyElseHasClosed(String asked, String kinds) {
        for (Map.Entry<String, String> kind : KINDS.entrySet()) {
            String typed = asked.formatted(kind.getValue());
            for (Map.Entry<String, Viewer> viewer : viewers.entrySet()) {
                for (Search.Page page : pages(typed, viewer.getValue())) {
                    assertThat(page.hits())
                            .as("%s by the %s", typed, viewer.getKey())
                            .isEmpty();
                    assertThat(page.total())
                            .as("how many, by the " + viewer.getKey())
                            .isZero();
                    assertThat(page.orMore()).isFalse();
                }
            }
            boolean there = kinds.equals("all") || List.of(kinds.split(" ")).contains(kind.getKey());
            int expected = there ? 1 : 0;
            for (Search.Page page : pages(typed, new Viewer(Role.REP, scene.person(OWNER)))) {
                assertThat(page.total()).as("%s by its owner", typed).isEqualTo(expected);
                assertThat(page.hits()).hasSize(expected);
            }
        }
    }

    /** What all of them say is found of the open ones alone, and nothing of the others is marked or counted. */
    @ParameterizedTest
    @CsvSource({
        "common",
        "\"common words\"",
        "common in:port",
        "common -quokka",
        "with:port.example",
        "common of:Person"
    })
    void whatIsFoundBesidesTellsNothingOfIt(String asked) {
        for (Map.Entry<String, Viewer> viewer : viewers.entrySet()) {
            boolean auditor = viewer.getValue().role() == Role.AUDITOR;
            for (Search.Page page : pages(asked, viewer.getValue())) {
                assertThat(page.hits())
                        .as("%s by the %s", asked, viewer.getKey())
                        .noneMatch(h -> h.subject().contains("quokka")
                                || h.text().contains("quokka")
                                || h.found().words().toString().contains("quokka"))
                        .satisfies(hits -> assertThat(hits.isEmpty()).isEqualTo(auditor));
                assertThat(page.total()).isEqualTo(page.hits().size());
            }
        }
        assertThat(pages(asked, new Viewer(Role.REP, scene.person(OWNER)))
                        .get(0)
                        .hits())
                .as("by its owner")
                .anyMatch(h -> h.subject().contains("quokka"));
    }

    private static List<Search.Page> pages(String typed, Viewer viewer) {
        try {
            return Stream.of(
                            Finding.found(store, typed, viewer),
                            store.get(Search.class).best(SearchQuery.parse(typed), ZoneOffset.UTC, viewer, 50))
                    .toList();
        } catch (InvalidSearch invalid) {
            throw new IllegalArgumentException(typed, invalid);
        }
    }
}
