package jandrel.store.measures;

import jandrel.core.measures.CoverageFigures.Connected;
import jandrel.core.measures.CoverageFigures.Covered;
import jandrel.core.measures.CoverageFigures.Known;
import jandrel.core.measures.TeamHistory;
import jandrel.store.kernel.ReadTimeout;
import java.util.List;
import org.apache.ibatis.annotations.Mapper;
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
                       p.cover_until AS until
                FROM person p
                """)
        List<Known> people();

        @Select("SELECT person, at, policy, covered FROM cover_history ORDER BY at, id")
        List<Covered> covered();

        @Select("SELECT person, connection, at, connected FROM connection_history ORDER BY at, id")
        List<Connected> connected();
    }

    CoverageRows(Mapped mapper, SellingMapper teams) {
        this.mapper = mapper;
        this.teams = teams;
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public History all() {
        return new History(mapper.people(), mapper.covered(), mapper.connected(), new TeamHistory(teams.teams()));
    }
}
