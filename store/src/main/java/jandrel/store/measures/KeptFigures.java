package jandrel.store.measures;

import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** Selections of figures that somebody kept by name. */
@Mapper
public interface KeptFigures {
    /**
     * @param query what is asked, as in an address
     * @param zone whose days they are
     * @param weekly whether it is sent by mail each week
     */
    record Kept(
            UUID id,
            UUID signIn,
            String name,
            String measure,
            String query,
            String zone,
            boolean weekly,
            @Nullable LocalDate told) {}

    String COLUMNS = "SELECT id, sign_in, name, measure, query, zone, weekly, told FROM kept_figures ";

    @Select(COLUMNS + "WHERE sign_in = #{signIn} ORDER BY name")
    List<Kept> of(@Param("signIn") UUID signIn);

    /** One of the same name is written over. */
    @Insert("""
            INSERT INTO kept_figures (id, sign_in, name, measure, query, zone, weekly, told)
            VALUES (#{k.id}, #{k.signIn}, #{k.name}, #{k.measure}, #{k.query}, #{k.zone}, #{k.weekly}, #{k.told})
            ON CONFLICT (sign_in, name) DO UPDATE SET measure = excluded.measure, query = excluded.query, zone = excluded.zone,
                weekly = excluded.weekly, told = coalesce(kept_figures.told, excluded.told)
            """)
    int keep(@Param("k") Kept kept);

    @Delete("DELETE FROM kept_figures WHERE id = #{id} AND sign_in = #{signIn}")
    int remove(@Param("id") UUID id, @Param("signIn") UUID signIn);

    /** All that are sent each week, of sign-ins that have not ended. */
    @Select("""
            SELECT k.id, k.sign_in, k.name, k.measure, k.query, k.zone, k.weekly, k.told FROM kept_figures k JOIN sign_in s ON s.id = k.sign_in
            WHERE k.weekly AND s.ended_at IS NULL ORDER BY k.id
            """)
    List<Kept> weekly();

    /** For the node that sends it, which is one. */
    @Update(
            "UPDATE kept_figures SET told = #{monday} WHERE id = #{id} AND weekly AND (told IS NULL OR told < #{monday})")
    int claim(@Param("id") UUID id, @Param("monday") LocalDate monday);
}
