package jandrel.service.connections;

import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;

/**
 * A few runs at once for each server, one while it fails: however many accounts a dead server has, the others keep their threads. Who
 * finds no slot waits in line without a thread.
 */
@Component
public class ServerSlots {
    private static final int MOST = 4;
    private static final int MOST_WHILE_FAILING = 1;
    private final Map<UUID, Server> servers = new HashMap<>();

    private static final class Server {
        private int taken;
        private boolean fails;
        private final Set<UUID> line = new LinkedHashSet<>();

        int room() {
            return Math.max(0, (fails ? MOST_WHILE_FAILING : MOST) - taken);
        }
    }

    /** @return whether the connection may use its server now; else it stands in line */
    public synchronized boolean take(UUID server, UUID connection) {
        Server at = servers.computeIfAbsent(server, s -> new Server());
        if (at.room() == 0) {
            at.line.add(connection);
            return false;
        }
        at.line.remove(connection);
        at.taken++;
        return true;
    }

    /**
     * Gives a slot back.
     *
     * @param fails whether the server could not be used, whoever asks
     * @return whose turn it is: as many as there is room for, as one that is told may run at another node
     */
    public synchronized List<UUID> free(UUID server, boolean fails) {
        Server at = servers.computeIfAbsent(server, s -> new Server());
        at.taken--;
        at.fails = fails;
        if (at.taken == 0 && at.line.isEmpty() && !fails) {
            servers.remove(server);
        }
        List<UUID> next = at.line.stream().limit(at.room()).toList();
        next.forEach(at.line::remove);
        return next;
    }
}
