package jandrel.store.connections;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** Servers, people's connections to them, and the sources of each. */
@Mapper
public interface Connections {
    /** The kind of server that what is made here belongs to: no server at all. */
    String HERE = "here";

    /** States in which nothing is looked at until somebody does something about it, as SQL lists them. */
    String AT_REST = "('paused', 'disconnected', 'refused', 'waiting-for-consent')";

    /**
     * @param kind {@code imap}, {@code caldav} or {@code carddav}
     * @param signIn {@code password}, {@code oauth}, {@code organisation-password} or {@code organisation-key}
     * @param secret encrypted; the organisation's, or the client's
     */
    record Server(
            UUID id,
            String name,
            String kind,
            String host,
            int port,
            String path,
            String signIn,
            String grantLogin,
            byte @Nullable [] secret,
            String issuer,
            String clientId,
            String scopes,
            String authority) {
        /** One that people sign in to with a password each. */
        public static Server of(UUID id, String name, String kind, String host, int port, String path) {
            return new Server(id, name, kind, host, port, path, "password", "", null, "", "", "", "");
        }

        public boolean isForAll() {
            return signIn.startsWith("organisation-");
        }
    }

    /**
     * @param secret encrypted; null where the organisation's sign-in serves, or until there is a consent
     * @param generation grows with every change of what is captured from it
     */
    record Connection(
            UUID id,
            UUID person,
            UUID server,
            String account,
            byte @Nullable [] secret,
            Instant since,
            String state,
            String detail,
            @Nullable Instant lastRun,
            int failures,
            String countKeyword,
            String keepOutKeyword,
            long generation) {
        /** Nothing is looked at until somebody does something about it. */
        public boolean isAtRest() {
            return AT_REST.contains("'" + state + "'");
        }

        /** Why there is nothing to sign in with, where that is known already. */
        public String whyNoSecret(String usually) {
            return state.equals("needs-sign-in") && !detail.isEmpty() ? detail : usually;
        }

        /** One that is new. */
        public static Connection fresh(
                UUID id,
                UUID person,
                UUID server,
                String account,
                byte @Nullable [] secret,
                Instant since,
                String state) {
            return new Connection(id, person, server, account, secret, since, state, "", null, 0, "", "", 0);
        }
    }

    /**
     * @param kind {@code folder}, {@code calendar} or {@code book}
     * @param leftToRead how many messages of a first read are still to be read
     * @param ownChoice whether somebody chose for it themselves; else the policy says whether it is looked at
     */
    public record Source(
            int id,
            UUID connection,
            String kind,
            String name,
            String label,
            String cursor,
            @Nullable Instant expandedTo,
            boolean chosen,
            String role,
            boolean counts,
            String colour,
            boolean outgoing,
            int heldCount,
            int heldKnown,
            String[] heldPositions,
            boolean letPass,
            boolean ownChoice,
            int leftToRead) {}

    record Listed(
            UUID id,
            UUID person,
            String personName,
            String team,
            String serverName,
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
            boolean live) {}

    /** What a look needs to know besides: whether at all, and whom to tell. */
    record Looking(boolean covered, boolean enabled, boolean ended, String personName, String[] addresses) {}

    record Count(int source, String verdict, long count) {}

    /** @return whose connections use it, some of them */
    @Select("SELECT account FROM connection WHERE server = #{server} ORDER BY account LIMIT 4")
    List<String> accountsAt(@Param("server") UUID server);

    /** @return 0 while connections use it */
    @Delete("DELETE FROM server s WHERE id = #{server} AND NOT EXISTS (SELECT FROM connection c WHERE c.server = s.id)")
    int removeServer(@Param("server") UUID server);

    @Select("SELECT * FROM server ORDER BY name")
    List<Server> servers();

    @Select("SELECT * FROM server WHERE id = #{id}")
    Optional<Server> server(@Param("id") UUID id);

    /** Nobody else changes it until this transaction ends. */
    @Select("SELECT * FROM server WHERE id = #{id} FOR UPDATE")
    Optional<Server> lockedServer(@Param("id") UUID id);

    /** @return 0 while another has its name */
    @Update("""
            UPDATE server v SET name = #{s.name}, host = #{s.host}, port = #{s.port}, path = #{s.path}, grant_login = #{s.grantLogin},
                secret = #{s.secret}, issuer = #{s.issuer}, client_id = #{s.clientId}, scopes = #{s.scopes}, authority = #{s.authority}
            WHERE id = #{s.id} AND NOT EXISTS (SELECT FROM server o WHERE o.name = #{s.name} AND o.id <> v.id)
            """)
    int changeServer(@Param("s") Server server);

