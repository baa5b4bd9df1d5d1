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

/** Messages that people handed over by mail, and the connection of each person that they stand for. */
@Mapper
public interface HandedOver {
    /** The one server of its kind: this service itself. */
    String SERVER = "handed over by mail";

    /** @param sealed encrypted */
    record Handed(long id, Instant at, byte[] sealed) {}

    @Select("""
            SELECT c.id FROM connection c JOIN server s ON s.id = c.server WHERE s.kind = 'smtp' AND c.person = #{person}
            """)
    Optional<UUID> connection(@Param("person") UUID person);

    /** All that is handed over counts: it was done by hand. */
    @Insert("""
            INSERT INTO source (connection, kind, name, label, role, chosen, counts)
            VALUES (#{connection}, 'folder', 'handed', 'handed over', 'inbox', true, true) ON CONFLICT DO NOTHING
            """)
    int addSource(@Param("connection") UUID connection);

    @Select("INSERT INTO handed (connection, sealed) VALUES (#{connection}, #{sealed}) RETURNING id")
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    long keep(@Param("connection") UUID connection, @Param("sealed") byte[] sealed);

    @Select("SELECT coalesce(max(id), 0) FROM handed WHERE connection = #{connection}")
    long last(@Param("connection") UUID connection);

    @Select("SELECT id FROM handed WHERE connection = #{connection} AND id >= #{first} ORDER BY id")
    List<Long> from(@Param("connection") UUID connection, @Param("first") long first);

    @Select("SELECT id, at, sealed FROM handed WHERE connection = #{connection} AND id = ANY(#{ids}) ORDER BY id")
    List<Handed> some(@Param("connection") UUID connection, @Param("ids") Long[] ids);

    /** Lets go of what was left out, of what stands on a timeline with its text, and of what nobody settled in ninety days. */
    @Delete("""
            DELETE FROM handed h USING source o, sighting s
            WHERE h.connection = #{connection} AND o.connection = h.connection AND s.source = o.id AND s.position = '1/' || h.id
              AND (s.verdict IN ('left-out', 'unreadable') OR s.verdict = 'logged' AND NOT s.refetch
                OR h.at < now() - interval '90 days')
            """)
    int letGo(@Param("connection") UUID connection);
}
