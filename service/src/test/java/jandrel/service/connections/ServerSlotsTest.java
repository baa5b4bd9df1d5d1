package jandrel.service.connections;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

class ServerSlotsTest {
    private static final UUID SERVER = UUID.randomUUID();
    private final ServerSlots slots = new ServerSlots();
    private final List<UUID> ids = Stream.generate(UUID::randomUUID).limit(8).toList();

    /** @return who got a slot */
    private List<UUID> taken(UUID server, List<UUID> who) {
        return who.stream().filter(id -> slots.take(server, id)).toList();
    }

    @Test
    void aServerHasAFewAtOnceAndTheOthersFollowInLine() {
        assertThat(taken(SERVER, ids)).isEqualTo(ids.subList(0, 4));
        List<UUID> next = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            slots.free(SERVER, false).forEach(id -> {
                next.add(id);
                assertThat(slots.take(SERVER, id)).isTrue();
            });
        }
        assertThat(next).isEqualTo(ids.subList(4, 8));
        assertThat(slots.free(SERVER, false)).isEmpty();
    }

    @Test
    void anotherServerIsNotInItsWay() {
        taken(SERVER, ids);
        assertThat(taken(UUID.randomUUID(), ids)).hasSize(4);
    }

    @Test
    void aServerThatFailsHasOneUntilItIsWell() {
        taken(SERVER, ids.subList(0, 4));
        for (int i = 0; i < 4; i++) {
            slots.free(SERVER, true);
        }
        assertThat(taken(SERVER, ids)).hasSize(1);
        assertThat(slots.free(SERVER, true)).containsExactly(ids.get(1));
        assertThat(slots.take(SERVER, ids.get(1))).isTrue();
        assertThat(slots.free(SERVER, false)).isEqualTo(ids.subList(2, 6));
        assertThat(taken(SERVER, ids)).hasSize(4);
    }

    @Test
    void whoStandsInLineTwiceHasOneTurn() {
        taken(SERVER, ids.subList(0, 5));
        taken(SERVER, ids.subList(4, 5));
        assertThat(slots.free(SERVER, false)).containsExactly(ids.get(4));
        assertThat(slots.free(SERVER, false)).isEmpty();
    }
}