    /** What people gave to be let in is forgotten; those at work wait for them to give it anew. */
    @Update("""
            UPDATE connection SET secret = NULL, state = CASE WHEN state IN\s""" + AT_REST + """
                THEN state ELSE 'needs-sign-in' END, detail = CASE WHEN state IN\s""" + AT_REST + """
                THEN detail ELSE #{detail} END
            WHERE server = #{server} AND secret IS NOT NULL
            """)
    int forgetSecretsAt(@Param("server") UUID server, @Param("detail") String detail);

    /** A consent that somebody went to give there is of no use, and what comes back of it goes nowhere. */
    @Delete("DELETE FROM consent WHERE connection IN (SELECT id FROM connection WHERE server = #{server})")
    int forgetConsentsAt(@Param("server") UUID server);

    @Insert("""
            INSERT INTO server (id, name, kind, host, port, path, sign_in, grant_login, secret, issuer, client_id, scopes, authority)
            VALUES (#{s.id}, #{s.name}, #{s.kind}, #{s.host}, #{s.port}, #{s.path}, #{s.signIn}, #{s.grantLogin}, #{s.secret},
                #{s.issuer}, #{s.clientId}, #{s.scopes}, #{s.authority}) ON CONFLICT (name) DO NOTHING
            """)
    int addServer(@Param("s") Server server);

    @Insert("""
            INSERT INTO connection (id, person, server, account, secret, connected_at, since, state, agreed_by, agreed_at)
            VALUES (#{c.id}, #{c.person}, #{c.server}, #{c.account}, #{c.secret}, #{now}, #{c.since}, #{c.state}, #{by},
                CASE WHEN #{by} <> '' THEN #{now}::timestamptz END)
            ON CONFLICT (server, account) DO NOTHING
            """)
    int add(@Param("c") Connection connection, @Param("now") Instant now, @Param("by") String agreedBy);

    @Select("SELECT id FROM connection WHERE person = #{person}")
    List<UUID> of(@Param("person") UUID person);

    @Select("SELECT * FROM connection WHERE id = #{id}")
    Optional<Connection> connection(@Param("id") UUID id);

    @Select("SELECT * FROM connection WHERE server = #{server} AND account = #{account} AND state = 'disconnected'")
    Optional<Connection> endedAt(@Param("server") UUID server, @Param("account") String account);

    @Update(
            "UPDATE connection SET secret = #{secret}, state = 'connecting', detail = '', failures = 0 WHERE id = #{id}")
    int renew(@Param("id") UUID id, @Param("secret") byte[] secret);

    /** As it is shown: one whose look is long due is overdue. */
    String STATE = """
            CASE WHEN c.state IN ('capturing', 'connecting') AND coalesce(c.due, c.connected_at) < now() - interval '2 minutes'
                AND NOT EXISTS (SELECT FROM scheduled_tasks t WHERE t.task_name = 'look' AND t.task_instance = c.id::text
                    AND t.picked)
                AND NOT EXISTS (SELECT FROM server h WHERE h.id = c.server AND h.kind = 'here')
                THEN 'overdue' ELSE c.state END AS state
            """;

    @Select("SELECT c.id, c.person, p.name AS person_name, p.team, s.name AS server_name, s.kind, c.account, " + STATE
            + """
                   , c.detail, s.sign_in, c.agreed_by, c.since, c.last_run, c.count_keyword, c.keep_out_keyword,
                   c.live AND EXISTS (SELECT FROM listener l WHERE l.node = c.watched_by
                       AND l.seen_at > now() - interval '7 seconds') AS live
            FROM connection c JOIN person p ON p.id = c.person JOIN server s ON s.id = c.server ORDER BY p.name, s.kind, c.account
            """)
    List<Listed> all();

    @Update("""
            UPDATE connection SET state = #{state}, detail = #{detail}, last_run = #{at},
                failures = CASE WHEN #{state} = 'capturing' THEN 0 ELSE failures + 1 END,
                notified_at = CASE WHEN #{state} = 'capturing' THEN NULL ELSE notified_at END
            WHERE id = #{id} AND state NOT IN\s""" + AT_REST)
    int ran(
            @Param("id") UUID id,
            @Param("state") String state,
            @Param("detail") String detail,
            @Param("at") Instant at);

