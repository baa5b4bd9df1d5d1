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
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.ResultType;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.session.ResultHandler;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;

/** What measures count, as far as a viewer may read it. */
@Component
public class MeasureRows {
    private final Mapped mapper;
    private final SellingMapper selling;
    private final SellingKeeper keeper;
    private final TouchKeeper touching;

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

        /** @param readable whether the viewer is one of those who read it */
        record Contacted(
                UUID activity,
                boolean mail,
                Instant at,
                @Nullable Instant ends,
                boolean readable,
                @Nullable UUID owner,
                boolean written,
                boolean cancelled,
                boolean declined,
                boolean missed,
                String outcome,
                UUID @Nullable [] accounts,
                UUID @Nullable [] others) {}

        /** Told column by column: to have them found by their names costs more for each row than to read it. */
        @Arg(column = "activity", javaType = UUID.class)
        @Arg(column = "mail", javaType = boolean.class)
        @Arg(column = "at", javaType = Instant.class)
        @Arg(column = "ends", javaType = Instant.class)
        @Arg(column = "readable", javaType = boolean.class)
        @Arg(column = "owner", javaType = UUID.class)
        @Arg(column = "written", javaType = boolean.class)
        @Arg(column = "cancelled", javaType = boolean.class)
        @Arg(column = "declined", javaType = boolean.class)
        @Arg(column = "missed", javaType = boolean.class)
        @Arg(column = "outcome", javaType = String.class)
        @Arg(column = "accounts", javaType = UUID[].class)
        @Arg(column = "others", javaType = UUID[].class)
        @ResultType(Contacted.class)
        @Options(fetchSize = SellingMapper.AT_A_TIME)
        @Select("""
                SELECT a.id AS activity, a.kind = 'mail' AS mail, a.at, a.ends,
                """ + READS + """
                 AS readable, coalesce(a.authors[1], a.owners[1]) AS owner, a.authors <> '{}' AS written,
                """ + SellingMapper.STANDS + """
                , l.accounts, CASE WHEN l.accounts IS NULL THEN l.others END AS others FROM activity a LEFT JOIN (
                    SELECT activity, array_agg(record) FILTER (WHERE kind = 'account' AND evidence <> 'PART') AS accounts, array_agg(record) AS others
                    FROM link WHERE at >= #{from} AND at < #{until} AND NOT blind GROUP BY activity) l ON l.activity = a.id
                WHERE a.at >= #{from} AND a.at < #{until} AND
                """ + SellingMapper.NO_FOLLOW_UP + " AND "
                + TimelineMapper.FACE)
        void contacted(
                @Param("viewer") UUID[] viewer,
                @Param("from") Instant from,
                @Param("until") Instant until,
                ResultHandler<Contacted> each);

        record Title(UUID id, String title, UUID @Nullable [] readers) {}

        String READS = "(a.readers IS NULL OR a.readers && #{viewer}::uuid[])";

        record Owned(UUID id, @Nullable UUID owner) {}

        /** Column by column, as mail and meetings. */
        @Arg(column = "id", javaType = UUID.class)
        @Arg(column = "owner", javaType = UUID.class)
        @ResultType(Owned.class)
        @Options(fetchSize = SellingMapper.AT_A_TIME)
        @Select("SELECT id, owner FROM account WHERE archived_at IS NULL")
        void accounts(ResultHandler<Owned> each);

        @Select("""
                SELECT r.id, r.owner, t.ours, t.theirs, t.met,
                """ + TimelineMapper.LAST_TOUCH + " AS last, " + TimelineMapper.NEXT_MEETING + """
                 IS NOT NULL AS has_next, coalesce(t.hides, false) AS hides
                FROM account r LEFT JOIN (
                    SELECT l.record, max(l.at) FILTER (WHERE a.kind = 'mail' AND a.authors <> '{}' AND
                """ + READS
                + ") AS ours, max(l.at) FILTER (WHERE a.kind = 'mail' AND a.authors = '{}' AND " + READS
                + """
                        ) AS theirs, max(l.at) FILTER (WHERE a.kind = 'meeting' AND a.facts::jsonb ->> 'state' IS DISTINCT FROM 'CANCELLED' AND
                """ + READS + ") AS met, bool_or(NOT " + READS + """
                        ) AS hides
                    FROM link l JOIN activity a ON a.id = l.activity AND
                """ + TimelineMapper.FACE + """
                    WHERE l.kind = 'account' AND l.at <= #{now} AND NOT l.blind AND l.record = ANY(#{accounts}) GROUP BY l.record) t ON t.record = r.id
                WHERE r.id = ANY(#{accounts})
                """)
        List<Touch> touches(
                @Param("accounts") UUID[] accounts, @Param("viewer") UUID[] viewer, @Param("now") Instant now);

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

    MeasureRows(Mapped mapper, SellingMapper selling, SellingKeeper keeper, TouchKeeper touching) {
        this.mapper = mapper;
        this.selling = selling;
        this.keeper = keeper;
        this.touching = touching;
    }

    public Rows all(Viewer viewer, Instant now) {
        SellingKeeper.Kept kept = keeper.current();
        return new Rows(kept.history().seenBy(viewer, now), kept.teams(), kept.stages());
    }

    public Touched touched(Viewer viewer, Instant now) {
        return touching.current(now, kept -> {
            List<Touches.Account> accounts = new ArrayList<>();
            List<UUID> asked = new ArrayList<>();
            boolean readsAnything = Timelines.readsAnything(viewer);
            mapper.accounts(r -> {
                Mapped.Owned account = r.getResultObject();
                if (!viewer.oversight().covers(account.owner())) {
                    return;
                }
                if (readsAnything && kept.many().contains(account.id())) {
                    asked.add(account.id());
                } else {
                    accounts.add(kept.history().seen(account.id(), account.owner(), viewer, now));
                }
            });
            if (!asked.isEmpty()) {
                mapper.touches(asked.toArray(UUID[]::new), Timelines.ids(viewer), now)
                        .forEach(t -> accounts.add(new Touches.Account(
                                t.id(), t.owner(), t.ours(), t.theirs(), t.met(), t.last(), t.hasNext(), t.hides())));
            }
            return new Touched(accounts, new TeamHistory(selling.teams()));
        });
    }

    /** Mail and meetings of a time. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS, isolation = Isolation.REPEATABLE_READ)
    public Exchanges exchanges(Viewer viewer, Instant from, Instant until, Instant now) {
        boolean readsAnything = Timelines.readsAnything(viewer);
        List<Exchanged> all = new ArrayList<>();
        Map<List<UUID>, List<UUID>> once = new HashMap<>();
        mapper.contacted(Timelines.ids(viewer), from, until, r -> {
            Mapped.Contacted c = r.getResultObject();
            List<UUID> accounts = once.computeIfAbsent(sorted(c.accounts()), k -> k);
            List<UUID> others = sorted(c.others());
            all.add(new Exchanged(
                    c.activity(),
                    c.at(),
                    readsAnything && c.readable() ? what(c, now) : null,
                    c.owner(),
                    accounts,
                    !accounts.isEmpty() ? accounts.get(0) : !others.isEmpty() ? others.get(0) : c.activity()));
        });
        return new Exchanges(all, new TeamHistory(selling.teams()));
    }

    private static List<UUID> sorted(UUID @Nullable [] records) {
        return records == null ? List.of() : Arrays.stream(records).sorted().toList();
    }

    private static What what(Mapped.Contacted c, Instant now) {
        if (c.mail()) {
            return c.written() ? What.MAIL_OUT : What.MAIL_IN;
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
