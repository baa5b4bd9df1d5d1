package jandrel.store.triage;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.ImportRejected;
import jandrel.core.item.Content;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.policy.Opening;
import jandrel.core.policy.Opening.Does;
import jandrel.core.policy.Policy;
import jandrel.store.StoreContext;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Scene;
import jandrel.store.capture.SourceRef;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Opportunities that meetings open and join, in the database. */
class MeetingOpeningsTest {
    private static Policy opening(int mostADay) {
        return new Policy(
                Policy.FIRST,
                1,
                "Everyone",
                Policy.first().audience(),
                Policy.first().scope(),
                Policy.first().handling(),
                Policy.first().ties(),
                Policy.first().sharing(),
                Policy.first().rhythm(),
                Set.of(),
                Policy.first().keeping(),
                Policy.first().creation(),
                Policy.first().books(),
                new Opening(
                        Does.OPEN,
                        List.of(),
                        List.of(),
                        List.of(),
                        Set.of(MeetingItem.Sort.MEETING),
                        "talking",
                        "fair",
                        Opening.Owner.ORGANISER,
                        "{account}",
                        true,
                        true,
                        true,
                        30,
                        mostADay));
    }

    private static final Policy OPENS = opening(10_000);
    /** Accounts that two nodes meet at once, each in a race of its own: -Djandrel.tries= */
    private static final int TRIES = Integer.getInteger("jandrel.tries", 100);

    private static StoreContext one;
    private static StoreContext other;
    private Scene scene;

    @BeforeAll
    static void open() throws SQLException {
        one = new StoreContext("test_openings");
        other = StoreContext.beside("test_openings");
    }

    @AfterAll
    static void close() {
        other.close();
        one.close();
    }

    @BeforeEach
    void begin() throws Exception {
        one.run("TRUNCATE meeting_opening, opening_not_again");
        scene = Scene.anew(one).people(2);
    }

    private static FetchedItem meeting(String uid, Instant at, String owner, String... guests) {
        List<Party> parties = new ArrayList<>(List.of(new Party(Part.ORGANISER, EmailAddress.of(owner), "")));
        for (String guest : guests) {
            parties.add(new Party(Part.ATTENDEE, EmailAddress.of(guest), ""));
        }
        MeetingItem item = new MeetingItem(
                "meeting:" + uid,
                uid,
                null,
                at,
                at.plusSeconds(1_800),
                false,
                "",
                parties,
                "About " + uid,
                "",
                "",
                MeetingItem.Privacy.PUBLIC,
                MeetingItem.State.PLANNED,
                0,
                0,
                List.of(),
                MeetingItem.Sort.MEETING,
                MeetingItem.Transparency.OPAQUE);
        return new FetchedItem("/" + uid, item, () -> new Content("", "", List.of()));
    }

    private static boolean next(StoreContext node) {
        try {
            return node.get(MeetingOpenings.class).next(OPENS, Scene.NOON, made -> UUID.randomUUID());
        } catch (ImportRejected no) {
            throw new IllegalStateException(no.problems().get(0).reason(), no);
        }
    }

    private void take(SourceRef place, List<FetchedItem> items) {
        one.get(Intake.class).take(place, items, List.of(), null);
    }

    @Test
    void twoNodesNeverOpenTwoForOneAccount() throws Exception {
        SourceRef ina = scene.calendar(0);
        SourceRef ole = scene.calendar(1);
        ExecutorService nodes = Executors.newFixedThreadPool(2);
        try {
            for (int i = 0; i < TRIES; i++) {
                Instant at = Scene.NOON.plus(Duration.ofMinutes(i));
                take(ina, List.of(meeting("a" + i, at, "p0@corvane.example", "ida@new" + i + ".example")));
                take(ole, List.of(meeting("b" + i, at, "p1@corvane.example", "moe@new" + i + ".example")));
                CountDownLatch go = new CountDownLatch(1);
                List<Future<Boolean>> both = new ArrayList<>();
                for (StoreContext node : List.of(one, other)) {
                    both.add(nodes.submit(() -> {
                        go.await();
                        return next(node);
                    }));
                }
                go.countDown();
                for (Future<Boolean> node : both) {
                    node.get();
                }
            }
        } finally {
            nodes.shutdownNow();
        }
        assertThat(one.count("SELECT count(*) FROM account")).isEqualTo(TRIES);
        assertThat(one.count("SELECT count(*) FROM opportunity")).isEqualTo(TRIES);
        assertThat(one.count("SELECT count(DISTINCT account) FROM opportunity")).isEqualTo(TRIES);
        assertThat(one.count("SELECT count(*) FROM meeting_opening WHERE did = 'opened'"))
                .isEqualTo(TRIES);
        assertThat(one.count("SELECT count(*) FROM meeting_opening WHERE did = 'joined'"))
                .isEqualTo(TRIES);
        // both guests of each take part
        assertThat(one.count("SELECT count(*) FROM opportunity_contact")).isEqualTo(2L * TRIES);
        assertThat(next(one)).isFalse();
    }

