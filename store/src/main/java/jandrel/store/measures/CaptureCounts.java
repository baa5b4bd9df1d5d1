package jandrel.store.measures;

import jandrel.core.decide.Verdict;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Only;
import jandrel.core.measures.Span;
import jandrel.core.measures.Tally;
import jandrel.core.visibility.Viewer;
import jandrel.store.kernel.ReadTimeout;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** How many decisions there are of each verdict, told by this or that; those of people in the viewer's oversight alone. */
@Component
public class CaptureCounts {
    private final Mapped mapper;

    @Mapper
    interface Mapped {
        record Row(String key, String verdict, long n) {}

        record Policy(UUID id, String name) {}

        String FROM = """
                FROM sighting s JOIN person p ON p.id = s.person LEFT JOIN cover k ON k.person = s.person
                WHERE s.at >= #{q.from} AND s.at < #{q.until} AND (#{q.overseen}::uuid[] IS NULL OR s.person = ANY(#{q.overseen}::uuid[]))
                    AND (#{q.owner}::uuid IS NULL OR s.person = #{q.owner}) AND (#{q.team}::text IS NULL OR p.team = #{q.team})
                """;

        /** @param key what a line is told by: this class's own SQL */
        @Select("SELECT ${key} AS key, s.verdict, count(*) AS n " + FROM + " GROUP BY 1, 2")
        List<Row> counts(@Param("key") String key, @Param("q") CountQuery query);

        @Select("SELECT s.id " + FROM + """
                 AND (#{q.line}::text IS NULL OR ${key} = #{q.line}) AND (#{q.kind}::text IS NULL OR s.verdict = #{q.kind})
                ORDER BY s.at DESC, s.id DESC LIMIT #{most}
                """)
        List<UUID> some(@Param("key") String key, @Param("q") CountQuery query, @Param("most") int most);

        @Select("""
                SELECT p.id, v.rules::jsonb ->> 'name' AS name FROM policy p JOIN policy_version v ON v.policy = p.id AND v.version = p.version
                """)
        List<Policy> policies();
    }

    CaptureCounts(Mapped mapper) {
        this.mapper = mapper;
    }

    /** @return with the keys of lines as {@link jandrel.core.measures.CaptureFigures} has them */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Tally<Verdict>> of(Span span, By by, Only only, Viewer viewer) {
        Map<String, Instant> times = span.begins(by);
        return mapper.counts(key(by), CountQuery.of(span, times, only, viewer, null, null)).stream()
                .map(r -> new Tally<>(CountQuery.line(times, r.key()), Verdict.called(r.verdict()), r.n()))
                .toList();
    }

    /**
     * Which decisions a figure counts, the newest first.
     *
     * @param line null for all
     * @param verdict null for all
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<UUID> behind(
            Span span, By by, Only only, Viewer viewer, @Nullable String line, @Nullable Verdict verdict, int most) {
        String kind = verdict == null ? null : verdict.word();
        return mapper.some(key(by), CountQuery.of(span, span.begins(by), only, viewer, line, kind), most);
    }

    /** What policies are called. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Map<UUID, String> policies() {
        return mapper.policies().stream().collect(Collectors.toMap(Mapped.Policy::id, Mapped.Policy::name));
    }

    private static String key(By by) {
        return switch (by) {
            case MONTH, WEEK -> "width_bucket(s.at, #{q.starts}::text[]::timestamptz[])::text";
            case TEAM -> "p.team";
            case POLICY -> "coalesce(k.policy::text, '')";
            case REASON -> "CASE WHEN s.verdict IN ('left-out', 'unreadable') THEN s.rule ELSE '' END";
            default -> "s.person::text";
        };
    }
}