    @Select("SELECT * FROM source WHERE connection = #{connection} ORDER BY id")
    List<Source> sources(@Param("connection") UUID connection);

    @Select("SELECT * FROM source ORDER BY id")
    List<Source> allSources();

    @Insert("""
            INSERT INTO source (connection, kind, name, label) VALUES (#{connection}, #{kind}, #{name}, #{label})
            ON CONFLICT (connection, name) DO UPDATE SET label = excluded.label
            """)
    int addSource(
            @Param("connection") UUID connection,
            @Param("kind") String kind,
            @Param("name") String name,
            @Param("label") String label);

    /** @param chosen whether it is captured unless somebody chooses otherwise */
    @Insert("""
            INSERT INTO source (connection, kind, name, label, role, chosen)
            VALUES (#{connection}, 'folder', #{name}, #{label}, #{role}, #{chosen})
            ON CONFLICT (connection, name) DO UPDATE SET label = excluded.label, role = excluded.role
            """)
    int addFolder(
            @Param("connection") UUID connection,
            @Param("name") String name,
            @Param("label") String label,
            @Param("role") String role,
            @Param("chosen") boolean chosen);

    /** As the policy has it, where nobody chose. */
    @Update("UPDATE source SET chosen = #{chosen} WHERE id = #{id} AND NOT own_choice")
    int followPolicy(@Param("id") int id, @Param("chosen") boolean chosen);

    @Insert("""
            INSERT INTO source (connection, kind, name, label, colour) VALUES (#{connection}, 'calendar', #{name}, #{label}, #{colour})
            ON CONFLICT (connection, name) DO UPDATE SET label = excluded.label, colour = excluded.colour
            """)
    int addCalendar(
            @Param("connection") UUID connection,
            @Param("name") String name,
            @Param("label") String label,
            @Param("colour") String colour);

    @Update("UPDATE source SET outgoing = false WHERE connection = #{connection}")
    int notOutgoing(@Param("connection") UUID connection);

    /** What is made here goes there from now on. */
    @Update("UPDATE source SET outgoing = true, chosen = true WHERE id = #{id}")
    int outgoing(@Param("id") int id);

    /** A mass change waits for somebody's answer: so many of so many vanished; 0 for none. */
    @Update("""
            UPDATE source SET held_count = #{count}, held_known = #{known}, held_positions = #{positions}, let_pass = false WHERE id = #{id}
            """)
    int held(
            @Param("id") int id,
            @Param("count") int count,
            @Param("known") int known,
            @Param("positions") String[] positions);

    @Update("UPDATE source SET let_pass = true WHERE id = #{id} AND held_count > 0")
    int letPass(@Param("id") int id);

    /**
     * What a sync run did to a calendar.
     *
     * @param read files that were read, {@code gone} that vanished
     * @param sent meetings written there, {@code received} taken from there, {@code merged} changed on both sides, {@code refused} not
     *     let in
     */
    record CalendarRun(int read, int gone, int sent, int received, int merged, int refused) {}

    @Insert("""
            INSERT INTO calendar_run (source, read, gone, sent, received, merged, refused)
            VALUES (#{source}, #{r.read}, #{r.gone}, #{r.sent}, #{r.received}, #{r.merged}, #{r.refused})
            ON CONFLICT (source) DO UPDATE SET read = excluded.read, gone = excluded.gone, sent = excluded.sent,
                received = excluded.received, merged = excluded.merged, refused = excluded.refused
            """)
    int calendarRan(@Param("source") int source, @Param("r") CalendarRun run);

    @Update("UPDATE source SET name = #{name}, label = #{label} WHERE id = #{id}")
    int renamed(@Param("id") int id, @Param("name") String name, @Param("label") String label);

    /** Connections at which something is to be fetched, or looked at, once more, but for those that wait for a new sign-in. */
    @Select("""
            SELECT DISTINCT c.id FROM sighting s JOIN source o ON o.id = s.source JOIN connection c ON c.id = o.connection
            WHERE s.refetch AND c.state <> 'needs-sign-in' AND c.state NOT IN\s""" + AT_REST + """
            UNION SELECT c.id FROM outbox x JOIN card d ON d.id = x.subject JOIN source o ON o.id = d.source
                JOIN connection c ON c.id = o.connection
                WHERE x.kind = 'CARD' AND x.attempts = 0 AND c.state = 'capturing' AND c.last_run < x.due_at
            UNION SELECT id FROM connection c WHERE look_again AND c.state <> 'needs-sign-in' AND c.state NOT IN\s""" + AT_REST)
    List<UUID> wanted();

