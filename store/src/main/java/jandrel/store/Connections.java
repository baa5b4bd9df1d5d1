package jandrel.store;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** Servers, people's connections to them, and the sources of each. */
@Mapper
public interface Connections {
    /** @param kind {@code imap} or {@code caldav} */
    record Server(UUID id, String name, String kind, String host, int port, String path) {}

    /** @param secret encrypted; see the service's vault */
    record Connection(
            UUID id,
            UUID person,
            UUID server,
            String account,
            byte[] secret,
            Instant since,
            String state,
            String detail,
            @Nullable Instant lastRun,
            int failures) {}

    /** @param kind {@code folder} or {@code calendar} */
    record Source(
            int id,
            UUID connection,
            String kind,
            String name,
            String label,
            String cursor,
            @Nullable Instant expandedTo) {}

    record Listed(
            UUID id,
            UUID person,
            String personName,
            String serverName,
            String kind,
            String account,
            String state,
            String detail,
            Instant since,
            @Nullable Instant lastRun) {}

    record Count(int source, String verdict, long count) {}

    @Select("SELECT * FROM server ORDER BY name")
    List<Server> servers();

    @Select("SELECT * FROM server WHERE id = #{id}")
    Optional<Server> server(@Param("id") UUID id);

    @Insert("""
            INSERT INTO server (id, name, kind, host, port, path)
            VALUES (#{s.id}, #{s.name}, #{s.kind}, #{s.host}, #{s.port}, #{s.path}) ON CONFLICT (name) DO NOTHING
            """)
    int addServer(@Param("s") Server server);

    @Insert("""
            INSERT INTO connection (id, person, server, account, secret, connected_at, since)
            VALUES (#{c.id}, #{c.person}, #{c.server}, #{c.account}, #{c.secret}, #{now}, #{c.since})
            ON CONFLICT (server, account) DO NOTHING
            """)
    int add(@Param("c") Connection connection, @Param("now") Instant now);

    @Select("SELECT * FROM connection WHERE id = #{id}")
    Optional<Connection> connection(@Param("id") UUID id);

    @Update(
            "UPDATE connection SET secret = #{secret}, state = 'connecting', detail = '', failures = 0 WHERE id = #{id}")
    int renew(@Param("id") UUID id, @Param("secret") byte[] secret);

    @Select("""
            SELECT c.id, c.person, p.name AS person_name, s.name AS server_name, s.kind, c.account, c.state, c.detail, c.since,
                   c.last_run
            FROM connection c JOIN person p ON p.id = c.person JOIN server s ON s.id = c.server ORDER BY p.name, s.kind, c.account
            """)
    List<Listed> all();

    @Update("""
            UPDATE connection SET state = #{state}, detail = #{detail}, last_run = #{at},
                failures = CASE WHEN #{state} = 'capturing' THEN 0 ELSE failures + 1 END
            WHERE id = #{id}
            """)
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

    /** Connections at whose sources something is to be fetched once more, but for those that wait for a new sign-in. */
    @Select("""
            SELECT DISTINCT c.id FROM sighting s JOIN source o ON o.id = s.source JOIN connection c ON c.id = o.connection
            WHERE s.refetch AND c.state <> 'needs-sign-in'
            """)
    List<UUID> wanted();

    @Select("SELECT source, verdict, count(*) AS count FROM sighting GROUP BY source, verdict")
    List<Count> counts();

    @Select("SELECT href FROM open_series WHERE source = #{source} ORDER BY href")
    List<String> openSeries(@Param("source") int source);

    @Insert("INSERT INTO open_series VALUES (#{source}, #{href}) ON CONFLICT DO NOTHING")
    int addOpenSeries(@Param("source") int source, @Param("href") String href);

    @Delete("DELETE FROM open_series WHERE source = #{source} AND href = #{href}")
    int removeOpenSeries(@Param("source") int source, @Param("href") String href);
}
