package jandrel.store;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;

@Mapper
interface DecisionMapper {
    record Row(
            UUID id,
            UUID item,
            String kind,
            Instant at,
            UUID person,
            String personName,
            String sourceLabel,
            String position,
            String verdict,
            String rule,
            String trail,
            String sharing,
            UUID[] insiders,
            @Nullable UUID team,
            @Nullable String facts,
            boolean refetch,
            @Nullable UUID activity,
            UUID @Nullable [] readers,
            boolean closed,
            String part) {}

    record Sum(String kind, String verdict, String rule, long count) {}

    /** Whether one who takes part in what a sighting s shows has closed it to the viewer. */
    String CLOSED = """
            EXISTS (SELECT FROM ruling r WHERE r.item = s.item AND NOT r.opens AND NOT r.readers && #{viewer}::uuid[]
                AND (r.by_person = s.person OR r.by_person = ANY(s.insiders)))
            """;

    String COLUMNS = """
            SELECT s.id, s.item, s.kind, s.at, s.person, p.name AS person_name, o.label AS source_label, s.position, s.verdict,
                   s.rule, s.trail, s.sharing, s.insiders, s.team, s.facts, s.refetch, a.id AS activity, a.readers, s.part, s.verdict = 'waiting' AND
            """ + CLOSED + " AS closed ";

    /** The face of the activity, or none, that a sighting s stands on. */
    String FACE_OF = """
            (SELECT x.id, x.readers, x.mine FROM activity x WHERE x.id = s.item AND x.item = s.item AND s.id = ANY(x.copies)
             UNION ALL SELECT x.id, x.readers, x.mine FROM activity x WHERE x.id <> x.item AND x.item = s.item AND s.id = ANY(x.copies))
            """;

    String FROM = " FROM sighting s ";

    String TABLES = FROM + """
            JOIN person p ON p.id = s.person JOIN source o ON o.id = s.source
            LEFT JOIN LATERAL
            """ + FACE_OF + " a ON s.verdict = 'logged' ";

    /**
     * Whether the viewer reads in full what is kept of a sighting s: what stands on a timeline as its readers say, what waits as its
     * sharing says, unless somebody closed it.
     */
    String READS = """
            ((s.verdict = 'logged' AND EXISTS (SELECT FROM
            """ + FACE_OF + """
                    f WHERE f.readers IS NULL OR f.readers && #{viewer}::uuid[]))
                OR (s.verdict = 'waiting' AND (s.person = ANY(#{viewer}::uuid[]) OR NOT
            """ + CLOSED + """
                    AND (s.sharing = 'EVERYONE'
                    OR (s.sharing IN ('THOSE_ON_IT', 'TEAM') AND s.insiders && #{viewer}::uuid[])
                    OR (s.sharing = 'TEAM' AND s.team = ANY(#{viewer}::uuid[]))))))
            """;

    /** A filter by address asks who is on an item, so it finds only what the viewer reads in full. */
    String WHERE = """
            WHERE (#{f.verdict} = '' OR s.verdict = #{f.verdict}) AND (#{f.kind} = '' OR s.kind = #{f.kind})
              AND (#{f.rule} = '' OR s.rule = #{f.rule})
              AND (#{f.person}::uuid IS NULL OR s.person = #{f.person})
              AND (#{f.exclusion}::uuid IS NULL OR s.exclusion = #{f.exclusion})
              AND (#{f.item}::uuid IS NULL OR s.id IN (SELECT unnest(x.copies) FROM activity x WHERE x.id = #{f.item}) OR s.id = #{f.item})
              AND s.at >= #{f.from}::timestamptz AND s.at < #{f.until}::timestamptz
              AND (#{onlyOwn}::uuid IS NULL OR s.person = #{onlyOwn})
              AND (#{f.address} = '' OR (#{finds} AND s.keys @> ARRAY[#{f.address}]::text[]
                AND (s.person = ANY(#{viewer}::uuid[]) OR s.facts NOT LIKE '%"part":"BCC"%') AND """ + READS + "))";

    @Select(COLUMNS + TABLES + WHERE + """
            AND (s.at, s.id) < (#{beforeAt}::timestamptz, #{beforeId}::uuid)
            ORDER BY s.at DESC, s.id DESC LIMIT #{limit}
            """)
    List<Row> page(
            @Param("f") Decisions.Filter filter,
            @Param("onlyOwn") @Nullable UUID onlyOwn,
            @Param("finds") boolean finds,
            @Param("viewer") UUID[] viewer,
            @Param("beforeAt") Instant beforeAt,
            @Param("beforeId") UUID beforeId,
            @Param("limit") int limit);

    @Select("SELECT count(*) " + FROM + WHERE)
    long count(
            @Param("f") Decisions.Filter filter,
            @Param("onlyOwn") @Nullable UUID onlyOwn,
            @Param("finds") boolean finds,
            @Param("viewer") UUID[] viewer);

    @Select(COLUMNS + TABLES + "WHERE s.id = ANY(#{ids}) ORDER BY s.at, s.id")
    List<Row> some(@Param("ids") UUID[] ids, @Param("viewer") UUID[] viewer);

    /** Of the copies alone whose text the viewer gets. */
    @Select(
            "SELECT s.source, s.position FROM activity a JOIN sighting s ON s.id = ANY(a.copies) WHERE a.id = #{id} AND "
                    + TimelineMapper.FACE
                    + " AND NOT s.gone ORDER BY s.person = ANY(#{viewer}::uuid[]) DESC, s.source LIMIT 5")
    List<Decisions.Where> places(@Param("id") UUID activity, @Param("viewer") UUID[] viewer);

    @Select("""
            SELECT s.id FROM sighting s WHERE s.source = #{source}
              AND left(s.position, length(s.position) - position('#' in reverse(s.position))) = ANY(#{hrefs}) ORDER BY s.at, s.id
            """)
    List<UUID> at(@Param("source") int source, @Param("hrefs") String[] hrefs);

    @Select("SELECT DISTINCT unnest(copies) FROM activity WHERE id = #{activity}")
    List<UUID> of(@Param("activity") UUID activity);

    @Select("""
            SELECT kind, verdict, CASE WHEN verdict IN ('left-out', 'unreadable') THEN rule ELSE '' END AS rule, count(*) AS count
            FROM sighting WHERE #{onlyOwn}::uuid IS NULL OR person = #{onlyOwn}
            GROUP BY 1, 2, 3 ORDER BY 4 DESC
            """)
    List<Sum> sums(@Param("onlyOwn") @Nullable UUID onlyOwn);

    @Select("SELECT count(*) FROM activity WHERE face = 0")
    long activities();
}
