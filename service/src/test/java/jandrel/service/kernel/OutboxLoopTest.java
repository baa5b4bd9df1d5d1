package jandrel.service.kernel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Entry;
import jandrel.store.kernel.Outbox.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class OutboxLoopTest {
    private final Outbox outbox = mock();
    private final List<Long> delivered = new ArrayList<>();
    private boolean ready = true;
    private final OutboxLoop loop = new OutboxLoop("test", outbox, Kind.NOTICE) {
        @Override
        protected void deliver(Entry entry) {
            if (entry.id() == 2) {
                throw new IllegalStateException("secret words");
            }
            delivered.add(entry.id());
        }

        @Override
        protected boolean isReady() {
            return ready;
        }
    };

    private static Entry entry(long id) {
        return new Entry(id, Kind.NOTICE, "t" + id, new UUID(0, id), 1, "", 0);
    }

    @Test
    void anEntryThatFailsOddlyKeepsNoOtherFromGoingOut() throws Exception {
        // never more than one: the rest would wait out their leases
        when(outbox.lease(Kind.NOTICE, 1)).thenReturn(List.of(entry(1)), List.of(entry(2)), List.of(entry(3)));
        for (int i = 0; i < 3; i++) {
            loop.turn();
        }
        assertThat(delivered).containsExactly(1L, 3L);
        // what it says may be private
        verify(outbox).failed(entry(2), "IllegalStateException");
    }

    @Test
    void whileNothingCanBeDeliveredNothingIsTaken() throws Exception {
        ready = false;
        loop.soon();
        loop.turn();
        verify(outbox, never()).lease(any(), anyInt());
    }
}
