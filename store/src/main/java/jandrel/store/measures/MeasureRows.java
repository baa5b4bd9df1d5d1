package jandrel.store.measures;

import jandrel.core.measures.Contacts;
import jandrel.core.measures.SellingHistory;
import jandrel.core.measures.TeamHistory;
import jandrel.core.measures.Touches;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.timeline.TimelineMapper;
import jandrel.store.timeline.Timelines;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What measures count, as far as a viewer may read it. */
@Component
public class MeasureRows {
    private final Mapped mapper;
    private final SellingMapper selling;
    private final SellingKeeper keeper;
    private final TouchKeeper touching;
    private final ContactKeeper contacting;

    /** Everything from one snapshot. */
    public record Rows(SellingHistory.Seen seen, TeamHistory teams, List<String> stages) {}

    public record Exchanges(Contacts all, TeamHistory teams) {}

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

        record Title(UUID id, String title, UUID @Nullable [] readers) {}

        String READS = "(a.readers IS NULL OR a.readers && #{viewer}::uuid[])";

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
                UNION ALL SELECT id, 'person', name FROM person WHERE id = ANY(#{ids})
                """)
        List<Named> named(@Param("ids") UUID[] ids);
    }

    MeasureRows(
            Mapped mapper,
            SellingMapper selling,
            SellingKeeper keeper,
            TouchKeeper touching,
            ContactKeeper contacting) {
        this.mapper = mapper;
        this.selling = selling;
        this.keeper = keeper;
        this.touching = touching;
        this.contacting = contacting;
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
            Predicate<Readers> reads = Visibility.full(viewer);
            kept.owners().forEach((account, owned) -> {
                UUID owner = owned.orElse(null);
                if (!viewer.oversight().covers(owner)) {
                    return;
                }
                if (readsAnything && kept.many().contains(account)) {
                    asked.add(account);
                } else {
                    accounts.add(kept.history().seen(account, owner, reads, now));
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
    public Exchanges exchanges(Viewer viewer, Instant from, Instant until, Instant now) {
        return contacting.current(
                from, until, days -> new Exchanges(new Contacts(days, viewer, now), new TeamHistory(selling.teams())));
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
