package jandrel.store.rehearsal;

import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** The rehearsals that were asked for. Their examples tell of items, so they rest here for a short while alone. */
@Mapper
public interface Rehearsals {
    /**
     * @param generation of the rules that it was asked under
     * @param state {@code running}, {@code done}, {@code stopped}, {@code failed}, {@code applied} or {@code undone}
     */
    record Row(
            UUID id,
            String askedBy,
            Instant askedAt,
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
            VALUES (#{id}, #{by}, #{change}, #{generation}, 'running')
            """)
    int ask(
            @Param("id") UUID id,
            @Param("by") String by,
            @Param("change") String change,
            @Param("generation") long generation);

    /** For whoever asked, and nobody else: what its examples say is what that one reads. */
    @Select("SELECT * FROM rehearsal WHERE id = #{id} AND asked_by = #{by}")
    Optional<Row> find(@Param("id") UUID id, @Param("by") String by);

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

    @Update("UPDATE rehearsal SET state = 'applied', report = #{report}, undo = #{undo} WHERE id = #{id}")
    int applied(@Param("id") UUID id, @Param("report") @Nullable String report, @Param("undo") @Nullable String undo);

    @Update("UPDATE rehearsal SET state = 'undone', undo = NULL WHERE id = #{id}")
    int undone(@Param("id") UUID id);

    /** Those that came to nothing, once they are this old; what was applied can still be taken back. */
    @Delete("DELETE FROM rehearsal WHERE asked_at < #{before} AND state <> 'applied'")
    int forget(@Param("before") Instant before);
}
