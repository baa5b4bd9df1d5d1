package jandrel.store.timeline;

import static jandrel.store.capture.Scene.NOON;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.Content;
import jandrel.core.item.Item;
import jandrel.core.item.MeetingItem;
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
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What was written is found by those who read it in full, and by nobody else. */
class SearchTest {
    private static final Viewer ADMINISTRATOR = new Viewer(Role.ADMINISTRATOR, null);
    private static final String BRAM = "bram@port.example";
    private static final String JO = "jo@quay.example";
    private static StoreContext store;
    private static Scene scene;

    @BeforeAll
    static void fill() throws Exception {
        store = new StoreContext("test_search");
        scene = Scene.anew(store)
                .people(3)
                .account("port", "port.example")
                .account("quay", "quay.example")
                .contact("bram", "port", BRAM)
                .contact("jo", "quay", JO);
        take(
                0,
                Finding.mail("1", 1, "Offer for buoys", BRAM, "Bram Visser", "p0@corvane.example"),
                Finding.text(
                        "The buoys\r\nand the chains for our harbour are ready.\r\n--- Earlier: lanterns were sold out."));
        take(
                0,
                Finding.mail("2", 2, "Re: Offer for buoys", "p0@corvane.example", "Person 0", BRAM),
                new Content(
                        "We have the buoy in stock and will send it with the plan.",
                        "",
                        List.of(new Content.Attachment("mooring plan.pdf", "application/pdf", 9))));
        take(
                0,
                Finding.mail("3", 100, "Angebot Häuser", JO, "Jo Moen", "p0@corvane.example"),
                Finding.text("Wir haben die Häuser am Quai und das Angebot für Sie geprüft. Straße 3"));
        take(
                1,
                Finding.mail("4", 200, "Lamps", JO, "Jo Moen", "p1@corvane.example"),
                Finding.text("The lamps are not with the harbour."));
        take(
                1,
                Finding.mail("5", 201, "Closed", BRAM, "Bram Visser", "p1@corvane.example"),
                Finding.text("The secret harbour lanterns."));
        Finding.indexed(store);
        store.get(Rulings.class)
                .rule(
                        Finding.found(store, "secret", ADMINISTRATOR)
                                .hits()
                                .get(0)
                                .entry()
                                .id(),
                        new Ruling(false, Set.of(), "Person 1", "nobody else"),
                        scene.person(1),
                        "p1");
        scene.settle();
    }

    @AfterAll
    static void close() {
        store.close();
    }

    private static void take(int person, Item item, Content content) {
        store.get(Intake.class)
                .take(
                        scene.place(person),
                        List.of(new FetchedItem("1/" + item.identity(), item, () -> content)),
                        List.of(),
                        null);
    }

    private static String subjects(Search.Page page) {
        return page.hits().stream().map(Search.Hit::subject).collect(Collectors.joining("; "));
    }

    /** Of what an administrator reads in full; one message is closed to all but its owner. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            value = {
                "chains | Offer for buoys",
                "CHAINS harbour | Offer for buoys",
                "chain | Offer for buoys",
                "buoy | Re: Offer for buoys; Offer for buoys",
                "cha* | Offer for buoys",
                "\"the chains for our\" | Offer for buoys",
                "\"chains the for\" | ~~",
                "\"the buoys and the ch*\" | Offer for buoys",
                "lanterns | ~~",
                "haus | Angebot Häuser",
                "Häuser strasse | Angebot Häuser",
                "hauser -gepruft | ~~",
                "harbour -lamps | Offer for buoys",
                "buoys -\"in stock\" | Offer for buoys",
                "mooring | Re: Offer for buoys",
                "\"mooring plan\" | Re: Offer for buoys",
                "\"plan mooring\" | ~~",
                "buoys has:attachment | Re: Offer for buoys",
                "buoys -has:attachment | Offer for buoys",
                "from:bram | Offer for buoys",
                "from:\"Bram Vis\" | Offer for buoys",
                "from:port.example | Offer for buoys",
                "to:bram | Re: Offer for buoys",
                "with:bram | Re: Offer for buoys; Offer for buoys",
                "buoys -from:bram | Re: Offer for buoys",
                "harbour of:\"Person 1\" | Lamps",
                "harbour -of:\"Person 1\" | Offer for buoys",
                "harbour in:quay | Lamps",
                "harbour -in:quay | Offer for buoys",
                "the in:\"Account po\" | Re: Offer for buoys; Offer for buoys",
                "harbour after:2025-01-01 | ~~",
                "xyzzy | ~~",
                "😀 buoys | Re: Offer for buoys; Offer for buoys",
            })
    void findsWhatWasWritten(String typed, String subjects) {
        // no date of the scene is known here: days are counted from its noon
        if (typed.contains("after:")) {
            typed = "harbour after:"
                    + NOON.plus(400, ChronoUnit.DAYS).toString().substring(0, 10);
        }
        Search.Page page = Finding.found(store, typed, ADMINISTRATOR);
        assertThat(subjects(page)).isEqualTo(subjects);
        assertThat(page.total()).isEqualTo(page.hits().size());
        assertThat(page.orMore()).isFalse();
    }

    @Test
    void daysNarrow() {
        String second = NOON.plus(2, ChronoUnit.DAYS).toString().substring(0, 10);
        assertThat(subjects(Finding.found(store, "buoys after:" + second, ADMINISTRATOR)))
                .isEqualTo("Re: Offer for buoys");
        assertThat(subjects(Finding.found(store, "buoys before:" + second, ADMINISTRATOR)))
                .isEqualTo("Offer for buoys");
    }

    /** Every role × every way to ask for what one person keeps to themselves. */
    @Test
    void nobodyFindsWhatSomebodyElseHasClosed() {
        List<String> asked = List.of(
                "secret",
                "secret lanterns",
                "\"secret harbour\"",
                "secre*",
                "secret from:bram",
                "secret with:bram",
                "secret to:p1",
                "secret of:\"Person 1\"",
                "secret in:port",
                "from:bram secret -buoys",
                "closed",
                "secret after:2000-01-01");
        List<Viewer> others = List.of(
                ADMINISTRATOR,
                new Viewer(Role.AUDITOR, null),
                new Viewer(Role.AUDITOR, scene.person(1)),
                new Viewer(Role.MANAGER, scene.person(2)),
                new Viewer(Role.REP, scene.person(0)),
                new Viewer(Role.REP, null));
        for (String typed : asked) {
            for (Viewer other : others) {
                Search.Page page = Finding.found(store, typed, other);
                assertThat(page.hits()).as(typed + " by " + other).isEmpty();
                assertThat(page.total()).as(typed + " by " + other).isZero();
            }
            assertThat(Finding.found(store, typed, new Viewer(Role.REP, scene.person(1)))
                            .total())
                    .as(typed)
                    .isOne();
        }
    }

