package jandrel.store.kernel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.core.journal.Entry.Thing;
import jandrel.core.policy.Direction;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Scope;
import jandrel.store.StoreContext;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Positions;
import jandrel.store.capture.Reconsidering;
import jandrel.store.capture.RecordMapper;
import jandrel.store.capture.Scene;
import jandrel.store.capture.SourceRef;
import jandrel.store.connections.Connections;
import jandrel.store.connections.SourceSettings;
import jandrel.store.journal.Journal;
import jandrel.store.policy.Policies;
import jandrel.store.policy.Roster;
import java.sql.SQLException;
import java.time.Duration;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorCompletionService;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.support.TransactionTemplate;

/** Pairs of transactions that take the same locks: whoever comes first, neither waits for the other for ever. */
class LockOrderTest {
    private static final Thing THING = new Thing("test", "1", "test");
    private static StoreContext store;
    private Scene scene;
    private SourceRef place;
    private UUID connection;
    private RulesLock rules;
    private RecordMapper records;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_locks");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void begin() throws Exception {
        scene = Scene.anew(store).people(1).account("port", "port.example");
        place = scene.place(0);
        connection = store.get(Connections.class)
                .source(place.source())
                .orElseThrow()
                .connection();
        rules = store.get(RulesLock.class);
        records = store.get(RecordMapper.class);
    }

    private static void inTransaction(Runnable what) {
        store.get(TransactionTemplate.class).executeWithoutResult(t -> what.run());
    }

    /** Both begin together, again and again; a ring of waiting would make the database end one of them. */
    private static void together(Runnable one, Runnable other) throws Exception {
        ExecutorService threads = Executors.newFixedThreadPool(2);
        CyclicBarrier start = new CyclicBarrier(2);
        ExecutorCompletionService<Void> both = new ExecutorCompletionService<>(threads);
        try {
            for (Runnable each : List.of(one, other)) {
                both.submit(() -> {
                    for (int i = 0; i < 15; i++) {
                        start.await(20, TimeUnit.SECONDS);
                        each.run();
                    }
                    return null;
                });
            }
            // whichever ends, or fails, first
            both.take().get();
            both.take().get();
        } finally {
            threads.shutdownNow();
        }
    }

    private void take(int n) {
        store.get(Intake.class)
                .take(
                        place,
                        List.of(Scene.seen("1/" + n, Scene.mail("" + n, "a@port.example", "p0@corvane.example"))),
                        List.of(),
                        null);
    }

    /** As the end of a look does it. */
    private void ran() {
        inTransaction(() -> {
            store.get(Connections.class).ran(connection, "capturing", "", Scene.NOON);
            pause();
            store.get(Journal.class).add("service", "looked at", THING, null, "x");
        });
    }

    private static void pause() {
        try {
            Thread.sleep(Duration.ofMillis(3).toMillis());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Test
    void aChangeOfPolicyAndTheEndOfALook() throws Exception {
        Roster roster = store.get(Roster.class);
        UUID person = place.person();
        together(() -> roster.sharing(person, Policy.Sharing.TEAM, "t"), this::ran);
        Policies policies = store.get(Policies.class);
        int[] days = {91};
        together(
                () -> {
                    Policy now = policies.find(Policy.FIRST).orElseThrow().policy();
                    policies.change(now.with(new Scope(true, true, Direction.IN, Direction.NONE, days[0]++, 60)), "t");
                },
                this::ran);
        assertThat(store.get(Journal.class).verify().broken()).isZero();
    }

    @Test
    void takingOutASourceAndCapture() throws Exception {
        int[] n = {0};
        together(() -> store.get(Positions.class).forgetAll(place.source()), () -> take(n[0]++));
    }

    @Test
    void takingOutASourceAndAChangeOfRules() throws Exception {
        for (int i = 0; i < 40; i++) {
            take(i);
        }
        together(
                () -> store.get(Positions.class).forgetAll(place.source()),
                () -> store.get(SourceSettings.class).calendarChanged(place.person()));
    }

    @Test
    void captureAndAChangeOfRules() throws Exception {
        int[] n = {0};
        together(() -> take(n[0]++), () -> store.get(SourceSettings.class).calendarChanged(place.person()));
    }

    @Test
    void decidingAgainAndCapture() throws Exception {
        for (int i = 0; i < 20; i++) {
            take(i);
        }
        together(
                () -> {
                    store.get(SourceSettings.class).calendarChanged(place.person());
                    store.get(Reconsidering.class).next();
                },
                () -> take(3));
    }

    @RepeatedTest(2)
    void entriesOfTheJournalByTwo() throws Exception {
        Runnable two = () -> inTransaction(() -> {
            store.get(Journal.class).add("a", "did", THING, null, 1);
            pause();
            store.get(Journal.class).add("b", "did", THING, null, 2);
        });
        together(two, two);
        assertThat(store.get(Journal.class).verify().broken()).isZero();
    }

    @Test
    void whatWouldTakeThemOtherwiseFailsAtOnce() {
        UUID[] one = {new UUID(1, 1)};
        UUID[] other = {new UUID(2, 2)};
        assertRefused(() -> {
            records.lock(one);
            rules.change();
        });
        assertRefused(() -> {
            records.lock(one);
            rules.hold();
        });
        assertRefused(() -> {
            rules.hold();
            rules.change();
        });
        assertRefused(() -> {
            records.lock(one);
            records.lock(other);
        });
        assertThatCode(() -> inTransaction(() -> {
                    rules.change();
                    rules.hold();
                    records.lock(one);
                    rules.hold();
                    records.lock(one);
                }))
                .doesNotThrowAnyException();
    }

    private static void assertRefused(Runnable what) {
        assertThatThrownBy(() -> inTransaction(what))
                .isInstanceOf(StoreException.class)
                .hasMessageContaining("out of order");
    }
}
