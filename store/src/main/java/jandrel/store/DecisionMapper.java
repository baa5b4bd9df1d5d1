package jandrel.store;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
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
            boolean onTimeline,
            UUID @Nullable [] readers) {}

    record Sum(String kind, String verdict, String rule, long count) {}

    String COLUMNS = """
            SELECT s.id, s.item, s.kind, s.at, s.person, p.name AS person_name, o.label AS source_label, s.position, s.verdict,
                   s.rule, s.trail, s.sharing, s.insiders, s.team, s.facts, s.refetch, a.id IS NOT NULL AS on_timeline, a.readers
            """;

    String TABLES = """
            FROM sighting s JOIN person p ON p.id = s.person JOIN source o ON o.id = s.source
            LEFT JOIN activity a ON a.id = s.item AND s.verdict = 'logged'
            """;

    /** Whether the viewer reads in full what is kept of a sighting s, with a the activity it is logged as, if it is. */
    String READS = """
            ((s.verdict = 'logged' AND (a.readers IS NULL OR a.readers && #{viewer}::uuid[]))
                OR (s.verdict = 'waiting' AND (s.sharing = 'EVERYONE' OR s.person = ANY(#{viewer}::uuid[])
                    OR (s.sharing IN ('THOSE_ON_IT', 'TEAM') AND s.insiders && #{viewer}::uuid[])
                    OR (s.sharing = 'TEAM' AND s.team = ANY(#{viewer}::uuid[])))))
            """;

    /** A filter by address asks who is on an item, so it finds only what the viewer reads in full. */
    String WHERE = """
            WHERE (#{f.verdict} = '' OR s.verdict = #{f.verdict}) AND (#{f.kind} = '' OR s.kind = #{f.kind})
              AND (#{f.rule} = '' OR s.rule = #{f.rule})
              AND (#{f.person}::uuid IS NULL OR s.person = #{f.person})
              AND (#{f.exclusion}::uuid IS NULL OR s.exclusion = #{f.exclusion})
              AND (#{f.item}::uuid IS NULL OR s.item = #{f.item})
              AND s.at >= #{f.from}::timestamptz AND s.at < #{f.until}::timestamptz
              AND (#{onlyOwn}::uuid IS NULL OR s.person = #{onlyOwn})
              AND (#{f.address} = '' OR (#{finds} AND s.keys @> ARRAY[#{f.address}]::text[] AND """ + READS + "))";

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

    @Select("SELECT count(*) " + TABLES + WHERE)
    long count(
            @Param("f") Decisions.Filter filter,
            @Param("onlyOwn") @Nullable UUID onlyOwn,
            @Param("finds") boolean finds,
            @Param("viewer") UUID[] viewer);

    @Select(COLUMNS + TABLES + "WHERE s.id = #{id}")
    Optional<Row> one(@Param("id") UUID id);

    @Select(
            "SELECT source, position FROM sighting WHERE item = #{item} AND verdict = 'logged' AND NOT gone ORDER BY source LIMIT 5")
    List<Decisions.Where> places(@Param("item") UUID item);

    @Select("""
            SELECT s.id FROM sighting s WHERE s.source = #{source}
              AND left(s.position, length(s.position) - position('#' in reverse(s.position))) = ANY(#{hrefs}) ORDER BY s.at, s.id
            """)
    List<UUID> at(@Param("source") int source, @Param("hrefs") String[] hrefs);

    @Select("SELECT s.id FROM sighting s WHERE s.item = #{item} ORDER BY s.id")
    List<UUID> ofItem(@Param("item") UUID item);

    @Select("""
            SELECT kind, verdict, CASE WHEN verdict IN ('left-out', 'unreadable') THEN rule ELSE '' END AS rule, count(*) AS count
            FROM sighting WHERE #{onlyOwn}::uuid IS NULL OR person = #{onlyOwn}
            GROUP BY 1, 2, 3 ORDER BY 4 DESC
            """)
    List<Sum> sums(@Param("onlyOwn") @Nullable UUID onlyOwn);

    @Select("SELECT count(*) FROM activity")
    long activities();
}