    @Test
    void saysWhereItStandsInWhatTheViewerReads() {
        Search.Hit hit =
                Finding.found(store, "buoys in:port", ADMINISTRATOR).hits().get(0);
        assertThat(hit.found().words()).containsExactlyInAnyOrder("buoys", "buoy");
        assertThat(hit.attachments()).isOne();
        assertThat(Finding.found(store, "chains", ADMINISTRATOR).hits().get(0).text())
                .as("without what it quotes")
                .doesNotContain("lanterns");
    }

    @Test
    void theBestAreThoseThatAreAboutIt() throws Exception {
        take(
                0,
                Finding.mail("b1", 301, "Weather", BRAM, "Bram Visser", "p0@corvane.example"),
                Finding.text("Rain. ".repeat(300) + "marmalade"));
        take(
                0,
                Finding.mail("b2", 300, "Marmalade", JO, "Jo Moen", "p0@corvane.example"),
                Finding.text("Marmalade it is."));
        Finding.indexed(store);
        assertThat(subjects(store.get(Search.class)
                        .best(SearchQuery.parse("marmalade"), ZoneOffset.UTC, ADMINISTRATOR, 10)))
                .isEqualTo("Marmalade; Weather");
        assertThat(subjects(Finding.found(store, "marmalade", ADMINISTRATOR))).isEqualTo("Weather; Marmalade");
    }

    /** What is found moves with its time, and goes with its text. */
    @Test
    void theIndexFollowsWhatChanges() {
        SourceRef calendar = scene.calendar(0);
        meeting(calendar, "Kippers", 400);
        assertThat(subjects(Finding.found(store, "kippers smoked", ADMINISTRATOR)))
                .isEqualTo("Kippers");
        meeting(calendar, "Herrings", 800);
        assertThat(Finding.found(store, "kippers", ADMINISTRATOR).hits()).isEmpty();
        assertThat(Finding.found(store, "herrings smoked", ADMINISTRATOR).hits())
                .singleElement()
                .satisfies(h -> assertThat(h.entry().sorted()).isEqualTo(NOON.plus(800, ChronoUnit.DAYS)));
    }

    private static void meeting(SourceRef calendar, String title, int day) {
        MeetingItem meeting = Finding.meeting("m", day, title, "p0@corvane.example", JO, MeetingItem.Privacy.PUBLIC);
        store.get(Intake.class)
                .take(calendar, List.of(new FetchedItem("m", meeting, () -> Finding.text("Smoked."))), List.of(), null);
    }

    /** Two copies name themselves alike and say the same under different subjects: each is found by its own alone. */
    @Test
    void whoSharesATextIsNotFoundByTheOthersSubject() {
        take(
                0,
                Finding.mail("twin", 500, "Gannet", JO, "Jo Moen", "p0@corvane.example"),
                Finding.text("The same words."));
        take(
                1,
                Finding.mail("twin", 500, "Puffin", JO, "Jo Moen", "p1@corvane.example"),
                Finding.text("The same words."));
        List<Viewer> viewers = List.of(
                ADMINISTRATOR,
                new Viewer(Role.REP, scene.person(0)),
                new Viewer(Role.REP, scene.person(1)),
                new Viewer(Role.MANAGER, scene.person(2)));
        for (Viewer viewer : viewers) {
            assertThat(subjects(Finding.found(store, "gannet same", viewer))).isIn("Gannet", "");
            assertThat(subjects(Finding.found(store, "puffin same", viewer))).isIn("Puffin", "");
        }
        assertThat(subjects(Finding.found(store, "gannet", viewers.get(1)))).isEqualTo("Gannet");
        assertThat(subjects(Finding.found(store, "gannet -puffin", viewers.get(1))))
                .as("nor kept away by it")
                .isEqualTo("Gannet");
        assertThat(subjects(Finding.found(store, "puffin", viewers.get(2)))).isEqualTo("Puffin");
    }
}
