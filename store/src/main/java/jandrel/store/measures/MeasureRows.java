package jandrel.store.measures;

import jandrel.core.measures.ContactFigures.Exchanged;
import jandrel.core.measures.ContactFigures.What;
import jandrel.core.measures.SellingHistory;
import jandrel.core.measures.TeamHistory;
import jandrel.core.measures.Touches;
import jandrel.core.timeline.Standing;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.timeline.TimelineMapper;
import jandrel.store.timeline.Timelines;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;

/** What measures count, as far as a viewer may read it. */
@Component
public class MeasureRows {
    private final Mapped mapper;
    private final SellingKeeper keeper;

    /** Everything from one snapshot. */
    public record Rows(SellingHistory.Seen seen, TeamHistory teams, List<String> stages) {}

    public record Exchanges(List<Exchanged> all, TeamHistory teams) {}

    public record Touched(List<Touches.Account> accounts, TeamHistory teams) {}

    /** A record that a figure counts. */
    public record Named(UUID id, String kind, String name) {}

    @Mapper
    interface Mapped {
        record Touch(
                UUID id,
                @Nullable UUID owner,
                @Nullable Instant ours,
                @Nullable Instant theirs,
                @Nullable Instant met,
                @Nullable Instant last,
                boolean hasNext,
                boolean hides) {}

        record Contacted(
                UUID activity,
                String kind,
                Instant at,
                @Nullable Instant ends,
                UUID @Nullable [] readers,
                UUID[] owners,
                UUID[] authors,
                boolean cancelled,
                boolean declined,
                boolean missed,
                String outcome,
                UUID[] accounts,
                @Nullable UUID other) {}

        @Select("""
                SELECT a.id AS activity, a.kind, a.at, a.ends, a.readers, a.owners, a.authors,
                """ + SellingMapper.STANDS + """
                , ARRAY(SELECT l.record FROM link l WHERE l.activity = a.id AND l.at = a.at AND l.kind = 'account' AND NOT l.blind
                        AND l.evidence <> 'PART' ORDER BY l.record) AS accounts,
                    (SELECT l.record FROM link l WHERE l.activity = a.id AND l.at = a.at AND NOT l.blind ORDER BY l.kind, l.record LIMIT 1) AS other
                FROM activity a WHERE a.at >= #{from} AND a.at < #{until} AND
                """ + SellingMapper.NO_FOLLOW_UP + " AND " + TimelineMapper.FACE)
        List<Contacted> contacted(
                @Param("viewer") UUID[] viewer, @Param("from") Instant from, @Param("until") Instant until);

        record Title(UUID id, String title, UUID @Nullable [] readers) {}

        String READS = "(a.readers IS NULL OR a.readers && #{viewer}::uuid[])";

        @Select("SELECT person, at, team FROM person_team ORDER BY at, id")
        List<TeamHistory.Joined> teams();

        @Select("""
                SELECT r.id, r.owner, t.ours, t.theirs, t.met,
                """ + TimelineMapper.LAST_TOUCH + " AS last, " + TimelineMapper.NEXT_MEETING + """
                 IS NOT NULL AS has_next, coalesce(t.hides, false) AS hides
                FROM account r LEFT JOIN LATERAL (
                    SELECT max(l.at) FILTER (WHERE a.kind = 'mail' AND a.authors <> '{}' AND
                """ + READS
                + ") AS ours, max(l.at) FILTER (WHERE a.kind = 'mail' AND a.authors = '{}' AND " + READS
                + """
                        ) AS theirs, max(l.at) FILTER (WHERE a.kind = 'meeting' AND a.facts::jsonb ->> 'state' IS DISTINCT FROM 'CANCELLED' AND
                """ + READS + ") AS met, bool_or(NOT " + READS + """
                        ) AS hides
                    FROM link l JOIN activity a ON a.id = l.activity AND
                """ + TimelineMapper.FACE + """
                    WHERE l.record = r.id AND l.at <= #{now} AND NOT l.blind) t ON true
                WHERE r.archived_at IS NULL
                """)
        List<Touch> touches(@Param("viewer") UUID[] viewer, @Param("now") Instant now);

