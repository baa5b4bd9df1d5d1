package jandrel.store.timeline;

import jandrel.core.decide.Rule;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.kernel.ChangeCursor;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.timeline.Timelines.Linked;
import jandrel.store.timeline.Timelines.Owner;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.ResultMap;
import org.apache.ibatis.annotations.Results;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** All activities, page by page, or those alone that changed since an earlier export. */
@Component
public class ActivityExport {
    private static final Comparator<Linked> BY_KIND =
            Comparator.comparing(Linked::kind).thenComparing(Linked::id);
    private static final Map<String, String> MARKS =
            Map.of(Rule.CANCELLED_MARKED.name(), "cancelled", Rule.GONE_MARKED.name(), "deleted");
    private static final UUID[] NOBODY = {};

    private final Mapped mapper;
    private final Timelines timelines;

    /**
     * An activity as its viewer gets it.
     *
     * @param mark {@code cancelled}, {@code deleted}, or empty
     * @param ours whether one of our people wrote it
     * @param text empty in an outline, and where it was not asked for
     */
    public record Exported(
            UUID id,
            String kind,
            Instant at,
            @Nullable Instant ends,
            boolean allDay,
            Visibility visibility,
            Heading heading,
            List<Owner> owners,
            String mark,
            boolean ours,
            List<Linked> links,
            String text) {}

    @Mapper
    interface Mapped {
        /** Of activities, not of their faces: which of those a viewer gets is asked next. */
        @Select("SELECT x.id FROM activity x WHERE x.face = 0 AND x.id > #{after} AND " + ChangeCursor.SINCE
                + " ORDER BY x.id LIMIT #{most}")
        List<UUID> changed(@Param("after") UUID after, @Param("since") long since, @Param("most") int most);

        /** Where a page of all ends: by the index alone. */
        @Select(
                "SELECT id FROM (SELECT x.id FROM activity x WHERE x.face = 0 AND x.id > #{after} ORDER BY x.id LIMIT #{most}) p"
                        + " ORDER BY id DESC LIMIT 1")
        Optional<UUID> last(@Param("after") UUID after, @Param("most") int most);

        /** @param marked what of its trail says that it is marked; null for nothing */
        record Row(
                UUID id,
                String kind,
                Instant at,
                @Nullable Instant ends,
                boolean allDay,
                String facts,
                UUID @Nullable [] readers,
                UUID[] owners,
                boolean brought,
                UUID[] authors,
                @Nullable String marked) {}

        /** In the trail, as JSON: no text that somebody wrote can hold these quotes. */
        String ROWS = """
                SELECT a.id, a.kind, a.at, a.ends, a.all_day, a.facts, a.readers, a.owners, #{person}::uuid = ANY(a.mine || a.elsewhere) AS brought, a.authors,
                    substring(a.trail FROM '"rule":"(CANCELLED_MARKED|GONE_MARKED)"') AS marked FROM activity a WHERE
                """;

        /** Pages of all are a piece of an index, without a list of ids. */
        String RANGE = "a.id > #{after} AND a.id <= #{last}";

        String SOME = "a.id = ANY(#{ids})";

        /** Told column by column: to have them found by their names costs more for each row than to read it. */
        @Arg(column = "id", javaType = UUID.class)
        @Arg(column = "kind", javaType = String.class)
        @Arg(column = "at", javaType = Instant.class)
        @Arg(column = "ends", javaType = Instant.class)
        @Arg(column = "all_day", javaType = boolean.class)
        @Arg(column = "facts", javaType = String.class)
        @Arg(column = "readers", javaType = UUID[].class)
        @Arg(column = "owners", javaType = UUID[].class)
        @Arg(column = "brought", javaType = boolean.class)
        @Arg(column = "authors", javaType = UUID[].class)
        @Arg(column = "marked", javaType = String.class)
        @Results(id = "row")
        @Select(ROWS + RANGE + " AND " + TimelineMapper.FACE + " ORDER BY a.id")
        List<Row> all(
                @Param("after") UUID after,
                @Param("last") UUID last,
                @Param("viewer") UUID[] viewer,
                @Param("person") UUID person);

        @ResultMap("row")
        @Select(ROWS + SOME + " AND " + TimelineMapper.FACE + " ORDER BY a.id")
        List<Row> some(@Param("ids") UUID[] ids, @Param("viewer") UUID[] viewer, @Param("person") UUID person);

