package jandrel.store.connections;

import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Which node listens to which mailbox: one at a time, another as soon as the first is gone. */
@Mapper
public interface Watching {
    /** @param folders that are captured, the inbox first */
    record Watched(UUID connection, String[] folders) {}

    @Insert("INSERT INTO listener VALUES (#{node}, now()) ON CONFLICT (node) DO UPDATE SET seen_at = now()")
    int here(@Param("node") String node);

    /** @return how many nodes listen */
    @Select("SELECT count(*) FROM listener WHERE seen_at > now() - interval '7 seconds'")
    int nodes();

    /** How many mailboxes there are to listen to, at all nodes together. */
    @Select("""
            SELECT count(*) FROM connection c JOIN server s ON s.id = c.server
            WHERE s.kind = 'imap' AND c.state IN ('capturing', 'unreachable', 'broken')
            """)
    int all();

    /** Gives some away, so that a node that came later has its share. */
    @Update("""
            UPDATE connection SET watched_by = '', live = false WHERE id IN (
                SELECT id FROM connection WHERE watched_by = #{node} ORDER BY id DESC LIMIT #{some})
            """)
    int giveAway(@Param("node") String node, @Param("some") int some);

    /** Takes mailboxes that nobody listens to, up to a number. */
    @Select("""
            UPDATE connection SET watched_by = #{node}, live = false WHERE id IN (
                SELECT c.id FROM connection c JOIN server s ON s.id = c.server
                WHERE s.kind = 'imap' AND c.state IN ('capturing', 'unreachable', 'broken') AND c.watched_by <> #{node}
                  AND NOT EXISTS (SELECT FROM listener l WHERE l.node = c.watched_by AND l.seen_at > now() - interval '7 seconds')
                ORDER BY c.id LIMIT #{most} FOR UPDATE OF c SKIP LOCKED)
            RETURNING id
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    List<UUID> take(@Param("node") String node, @Param("most") int most);

    /** What this node is to listen to; a server that is away among it, so that its return is heard of. */
    @Select("""
            SELECT c.id AS connection, array_agg(o.name ORDER BY o.role <> 'inbox', o.role <> 'sent', o.name) AS folders
            FROM connection c JOIN source o ON o.connection = c.id AND o.chosen AND o.kind = 'folder'
            WHERE c.watched_by = #{node} AND c.state IN ('capturing', 'unreachable', 'broken') GROUP BY c.id
            """)
    List<Watched> of(@Param("node") String node);

    @Update("UPDATE connection SET live = #{live} WHERE id = #{id} AND watched_by = #{node} AND live <> #{live}")
    int live(@Param("id") UUID connection, @Param("node") String node, @Param("live") boolean live);

    /** Leaves all to the others. */
    @Update("UPDATE connection SET watched_by = '', live = false WHERE watched_by = #{node}")
    int leave(@Param("node") String node);

    @Delete("DELETE FROM listener WHERE node = #{node} OR seen_at < now() - interval '1 hour'")
    int gone(@Param("node") String node);
}
