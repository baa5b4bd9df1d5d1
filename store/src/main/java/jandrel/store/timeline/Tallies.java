package jandrel.store.timeline;

import jandrel.core.visibility.Viewer;
import jandrel.store.capture.IntakeMapper;
import jandrel.store.connections.Connections;
import jandrel.store.kernel.ReadTimeout;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;

/** How much there is of everything. The numbers are kept as things change, and never counted. */
@Component
public class Tallies {
    private final Mapped mapper;
    private final IntakeMapper intake;

    /** @param rule empty unless something was left out or unreadable */
    public record Sum(String kind, String verdict, String rule, long count) {}

    /** How many connections are in a state. */
    public record State(String state, long count) {}

    /**
     * All from one snapshot.
     *
     * @param sums of those in the viewer's oversight alone, as {@code connections} are
     * @param activities nobody is denied the outline of one, so nobody is denied the number
     * @param reconsidering decisions still to be made again after a change
     * @param refetching items still to be fetched once more after a change
     */
    public record Summary(
            List<Sum> sums, long activities, List<State> connections, long reconsidering, long refetching) {}

    @Mapper
    interface Mapped {
        String OF = """
                FROM tally t JOIN source o ON o.id = t.source JOIN connection c ON c.id = o.connection
                WHERE (#{overseen}::uuid[] IS NULL OR c.person = ANY(#{overseen}::uuid[]))
                """;

        @Select("""
                SELECT t.kind, t.verdict, CASE WHEN t.verdict IN ('left-out', 'unreadable') THEN t.rule ELSE '' END AS rule,
                       sum(t.n) AS count
                """ + OF + " GROUP BY 1, 2, 3 HAVING sum(t.n) > 0 ORDER BY 4 DESC")
        List<Sum> sums(@Param("overseen") UUID @Nullable [] overseen);

        String COUNT = "SELECT coalesce(sum(t.n), 0) " + OF + """
                AND (#{f.verdict} = '' OR t.verdict = #{f.verdict}) AND (#{f.kind} = '' OR t.kind = #{f.kind})
                AND (#{f.rule} = '' OR t.rule = #{f.rule}) AND (#{f.person}::uuid IS NULL OR c.person = #{f.person})
                AND (#{f.policy}::uuid IS NULL OR c.person IN (SELECT k.person FROM cover k WHERE k.policy = #{f.policy} AND k.covered))
                """;

        @Select(COUNT)
        long count(@Param("f") DecisionFilter filter, @Param("overseen") UUID @Nullable [] overseen);

        @Select("SELECT coalesce(sum(n), 0) FROM activity_tally")
        long activities();

        @Select(
                "SELECT state, count(*) AS count FROM (SELECT " + Connections.STATE
                        + " FROM connection c WHERE #{overseen}::uuid[] IS NULL OR c.person = ANY(#{overseen}::uuid[])) all_of GROUP BY 1")
        List<State> connections(@Param("overseen") UUID @Nullable [] overseen);

        @Insert("""
                WITH old AS (DELETE FROM tally RETURNING *)
                INSERT INTO tally SELECT source, kind, verdict, rule, sum(n) FROM old GROUP BY 1, 2, 3, 4 HAVING sum(n) <> 0
                """)
        int merge();

        @Insert("""
                WITH old AS (DELETE FROM activity_tally RETURNING n)
                INSERT INTO activity_tally SELECT sum(n) FROM old HAVING sum(n) <> 0
                """)
        int mergeActivities();
    }

    Tallies(Mapped mapper, IntakeMapper intake) {
        this.mapper = mapper;
        this.intake = intake;
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS, isolation = Isolation.REPEATABLE_READ)
    public Summary summary(Viewer viewer) {
        UUID[] overseen = viewer.oversight().limit();
        return new Summary(
                mapper.sums(overseen),
                mapper.activities(),
                mapper.connections(overseen),
                intake.toReconsider(),
                intake.allToRefetch());
    }

    /** Makes one row of those of one sort. */
    @Transactional
    public void merge() {
        mapper.merge();
        mapper.mergeActivities();
    }
}
