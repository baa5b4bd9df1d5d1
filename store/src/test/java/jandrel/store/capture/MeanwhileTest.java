package jandrel.store.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.core.directory.Exclusion;
import jandrel.core.policy.Direction;
import jandrel.core.policy.Handling;
import jandrel.core.policy.Handling.Vanished;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Scope;
import jandrel.store.StoreContext;
import jandrel.store.capture.Positions.KeywordChange;
import jandrel.store.connections.Connections;
import jandrel.store.connections.SourceSettings;
import jandrel.store.directory.Company;
import jandrel.store.policy.Exclusions;
import jandrel.store.policy.Policies;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What is changed while a look is under way is not lost to what the look still has in hand. */
class MeanwhileTest {
    private static StoreContext store;
    private Scene scene;
    private SourceRef place;
    private UUID connection;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_meanwhile");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void begin() throws Exception {
        scene = Scene.anew(store).people(1).account("port", "port.example");
        change(policy -> policy.with(Scope.SAFE).with(Handling.SAFE));
        place = scene.looking(scene.place(0));
        connection = store.get(Connections.class)
                .source(place.source())
                .orElseThrow()
                .connection();
    }

    private static void change(UnaryOperator<Policy> how) {
        Policies policies = store.get(Policies.class);
        policies.change(how.apply(policies.find(Policy.FIRST).orElseThrow().policy()), "t");
    }

    private static FetchedItem seen() {
        return Scene.seen("1/1", Scene.mail("1", "bram@port.example", "p0@corvane.example"));
    }

    private void takeFirstBatch() {
        store.get(Intake.class)
                .take(place, List.of(seen()), List.of(), new CursorMove(place.source(), "", "1/2", null));
    }

    /** The look is refused, the source is read from its beginning, and soon. */
    private void isOvertakenBy(Runnable change) {
        change.run();
        assertThatThrownBy(this::takeFirstBatch)
                .isInstanceOfSatisfying(
                        CursorConflict.class, o -> assertThat(o.isByChange()).isTrue());
        Connections connections = store.get(Connections.class);
        assertThat(connections.source(place.source()).orElseThrow().cursor()).isEmpty();
        assertThat(connections.wanted()).containsExactly(connection);
        assertThat(connections.takeLookAgain(connection)).isOne();
        assertThat(connections.takeLookAgain(connection)).isZero();
    }

    private static Scope scope(int back, int ahead) {
        return new Scope(true, true, Direction.IN, Direction.NONE, back, ahead);
    }

    @Test
    void aPolicyThatLooksFurtherBack() {
        isOvertakenBy(() -> change(policy -> policy.with(scope(400, 60))));
    }

    @Test
    void aPolicyThatLooksFurtherAhead() {
        isOvertakenBy(() -> change(policy -> policy.with(scope(90, 90))));
    }

    @Test
    void aFolderInWhichAllCounts() {
        isOvertakenBy(() -> store.get(SourceSettings.class).counting(connection, List.of(place.source())));
    }

    @Test
    void aFolderThatIsNoLongerLookedAt() {
        isOvertakenBy(() -> store.get(SourceSettings.class).chosen(connection, List.of()));
    }

    @Test
    void keywordsByWhichPeopleChoose() {
        isOvertakenBy(() -> store.get(SourceSettings.class).keywords(connection, "crm", "private"));
    }

    /** The old keyword was set in the mailbox while the policy got another: the new one is set, too. */
    @Test
    void theKeywordOfWhatIsLogged() {
        Positions positions = store.get(Positions.class);
        change(policy -> policy.with(telling("logged")));
        takeLogged();
        List<KeywordChange> under = positions.keywordChanges(place.source(), 10);
        assertThat(due()).containsExactly(Map.entry(true, "logged"));
        change(policy -> policy.with(telling("filed")));
        positions.keywordsSet(under);
        assertThat(due()).containsExactly(Map.entry(true, "filed"));
        positions.keywordsSet(positions.keywordChanges(place.source(), 10));
        assertThat(due()).isEmpty();
    }

    /** The keyword was set while the message ceased to be logged: it is taken away again. */
    @Test
    void theVerdict() {
        change(policy -> policy.with(telling("logged")));
        takeLogged();
        List<KeywordChange> under = store.get(Positions.class).keywordChanges(place.source(), 10);
        change(policy -> policy.with(scope(90, 60)).with(telling("logged")));
        store.get(Exclusions.class).add(List.of(Exclusion.of(UUID.randomUUID(), "@port.example", "")), "t");
        while (store.get(Reconsidering.class).next() > 0) {
            // the next batch
        }
        store.get(Positions.class).keywordsSet(under);
        assertThat(due()).containsExactly(Map.entry(false, "logged"));
    }

    /** A batch is decided ahead, while others are being recorded; what changes until it is its turn counts all the same. */
    @ParameterizedTest
    @EnumSource
    void theRulesByWhichABatchWasDecidedAhead(Changed what) throws Exception {
        Intake intake = store.get(Intake.class);
        Intake.Prepared batch = intake.prepare(place, List.of(seen(), other()));
        what.change.run(this);
        try {
            intake.takePrepared(place, batch, null);
        } catch (CursorConflict overtaken) {
            assertThat(what.expected).as("%s", what).isEmpty();
            return;
        }
        assertThat(verdicts()).isEqualTo(what.expected);
    }

    private interface Change {
        void run(MeanwhileTest test) throws Exception;
    }

    private enum Changed {
        NOTHING("logged waiting", t -> {}),
        EXCLUSION(
                "left-out waiting",
                t -> store.get(Exclusions.class)
                        .add(List.of(Exclusion.of(UUID.randomUUID(), "@port.example", "")), "t")),
        ACCOUNT("logged logged", t -> t.scene.account("else", "else.example")),
        CONTACT("logged logged", t -> t.scene.contact("x", "port", "x@else.example")),
        OWN_DOMAINS(
                "left-out waiting",
                t -> store.get(Company.class)
                        .change(List.of("@corvane.example", "@port.example"), List.of("@free.example"), "t")),
        RECEIVED_OFF(
                "", t -> change(policy -> policy.with(new Scope(false, true, Direction.IN, Direction.NONE, 90, 60)))),
        SCOPE("", t -> change(policy -> policy.with(scope(400, 60))));

        private final String expected;
        private final Change change;

        Changed(String expected, Change change) {
            this.expected = expected;
            this.change = change;
        }
    }

    private static FetchedItem other() {
        return Scene.seen("1/2", Scene.mail("2", "x@else.example", "p0@corvane.example"));
    }

    private static String verdicts() throws SQLException {
        return store.text("SELECT string_agg(verdict, ' ' ORDER BY position) FROM sighting");
    }

    private static Handling telling(String keyword) {
        return new Handling(
                Handling.Private.OUTLINE,
                Vanished.REMOVE,
                Vanished.REMOVE,
                Vanished.KEEP,
                Handling.Series.EACH_OCCURRENCE,
                keyword);
    }

    private void takeLogged() {
        store.get(Intake.class)
                .take(
                        new SourceRef(place.source(), place.person(), place.since(), SourceRef.ANY),
                        List.of(seen()),
                        List.of(),
                        null);
    }

    private List<Map.Entry<Boolean, String>> due() {
        return store.get(Positions.class).keywordChanges(place.source(), 10).stream()
                .map(o -> Map.entry(o.logged(), o.keyword()))
                .toList();
    }
}
