package jandrel.store.meetings;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Details;
import jandrel.store.StoreContext;
import jandrel.store.capture.Scene;
import jandrel.store.kernel.ItemKeys;
import jandrel.store.meetings.Invitations.Answered;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Answers by mail to meetings that a calendar program made and asked to. */
class AnswersTest {
    private static final String GUEST = "bram@port.example";
    private static final Instant NOON = Scene.NOON;
    private static StoreContext store;
    private Scene scene;
    private UUID plan;
    private Details agreed;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_answers");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void aMeetingOfACalendarProgram() throws Exception {
        scene = Scene.anew(store).people(1).account("port", "port.example");
        MeetingItem facts = new MeetingItem(
                "meeting:u1|",
                "u1",
                null,
                NOON,
                NOON.plus(Duration.ofHours(1)),
                false,
                "",
                List.of(),
                "Signing",
                "",
                "",
                Privacy.PUBLIC,
                MeetingItem.State.PLANNED,
                2,
                0,
                List.of(),
                MeetingItem.Sort.MEETING,
                MeetingItem.Transparency.OPAQUE);
        agreed = new Details(
                "Signing",
                new Details.When(facts.at(), facts.ends(), false, ""),
                "",
                "",
                "",
                true,
                Privacy.PUBLIC,
                Details.NONE,
                new TreeSet<>(Set.of(GUEST)),
                new TreeMap<>(),
                false);
        ManagedMeetings plans = store.get(ManagedMeetings.class);
        UUID item = store.get(ItemKeys.class).item(facts.identity());
        plan = plans.adopt(
                        item,
                        scene.person(0),
                        new ManagedMeetings.Shown(scene.place(0).source(), "/w/1.ics", facts),
                        agreed,
                        "t")
                .id();
    }

    private boolean answer(int sequence) {
        return store.get(Invitations.class)
                .take(scene.person(0), new Answered("u1", null, GUEST, Answer.ACCEPTED, sequence, NOON));
    }

    @Test
    void theyAreTakenThoughNobodyWasAskedFromHere() {
        assertThat(answer(1)).as("to an earlier time of it").isFalse();
        assertThat(answer(2)).isTrue();
    }

    @Test
    void toOneThatWasMovedHereOnlyAnAnswerToTheMoveCounts() {
        Details moved =
                agreed.at(new Details.When(NOON.plus(Duration.ofHours(3)), NOON.plus(Duration.ofHours(4)), false, ""));
        ManagedMeetings plans = store.get(ManagedMeetings.class);
        plans.change(plan, moved, "t");
        int sequence = plans.one(plan).orElseThrow().sequence();
        assertThat(sequence).isGreaterThan(2);
        assertThat(answer(2)).as("to the time before").isFalse();
        assertThat(answer(sequence)).isTrue();
    }
}