    /** It is looked at once more when the look under way has ended, by whichever node. */
    @Update("UPDATE connection SET look_again = true WHERE id = #{id}")
    int lookAgain(@Param("id") UUID id);

    /** @return 1 when somebody wanted that; it counts as done with this */
    @Update("UPDATE connection SET look_again = false WHERE id = #{id} AND look_again")
    int takeLookAgain(@Param("id") UUID id);

    @Select("SELECT id FROM connection WHERE server = #{server} AND state = 'unreachable' ORDER BY id")
    List<UUID> unreachableAt(@Param("server") UUID server);

    /** Whether it is unreachable, and the first of its server's that are. */
    @Select("""
            SELECT c.state = 'unreachable' AND NOT EXISTS (SELECT FROM connection o
                WHERE o.server = c.server AND o.state = 'unreachable' AND o.id < c.id)
            FROM connection c WHERE c.id = #{id}
            """)
    boolean isFirstUnreachable(@Param("id") UUID id);

    @Select("SELECT source, verdict, sum(n) AS count FROM tally GROUP BY source, verdict HAVING sum(n) > 0")
    List<Count> counts();

    @Select("""
            SELECT source, verdict, sum(n) AS count FROM tally
            WHERE source IN (SELECT id FROM source WHERE connection = #{connection}) GROUP BY source, verdict HAVING sum(n) > 0
            """)
    List<Count> countsOf(@Param("connection") UUID connection);

    @Select("SELECT href FROM open_series WHERE source = #{source} ORDER BY href")
    List<String> openSeries(@Param("source") int source);

    @Insert("INSERT INTO open_series SELECT #{source}, unnest(#{hrefs}) ON CONFLICT DO NOTHING")
    int addOpenSeries(@Param("source") int source, @Param("hrefs") String[] hrefs);

    @Delete("DELETE FROM open_series WHERE source = #{source} AND href = ANY(#{hrefs})")
    int removeOpenSeries(@Param("source") int source, @Param("hrefs") String[] hrefs);

    @Select("""
            SELECT coalesce(k.covered, false) AS covered, coalesce(l.enabled, false) AS enabled,
                   coalesce(p.cover_until <= current_date, false) AS ended, p.name AS person_name,
                   ARRAY(SELECT address FROM person_address WHERE person = p.id ORDER BY address) AS addresses
            FROM connection c JOIN person p ON p.id = c.person LEFT JOIN cover k ON k.person = p.id
            LEFT JOIN policy l ON l.id = k.policy WHERE c.id = #{id}
            """)
    Optional<Looking> looking(@Param("id") UUID id);

    @Update(
            "UPDATE connection SET schedules = #{schedules} WHERE id = #{id} AND schedules IS DISTINCT FROM #{schedules}")
    int noteScheduling(@Param("id") UUID id, @Param("schedules") boolean schedules);

    /** Whether the server of a calendar asks guests by itself (RFC 6638); nothing while that is not known. */
    @Select(
            "SELECT c.schedules FROM source o JOIN connection c ON c.id = o.connection WHERE o.id = #{source} AND c.schedules IS NOT NULL")
    Optional<Boolean> schedules(@Param("source") int source);

    @Update("UPDATE connection SET due = #{due} WHERE id = #{id}")
    int due(@Param("id") UUID id, @Param("due") Instant due);

    @Update("UPDATE connection SET notified_at = #{at} WHERE id = #{id} AND notified_at IS NULL")
    int notified(@Param("id") UUID id, @Param("at") Instant at);

    /**
     * What a person gave to be let in, read together with where it goes: a server that is changed meanwhile is told nothing that was
     * given for another.
     */
    @Select("""
            SELECT c.secret FROM connection c JOIN server s ON s.id = c.server
            WHERE c.id = #{id} AND c.secret IS NOT NULL AND s.host = #{host} AND s.issuer = #{issuer}
            """)
    Optional<byte[]> secretFor(@Param("id") UUID id, @Param("host") String host, @Param("issuer") String issuer);

