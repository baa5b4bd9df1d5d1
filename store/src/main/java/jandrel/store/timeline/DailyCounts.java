package jandrel.store.timeline;

import jandrel.core.visibility.Viewer;
import jandrel.store.kernel.ReadTimeout;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** How many decisions there are of each verdict, day by day. A rep gets those at their own sources. */
@Component
public class DailyCounts {
    private final Mapped mapper;

    /** @param day on which the items took place */
    public record Day(LocalDate day, String verdict, long count) {}

    @Mapper
    interface Mapped {
        @Select("""
                SELECT (s.at AT TIME ZONE #{zone})::date AS day, s.verdict, count(*) AS count FROM sighting s
                WHERE s.at >= #{from} AND s.at < #{until} AND (#{onlyOwn}::uuid IS NULL OR s.person = #{onlyOwn})
                GROUP BY 1, 2 ORDER BY 1, 2
                """)
        List<Day> days(
                @Param("from") Instant from,
                @Param("until") Instant until,
                @Param("zone") String zone,
                @Param("onlyOwn") @Nullable UUID onlyOwn);
    }

    DailyCounts(Mapped mapper) {
        this.mapper = mapper;
    }

    /** @param until the first moment that no longer counts */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Day> of(Instant from, Instant until, ZoneId zone, Viewer viewer) {
        return mapper.days(from, until, zone.getId(), DecisionFilter.onlyOwn(viewer));
    }
}
