package jandrel.store.measures;

import jandrel.core.measures.CoverageFigures.Connected;
import jandrel.core.measures.CoverageFigures.Covered;
import jandrel.core.measures.CoverageFigures.Known;
import jandrel.core.measures.TeamHistory;
import jandrel.store.kernel.ReadTimeout;
import java.time.ZoneId;
import java.util.List;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Who was covered by which policy, and connected, and when. */
@Component
public class CoverageRows {
    private final Mapped mapper;
    private final SellingMapper teams;

    /** In order of time. */
    public record History(List<Known> people, List<Covered> covered, List<Connected> connected, TeamHistory teams) {}

    @Mapper
    interface Mapped {
        @Select("""
                SELECT p.id AS person, coalesce((SELECT min(t.at) FROM person_team t WHERE t.person = p.id), p.changed_at) AS since,
                       p.cover_until::timestamp AT TIME ZONE #{zone} AS until
                FROM person p
                """)
        List<Known> people(@Param("zone") String zone);

        @Select("SELECT person, at, policy, covered FROM cover_history ORDER BY at, id")
        List<Covered> covered();

        @Select("SELECT person, connection, at, connected FROM connection_history ORDER BY at, id")
        List<Connected> connected();
    }

    CoverageRows(Mapped mapper, SellingMapper teams) {
        this.mapper = mapper;
        this.teams = teams;
    }

    /** @param zone in which a person's cover ends on a day */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public History all(ZoneId zone) {
        String named = zone.getId().equals("Z") ? "UTC" : zone.getId();
        return new History(mapper.people(named), mapper.covered(), mapper.connected(), new TeamHistory(teams.teams()));
    }
}