        @Select("SELECT a.id, a.subject AS title, a.readers FROM activity a WHERE a.id = ANY(#{ids}) AND "
                + TimelineMapper.FACE)
        List<Title> titles(@Param("ids") UUID[] ids, @Param("viewer") UUID[] viewer);

        @Select("""
                SELECT id, 'account' AS kind, name FROM account WHERE id = ANY(#{ids})
                UNION ALL SELECT id, 'opportunity', name FROM opportunity WHERE id = ANY(#{ids})
                UNION ALL SELECT id, 'contact', name FROM contact WHERE id = ANY(#{ids})
                UNION ALL SELECT id, 'lead', name FROM lead WHERE id = ANY(#{ids})
                """)
        List<Named> named(@Param("ids") UUID[] ids);
    }

    MeasureRows(Mapped mapper, SellingKeeper keeper) {
        this.mapper = mapper;
        this.keeper = keeper;
    }

    public Rows all(Viewer viewer, Instant now) {
        SellingKeeper.Kept kept = keeper.current();
        return new Rows(kept.history().seenBy(viewer, now), kept.teams(), kept.stages());
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS, isolation = Isolation.REPEATABLE_READ)
    public Touched touched(Viewer viewer, Instant now) {
        boolean readsNothing = !reads(null, viewer);
        List<Touches.Account> accounts = mapper.touches(Timelines.ids(viewer), now).stream()
                .filter(t -> viewer.oversight().covers(t.owner()))
                .map(t -> readsNothing
                        ? new Touches.Account(t.id(), t.owner(), null, null, null, t.last(), t.hasNext(), true)
                        : new Touches.Account(
                                t.id(), t.owner(), t.ours(), t.theirs(), t.met(), t.last(), t.hasNext(), t.hides()))
                .toList();
        return new Touched(accounts, new TeamHistory(mapper.teams()));
    }

    /** Mail and meetings of a time. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS, isolation = Isolation.REPEATABLE_READ)
    public Exchanges exchanges(Viewer viewer, Instant from, Instant until, Instant now) {
        return new Exchanges(
                mapper.contacted(Timelines.ids(viewer), from, until).stream()
                        .map(c -> new Exchanged(
                                c.activity(),
                                c.at(),
                                reads(c.readers(), viewer) ? what(c, now) : null,
                                c.authors().length > 0 ? c.authors()[0] : c.owners().length > 0 ? c.owners()[0] : null,
                                List.of(c.accounts()),
                                c.accounts().length > 0
                                        ? c.accounts()[0]
                                        : Objects.requireNonNullElse(c.other(), c.activity())))
                        .toList(),
                new TeamHistory(mapper.teams()));
    }

    private static What what(Mapped.Contacted c, Instant now) {
        if (c.kind().equals("mail")) {
            return c.authors().length > 0 ? What.MAIL_OUT : What.MAIL_IN;
        }
        Standing standing = Standing.of(
                c.cancelled(), c.ends() == null ? c.at() : c.ends(), c.declined(), c.missed(), c.outcome(), now);
        return standing == Standing.HELD ? What.HELD : standing == Standing.MISSED ? What.MISSED : What.OTHER;
    }

    /** Of the records that figures count, and nothing of others. */
    public Map<UUID, Named> named(Set<UUID> ids) {
        return mapper.named(ids.toArray(UUID[]::new)).stream()
                .collect(Collectors.toMap(Named::id, Function.identity()));
    }

    /** Of meetings that the viewer reads. */
    public Map<UUID, String> titles(Set<UUID> ids, Viewer viewer) {
        return mapper.titles(ids.toArray(UUID[]::new), Timelines.ids(viewer)).stream()
                .filter(t -> reads(t.readers(), viewer))
                .collect(Collectors.toMap(Mapped.Title::id, Mapped.Title::title, (a, b) -> a));
    }

    private static boolean reads(UUID @Nullable [] readers, Viewer viewer) {
        return Visibility.of(viewer, Timelines.readers(readers)) == Visibility.FULL;
    }
}
