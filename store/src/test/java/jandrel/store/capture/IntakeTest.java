package jandrel.store.capture;

import static jandrel.store.capture.Scene.mail;
import static jandrel.store.capture.Scene.seen;
import static java.time.temporal.ChronoUnit.DAYS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.core.address.EmailAddress;
import jandrel.core.decide.ManualOverride;
import jandrel.core.directory.DirectoryRows.OpportunityState;
import jandrel.core.directory.Exclusion;
import jandrel.core.directory.ImportRejected;
import jandrel.core.item.Content;
import jandrel.core.item.Inside;
import jandrel.core.item.MailItem;
import jandrel.core.item.Nature;
import jandrel.core.item.ThreadHeaders;
import jandrel.core.policy.Handling;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.policy.Ties;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.StoreContext;
import jandrel.store.capture.Positions.KeywordChange;
import jandrel.store.directory.Directory;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.PageCursor;
import jandrel.store.kernel.StaleVersion;
import jandrel.store.policy.Exclusions;
import jandrel.store.policy.Policies;
import jandrel.store.timeline.Finding;
import jandrel.store.timeline.RecordFilter;
import jandrel.store.timeline.Timelines;
import jandrel.store.timeline.Timelines.Entry;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class IntakeTest {
    private static StoreContext store;
    private Scene scene;
    private Intake intake;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_intake");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void begin() throws Exception {
        scene = Scene.anew(store)
                .people(3)
                .account("port", "port.example")
                .contact("bram", "port", "bram@port.example");
        intake = store.get(Intake.class);
    }

    private UUID record(String name) {
        return store.get(Timelines.class)
                .records(RecordFilter.named("", name), Timelines.Order.NAME, Scene.NOON, 0, 10)
                .get(0)
                .id();
    }

    private List<Entry> timeline(String name) {
        return store.get(Timelines.class).page(record(name), new Viewer(Role.ADMINISTRATOR, null), PageCursor.TOP, 50);
    }

    @Test
    void theSameMessageInThreeMailboxesIsOneActivityWithThreeDecisions() throws SQLException {
        for (int i = 0; i < 3; i++) {
            intake.take(
                    scene.place(i),
                    List.of(seen("1/" + i, mail("1", "bram@port.example", "p0@corvane.example"))),
                    List.of(),
                    null);
        }
        assertThat(timeline("Account port"))
                .singleElement()
                // the others have it without being named: that is for themselves to know
                .satisfies(e -> assertThat(e.owners()).hasSize(1));
        Viewer unnamed = new Viewer(Role.REP, scene.person(2));
        assertThat(store.get(Timelines.class).page(record("Account port"), unnamed, PageCursor.TOP, 50))
                .singleElement()
                .satisfies(e -> assertThat(e.owners()).hasSize(2));
        assertThat(store.count("SELECT count(*) FROM sighting")).isEqualTo(3);
        assertThat(store.count("SELECT count(*) FROM body")).isEqualTo(1);
    }

    @Test
    void whoeverPausesOrDisconnectsHasTheNextBatchLeftOut() {
        SourceRef place = scene.place(0);
        List<FetchedItem> one = List.of(seen("1/1", mail("1", "bram@port.example", "p0@corvane.example")));
        List<FetchedItem> two = List.of(seen("1/2", mail("2", "bram@port.example", "p0@corvane.example")));
        intake.take(place, one, List.of(), new CursorMove(place.source(), "", "1/2", null));
        for (String rest : List.of("paused", "disconnected", "refused", "waiting-for-consent")) {
            scene.state(place, rest);
            assertThatThrownBy(() ->
                            intake.take(place, two, List.of(), new CursorMove(place.source(), "1/2", "1/3", null)))
                    .isInstanceOf(CursorConflict.class);
            assertThat(timeline("Account port")).hasSize(1);
        }
        scene.state(place, "capturing");
        intake.take(place, two, List.of(), new CursorMove(place.source(), "1/2", "1/3", null));
        assertThat(timeline("Account port")).hasSize(2);
    }

    @Test
    void recordingABatchTwiceChangesNothing() throws SQLException {
        SourceRef place = scene.place(0);
        List<FetchedItem> batch = List.of(
                seen("1/1", mail("1", "bram@port.example", "p0@corvane.example")),
                seen("1/2", mail("2", "x@else.example", "p0@corvane.example")));
        intake.take(place, batch, List.of(), null);
        intake.take(place, batch, List.of(), null);
        assertThat(store.count("SELECT count(*) FROM sighting")).isEqualTo(2);
        assertThat(store.count("SELECT count(*) FROM activity")).isEqualTo(1);
        assertThat(store.count("SELECT count(*) FROM link")).isEqualTo(2);
    }

    @Test
    void aCursorThatSomebodyElseMovedTakesTheBatchBack() throws SQLException {
        SourceRef place = scene.place(0);
        intake.take(place, List.of(), List.of(), new CursorMove(place.source(), "", "1/5", null));
        List<FetchedItem> batch = List.of(seen("1/1", mail("1", "bram@port.example", "p0@corvane.example")));
        assertThatThrownBy(() -> intake.take(place, batch, List.of(), new CursorMove(place.source(), "", "1/9", null)))
                .isInstanceOf(CursorConflict.class);
        assertThat(store.count("SELECT count(*) FROM sighting")).isZero();
    }

    @Test
    void theLastItemOfASourceIsTheNewestMailThatHasHappened() throws SQLException {
        SourceRef place = scene.place(0);
        intake.take(
                place,
                List.of(seen("1/1", at(Scene.NOON)), seen("1/2", at(Scene.NOON.plus(9_999, DAYS)))),
                List.of(),
                null);
        intake.take(place, List.of(seen("1/3", at(Scene.NOON.minus(9, DAYS)))), List.of(), null);
        assertThat(store.count("SELECT extract(epoch FROM last_item) FROM source WHERE id = " + place.source()))
                .isEqualTo(Scene.NOON.getEpochSecond());
    }

    private static MailItem at(Instant at) {
        return new MailItem(
                "mail:" + at,
                at,
                true,
                mail("", "bram@port.example", "p0@corvane.example").parties(),
                "",
                Nature.ORDINARY);
    }

    @Test
    void afterTheFirstLargeBatchThePlannerKnowsTheSightings() throws SQLException {
        SourceRef place = scene.place(0);
        List<FetchedItem> batch = IntStream.range(0, 60)
                .mapToObj(i -> seen("1/" + i, mail("m" + i, "bram@port.example", "p0@corvane.example")))
                .toList();
        intake.take(place, batch, List.of(), null);
        assertThat(store.count("SELECT count(*) FROM pg_stats WHERE tablename = 'sighting' AND attname = 'item'"))
                .isEqualTo(1);
    }

    @Test
    void nothingOfWhatIsLeftOutRestsHereAndOfWhatWaitsOnlyTheHeader() throws SQLException {
        store.get(Exclusions.class).add(List.of(Exclusion.of(UUID.randomUUID(), "@secret.example", "")), "t");
        intake.take(
                scene.place(0),
                List.of(
                        seen("1/1", mail("left-out-subject", "bram@port.example", "who@secret.example")),
                        seen("1/2", mail("waiting-subject", "stranger@else.example", "p0@corvane.example"))),
                List.of(),
                null);
        assertThat(store.count("SELECT count(*) FROM sighting s WHERE s::text LIKE '%left-out-subject%'"))
                .isZero();
        assertThat(store.count(
                        "SELECT count(*) FROM sighting WHERE verdict = 'left-out' AND facts IS NULL AND keys IS NULL"))
                .isEqualTo(1);
        assertThat(store.count("SELECT count(*) FROM sighting s WHERE s::text LIKE '%waiting-subject%'"))
                .isEqualTo(1);
        assertThat(store.count("SELECT count(*) FROM body")).isZero();
    }

    @Test
    void anExclusionTakesOffTheTimelineAndItsRemovalAsksTheSourceAgain() throws SQLException {
        SourceRef place = scene.place(0);
        List<FetchedItem> batch = List.of(seen("1/1", mail("1", "bram@port.example", "p0@corvane.example")));
        intake.take(place, batch, List.of(), null);
        UUID id = UUID.randomUUID();
        store.get(Exclusions.class).add(List.of(Exclusion.of(id, "@port.example", "no")), "t");
        scene.settle();
        assertThat(timeline("Account port")).isEmpty();
        assertThat(store.count("SELECT count(*) FROM body")).isZero();
        assertThat(store.get(Exclusions.class).all().get(0).items()).isEqualTo(1);
        store.get(Exclusions.class).remove(List.of(id), "t");
        assertThat(store.get(Positions.class).toRefetch(place.source(), 10)).containsExactly("1/1");
        intake.take(place, batch, List.of(), null);
        assertThat(timeline("Account port")).hasSize(1);
        assertThat(store.get(Positions.class).allToRefetch()).isZero();
    }

    @Test
    void aStrangerWhoBecomesAContactComesOntoTheTimelineAndTheTextIsWanted() throws ImportRejected, SQLException {
        SourceRef place = scene.place(0);
        intake.take(place, List.of(seen("1/1", mail("1", "new@else.example", "p0@corvane.example"))), List.of(), null);
        scene.contact("newcomer", "port", "new@else.example");
        scene.settle();
        assertThat(timeline("Contact newcomer")).hasSize(1);
        assertThat(store.count("SELECT count(*) FROM activity WHERE text = 'wanted'"))
                .isEqualTo(1);
        assertThat(store.get(Positions.class).toRefetch(place.source(), 10)).containsExactly("1/1");
        store.get(Positions.class).cannotRefetch(place.source(), List.of("1/1"));
        assertThat(store.count("SELECT count(*) FROM activity WHERE text = 'gone'"))
                .isEqualTo(1);
    }

    @Test
    void whoWroteWhatWasForwardedIsMatchedAndHeededAsOneOfTheParticipants() throws ImportRejected, SQLException {
        Policies policies = store.get(Policies.class);
        Policy before = policies.find(Policy.FIRST).orElseThrow().policy();
        policies.change(before.with(new Ties(Ties.SAFE.kinds(), Ties.SAFE.tieBreak(), true)), "ina");
        scene.settle();
        MailItem plain = mail("7", "p1@corvane.example", "p0@corvane.example");
        MailItem passedOn = new MailItem(
                plain.identity(),
                plain.at(),
                true,
                plain.parties(),
                plain.subject(),
                Nature.ORDINARY,
                List.of(),
                ThreadHeaders.NONE,
                new Inside(null, new Inside.Forwarded(EmailAddress.of("dov@far.example"), "Dov"), false));
        intake.take(scene.place(0), List.of(seen("1/7", passedOn)), List.of(), null);
        assertThat(store.count("SELECT count(*) FROM sighting WHERE verdict = 'waiting'"))
                .isEqualTo(1);
        scene.account("far", "far.example");
        scene.settle();
        assertThat(timeline("Account far")).hasSize(1);
        scene.contact("dov", "far", "dov@far.example");
        scene.settle();
        assertThat(timeline("Contact dov")).hasSize(1);
        intake.take(scene.place(1), List.of(seen("1/8", passedOn)), List.of(), null);
        assertThat(store.count("SELECT count(*) FROM sighting WHERE verdict = 'logged'"))
                .isEqualTo(2);
        policies.change(policies.find(Policy.FIRST).orElseThrow().policy().with(before.ties()), "ina");
    }

    @Test
    void aClosedOpportunityLeavesAndASecondOpenOneUntiesBoth() throws ImportRejected {
        intake.take(
                scene.place(0),
                List.of(seen("1/1", mail("1", "bram@port.example", "p0@corvane.example"))),
                List.of(),
                null);
        scene.opportunity("a", "port", OpportunityState.OPEN).settle();
        assertThat(timeline("Opp a")).hasSize(1);
        scene.opportunity("b", "port", OpportunityState.OPEN).settle();
        assertThat(timeline("Opp a")).isEmpty();
        scene.opportunity("b", "port", OpportunityState.LOST).settle();
        assertThat(timeline("Opp a")).hasSize(1);
    }

    @Test
    void thePolicysSharingCountsForWhatIsThereAlready() {
        intake.take(
                scene.place(0),
                List.of(seen("1/1", mail("1", "bram@port.example", "p0@corvane.example"))),
                List.of(),
                null);
        Policies policies = store.get(Policies.class);
        Policy now = policies.find(Policy.FIRST).orElseThrow().policy();
        policies.change(now.with(Sharing.THOSE_ON_IT), "t");
        scene.settle();
        assertThat(timeline("Account port").get(0).visibility()).isEqualTo(Visibility.OUTLINE);
        assertThatThrownBy(() -> policies.change(now.with(Sharing.OWNER), "t")).isInstanceOf(StaleVersion.class);
        Viewer onIt = new Viewer(Role.REP, scene.person(0));
        Timelines timelines = store.get(Timelines.class);
        assertThat(timelines
                        .page(record("Account port"), onIt, PageCursor.TOP, 5)
                        .get(0)
                        .visibility())
                .isEqualTo(Visibility.FULL);
        assertThat(Finding.found(store, "About", onIt).total()).isEqualTo(1);
        assertThat(Finding.found(store, "About", new Viewer(Role.REP, scene.person(1)))
                        .total())
                .isZero();
        assertThat(Finding.found(store, "About", new Viewer(Role.AUDITOR, scene.person(0)))
                        .total())
                .isZero();
    }

    @Test
    void aPositionThatHoldsAnotherItemNowLetsGoOfTheOldOne() throws SQLException {
        SourceRef place = scene.place(0);
        intake.take(place, List.of(seen("1/1", mail("1", "bram@port.example", "p0@corvane.example"))), List.of(), null);
        intake.take(place, List.of(seen("1/1", mail("2", "bram@port.example", "p0@corvane.example"))), List.of(), null);
        assertThat(timeline("Account port"))
                .singleElement()
                .satisfies(e -> assertThat(e.item().subject()).isEqualTo("About 2"));
        assertThat(store.count("SELECT count(*) FROM body")).isEqualTo(1);
    }

    @Test
    void whatItsSourceNoLongerShowsKeepsItsDecision() throws SQLException {
        Policies policies = store.get(Policies.class);
        Policy now = policies.find(Policy.FIRST).orElseThrow().policy();
        policies.change(now.with(Handling.SAFE.withDeleted(Handling.Vanished.REMOVE, Handling.Vanished.REMOVE)), "t");
        SourceRef place = scene.place(0);
        intake.take(place, List.of(seen("1/1", mail("1", "bram@port.example", "p0@corvane.example"))), List.of(), null);
        intake.take(place, List.of(), List.of("1/1", "never-seen"), null);
        assertThat(timeline("Account port")).isEmpty();
        assertThat(store.count("SELECT count(*) FROM sighting WHERE rule = 'GONE' AND facts IS NULL"))
                .isEqualTo(1);
        policies.back(Policy.FIRST, now.version(), "t");
    }

    @Test
    void mailThatItsOwnerTidiedAwayStaysUnlessThePolicySaysOtherwise() {
        SourceRef place = scene.place(0);
        intake.take(place, List.of(seen("1/1", mail("1", "bram@port.example", "p0@corvane.example"))), List.of(), null);
        intake.take(place, List.of(), List.of("1/1"), null);
        assertThat(timeline("Account port")).hasSize(1);
        assertThat(store.get(Positions.class).all(place.source())).isEmpty();
    }

    @Test
    void whatSomebodyChoseByHandCountsAndComesBackWhenTheyChangeTheirMind() throws SQLException {
        SourceRef place = scene.place(0);
        MailItem bulk = Scene.bulk("1", "news@port.example", "p0@corvane.example");
        intake.take(place, List.of(seen("1/1", bulk)), List.of(), null);
        assertThat(timeline("Account port")).isEmpty();
        intake.take(
                place,
                List.of(new FetchedItem("1/1", bulk, () -> Content.EMPTY, List::of, ManualOverride.count("keyword"))),
                List.of(),
                null);
        assertThat(timeline("Account port")).hasSize(1);
        assertThat(store.get(Positions.class).chosen(place.source()))
                .containsExactly(new Positions.Chosen("1/1", ManualOverride.count("keyword")));
        intake.take(
                place,
                List.of(new FetchedItem("1/1", bulk, () -> Content.EMPTY, List::of, ManualOverride.keepOut("private"))),
                List.of(),
                null);
        assertThat(timeline("Account port")).isEmpty();
        assertThat(store.count("SELECT count(*) FROM sighting WHERE facts IS NULL AND rule = 'KEPT_OUT_BY_HAND'"))
                .isEqualTo(1);
    }

    @Test
    void whereThePolicyWantsItMailboxesAreToldWhatIsLogged() {
        Policies policies = store.get(Policies.class);
        Policy now = policies.find(Policy.FIRST).orElseThrow().policy();
        Handling h = Handling.SAFE;
        Handling telling =
                new Handling(h.privateItems(), h.cancelled(), h.deleted(), h.deletedMail(), h.series(), "on-file");
        policies.change(now.with(telling), "t");
        SourceRef place = scene.place(0);
        Positions positions = store.get(Positions.class);
        intake.take(place, List.of(seen("1/1", mail("1", "bram@port.example", "p0@corvane.example"))), List.of(), null);
        List<KeywordChange> due = positions.keywordChanges(place.source(), 9);
        assertThat(due)
                .singleElement()
                .matches(k ->
                        k.position().equals("1/1") && k.logged() && k.keyword().equals("on-file"));
        positions.keywordsSet(due);
        assertThat(positions.keywordChanges(place.source(), 9)).isEmpty();
        Exclusions exclusions = store.get(Exclusions.class);
        exclusions.add(
                List.of(new Exclusion(
                        UUID.randomUUID(), Exclusion.Kind.DOMAIN, "@port.example", "", Exclusion.Limits.NONE)),
                "t");
        scene.settle();
        due = positions.keywordChanges(place.source(), 9);
        assertThat(due)
                .singleElement()
                .matches(k ->
                        k.position().equals("1/1") && !k.logged() && k.keyword().equals("on-file"));
        positions.keywordsSet(due);
        assertThat(positions.keywordChanges(place.source(), 9)).isEmpty();
        policies.back(Policy.FIRST, now.version(), "t");
    }

    @Test
    void numbersThatMeanNothingAnyMoreAreForgottenWithoutDoubling() throws SQLException {
        SourceRef place = scene.place(0);
        intake.take(place, List.of(seen("1/1", mail("1", "bram@port.example", "p0@corvane.example"))), List.of(), null);
        intake.take(place, List.of(seen("2/1", mail("1", "bram@port.example", "p0@corvane.example"))), List.of(), null);
        store.get(Positions.class).forget(place.source(), List.of("1/1"));
        assertThat(store.get(Positions.class).all(place.source())).containsExactly("2/1");
        assertThat(timeline("Account port")).hasSize(1);
    }

    @Test
    void anImportIsTakenWholeOrNotAtAll() throws ImportRejected, SQLException {
        assertThatThrownBy(() -> scene.contact("c9", "no-such-account", "c9@x.example"))
                .isInstanceOfSatisfying(
                        ImportRejected.class,
                        m -> assertThat(m.problems())
                                .singleElement()
                                .satisfies(p -> assertThat(p.column()).isEqualTo("account")));
        assertThat(store.count("SELECT count(*) FROM contact")).isEqualTo(1);
        assertThatThrownBy(() -> scene.account("other", "port.example")).isInstanceOf(ImportRejected.class);
        assertThat(store.get(Directory.class).accounts(List.of())).isEqualTo(new FileImport.Outcome(0, 0, 0));
        scene.account("port", "harbour.example").account("other", "port.example");
        assertThat(store.count("SELECT count(*) FROM account_domain")).isEqualTo(2);
    }

    @Test
    void nothingThatArrivesStopsItsSource() throws SQLException {
        SourceRef place = scene.place(0);
        MailItem good = mail("good", "bram@port.example", "p0@corvane.example");
        MailItem never = new MailItem("mail:never", Instant.MAX, true, good.parties(), "s", good.nature(), List.of());
        StringBuilder words = new StringBuilder();
        for (int i = 0; i < 200_000; i++) {
            words.append("word").append(i).append(' ');
        }
        MailItem wordy =
                new MailItem("mail:wordy", good.at(), true, good.parties(), words.toString(), good.nature(), List.of());
        MailItem silent = mail("silent", "bram@port.example", "p0@corvane.example");
        List<FetchedItem> batch = new ArrayList<>(List.of(
                seen("1/1", never),
                new FetchedItem("1/2", silent, () -> {
                    throw new IllegalStateException("its text breaks the one who reads it");
                }),
                seen("1/3", wordy),
                seen("1/4", good)));
        for (int i = 5; i < 40; i++) {
            batch.add(seen("1/" + i, mail("m" + i, "bram@port.example", "p0@corvane.example")));
        }
        intake.take(place, batch, List.of(), new CursorMove(place.source(), "", "1/40", null));
        assertThat(store.count("SELECT count(*) FROM sighting WHERE verdict = 'unreadable'"))
                .isEqualTo(2);
        assertThat(store.count("SELECT count(*) FROM sighting WHERE verdict = 'logged'"))
                .as("the wordy one, too")
                .isEqualTo(37);
        assertThat(Finding.found(store, "word7", new Viewer(Role.ADMINISTRATOR, null))
                        .total())
                .isOne();
        assertThat(store.count("SELECT count(*) FROM source WHERE cursor = '1/40'"))
                .isEqualTo(1);
    }

    @Test
    void nothingThatIsKeptStopsDecidingAgain() throws SQLException {
        SourceRef place = scene.place(0);
        intake.take(
                place,
                List.of(
                        seen("1/1", mail("1", "bram@port.example", "p0@corvane.example")),
                        seen("1/2", mail("2", "bram@port.example", "p0@corvane.example"))),
                List.of(),
                null);
        store.run("UPDATE sighting SET facts = '{\"broken\"' WHERE position = '1/1'");
        store.run("INSERT INTO reconsider SELECT id FROM sighting");
        scene.settle();
        assertThat(store.count("SELECT count(*) FROM reconsider")).isZero();
        assertThat(store.count("SELECT count(*) FROM sighting WHERE verdict = 'unreadable'"))
                .isEqualTo(1);
        assertThat(store.count("SELECT count(*) FROM activity")).isEqualTo(1);
    }
}
