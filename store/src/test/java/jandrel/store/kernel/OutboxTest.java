package jandrel.store.kernel;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.store.StoreContext;
import jandrel.store.kernel.Outbox.Entry;
import jandrel.store.kernel.Outbox.Kind;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What goes out goes out, in order for each target, whoever is killed on the way. */
class OutboxTest {
    private static final Duration LEASE = Duration.ofMinutes(5);
    private static StoreContext store;
    private Instant now = Instant.parse("2026-05-04T08:00:00Z");
    private Outbox outbox;

    private final Clock clock = new Clock() {
        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            return this;
        }

        @Override
        public Instant instant() {
            return now;
        }
    };

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("store_outbox");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void empty() throws SQLException {
        store.run("DELETE FROM outbox");
        outbox = new Outbox(store.get(Outbox.Mapped.class), clock);
    }

    @Test
    void whatChangesBeforeItIsDeliveredGoesOnceAsItIsThen() {
        UUID meeting = UUID.randomUUID();
        outbox.add(Kind.NOTICE, "ann", meeting, "first");
        outbox.add(Kind.NOTICE, "ann", meeting, "second");
        assertThat(outbox.lease(Kind.NOTICE, 9))
                .singleElement()
                .matches(e -> e.payload().equals("second"));
        assertThat(outbox.lease(Kind.NOTICE, 9)).isEmpty();
    }

    @Test
    void whatChangesWhileItIsDeliveredGoesOnceMore() {
        UUID meeting = UUID.randomUUID();
        outbox.add(Kind.NOTICE, "ann", meeting, "first");
        Entry first = outbox.lease(Kind.NOTICE, 9).get(0);
        outbox.add(Kind.NOTICE, "ann", meeting, "second");
        outbox.done(first);
        Entry second = outbox.lease(Kind.NOTICE, 9).get(0);
        assertThat(second.payload()).isEqualTo("second");
        assertThat(second.idempotencyKey()).isNotEqualTo(first.idempotencyKey());
        outbox.done(second);
        assertThat(outbox.waiting()).isEmpty();
    }

    @Test
    void anOldAttemptTouchesNothingThatCameAfterIt() {
        UUID meeting = UUID.randomUUID();
        outbox.add(Kind.NOTICE, "ann", meeting, "first");
        Entry first = outbox.lease(Kind.NOTICE, 9).get(0);
        outbox.cancel(Kind.NOTICE, List.of(meeting));
        outbox.add(Kind.NOTICE, "ann", meeting, "second");
        outbox.done(first);
        outbox.failed(first, "late");
        assertThat(outbox.lease(Kind.NOTICE, 9)).singleElement().matches(e -> e.attempts() == 0);
    }

    @Test
    void whatIsAddedAfterTheFirstWasDeliveredIsAnotherEffect() {
        UUID meeting = UUID.randomUUID();
        outbox.add(Kind.NOTICE, "ann", meeting, "first");
        Entry first = outbox.lease(Kind.NOTICE, 9).get(0);
        outbox.done(first);
        outbox.add(Kind.NOTICE, "ann", meeting, "second");
        assertThat(outbox.lease(Kind.NOTICE, 9).get(0).idempotencyKey()).isNotEqualTo(first.idempotencyKey());
    }

    @Test
    void aTargetThatTakesNothingHoldsUpNoOtherAndIsAskedLessAndLess() {
        outbox.add(Kind.NOTICE, "dead", UUID.randomUUID(), "1");
        outbox.add(Kind.NOTICE, "dead", UUID.randomUUID(), "2");
        outbox.add(Kind.NOTICE, "ann", UUID.randomUUID(), "3");
        for (Entry e : outbox.lease(Kind.NOTICE, 9)) {
            if (e.target().equals("dead")) {
                outbox.failed(e, "gone away".repeat(99));
            } else {
                outbox.done(e);
            }
        }
        // the second for the same target waits behind the first
        assertThat(outbox.lease(Kind.NOTICE, 9)).isEmpty();
        assertThat(outbox.waiting()).singleElement().matches(w -> w.count() == 2 && w.failing() == 1);
        now = now.plus(Outbox.pause(0));
        assertThat(outbox.lease(Kind.NOTICE, 9))
                .singleElement()
                .matches(e -> e.payload().equals("1"));
        assertThat(Outbox.pause(1)).isEqualTo(Outbox.pause(0).multipliedBy(2));
        assertThat(Outbox.pause(1_000)).isEqualTo(Duration.ofHours(1));
    }

    /** What is to happen: the entries of each target in the order in which they came, and what each is to say. */
    private static final class Model {
        final Map<String, List<UUID>> waiting = new HashMap<>();
        final Map<UUID, String> wanted = new HashMap<>();
        final Map<UUID, String> arrived = new HashMap<>();

        void add(String target, UUID subject, String payload) {
            List<UUID> line = waiting.computeIfAbsent(target, t -> new ArrayList<>());
            if (!line.contains(subject)) {
                line.add(subject);
            }
            wanted.put(subject, payload);
        }

        void deliver(Entry entry) {
            assertThat(waiting.get(entry.target())).as("in order").first().isEqualTo(entry.subject());
            arrived.put(entry.subject(), entry.payload());
        }

        void done(Entry entry) {
            if (entry.payload().equals(wanted.get(entry.subject()))) {
                waiting.get(entry.target()).remove(entry.subject());
            }
        }
    }

    private record Held(Entry entry, Instant until) {}

    /**
     * Against a model: changes come, senders take entries, and are killed before the effect, between the effect and its note, or not at
     * all; one target is dead all the time. In the end every other target has the last state of everything, in order.
     */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20})
    void everyEffectHappensInOrderWhoeverIsKilled(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        Model model = new Model();
        List<Held> held = new ArrayList<>();
        for (int step = 0; step < 80; step++) {
            switch (random.nextInt(5)) {
                case 0, 1 -> {
                    int which = random.nextInt(7);
                    UUID subject = new UUID(seed, which);
                    model.add("t" + which % 3, subject, "state " + step);
                    outbox.add(Kind.NOTICE, "t" + which % 3, subject, "state " + step);
                }
                case 2 ->
                    outbox.lease(Kind.NOTICE, 1 + random.nextInt(3))
                            .forEach(e -> held.add(new Held(e, now.plus(LEASE))));
                case 3 -> {
                    // an attempt ends before its lease does: each has a time limit
                    held.removeIf(h -> !h.until().isAfter(now));
                    if (!held.isEmpty()) {
                        attempt(held.remove(random.nextInt(held.size())).entry(), model, random.nextInt(4));
                    }
                }
                default -> now = now.plusSeconds(random.nextInt(90));
            }
        }
        for (int turn = 0; turn < 20; turn++) {
            now = now.plus(Duration.ofHours(2));
            outbox.lease(Kind.NOTICE, 9).forEach(e -> attempt(e, model, 3));
        }
        Map<UUID, String> alive = new HashMap<>(model.wanted);
        alive.keySet().removeIf(s -> s.getLeastSignificantBits() % 3 == DEAD);
        assertThat(model.arrived).as("seed %d", seed).isEqualTo(alive);
        assertThat(outbox.pending(Kind.NOTICE, "t" + DEAD, 9).stream().map(Entry::subject))
                .containsExactlyElementsOf(model.waiting.getOrDefault("t" + DEAD, List.of()));
        assertThat(outbox.pending(Kind.NOTICE, "t0", 9)).isEmpty();
        assertThat(outbox.pending(Kind.NOTICE, "t1", 9)).isEmpty();
    }

    private static final int DEAD = 2;

    /** @param fate 0: killed before the effect; 1: killed before it is noted */
    private void attempt(Entry entry, Model model, int fate) {
        if (entry.target().equals("t" + DEAD)) {
            outbox.failed(entry, "nobody is there");
        } else if (fate > 0) {
            model.deliver(entry);
            if (fate > 1) {
                outbox.done(entry);
                model.done(entry);
            }
        }
    }
}
