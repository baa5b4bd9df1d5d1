package jandrel.store;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

@Mapper
interface IntakeMapper {
    record Known(UUID id, int source, UUID person, String position, UUID item, String kind, Instant at) {}

    @Select("SELECT id, source, person, position, item, kind, at FROM sighting WHERE id = ANY(#{ids})")
    List<Known> known(@Param("ids") UUID[] ids);

    /** Marks what carries one of the keys to be decided again. */
    @Insert("""
            INSERT INTO reconsider SELECT id FROM sighting WHERE keys && #{keys} ON CONFLICT DO NOTHING
            """)
    int reconsider(@Param("keys") String[] keys);

    @Insert("INSERT INTO reconsider SELECT id FROM sighting WHERE facts IS NOT NULL ON CONFLICT DO NOTHING")
    int reconsiderAll();

    /** Nothing of these is kept, so their sources are asked once more. */
    @Update("UPDATE sighting SET refetch = true WHERE rule = ANY(#{rules})")
    int refetch(@Param("rules") String[] rules);

    @Update("UPDATE sighting SET refetch = true WHERE exclusion = #{exclusion}")
    int refetchExcluded(@Param("exclusion") UUID exclusion);

    @Select("""
            DELETE FROM reconsider WHERE sighting IN (SELECT sighting FROM reconsider LIMIT #{most} FOR UPDATE SKIP LOCKED)
            RETURNING sighting
            """)
    @org.apache.ibatis.annotations.Options(flushCache = org.apache.ibatis.annotations.Options.FlushCachePolicy.TRUE)
    List<UUID> takeSome(@Param("most") int most);

    @Select("SELECT count(*) FROM reconsider")
    long toReconsider();

    @Select("SELECT DISTINCT item FROM sighting WHERE id = ANY(#{ids})")
    List<UUID> items(@Param("ids") UUID[] ids);

    @Select("SELECT * FROM sighting WHERE id = ANY(#{ids}) AND facts IS NOT NULL")
    List<RecordMapper.Stored> stored(@Param("ids") UUID[] ids);

    record Since(int source, Instant since) {}

    @Select("""
            SELECT s.id AS source, c.since FROM source s JOIN connection c ON c.id = s.connection
            WHERE s.id = ANY(#{sources})
            """)
    List<Since> since(@Param("sources") Integer[] sources);

    @Select("SELECT position FROM sighting WHERE source = #{source} AND refetch ORDER BY position LIMIT #{most}")
    List<String> toRefetch(@Param("source") int source, @Param("most") int most);

    @Select("SELECT count(*) FROM sighting WHERE refetch")
    long allToRefetch();

    @Update("UPDATE sighting SET refetch = false WHERE id = ANY(#{ids})")
    int notToRefetch(@Param("ids") UUID[] ids);

    @Update("""
            UPDATE body SET state = 'gone' WHERE state = 'wanted' AND activity IN
                (SELECT item FROM sighting WHERE id = ANY(#{ids}))
            AND NOT EXISTS (SELECT 1 FROM sighting o WHERE o.item = body.activity AND o.refetch)
            """)
    int bodiesGone(@Param("ids") UUID[] ids);

    @Select("SELECT position FROM sighting WHERE source = #{source} AND position LIKE #{pattern} AND rule <> 'GONE'")
    List<String> positions(@Param("source") int source, @Param("pattern") @Nullable String pattern);

    @Delete("DELETE FROM sighting WHERE id = ANY(#{ids})")
    int forget(@Param("ids") UUID[] ids);
}