    @Test
    void whatDidNothingIsLookedAtAgainOnceItsDecisionChanges() throws Exception {
        scene.account("port", "port.example");
        one.run("INSERT INTO opportunity (id, key, name, account, state) SELECT gen_random_uuid(), k, k, id, 'OPEN'"
                + " FROM account, unnest(ARRAY['buoys', 'cranes']) k");
        take(scene.calendar(0), List.of(meeting("m1", Scene.NOON, "p0@corvane.example", "new@port.example")));
        assertThat(next(one)).isFalse();
        assertThat(one.text("SELECT did || ': ' || why FROM meeting_opening"))
                .startsWith("nothing: Account port has 2 open");
        assertThat(one.text("SELECT xmin::text FROM meeting_opening"))
                .isEqualTo(again(() -> next(one), "SELECT xmin::text FROM meeting_opening"));
        // one of the two is closed, and the meeting decided again
        one.run("UPDATE opportunity SET state = 'LOST' WHERE key = 'cranes'");
        one.run("INSERT INTO reconsider SELECT id FROM sighting ON CONFLICT DO NOTHING");
        scene.settle();
        assertThat(next(one)).isTrue();
        assertThat(
                        one.text(
                                "SELECT m.did || ' ' || o.key FROM meeting_opening m JOIN opportunity o ON o.id = m.opportunity"))
                .isEqualTo("joined buoys");
        assertThat(one.count("SELECT count(*) FROM opportunity_contact")).isEqualTo(1);
    }

    private static String again(Runnable act, String sql) throws SQLException {
        act.run();
        return one.text(sql);
    }

    @Test
    void whatIsTakenBackStaysSo() throws Exception {
        take(scene.calendar(0), List.of(meeting("m1", Scene.NOON, "p0@corvane.example", "ida@new.example")));
        UUID deed = UUID.randomUUID();
        List<MeetingOpenings.Made> kept = new ArrayList<>();
        one.get(MeetingOpenings.class).next(OPENS, Scene.NOON, made -> {
            kept.add(made);
            return deed;
        });
        assertThat(kept.get(0).says()).isEqualTo("opened the opportunity New");
        assertThat(one.text("SELECT made_by FROM opportunity")).isEqualTo("the policy “Everyone”");
        assertThat(
                        one.text(
                                "SELECT stage || ', ' || channel || ', ' || p.key FROM opportunity o JOIN person p ON p.id = o.owner"))
                .isEqualTo("talking, fair, p0");
        one.get(OpeningRows.class).undone(deed, kept.get(0).forAccounts());
        one.run("DELETE FROM opportunity");
        one.run("DELETE FROM contact");
        one.run("DELETE FROM account");
        one.run("INSERT INTO reconsider SELECT id FROM sighting ON CONFLICT DO NOTHING");
        scene.settle();
        assertThat(next(one)).isFalse();
        // nor does a later meeting of that account
        take(
                scene.calendar(1),
                List.of(meeting("m2", Scene.NOON.plusSeconds(90), "p1@corvane.example", "moe@new.example")));
        assertThat(next(one)).isFalse();
        assertThat(one.count("SELECT count(*) FROM opportunity")).isZero();
        assertThat(one.text("SELECT why FROM meeting_opening WHERE did = 'nothing'"))
                .contains("taken back");
    }

    @Test
    void aFloodOfInvitationsKeepsNobodyElseWaiting() throws Exception {
        Policy few = opening(1);
        Instant now = Instant.now();
        scene.account("port", "port.example");
        one.run(
                "INSERT INTO opportunity (id, key, name, account, state) SELECT gen_random_uuid(), 'buoys', 'B', id, 'OPEN' FROM account");
        List<FetchedItem> flood = new ArrayList<>();
        for (int i = 0; i < OpeningRows.BATCH + 20; i++) {
            flood.add(meeting("f" + i, now.plusSeconds(i), "p0@corvane.example", "x@flood" + i + ".example"));
        }
        take(scene.calendar(0), flood);
        take(
                scene.calendar(1),
                List.of(meeting("m1", now.plusSeconds(9_000), "p1@corvane.example", "ida@port.example")));
        MeetingOpenings openings = one.get(MeetingOpenings.class);
        for (int i = 0; i < 3; i++) {
            openings.next(few, now, made -> UUID.randomUUID());
        }
        assertThat(one.count("SELECT count(*) FROM meeting_opening WHERE did = 'opened'"))
                .isEqualTo(1);
        assertThat(one.count("SELECT count(*) FROM meeting_opening WHERE did = 'joined'"))
                .isEqualTo(1);
        // the next day another one
        openings.next(few, now.plus(Duration.ofDays(1)), made -> UUID.randomUUID());
        assertThat(one.count("SELECT count(*) FROM meeting_opening WHERE did = 'opened'"))
                .isEqualTo(2);
    }

    @Test
    void aClosedMeetingOpensNothing() throws Exception {
        take(scene.calendar(0), List.of(meeting("m1", Scene.NOON, "p0@corvane.example", "ida@new.example")));
        one.run("INSERT INTO ruling (item, opens, readers, by_person, by_name, readers_named)"
                + " SELECT item, false, ARRAY[person], person, 'P', '' FROM sighting");
        assertThat(next(one)).isFalse();
        assertThat(one.text("SELECT why FROM meeting_opening")).isEqualTo("It is kept private.");
    }
}
