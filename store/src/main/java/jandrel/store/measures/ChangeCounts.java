package jandrel.store.measures;

import jandrel.core.measures.ChangeFigures.Way;
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
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** How many decisions became others when they were made again; those of people in the viewer's oversight alone. */
@Component
public class ChangeCounts {
    private final Mapped mapper;

    @Mapper
    interface Mapped {
        record Row(String key, Way way, long n) {}

        String WAY =
                "CASE 'logged' WHEN c.after THEN 'LOGGED_NOW' WHEN c.before THEN 'NO_LONGER_LOGGED' ELSE 'OTHER' END";

        String FROM = """
                FROM decision_change c JOIN sighting s ON s.id = c.sighting JOIN person p ON p.id = c.person
                WHERE c.at >= #{q.from} AND c.at < #{q.until} AND (#{q.overseen}::uuid[] IS NULL OR c.person = ANY(#{q.overseen}::uuid[]))
                    AND (#{q.owner}::uuid IS NULL OR c.person = #{q.owner}) AND (#{q.team}::text IS NULL OR p.team = #{q.team})
                """;

        /** @param key what a line is told by: this class's own SQL */
        @Select("SELECT ${key} AS key, " + WAY + " AS way, count(*) AS n " + FROM + " GROUP BY 1, 2")
        List<Row> counts(@Param("key") String key, @Param("q") CountQuery query);

        @Delete("DELETE FROM decision_change WHERE at < #{before}")
        int forget(@Param("before") Instant before);

        @Select("SELECT c.sighting " + FROM
                + " AND (#{q.line}::text IS NULL OR ${key} = #{q.line}) AND (#{q.kind}::text IS NULL OR " + WAY
                + " = #{q.kind}) ORDER BY c.at DESC, c.id DESC LIMIT #{most}")
        List<UUID> some(@Param("key") String key, @Param("q") CountQuery query, @Param("most") int most);
    }

    ChangeCounts(Mapped mapper) {
        this.mapper = mapper;
    }

    /** @return with the keys of lines as {@link jandrel.core.measures.ChangeFigures} has them */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Tally<Way>> of(Span span, By by, Only only, Viewer viewer) {
        Map<String, Instant> times = span.begins(by);
        return mapper.counts(key(by), CountQuery.of(span, times, only, viewer, null, null)).stream()
                .map(r -> new Tally<>(CountQuery.line(times, r.key()), r.way(), r.n()))
                .toList();
    }

    /**
     * Which decisions a figure counts, what changed last first.
     *
     * @param line null for all
     * @param way null for all
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<UUID> behind(
            Span span, By by, Only only, Viewer viewer, @Nullable String line, @Nullable Way way, int most) {
        String kind = way == null ? null : way.name();
        return mapper.some(key(by), CountQuery.of(span, span.begins(by), only, viewer, line, kind), most);
    }

    /** What was decided again before that. */
    @Transactional
    public void forget(Instant before) {
        mapper.forget(before);
    }

    private static String key(By by) {
        return switch (by) {
            case MONTH, WEEK -> "width_bucket(c.at, #{q.starts}::text[]::timestamptz[])::text";
            case TEAM -> "p.team";
            case VERSION -> "coalesce(c.policy || ' ' || c.version, '')";
            case REASON -> "CASE WHEN c.after IN ('left-out', 'unreadable') THEN c.rule ELSE '' END";
            default -> "c.person::text";
        };
    }
}
