package jandrel.store.timeline;

import jandrel.store.kernel.ReadTimeout;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** How many decisions there are of each verdict, day by day. */
@Component
public class DailyCounts {
    private final Mapped mapper;

    /** @param day on which the items took place; the first is 0 */
    public record Day(int day, long logged, long waiting, long leftOut, long unreadable) {
        /** A day on which nothing took place. */
        public static Day empty(int day) {
            return new Day(day, 0, 0, 0, 0);
        }
    }

    @Mapper
    interface Mapped {
        @Select("""
                SELECT width_bucket(s.at, b.starts) - 1 AS day,
                    count(*) FILTER (WHERE s.verdict = 'logged') AS logged,
                    count(*) FILTER (WHERE s.verdict = 'waiting') AS waiting,
                    count(*) FILTER (WHERE s.verdict = 'left-out') AS left_out,
                    count(*) FILTER (WHERE s.verdict = 'unreadable') AS unreadable
                FROM sighting s, (SELECT #{starts}::text[]::timestamptz[] AS starts) b
                WHERE s.at >= #{from} AND s.at < #{until} AND (#{overseen}::uuid[] IS NULL OR s.person = ANY(#{overseen}::uuid[]))
                GROUP BY 1
                """)
        List<Day> days(
                @Param("starts") String[] starts,
                @Param("from") Instant from,
                @Param("until") Instant until,
                @Param("overseen") UUID @Nullable [] overseen);
    }

    DailyCounts(Mapped mapper) {
        this.mapper = mapper;
    }

    /**
     * @param starts when each day begins, and last when the last one ends, in order. Moments, because what a zone is called does not mean
     *     the same to a database.
     * @param overseen whose items alone are counted; all when null
     * @return those with anything on them
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Day> of(List<Instant> starts, UUID @Nullable [] overseen) {
        return mapper.days(
                starts.stream().map(Instant::toString).toArray(String[]::new),
                starts.get(0),
                starts.get(starts.size() - 1),
                overseen);
    }
}
