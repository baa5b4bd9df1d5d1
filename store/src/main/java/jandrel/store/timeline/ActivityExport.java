package jandrel.store.timeline;

import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.timeline.Timelines.Entry;
import jandrel.store.timeline.Timelines.Linked;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * All activities, page by page, or those alone that changed since an earlier export. What changed is told by the transaction that wrote a
 * row (PostgreSQL's xmin): nothing is kept for it, and a change that ran while an export was under way comes with the next one.
 */
@Component
public class ActivityExport {
    /** Transactions after which a cursor is too old: their numbers come round, and say nothing any more. */
    public static final long OLDEST = 1_000_000_000L;

    /** Before the first in order. */
    public static final UUID FIRST = new UUID(0, 0);

    private final Mapped mapper;
    private final Timelines timelines;

    /** @param text empty in an outline, and where it was not asked for */
    public record Exported(Entry entry, List<Linked> links, String text) {}

    /** @param last the id that the next page comes after; null where this is the last */
    public record Page(
            List<Exported> activities,
            @org.jspecify.annotations.Nullable UUID last) {}

    @Mapper
    interface Mapped {
        /** What is yet to be committed has no lower number than this. */
        @Select("SELECT pg_snapshot_xmin(pg_current_snapshot())::text::bigint")
        @org.apache.ibatis.annotations.Options(flushCache = org.apache.ibatis.annotations.Options.FlushCachePolicy.TRUE)
        long cursor();

        /**
         * Whether a row x was written by that transaction or a later one. Rows know the lower half of its number alone; one that is older
         * than two billion transactions looks new, and comes once more.
         */
        String SINCE = "(#{since} = 0 OR ((x.xmin::text::bigint - #{since}) & 4294967295) < 2147483648)";

        /** Of activities, not of their faces: which of those a viewer gets is asked next. */
        @Select("SELECT x.id FROM activity x WHERE x.face = 0 AND x.id > #{after} AND " + SINCE
                + " ORDER BY x.id LIMIT #{most}")
        List<UUID> next(@Param("after") UUID after, @Param("since") long since, @Param("most") int most);

        @Select("SELECT a.id, a.kind, a.at, a.at AS sorted, " + TimelineMapper.COLUMNS
                + ", NULL AS evidence FROM activity a WHERE a.id = ANY(#{ids}) AND " + TimelineMapper.FACE
                + " ORDER BY a.id")
        List<TimelineMapper.ActivityRow> some(@Param("ids") UUID[] ids, @Param("viewer") UUID[] viewer);

        @Select("SELECT x.id FROM activity_gone x WHERE x.id > #{after} AND " + SINCE
                + " AND NOT EXISTS (SELECT FROM activity a WHERE a.id = x.id) ORDER BY x.id LIMIT #{most}")
        List<UUID> gone(@Param("after") UUID after, @Param("since") long since, @Param("most") int most);

        record LinkOf(UUID activity, String kind, UUID record, String name, String evidence, boolean blind) {}

        @Select("""
                SELECT l.activity, l.kind, l.record, coalesce(c.name, d.name, a.name, o.name, '') AS name, l.evidence, l.blind FROM link l
                LEFT JOIN contact c ON l.kind = 'contact' AND c.id = l.record
                LEFT JOIN lead d ON l.kind = 'lead' AND d.id = l.record
                LEFT JOIN account a ON l.kind = 'account' AND a.id = l.record
                LEFT JOIN opportunity o ON l.kind = 'opportunity' AND o.id = l.record
                WHERE l.activity = ANY(#{ids}) ORDER BY l.activity, l.kind, l.record
                """)
        List<LinkOf> links(@Param("ids") UUID[] ids);

        record TextOf(UUID id, String text) {}

        @Select("SELECT a.id, b.text FROM activity a JOIN body b ON b.item = a.item AND b.content = a.content"
                + " WHERE a.id = ANY(#{ids}) AND " + TimelineMapper.FACE)
        List<TextOf> texts(@Param("ids") UUID[] ids, @Param("viewer") UUID[] viewer);
    }

    ActivityExport(Mapped mapper, Timelines timelines) {
        this.mapper = mapper;
        this.timelines = timelines;
    }

    /** From where the next export goes on; greater than 0. */
    @Transactional(readOnly = true)
    public long cursor() {
        return mapper.cursor();
    }

    /**
     * The next of those that the viewer gets, by id.
     *
     * @param since an earlier {@link #cursor()}; 0 for all
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Page page(Viewer viewer, long since, UUID after, int most, boolean withText) {
        List<UUID> ids = mapper.next(after, since, most);
        if (ids.isEmpty()) {
            return new Page(List.of(), null);
        }
        UUID[] who = Timelines.ids(viewer);
        List<Entry> entries = timelines.entries(mapper.some(ids.toArray(UUID[]::new), who), viewer);
        UUID[] full = entries.stream()
                .filter(e -> e.visibility() == Visibility.FULL)
                .map(Entry::id)
                .toArray(UUID[]::new);
        Map<UUID, List<Mapped.LinkOf>> links = new HashMap<>();
        mapper.links(full)
                .forEach(l -> links.computeIfAbsent(l.activity(), a -> new ArrayList<>())
                        .add(l));
        Map<UUID, String> texts = new HashMap<>();
        if (withText) {
            mapper.texts(full, who).forEach(t -> texts.put(t.id(), t.text()));
        }
        return new Page(
                entries.stream()
                        .map(e -> new Exported(
                                e,
                                links.getOrDefault(e.id(), List.of()).stream()
                                        // who has a blind copy is for its sender to know
                                        .filter(l -> e.wrote() || !l.blind())
                                        .map(l -> new Linked(l.kind(), l.record(), l.name(), l.evidence()))
                                        .toList(),
                                texts.getOrDefault(e.id(), "")))
                        .toList(),
                ids.get(ids.size() - 1));
    }

    /** The next of those that stood on timelines and do no more, by id. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<UUID> gone(long since, UUID after, int most) {
        return mapper.gone(after, since, most);
    }
}
