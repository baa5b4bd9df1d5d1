package jandrel.store.measures;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** What changed of what measures count. */
@Mapper
interface ChangeMapper {
    /**
     * @param snapshot which transactions were committed then
     * @param oldest the oldest that was not
     */
    record Moment(String snapshot, long oldest, Instant at) {}

    record Changed(String kind, UUID id) {}

    @Select("""
            SELECT pg_current_snapshot()::text AS snapshot, pg_snapshot_xmin(pg_current_snapshot())::text::bigint AS oldest, now() AS at
            """)
    Moment now();

    @Select("""
            SELECT DISTINCT kind, id FROM measure_change
            WHERE tx >= pg_snapshot_xmin(#{snapshot}::pg_snapshot) AND NOT pg_visible_in_snapshot(tx, #{snapshot}::pg_snapshot)
              AND kind = ANY(#{kinds}) LIMIT #{most}
            """)
    List<Changed> changed(@Param("snapshot") String snapshot, @Param("kinds") String[] kinds, @Param("most") int most);

    @Delete("DELETE FROM measure_change WHERE at < #{before}")
    int forget(@Param("before") Instant before);
}
