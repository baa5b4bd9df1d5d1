package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Servers, and people's connections to them. */
public final class Connections {
    private Connections() {}

    /** @param kind {@code imap} or {@code caldav} */
    public record ServerInfo(UUID id, String name, String kind, String host, int port, String path) {}

    public record NewServer(
            String name,
            String kind,
            String host,
            int port,
            @Nullable String path) {}

    /**
     * @param person key or address of a person of the company
     * @param server the server's name
     * @param account the sign-in at the server
     */
    public record NewConnection(String person, String server, String account, String password) {
        @Override
        public String toString() {
            return "NewConnection[" + person + " at " + server + "]";
        }
    }

    public record NewPassword(String password) {
        @Override
        public String toString() {
            return "NewPassword[]";
        }
    }

    public record SourceInfo(
            String kind, String label, long seen, long logged, long waiting, long leftOut, long unreadable) {}

    /**
     * @param state {@code connecting}, {@code capturing}, {@code needs-sign-in}, {@code unreachable} or {@code broken}
     * @param detail what to do about the state; empty when there is nothing to do
     */
    public record ConnectionInfo(
            UUID id,
            UUID person,
            String personName,
            String server,
            String kind,
            String account,
            String state,
            String detail,
            Instant since,
            @Nullable Instant lastRun,
            List<SourceInfo> sources) {}
}
