package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Servers, and people's connections to them. */
public final class ConnectionApi {
    private ConnectionApi() {}

    /**
     * @param kind {@code imap} or {@code caldav}
     * @param signIn {@code password}, {@code oauth} (each person consents), {@code organisation-password} (one sign-in for all) or
     *     {@code organisation-key} (one key for all)
     * @param grantLogin the master sign-in of the organisation; empty unless {@code organisation-password}
     */
    public record ServerInfo(
            UUID id,
            String name,
            String kind,
            String host,
            int port,
            String path,
            String signIn,
            String grantLogin,
            String issuer,
            String clientId,
            String scopes,
            String authority,
            boolean hasSecret) {}

    /** @param signInAgain how many connections have to sign in again, as what they gave was given for another host */
    public record ChangedServer(ServerInfo server, int signInAgain) {}

    /**
     * @param secret the organisation's password or private key, or the client's secret; kept encrypted, never given out
     * @param issuer where the authorisation server says what it offers (RFC 8414)
     * @param authority a PEM certificate of the company's own authority
     */
    public record NewServer(
            String name,
            String kind,
            String host,
            int port,
            @Nullable String path,
            @Nullable String signIn,
            @Nullable String grantLogin,
            @Nullable String secret,
            @Nullable String issuer,
            @Nullable String clientId,
            @Nullable String scopes,
            @Nullable String authority) {
        public NewServer(String name, String kind, String host, int port, @Nullable String path) {
            this(name, kind, host, port, path, null, null, null, null, null, null, null);
        }

        @Override
        public String toString() {
            return "NewServer[" + name + "]";
        }
    }

    /** @param account and password to try; both null to stop before signing in */
    public record ServerCheck(
            NewServer server,
            @Nullable String account,
            @Nullable String password) {
        @Override
        public String toString() {
            return "ServerCheck[" + server + "]";
        }
    }

    /**
     * @param step {@code name}, {@code address}, {@code connection}, {@code sign-in}, {@code sources}
     * @param says what was found, or what to do
     */
    public record CheckedStep(String step, boolean passed, String says) {}

    public record CheckOutcome(boolean passed, List<CheckedStep> steps) {}

    /** @param found by {@code srv}, {@code well-known} or {@code guess} */
    public record FoundServer(String kind, String host, int port, String path, String found) {}

    /**
     * Where people may connect their own.
     *
     * @param kind {@code imap} or {@code caldav}
     * @param signIn as the server has it
     */
    public record OfferInfo(String name, String kind, String signIn) {}

    /** @param host a name or address inside the company's own network that the service may reach from now on */
    public record HostToAllow(String host) {}

    /**
     * @param allowedBy null where it stands in the service's settings
     * @param servers names of the servers that are there
     */
    public record AllowedHost(
            String host,
            @Nullable String allowedBy,
            @Nullable Instant allowedAt,
            List<String> servers) {}

    /**
     * @param person key or address of a person of the company
     * @param server the server's name
     * @param account the sign-in at the server
     * @param accepted whether an account is taken that is none of the person's known addresses
     */
    public record NewConnection(
            String person,
            String server,
            String account,
            @Nullable String password,
            @Nullable Boolean accepted) {
        public NewConnection(String person, String server, String account, String password) {
            this(person, server, account, password, false);
        }

        @Override
        public String toString() {
            return "NewConnection[" + person + " at " + server + "]";
        }
    }

    /**
     * @param server the name of one with an organisation's sign-in
     * @param people these alone; null for everybody who is covered
     */
    public record EveryoneWanted(String server, @Nullable List<UUID> people) {}

    /** @param act {@code sync}, {@code pause}, {@code resume}, or {@code remind}: a mail to those who have to sign in */
    public record ManyConnections(List<UUID> connections, String act) {}

    /** @param problem why not; empty where it was done */
    public record ActOutcome(UUID connection, String account, String problem) {}

    /** @param skipped why some of those covered were left, a line each */
    public record EveryoneConnected(long connected, long known, List<String> skipped) {}

    public record NewPassword(String password) {
        @Override
        public String toString() {
            return "NewPassword[]";
        }
    }

    /**
     * What is absent stays as it is.
     *
     * @param chosen the ids of those sources that are looked at; the others are left alone
     * @param counting the ids of those folders in which all that is put there counts by hand
     * @param countKeyword the IMAP keyword by which a message counts; empty for none
     * @param keepOutKeyword the IMAP keyword that keeps a message out; empty for none
     * @param outgoing the id of the calendar that what is made here goes to
     */
    public record ChosenSources(
            @Nullable List<Integer> chosen,
            @Nullable List<Integer> counting,
            @Nullable String countKeyword,
            @Nullable String keepOutKeyword,
            @Nullable Integer outgoing) {}

    /** @param url where the person's browser goes to consent */
    public record ConsentPage(String url) {}

    /**
     * @param counts whether all that is put there counts by hand
     * @param left how many of a first read are still to be read
     * @param colour of a calendar, as its owner's program shows it; may be empty
     * @param outgoing whether what is made here goes there
     * @param held how much vanished at once, so that it is left alone until somebody lets it pass; empty when nothing is held
     */
    public record SourceInfo(
            int id,
            String kind,
            String label,
            boolean chosen,
            boolean counts,
            long left,
            long seen,
            long logged,
            long waiting,
            long leftOut,
            long unreadable,
            String colour,
            boolean outgoing,
            String held) {}

    /** @param meetings what vanished, as far as the asker reads it */
    public record HeldInfo(int source, String says, List<HeldMeeting> meetings) {}

    /** @param title empty for those who do not read it */
    public record HeldMeeting(Instant begins, String title) {}

    /**
     * @param team of the person; empty for none
     * @param state {@code waiting-for-consent}, {@code connecting}, {@code capturing}, {@code overdue}, {@code needs-sign-in},
     *     {@code paused}, {@code refused}, {@code disconnected}, {@code unreachable} or {@code broken}
     * @param detail what to do about the state; empty when there is nothing to do
     * @param signIn as the server has it
     * @param live whether its server tells what changes as it happens; else it is visited in the policy's rhythm
     * @param agreedBy who agreed to the connection; empty when it was the organisation's
     */
    public record ConnectionInfo(
            UUID id,
            UUID person,
            String personName,
            String team,
            String server,
            String kind,
            String account,
            String state,
            String detail,
            String signIn,
            String agreedBy,
            Instant since,
            @Nullable Instant lastRun,
            String countKeyword,
            String keepOutKeyword,
            boolean live,
            List<SourceInfo> sources) {}
}