    /** Takes the renewing of a secret upon oneself, for as long as nobody else has. */
    @Update("""
            UPDATE connection SET renewing_until = #{now}::timestamptz + interval '30 seconds'
            WHERE id = #{id} AND secret = #{secret} AND (renewing_until IS NULL OR renewing_until < #{now})
            """)
    int renewing(@Param("id") UUID id, @Param("secret") byte[] secret, @Param("now") Instant now);

    /** Only over the secret that it was renewed from: somebody may have ended the connection, or signed in again. */
    @Update("UPDATE connection SET secret = #{fresh}, renewing_until = NULL WHERE id = #{id} AND secret = #{secret}")
    int renewed(@Param("id") UUID id, @Param("secret") byte[] secret, @Param("fresh") byte[] fresh);

    @Update("UPDATE connection SET renewing_until = NULL WHERE id = #{id} AND secret = #{secret}")
    int notRenewed(@Param("id") UUID id, @Param("secret") byte[] secret);

    /** @param secret what is there no longer, or is not needed, is null */
    @Update("UPDATE connection SET secret = #{secret} WHERE id = #{id}")
    int keepSecret(@Param("id") UUID id, @Param("secret") byte @Nullable [] secret);

    @Update("UPDATE connection SET state = #{state}, detail = #{detail}, failures = 0 WHERE id = #{id}")
    int state(@Param("id") UUID id, @Param("state") String state, @Param("detail") String detail);

    @Update("UPDATE connection SET agreed_by = #{by}, agreed_at = #{at} WHERE id = #{id}")
    int agreed(@Param("id") UUID id, @Param("by") String by, @Param("at") Instant at);

    /** The connection goes, and all that its sources showed with it; activities that others showed too must be made anew. */
    @Delete("DELETE FROM connection WHERE id = #{id}")
    int remove(@Param("id") UUID id);

    @Select("SELECT * FROM source WHERE id = #{id}")
    Optional<Source> source(@Param("id") int id);

    /** Fenced, so that it goes through what the source has, and not through the newest of everybody's until one is the source's. */
    @Update("""
            UPDATE source o SET last_item =
                (SELECT max(s.at) FROM (SELECT at FROM sighting WHERE source = o.id OFFSET 0) s WHERE s.at <= now())
            WHERE o.connection = #{connection} AND o.kind = 'calendar'
            """)
    int noteLastMeeting(@Param("connection") UUID connection);

    record Allowed(String host, String allowedBy, Instant allowedAt) {}

    @Select("SELECT * FROM allowed_host ORDER BY host")
    List<Allowed> allowed();

    @Delete("DELETE FROM allowed_host WHERE host = #{host}")
    int forbidHost(@Param("host") String host);

    /** Those at work at a host stop, at every node, and say why; nobody listens to a mailbox there any more. */
    @Update("""
            UPDATE connection c SET state = 'refused', detail = #{why}, watched_by = '', live = false FROM server s
            WHERE s.id = c.server AND lower(s.host) = #{host} AND c.state NOT IN\s""" + AT_REST)
    int refuseAtHost(@Param("host") String host, @Param("why") String why);

    /** Those that were refused at a host for one reason, which holds no longer: they are at work again. */
    @Select("""
            UPDATE connection c SET state = 'connecting', detail = '', failures = 0 FROM server s
            WHERE s.id = c.server AND lower(s.host) = #{host} AND c.state = 'refused' AND c.detail = #{why}
            RETURNING c.id
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    List<UUID> resumeAtHost(@Param("host") String host, @Param("why") String why);

    @Insert("INSERT INTO allowed_host (host, allowed_by) VALUES (#{host}, #{by}) ON CONFLICT DO NOTHING")
    int allowHost(@Param("host") String host, @Param("by") String by);

    /** @param verifier encrypted; what the code is proved by (RFC 7636) */
    record Consent(String state, UUID connection, byte[] verifier, Instant expiresAt) {}

    @Insert("INSERT INTO consent VALUES (#{c.state}, #{c.connection}, #{c.verifier}, #{c.expiresAt})")
    int askConsent(@Param("c") Consent consent);

    /** Takes it: an answer counts once. */
    @Select("DELETE FROM consent WHERE state = #{state} RETURNING *")
    @org.apache.ibatis.annotations.Options(flushCache = org.apache.ibatis.annotations.Options.FlushCachePolicy.TRUE)
    Optional<Consent> takeConsent(@Param("state") String state);

    @Delete("DELETE FROM consent WHERE expires_at < #{now}")
    int forgetConsents(@Param("now") Instant now);
}
