package jandrel.store.timeline;

import jandrel.core.decide.Rule;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.ResultMap;
import org.apache.ibatis.annotations.Results;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.SelectProvider;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

@Mapper
public interface DecisionMapper {
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
            String part,
            long total) {}

    /** Whether one who takes part in what a sighting s shows has closed it to the viewer. */
    String CLOSED = """
            EXISTS (SELECT FROM ruling r WHERE r.item = s.item AND NOT r.opens AND NOT r.readers && #{viewer}::uuid[]
                AND (r.by_person = s.person OR r.by_person = ANY(s.insiders)))
            """;

    String COLUMNS = """
            SELECT s.id, s.item, s.kind, s.at, s.person, p.name AS person_name, o.label AS source_label, s.position, s.verdict,
                   s.rule, s.trail, s.sharing, s.insiders, s.team, s.facts, s.refetch, a.id AS activity, a.readers, s.part, s.verdict = 'waiting' AND
            """ + CLOSED + " AS closed";

    String NOT_COUNTED = ", 0 AS total ";

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

    /** @param finds whether the viewer may search by address */
    record Query(DecisionFilter f, UUID @Nullable [] overseen, boolean finds, UUID[] viewer) {}

    /** Only what is asked for becomes a condition, so that the planner sees what is. */
    final class Conditions {
        public static String page(@Param("q") Query q) {
            // the end stands in the position: of two bounds PostgreSQL begins at one, and reads all between them
            return COLUMNS.replace("#{viewer}", "#{q.viewer}") + NOT_COUNTED + rest(q);
        }

        /** The number with the page, so that both are of one moment. */
        public static String counted(@Param("q") Query q) {
            String total = q.f().isTallied() ? Tallies.Mapped.COUNT.replace("#{f.", "#{q.f.") : count(q);
            return COLUMNS.replace("#{viewer}", "#{q.viewer}") + ", (" + total.replace("#{overseen}", "#{q.overseen}")
                    + ") AS total" + rest(q);
        }

        private static String rest(Query q) {
            return TABLES + where(q) + """
                     AND (s.at, s.id) < (#{beforeAt}::timestamptz, #{beforeId}::uuid)
                    ORDER BY s.at DESC, s.id DESC LIMIT #{limit}
                    """;
        }

        public static String count(@Param("q") Query q) {
            return "SELECT count(*) FROM (SELECT FROM sighting s " + where(q)
                    + " AND s.at < #{q.f.until}::timestamptz LIMIT #{most}) found";
        }

        private static String where(Query q) {
            DecisionFilter f = q.f();
            List<String> all = new ArrayList<>();
            all.add("s.at >= #{q.f.from}::timestamptz");
            when(!f.verdict().isEmpty(), "s.verdict = #{q.f.verdict}", all);
            when(!f.kind().isEmpty(), "s.kind = #{q.f.kind}", all);
            if (!f.rule().isEmpty()) {
                all.add("s.rule = #{q.f.rule}");
                // as the index has it, of rules that keep something out
                when(isOutcome(f.rule()), "s.verdict IN ('left-out', 'unreadable')", all);
            } else {
                when(
                        f.verdict().equals("unreadable"),
                        "s.rule = 'UNREADABLE' AND s.verdict IN ('left-out', 'unreadable')",
                        all);
            }
            when(f.person() != null, "s.person = #{q.f.person}", all);
            when(
                    f.policy() != null,
                    "s.person IN (SELECT k.person FROM cover k WHERE k.policy = #{q.f.policy} AND k.covered)",
                    all);
            when(f.exclusion() != null, "s.exclusion = #{q.f.exclusion}", all);
            when(
                    f.item() != null,
                    "(s.id IN (SELECT unnest(x.copies) FROM activity x WHERE x.id = #{q.f.item}) OR s.id = #{q.f.item})",
                    all);
            UUID[] overseen = q.overseen();
            if (overseen != null) {
                // of one person's alone the index is read in order
                all.add(
                        overseen.length == 1
                                ? "s.person = (#{q.overseen}::uuid[])[1]"
                                : "s.person = ANY(#{q.overseen}::uuid[])");
            }
            if (!f.address().isEmpty()) {
                // it asks who is on an item, so it finds only what the viewer reads in full
                all.add(q.finds() ? BY_ADDRESS : "false");
            }
            return "WHERE " + String.join(" AND ", all);
        }

        private static boolean isOutcome(String rule) {
            return Rule.LEAVING_OUT.stream().anyMatch(r -> r.name().equals(rule));
        }

        private static void when(boolean asked, String condition, List<String> into) {
            if (asked) {
                into.add(condition);
            }
        }
    }

    String BY_ADDRESS = "(s.keys @> ARRAY[#{q.f.address}]::text[] AND (s.person = ANY(#{q.viewer}::uuid[])"
            + " OR s.facts NOT LIKE '%\"part\":\"BCC\"%') AND " + READS.replace("#{viewer}", "#{q.viewer}") + ")";

    /**
     * For this transaction. Each page is read by an index from where it begins, so that one plan serves all: to make one for each page
     * costs several times what the page does.
     */
    @Update("SET LOCAL plan_cache_mode = force_generic_plan")
    int byOnePlan();

    /** Told column by column: to have them found by their names costs more for each row than to read it. */
    @Results(id = "decision")
    @Arg(column = "id", javaType = UUID.class)
    @Arg(column = "item", javaType = UUID.class)
    @Arg(column = "kind", javaType = String.class)
    @Arg(column = "at", javaType = Instant.class)
    @Arg(column = "person", javaType = UUID.class)
    @Arg(column = "person_name", javaType = String.class)
    @Arg(column = "source_label", javaType = String.class)
    @Arg(column = "position", javaType = String.class)
    @Arg(column = "verdict", javaType = String.class)
    @Arg(column = "rule", javaType = String.class)
    @Arg(column = "trail", javaType = String.class)
    @Arg(column = "sharing", javaType = String.class)
    @Arg(column = "insiders", javaType = UUID[].class)
    @Arg(column = "team", javaType = UUID.class)
    @Arg(column = "facts", javaType = String.class)
    @Arg(column = "refetch", javaType = boolean.class)
    @Arg(column = "activity", javaType = UUID.class)
    @Arg(column = "readers", javaType = UUID[].class)
    @Arg(column = "closed", javaType = boolean.class)
    @Arg(column = "part", javaType = String.class)
    @Arg(column = "total", javaType = long.class)
    @SelectProvider(type = Conditions.class, method = "page")
    List<Row> page(
            @Param("q") Query query,
            @Param("beforeAt") Instant beforeAt,
            @Param("beforeId") UUID beforeId,
            @Param("limit") int limit);

    /** As {@link #page}, each row with how many there are, of {@code most} at the most where that is not kept. */
    @SelectProvider(type = Conditions.class, method = "counted")
    @ResultMap("jandrel.store.timeline.DecisionMapper.decision")
    List<Row> counted(
            @Param("q") Query query,
            @Param("beforeAt") Instant beforeAt,
            @Param("beforeId") UUID beforeId,
            @Param("limit") int limit,
            @Param("most") int most);

    @SelectProvider(type = Conditions.class, method = "count")
    long count(@Param("q") Query query, @Param("most") int most);

    @Select(COLUMNS + NOT_COUNTED + TABLES + "WHERE s.id = ANY(#{ids}) ORDER BY s.at, s.id")
    @ResultMap("jandrel.store.timeline.DecisionMapper.decision")
    List<Row> some(@Param("ids") UUID[] ids, @Param("viewer") UUID[] viewer);

    /** Of the copies alone whose text the viewer gets. */
    @Select(
            "SELECT s.source, s.position FROM activity a JOIN sighting s ON s.id = ANY(a.copies) WHERE a.id = #{id} AND "
                    + TimelineMapper.FACE
                    + " AND NOT s.gone ORDER BY s.person = ANY(#{viewer}::uuid[]) DESC, s.source LIMIT 5")
    List<ItemPlace> places(@Param("id") UUID activity, @Param("viewer") UUID[] viewer);

    @Select("""
            SELECT s.id FROM sighting s WHERE s.source = #{source}
              AND left(s.position, length(s.position) - position('#' in reverse(s.position))) = ANY(#{hrefs}) ORDER BY s.at, s.id
            """)
    List<UUID> at(@Param("source") int source, @Param("hrefs") String[] hrefs);

    @Select("SELECT DISTINCT unnest(copies) FROM activity WHERE id = #{activity}")
    List<UUID> of(@Param("activity") UUID activity);
}
