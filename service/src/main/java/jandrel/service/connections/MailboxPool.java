package jandrel.service.connections;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import com.github.benmanes.caffeine.cache.RemovalCause;
import com.github.benmanes.caffeine.cache.Scheduler;
import jandrel.sources.Mailbox;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Server;
import java.time.Duration;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.stereotype.Component;

/**
 * Where something came, more comes soon, and signing in costs more than all else of a look: a mailbox that brought news stays open for
 * some seconds. Not for long, so that a sign-in that was taken back, or a consent, is soon missed.
 */
@Component
public class MailboxPool implements DisposableBean {
    private static final Duration KEPT = Duration.ofSeconds(20);
    private static final int MOST = 100;
    private final Servers servers;
    private final Cache<UUID, Kept> kept = Caffeine.newBuilder()
            .maximumSize(MOST)
            .expireAfterWrite(KEPT)
            .scheduler(Scheduler.systemScheduler())
            .removalListener((@Nullable UUID id, @Nullable Kept was, RemovalCause cause) -> {
                if (was != null && cause.wasEvicted()) {
                    was.mailbox().close();
                }
            })
            .build();

    private record Kept(Mailbox mailbox, Servers.Way way, long since) {}

    MailboxPool(Servers servers) {
        this.servers = servers;
    }

    /** Of one look. Closed at its end, unless it is kept. */
    public final class Use implements AutoCloseable {
        private final UUID connection;
        private final Kept used;
        private boolean keeps;

        private Use(UUID connection, Kept used) {
            this.connection = connection;
            this.used = used;
        }

        public Mailbox mailbox() {
            return used.mailbox();
        }

        /** All went well: it is kept if there was news, which is given back. */
        public boolean keptIf(boolean news) {
            keeps = news;
            return news;
        }

        @Override
        public void close() {
            if (!keeps || !isYoung(used)) {
                used.mailbox().close();
                return;
            }
            Kept other = kept.asMap().put(connection, used);
            if (other != null) {
                other.mailbox().close();
            }
        }
    }

    private static boolean isYoung(Kept one) {
        return System.nanoTime() - one.since() < KEPT.toNanos();
    }

    /** The one that is kept, if it still answers and would be opened in the same way today; else a new one. */
    public Use use(Connection connection, Server server) {
        Servers.Way way = servers.way(connection, server);
        Kept was = kept.asMap().remove(connection.id());
        if (was != null) {
            if (was.way().equals(way) && isYoung(was) && was.mailbox().answers()) {
                return new Use(connection.id(), was);
            }
            was.mailbox().close();
        }
        return new Use(connection.id(), new Kept(servers.mailbox(way), way, System.nanoTime()));
    }

    @Override
    public void destroy() {
        kept.asMap().values().forEach(k -> k.mailbox().close());
        kept.invalidateAll();
    }
}
