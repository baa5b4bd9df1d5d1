package jandrel.service.connections;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

@Timeout(30)
class RenewalTest {
    private static final UUID ID = UUID.randomUUID();
    private static final byte[] OLD = bytes("old");
    private final Connections connections = mock();
    private final Renewal renewal = new Renewal(connections, Clock.systemUTC());
    private byte[] kept = OLD;
    private boolean renewing;

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static String text(byte[] bytes) {
        return new String(bytes, StandardCharsets.UTF_8);
    }

    /** As the database does it. */
    @BeforeEach
    void remember() {
        when(connections.renewing(any(), any(), any())).thenAnswer(call -> {
            synchronized (this) {
                boolean takes = !renewing && Arrays.equals(kept, (byte[]) call.getArgument(1));
                renewing |= takes;
                return takes ? 1 : 0;
            }
        });
        when(connections.renewed(any(), any(), any())).thenAnswer(call -> {
            synchronized (this) {
                if (!Arrays.equals(kept, (byte[]) call.getArgument(1))) {
                    return 0;
                }
                kept = call.getArgument(2);
                renewing = false;
                return 1;
            }
        });
        when(connections.notRenewed(any(), any())).thenAnswer(call -> {
            synchronized (this) {
                renewing = false;
                return 1;
            }
        });
        when(connections.connection(ID)).thenAnswer(call -> {
            synchronized (this) {
                return Optional.of(Connection.fresh(ID, ID, ID, "ann", kept, Instant.EPOCH, "capturing"));
            }
        });
    }

    @Test
    void manyWhoNeedItAtOnceAskOnce() {
        AtomicInteger asked = new AtomicInteger();
        List<CompletableFuture<byte[]>> all = Stream.generate(() -> CompletableFuture.supplyAsync(
                        () -> renewal.of(ID, OLD, old -> {
                            asked.incrementAndGet();
                            sleep(300);
                            return bytes("new");
                        }),
                        work -> new Thread(work).start()))
                .limit(8)
                .toList();
        assertThat(all).allSatisfy(one -> assertThat(text(one.join())).isEqualTo("new"));
        assertThat(asked).hasValue(1);
    }

    private static void sleep(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }

    @Test
    void whatWasEndedMeanwhileStaysEnded() {
        assertThatThrownBy(() -> renewal.of(ID, OLD, old -> {
                    kept = null;
                    return bytes("new");
                }))
                .isInstanceOf(SourceTrouble.class);
        assertThat(kept).isNull();
    }

    @Test
    void aNewSignInIsNotReplaced() {
        assertThatThrownBy(() -> renewal.of(ID, OLD, old -> {
                    kept = bytes("signed in again");
                    return bytes("new");
                }))
                .isInstanceOf(SourceTrouble.class);
        assertThat(text(kept)).isEqualTo("signed in again");
    }

    @Test
    void whoFailsLeavesItToTheNext() {
        assertThatThrownBy(() -> renewal.of(ID, OLD, old -> {
                    throw new SourceTrouble(SourceTrouble.Kind.UNREACHABLE, "away");
                }))
                .hasMessage("away");
        assertThat(text(renewal.of(ID, OLD, old -> bytes("new")))).isEqualTo("new");
    }
}