        @Select("SELECT x.id FROM activity_gone x WHERE x.id > #{after} AND " + ChangeCursor.SINCE
                + " AND NOT EXISTS (SELECT FROM activity a WHERE a.id = x.id) ORDER BY x.id LIMIT #{most}")
        List<UUID> gone(@Param("after") UUID after, @Param("since") long since, @Param("most") int most);

        record LinkOf(UUID activity, String kind, UUID record, String evidence, boolean blind) {}

        String LINKS = """
                SELECT a.activity, a.kind, a.record, a.evidence, a.blind
                FROM (SELECT activity, kind, record, evidence, blind, activity AS id FROM link) a WHERE
                """;

        @Arg(column = "activity", javaType = UUID.class)
        @Arg(column = "kind", javaType = String.class)
        @Arg(column = "record", javaType = UUID.class)
        @Arg(column = "evidence", javaType = String.class)
        @Arg(column = "blind", javaType = boolean.class)
        @Results(id = "link")
        @Select(LINKS + RANGE)
        List<LinkOf> allLinks(@Param("after") UUID after, @Param("last") UUID last);

        @ResultMap("link")
        @Select(LINKS + SOME)
        List<LinkOf> someLinks(@Param("ids") UUID[] ids);

        @Select("""
                SELECT id, name FROM contact WHERE id = ANY(#{ids}) UNION ALL SELECT id, name FROM account WHERE id = ANY(#{ids})
                UNION ALL SELECT id, name FROM lead WHERE id = ANY(#{ids}) UNION ALL SELECT id, name FROM opportunity WHERE id = ANY(#{ids})
                """)
        List<TimelineMapper.Name> recordNames(@Param("ids") UUID[] ids);

        record TextOf(UUID id, String text) {}

        @Select("SELECT a.id, b.text FROM activity a JOIN body b ON b.item = a.item AND b.content = a.content"
                + " WHERE a.id = ANY(#{ids}) AND " + TimelineMapper.FACE)
        List<TextOf> texts(@Param("ids") UUID[] ids, @Param("viewer") UUID[] viewer);
    }

    ActivityExport(Mapped mapper, Timelines timelines) {
        this.mapper = mapper;
        this.timelines = timelines;
    }

    /**
     * Which activities a page is of: cheap to know, so that pages can be read side by side.
     *
     * @param ids those that changed; null for all between the two
     */
    public record Bounds(UUID after, UUID last, UUID @Nullable [] ids) {}

    /** Names of records, so that those who stand on many activities are looked up once an export; for any number of threads. */
    public static final class Names {
        private static final int MOST = 50_000;
        private final Map<UUID, String> known = new ConcurrentHashMap<>();
    }

