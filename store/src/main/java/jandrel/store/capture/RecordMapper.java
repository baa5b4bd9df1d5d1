package jandrel.store.capture;

import jandrel.store.kernel.LockOrder;
import jandrel.store.kernel.News;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Results;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

@Mapper
public interface RecordMapper {
    /** A stored sighting, as deciding again needs it. */
    record Stored(
            UUID id,
            int source,
            UUID person,
            String position,
            UUID item,
            String kind,
            Instant at,
            String verdict,
            String trail,
            @Nullable String links,
            String sharing,
            UUID[] insiders,
            @Nullable UUID team,
            boolean gone,
            @Nullable UUID exclusion,
            @Nullable String facts,
            String @Nullable [] keys,
            String hand,
            String part) {}

    /** What copies of an item say alike, as it stood. */
    record FaceRow(UUID item, UUID[] copies, @Nullable UUID content, String text) {}

    record BodyKey(UUID item, UUID content) {}

    @Select(News.ANNOUNCE)
    long announce(@Param("words") String words);

    /** By whoever changed it here, where it stands as they changed it; else by the person whose source showed it. */
    @Insert("""
            INSERT INTO moved (item, at, was_begins, was_ends, begins, ends, owners, by_name)
            SELECT #{item}, now(), #{wasBegins}, #{wasEnds}, #{begins}, #{ends}, #{owners}, coalesce(
                (SELECT nullif(p.changed_by, '') FROM managed_meeting p JOIN connection c ON c.person = p.owner JOIN server v ON v.id = c.server
                    JOIN source o ON o.connection = c.id WHERE v.kind = 'here' AND o.id = #{source} AND p.item = #{item}
                    AND (p.details::jsonb #>> '{when,begins}')::timestamptz = #{begins}),
                (SELECT name FROM person WHERE id = #{person}), '')
            """)
    int moved(
            @Param("item") UUID item,
            @Param("wasBegins") Instant wasBegins,
            @Param("wasEnds") Instant wasEnds,
            @Param("begins") Instant begins,
            @Param("ends") Instant ends,
            @Param("owners") UUID[] owners,
            @Param("person") UUID person,
            @Param("source") int source);

    /** In the order of the keys, so that two batches never wait for each other in a ring. */
    default void lock(UUID[] items) {
        Long[] keys = Arrays.stream(items)
                .map(UUID::getMostSignificantBits)
                .distinct()
                .sorted()
                .toArray(Long[]::new);
        if (keys.length > 0) {
            LockOrder.items(List.of(keys));
            lockKeys(keys);
        }
    }

    @Select("SELECT count(pg_advisory_xact_lock(h)) FROM unnest(#{keys}::bigint[]) h")
    long lockKeys(@Param("keys") Long[] keys);

    /** Told column by column: to have them found by their names costs more for each row than to read it. */
    @Results(id = "stored")
    @Arg(column = "id", javaType = UUID.class)
    @Arg(column = "source", javaType = int.class)
    @Arg(column = "person", javaType = UUID.class)
    @Arg(column = "position", javaType = String.class)
    @Arg(column = "item", javaType = UUID.class)
    @Arg(column = "kind", javaType = String.class)
    @Arg(column = "at", javaType = Instant.class)
    @Arg(column = "verdict", javaType = String.class)
    @Arg(column = "trail", javaType = String.class)
    @Arg(column = "links", javaType = String.class)
    @Arg(column = "sharing", javaType = String.class)
    @Arg(column = "insiders", javaType = UUID[].class)
    @Arg(column = "team", javaType = UUID.class)
    @Arg(column = "gone", javaType = boolean.class)
    @Arg(column = "exclusion", javaType = UUID.class)
    @Arg(column = "facts", javaType = String.class)
    @Arg(column = "keys", javaType = String[].class)
    @Arg(column = "hand", javaType = String.class)
    @Arg(column = "part", javaType = String.class)
    @Select("SELECT * FROM sighting WHERE item = ANY(#{items})")
    List<Stored> sightings(@Param("items") UUID[] items);

    @Select("SELECT id, item, verdict FROM sighting WHERE id = ANY(#{ids})")
    List<Placed> placed(@Param("ids") UUID[] ids);

    record Placed(UUID id, UUID item, String verdict) {}

    record RulingRow(UUID item, UUID byPerson, boolean opens, UUID[] readers, String byName, String readersNamed) {}

    @Select("SELECT item, by_person, opens, readers, by_name, readers_named FROM ruling WHERE item = ANY(#{items})")
    List<RulingRow> rulings(@Param("items") UUID[] items);

    /** Of all activities whose copies name themselves by these. */
    String OF = "(id = ANY(#{items}) AND id = item OR id <> item AND item = ANY(#{items}))";

    @Select("SELECT item, copies, content, text FROM activity WHERE " + OF)
    List<FaceRow> faces(@Param("items") UUID[] items);

    /** Nobody indexes them meanwhile by what they no longer are. */
    @Select("SELECT item, content FROM body WHERE item = ANY(#{items}) FOR NO KEY UPDATE")
    List<BodyKey> bodies(@Param("items") UUID[] items);

    @Delete("""
            WITH s AS (DELETE FROM stranger WHERE sighting = ANY(#{ids})), w AS (DELETE FROM wrote WHERE sighting = ANY(#{ids}))
            DELETE FROM sighting WHERE id = ANY(#{ids})
            """)
    int deleteSightings(@Param("ids") UUID[] ids);

    @Delete("DELETE FROM stranger_phone WHERE sighting = ANY(#{ids})")
    int forgetPhones(@Param("ids") UUID[] ids);

    @Delete("WITH a AS (DELETE FROM activity WHERE " + OF
            + " RETURNING id) DELETE FROM link WHERE activity IN (SELECT id FROM a)")
    int deleteActivities(@Param("items") UUID[] items);

    @Delete("""
            DELETE FROM body b USING unnest(#{items}::uuid[], #{contents}::uuid[]) gone(item, content)
            WHERE b.item = gone.item AND b.content = gone.content
            """)
    int deleteBodies(@Param("items") UUID[] items, @Param("contents") UUID[] contents);

    /** What is found by another time, subject or participants than it has now is indexed anew. */
    @Update("""
            UPDATE body b SET language = NULL WHERE item = ANY(#{items}) AND language IS NOT NULL
              AND EXISTS (SELECT FROM search_facts(b.item, b.content) f WHERE (f.at, f.head) IS DISTINCT FROM (b.at, b.head))
            """)
    int indexAnew(@Param("items") UUID[] items);

    @Update("""
            UPDATE source SET cursor = #{to}, expanded_to = coalesce(#{expandedTo}, expanded_to), left_to_read = #{leftToRead}
            WHERE id = #{source} AND cursor = #{from}
            """)
    int moveCursor(CursorMove move);

    /** Whether the planner knows nothing of the sightings yet: then it reads all of them for each batch. */
    @Select("SELECT NOT EXISTS (SELECT FROM pg_stats WHERE schemaname = current_schema() AND tablename = 'sighting')")
    boolean unknownToPlanner();

    @Update("ANALYZE sighting, activity, body, link, stranger, stranger_phone, wrote")
    void analyse();

    @Update("UPDATE sighting SET refetch = true WHERE id = ANY(#{copies})")
    int wantTexts(@Param("copies") UUID[] copies);
}
