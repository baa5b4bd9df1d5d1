package jandrel.store.meetings;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.reconcile.Conflict;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Field;
import jandrel.store.StoreContext;
import jandrel.store.capture.Scene;
import jandrel.store.capture.SourceRef;
import jandrel.store.connections.Connections;
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

/** Meetings made here, and the calendars of their owner. */
class ManagedMeetingsTest {
    private static final Instant NOON = Scene.NOON;
    private static StoreContext store;
    private Scene scene;
    private ManagedMeetings plans;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_plans");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void begin() throws Exception {
        scene = Scene.anew(store).people(1).account("port", "port.example");
        scene.contact("bram", "port", "bram@port.example");
        store.run("TRUNCATE managed_meeting, moved, outbox CASCADE");
        plans = store.get(ManagedMeetings.class);
    }

    private Details at(Instant begins) {
        return new Details(
                "Signing",
                new Details.When(begins, begins.plus(Duration.ofHours(1)), false, ""),
                "",
                "",
                "",
                true,
                Privacy.PUBLIC,
                Details.NONE,
                new TreeSet<>(Set.of("bram@port.example")),
                new TreeMap<>(),
                false);
    }

    private UUID made(boolean out) {
        MeetingItem template = new MeetingItem(
                "meeting:u1|",
                "u1",
                null,
                NOON,
                NOON.plus(Duration.ofHours(1)),
                false,
                "",
                List.of(
                        new Party(
                                Part.ORGANISER,
                                Scene.addresses("p0@corvane.example").get(0),
                                ""),
                        new Party(
                                Part.ATTENDEE,
                                Scene.addresses("bram@port.example").get(0),
                                "")),
                "Signing",
                "",
                "",
                Privacy.PUBLIC,
                MeetingItem.State.PLANNED,
                0,
                0,
                List.of(),
                MeetingItem.Sort.MEETING,
                MeetingItem.Transparency.OPAQUE);
        UUID item = plans.make(scene.person(0), template, at(NOON), List.of(), out, false, "Ina");
        return plans.of(item, scene.person(0)).orElseThrow().id();
    }

    private UUID connection(SourceRef place) {
        return store.get(Connections.class).source(place.source()).orElseThrow().connection();
    }

    @Test
    void ofTwoCalendarAccountsOnlyTheOneItGoesToIsOwedIt() {
        SourceRef first = scene.calendar(0);
        SourceRef second = scene.calendar(0);
        UUID plan = made(true);
        assertThat(plans.pendingSync(connection(first), scene.person(0), 9)).containsExactly(plan);
        assertThat(plans.pendingSync(connection(second), scene.person(0), 9)).isEmpty();
        store.get(Connections.class).outgoing(second.source());
        assertThat(plans.pendingSync(connection(first), scene.person(0), 9)).isEmpty();
        assertThat(plans.pendingSync(connection(second), scene.person(0), 9)).containsExactly(plan);
        // once it stands somewhere, that is where it is looked for
        plans.stands(plan, first.source(), "/cal/1.ics");
        assertThat(plans.pendingSync(connection(first), scene.person(0), 9)).containsExactly(plan);
        assertThat(plans.pendingSync(connection(second), scene.person(0), 9)).isEmpty();
    }

    /** Its source is nobody's server, so it is never behind. */
    @Test
    void whatIsMadeHereIsNeverOverdue() throws SQLException {
        made(true);
        store.run("UPDATE connection SET connected_at = now() - interval '1 hour'");
        assertThat(store.get(Connections.class).all())
                .filteredOn(c -> c.kind().equals(Connections.HERE))
                .isNotEmpty()
                .allMatch(c -> c.state().equals("capturing"));
    }

    @Test
    void aMoveIsCreditedToWhoeverMovedItWhetherItGoesOutOrNot() throws SQLException {
        for (boolean out : new boolean[] {false, true}) {
            store.run("TRUNCATE managed_meeting, moved, outbox CASCADE");
            UUID plan = made(out);
            plans.change(plan, at(NOON.plus(Duration.ofHours(3))), "Ina Administrator");
            UUID item = plans.one(plan).orElseThrow().item();
            assertThat(store.get(Meetings.class).moved(item))
                    .singleElement()
                    .satisfies(m -> assertThat(m.by()).isEqualTo("Ina Administrator"));
            // what the calendar did comes after it, and was not she
            MeetingLedger ledger = store.get(MeetingLedger.class);
            Details there = at(NOON.plus(Duration.ofHours(5)));
            long version = plans.one(plan).orElseThrow().version();
            assertThat(ledger.agree(plan, version, there, there, false)).isTrue();
            assertThat(store.get(Meetings.class).moved(item))
                    .extracting(Meetings.Moved::by)
                    .containsExactlyInAnyOrder("Ina Administrator", "Person 0");
        }
    }

    @Test
    void aConflictThatComesAgainIsAnother() {
        UUID plan = made(true);
        MeetingLedger ledger = store.get(MeetingLedger.class);
        List<Conflict<Details>> same = List.of(new Conflict<>(Field.TITLE, true, "Ours", "Theirs", at(NOON)));
        ledger.note(plan, same);
        ledger.note(plan, same);
        assertThat(ledger.conflicts(plan, 9))
                .as("the same exchange, tried again")
                .hasSize(1);
        plans.change(plan, at(NOON.plus(Duration.ofHours(3))), "Ina");
        ledger.note(plan, same);
        assertThat(ledger.conflicts(plan, 9)).hasSize(2);
    }
}
