package jandrel.store;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** The items that a draft touches, in a list that lasts as long as the transaction; and the rehearsals that were asked for. */
@Mapper
public interface RehearsalMapper {
    /** @param state {@code running}, {@code done}, {@code stopped}, {@code applied} or {@code failed} */
    record Row(
            UUID id,
            String askedBy,
            java.time.Instant askedAt,
            String change,
            long generation,
            String state,
            long done,
            long total,
            @Nullable String report,
            String detail,
            @Nullable String undo) {}

    @Insert("""
            INSERT INTO rehearsal (id, asked_by, change, generation, state)
            SELECT #{id}, #{by}, #{change}, generation, 'running' FROM rules_state
            """)
    int ask(@Param("id") UUID id, @Param("by") String by, @Param("change") String change);

    @Select("SELECT * FROM rehearsal WHERE id = #{id}")
    Optional<Row> find(@Param("id") UUID id);

    @Update("UPDATE rehearsal SET done = #{done}, total = #{total} WHERE id = #{id} AND state = 'running'")
    int at(@Param("id") UUID id, @Param("done") long done, @Param("total") long total);

    @Update("""
            UPDATE rehearsal SET state = #{state}, report = #{report}, detail = #{detail}
            WHERE id = #{id} AND state = 'running'
            """)
    int ended(
            @Param("id") UUID id,
            @Param("state") String state,
            @Param("report") @Nullable String report,
            @Param("detail") String detail);

    @Update("UPDATE rehearsal SET state = 'applied', undo = #{undo} WHERE id = #{id}")
    int applied(@Param("id") UUID id, @Param("undo") @Nullable String undo);

    @Update("UPDATE rehearsal SET state = 'undone', undo = NULL WHERE id = #{id}")
    int undone(@Param("id") UUID id);

    @Select("SELECT generation FROM rules_state")
    long generation();

    @Update("CREATE TEMP TABLE touched_item (item uuid NOT NULL) ON COMMIT DROP")
    int begin();

    @Insert("INSERT INTO touched_item SELECT item FROM sighting WHERE keys && #{keys}::text[]")
    int touch(@Param("keys") String[] keys);

    @Insert("INSERT INTO touched_item SELECT item FROM sighting WHERE " + IntakeMapper.LIKE)
    int touchLike(@Param("t") Touched touched);

    @Insert("INSERT INTO touched_item SELECT item FROM sighting WHERE exclusion = #{exclusion}")
    int touchExcluded(@Param("exclusion") UUID exclusion);

    @Insert("INSERT INTO touched_item SELECT item FROM sighting WHERE rule = ANY(#{rules})")
    int touchLeftOut(@Param("rules") String[] rules);

    String OF = """
            source IN (SELECT s.id FROM source s JOIN connection c ON c.id = s.connection WHERE c.person = ANY(#{people}))
            """;

    @Insert("INSERT INTO touched_item SELECT item FROM sighting WHERE facts IS NOT NULL AND " + OF)
    int touchOf(@Param("people") UUID[] people);

    @Insert("INSERT INTO touched_item SELECT item FROM sighting WHERE rule = ANY(#{rules}) AND " + OF)
    int touchLeftOutOf(@Param("rules") String[] rules, @Param("people") UUID[] people);

    @Update("""
            CREATE TEMP TABLE touched_number ON COMMIT DROP AS
            SELECT row_number() OVER (ORDER BY item) - 1 AS n, item FROM (SELECT DISTINCT item FROM touched_item) d;
            CREATE INDEX ON touched_number (n); ANALYZE touched_number
            """)
    int numbered();

    @Select("SELECT count(*) FROM touched_number")
    long number();

    @Select("SELECT item FROM touched_number WHERE n >= #{from} AND n < #{from} + #{most} ORDER BY n")
    List<UUID> items(@Param("from") long from, @Param("most") int most);
}
