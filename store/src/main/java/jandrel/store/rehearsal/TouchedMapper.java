package jandrel.store.rehearsal;

import jandrel.store.capture.RecordMapper;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.ResultMap;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The items that a draft touches, and what of them would be fetched once more, in lists that last as long as the connection. */
@Mapper
public interface TouchedMapper {
    @Update(
            "DROP TABLE IF EXISTS touched_item, touched_number; CREATE TEMP TABLE touched_item (item uuid NOT NULL, again uuid)")
    int begin();

    @Update("DROP TABLE IF EXISTS touched_item, touched_number")
    int end();

    @Update("""
            CREATE TEMP TABLE touched_number AS
            SELECT row_number() OVER (ORDER BY item) - 1 AS n, item FROM (SELECT DISTINCT item FROM touched_item) d;
            CREATE INDEX ON touched_number (n); CREATE INDEX ON touched_item (item) WHERE again IS NOT NULL;
            ANALYZE touched_number; ANALYZE touched_item
            """)
    int numbered();

    @Select("SELECT count(*) FROM touched_number")
    long number();

    /**
     * All sightings of a batch of items.
     *
     * @param withoutTrails whether their trails may be left behind: they are half of what has to be read
     */
    @Select("""
            SELECT s.id, s.source, s.person, s.position, s.item, s.kind, s.at, s.verdict,
                   CASE WHEN #{withoutTrails} THEN '[]' ELSE s.trail END AS trail, s.links, s.sharing, s.insiders, s.team, s.gone,
                   s.exclusion, s.facts, s.keys, s.hand, s.part
            FROM touched_number t JOIN sighting s ON s.item = t.item WHERE t.n >= #{from} AND t.n < #{from} + #{most}
            """)
    @ResultMap("jandrel.store.capture.RecordMapper.stored")
    List<RecordMapper.Stored> sightings(
            @Param("from") long from, @Param("most") int most, @Param("withoutTrails") boolean withoutTrails);

    /** Whether there is anything of which nothing is kept, and that capture would ask its source for. */
    @Select("SELECT EXISTS (SELECT FROM touched_item WHERE again IS NOT NULL)")
    boolean fetchesAny();

    public record Wanted(UUID id, int source, String position) {}

    /** Those of a batch. */
    @Select("""
            SELECT DISTINCT s.id, s.source, s.position FROM touched_number t JOIN touched_item i ON i.item = t.item
            JOIN sighting s ON s.id = i.again WHERE t.n >= #{from} AND t.n < #{from} + #{most}
            """)
    List<Wanted> fetches(@Param("from") long from, @Param("most") int most);

    /** The touched items for whose readers somebody has ruled. */
    @Select("SELECT DISTINCT r.item FROM ruling r JOIN touched_number t ON t.item = r.item")
    Set<UUID> ruled();
}