    /**
     * The next in order of their ids.
     *
     * @param since an earlier {@link ChangeCursor#current()}; 0 for all
     * @return nothing after the last
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Optional<Bounds> next(long since, UUID after, int most) {
        if (since == 0) {
            return mapper.last(after, most).map(last -> new Bounds(after, last, null));
        }
        UUID[] ids = mapper.changed(after, since, most).toArray(UUID[]::new);
        return ids.length == 0 ? Optional.empty() : Optional.of(new Bounds(after, ids[ids.length - 1], ids));
    }

    /** Those of them that the viewer gets, by id. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Exported> page(Viewer viewer, Bounds of, boolean withText, Names names) {
        UUID[] who = Timelines.ids(viewer);
        UUID person = viewer.personOrNobody();
        UUID[] ids = of.ids();
        return ids == null
                ? page(
                        viewer,
                        mapper.all(of.after(), of.last(), who, person),
                        mapper.allLinks(of.after(), of.last()),
                        withText,
                        names)
                : page(viewer, mapper.some(ids, who, person), mapper.someLinks(ids), withText, names);
    }

    private List<Exported> page(
            Viewer viewer, List<Mapped.Row> rows, List<Mapped.LinkOf> links, boolean withText, Names names) {
        Map<UUID, List<Mapped.LinkOf>> linksOf = new HashMap<>();
        links.forEach(l ->
                linksOf.computeIfAbsent(l.activity(), a -> new ArrayList<>(2)).add(l));
        Map<UUID, String> named = named(links, names);
        Sharing sharing = new Sharing(viewer, rows);
        Map<UUID, String> texts = withText ? texts(rows, sharing) : Map.of();
        List<Exported> exported = new ArrayList<>(rows.size());
        for (Mapped.Row row : rows) {
            Visibility visibility = sharing.visibility(row);
            if (visibility != Visibility.HIDDEN) {
                boolean full = visibility == Visibility.FULL;
                boolean wrote = sharing.wrote(row);
                exported.add(new Exported(
                        row.id(),
                        row.kind(),
                        row.at(),
                        row.ends(),
                        row.allDay(),
                        visibility,
                        full ? sharing.heading(row, wrote) : Heading.NONE,
                        sharing.owners(row),
                        full && row.marked() != null ? MARKS.getOrDefault(row.marked(), "") : "",
                        row.authors().length > 0,
                        full ? links(linksOf.getOrDefault(row.id(), List.of()), wrote, named) : List.of(),
                        full ? texts.getOrDefault(row.id(), "") : ""));
            }
        }
        return exported;
    }

    private Map<UUID, String> named(List<Mapped.LinkOf> links, Names names) {
        Map<UUID, String> named = new HashMap<>();
        Set<UUID> unknown = new HashSet<>();
        for (Mapped.LinkOf link : links) {
            String name = names.known.get(link.record());
            if (name == null) {
                unknown.add(link.record());
            } else {
                named.put(link.record(), name);
            }
        }
        if (!unknown.isEmpty()) {
            if (names.known.size() > Names.MOST) {
                names.known.clear();
            }
            mapper.recordNames(unknown.toArray(UUID[]::new)).forEach(n -> {
                names.known.put(n.id(), n.name());
                named.put(n.id(), n.name());
            });
        }
        return named;
    }

    private Map<UUID, String> texts(List<Mapped.Row> rows, Sharing sharing) {
        UUID[] full = rows.stream()
                .filter(r -> sharing.visibility(r) == Visibility.FULL)
                .map(Mapped.Row::id)
                .toArray(UUID[]::new);
        Map<UUID, String> texts = new HashMap<>();
        mapper.texts(full, Timelines.ids(sharing.viewer)).forEach(t -> texts.put(t.id(), t.text()));
        return texts;
    }

    /** Who has a blind copy is for its sender to know. */
    private static List<Linked> links(List<Mapped.LinkOf> all, boolean wrote, Map<UUID, String> names) {
        List<Linked> links = new ArrayList<>(all.size());
        for (Mapped.LinkOf l : all) {
            if (wrote || !l.blind()) {
                links.add(new Linked(l.kind(), l.record(), names.getOrDefault(l.record(), ""), l.evidence()));
            }
        }
        links.sort(BY_KIND);
        return links;
    }

    /** What one viewer gets of a page; what is asked of many of its rows is found out once. */
    private final class Sharing {
        private final Viewer viewer;
        private final Visibility ofWhatEverybodyReads;
        private final Map<UUID, Owner> names = new HashMap<>();
        private @Nullable Set<String> addresses;

        Sharing(Viewer viewer, List<Mapped.Row> rows) {
            this.viewer = viewer;
            ofWhatEverybodyReads = Visibility.of(viewer, Readers.EVERYONE);
            Set<UUID> ids = new HashSet<>(Set.of(viewer.personOrNobody()));
            rows.forEach(r -> Collections.addAll(ids, r.owners()));
            timelines.names(ids).forEach((id, name) -> names.put(id, new Owner(id, name)));
        }

        Visibility visibility(Mapped.Row row) {
            return row.readers() == null
                    ? ofWhatEverybodyReads
                    : Visibility.of(viewer, Timelines.readers(row.readers()));
        }

        boolean wrote(Mapped.Row row) {
            return Arrays.asList(row.authors()).contains(viewer.personOrNobody());
        }

        List<Owner> owners(Mapped.Row row) {
            return Timelines.whose(row.owners(), row.brought() ? new UUID[] {viewer.personOrNobody()} : NOBODY, viewer)
                    .stream()
                    .map(o -> names.getOrDefault(o, new Owner(o, "")))
                    .toList();
        }

        Heading heading(Mapped.Row row, boolean wrote) {
            Heading heading = Json.read(row.facts(), Heading.class);
            if (wrote || !row.kind().equals("mail") || !heading.hasBlind()) {
                return heading;
            }
            if (addresses == null) {
                addresses = timelines.addresses(viewer);
            }
            return heading.openly(addresses);
        }
    }

    /** The next of those that stood on timelines and do no more, by id. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<UUID> gone(long since, UUID after, int most) {
        return mapper.gone(after, since, most);
    }
}
