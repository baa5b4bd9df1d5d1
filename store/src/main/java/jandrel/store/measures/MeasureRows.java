package jandrel.store.measures;

import jandrel.core.item.MeetingItem;
import jandrel.core.measures.ContactFigures.Exchanged;
import jandrel.core.measures.ContactFigures.What;
import jandrel.core.measures.Deal;
import jandrel.core.measures.Deal.Change;
import jandrel.core.measures.Deal.Means;
import jandrel.core.measures.Deal.Worth;
import jandrel.core.measures.MetAccount;
import jandrel.core.measures.TeamHistory;
import jandrel.core.measures.Touches;
import jandrel.core.timeline.ResultWords;
import jandrel.core.timeline.Standing;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.timeline.MeetingResults;
import jandrel.store.timeline.TimelineMapper;
import jandrel.store.timeline.Timelines;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
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
    private final StageList lists;
    private final MeetingResults results;

    /** Everything from one snapshot. */
    public record Rows(List<MetAccount> meetings, List<Deal> deals, TeamHistory teams, List<String> stages) {}

    public record Exchanges(List<Exchanged> all, TeamHistory teams) {}

    public record Touched(List<Touches.Account> accounts, TeamHistory teams) {}

    /** A record that a figure counts. */
    public record Named(UUID id, String kind, String name) {}

    @Mapper
    interface Mapped {
        record Met(
                UUID meeting,
                UUID account,
                UUID[] opportunities,
                Instant begins,
                Instant ends,
                UUID @Nullable [] readers,
                boolean cancelled,
                boolean declined,
                boolean missed,
                String outcome,
                UUID[] owners,
                @Nullable String result,
                @Nullable String facts) {}

        record Was(
                UUID opportunity,
                Instant at,
                String stage,
                String state,
                @Nullable BigDecimal value,
                String currency,
                String period,
                @Nullable UUID owner,
                UUID account,
                String channel) {}

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
                """ + STANDS + """
                , ARRAY(SELECT l.record FROM link l WHERE l.activity = a.id AND l.at = a.at AND l.kind = 'account' AND NOT l.blind
                        AND l.evidence <> 'PART' ORDER BY l.record) AS accounts,
                    (SELECT l.record FROM link l WHERE l.activity = a.id AND l.at = a.at AND NOT l.blind ORDER BY l.kind, l.record LIMIT 1) AS other
                FROM activity a WHERE a.at >= #{from} AND a.at < #{until} AND
                """ + NO_FOLLOW_UP + " AND " + TimelineMapper.FACE)
        List<Contacted> contacted(
                @Param("viewer") UUID[] viewer, @Param("from") Instant from, @Param("until") Instant until);

        record Title(UUID id, String title, UUID @Nullable [] readers) {}

        String READS = "(a.readers IS NULL OR a.readers && #{viewer}::uuid[])";

        /** How a meeting stands, in parts. In the trail, as JSON: no text that somebody wrote can hold these quotes. */
        String STANDS = """
                a.kind = 'meeting' AND a.facts::jsonb ->> 'state' = 'CANCELLED' AS cancelled,
                position('"rule":"DECLINED_BY_ALL"' IN a.trail) > 0 AS declined, position('"rule":"MISSED_BY_WORD"' IN a.trail) > 0 AS missed,
                coalesce(""" + TimelineMapper.OUTCOME + ", '') AS outcome";

        String NO_FOLLOW_UP =
                "NOT (a.kind = 'meeting' AND coalesce(a.facts::jsonb ->> 'sort', 'MEETING') = 'FOLLOW_UP')";

        @Select("""
                SELECT a.id AS meeting, l.record AS account,
                    ARRAY(SELECT o.record FROM link o WHERE o.activity = a.id AND o.at = l.at AND o.kind = 'opportunity') AS opportunities,
                    l.at AS begins, a.ends, a.readers,
                """ + STANDS + ", a.owners, " + TimelineMapper.RESULT + """
                 AS result, CASE WHEN #{words} THEN a.facts END AS facts
                FROM activity a JOIN link l ON l.activity = a.id AND l.kind = 'account' AND NOT l.blind WHERE a.kind = 'meeting' AND
                """ + NO_FOLLOW_UP + " AND "
                + TimelineMapper.FACE)
        List<Met> met(@Param("viewer") UUID[] viewer, @Param("words") boolean words);

        @Select("""
                SELECT h.opportunity, h.at, h.stage, h.state, h.value, h.currency, h.period, h.owner, h.account, h.channel
                FROM opportunity_history h JOIN opportunity o ON o.id = h.opportunity WHERE h.origin <> 'removed'
                ORDER BY h.opportunity, h.at, h.id
                """)
        List<Was> history();

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

    MeasureRows(Mapped mapper, StageList lists, MeetingResults results) {
        this.results = results;
        this.mapper = mapper;
        this.lists = lists;
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS, isolation = Isolation.REPEATABLE_READ)
    public Rows all(Viewer viewer, Instant now) {
        List<ResultWords> results = this.results.all();
        // what a title says is asked only where there are words that it could say
        boolean words = results.stream().anyMatch(r -> !r.words().isEmpty());
        List<MetAccount> meetings = mapper.met(Timelines.ids(viewer), words).stream()
                .map(m -> met(m, viewer, now, results))
                .toList();
        List<StageList.Stage> stages = lists.stages();
        return new Rows(
                meetings,
                deals(stages),
                new TeamHistory(mapper.teams()),
                stages.stream().map(StageList.Stage::name).toList());
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

    private static MetAccount met(Mapped.Met m, Viewer viewer, Instant now, List<ResultWords> results) {
        return new MetAccount(
                m.meeting(),
                m.account(),
                Set.of(m.opportunities()),
                m.begins(),
                !reads(m.readers(), viewer)
                        ? null
                        : Standing.of(m.cancelled(), m.ends(), m.declined(), m.missed(), m.outcome(), now),
                m.owners().length == 0 ? null : m.owners()[0],
                result(m, viewer, results));
    }

    private static String result(Mapped.Met m, Viewer viewer, List<ResultWords> results) {
        if (!reads(m.readers(), viewer)) {
            return "";
        }
        if (m.result() != null) {
            return m.result();
        }
        return m.facts() == null ? "" : ResultWords.of(results, (MeetingItem) Json.item("meeting", m.facts()));
    }

    private List<Deal> deals(List<StageList.Stage> stages) {
        Map<String, Means> means = stages.stream()
                .collect(Collectors.toMap(
                        StageList.Stage::name, s -> Means.valueOf(s.means().toUpperCase(java.util.Locale.ROOT))));
        Map<UUID, List<Change>> changes = new LinkedHashMap<>();
        for (Mapped.Was was : mapper.history()) {
            changes.computeIfAbsent(was.opportunity(), o -> new ArrayList<>())
                    .add(new Change(
                            was.at(),
                            was.stage(),
                            // what an opportunity itself says counts before what its stage means
                            was.state().equals("OPEN")
                                    ? means.getOrDefault(was.stage(), Means.OPEN)
                                    : Means.valueOf(was.state()),
                            new Worth(was.value(), was.currency(), was.period()),
                            was.owner(),
                            was.account(),
                            was.channel()));
        }
        return changes.entrySet().stream()
                .map(e -> new Deal(e.getKey(), e.getValue()))
                .toList();
    }
}
