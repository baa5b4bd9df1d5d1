package jandrel.store.timeline;

import jandrel.core.visibility.Viewer;
import jandrel.store.kernel.ChangeCursor;
import jandrel.store.kernel.ReadTimeout;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** All decisions on items of people in somebody's oversight, page by page, or those alone that changed since an earlier export. */
@Component
public class DecisionExport {
    private final Mapped mapper;
    private final Decisions decisions;

    @Mapper
    interface Mapped {
        @Select("""
                SELECT x.id FROM sighting x WHERE x.id > #{after}
                    AND (#{overseen}::uuid[] IS NULL OR x.person = ANY(#{overseen}::uuid[])) ORDER BY x.id LIMIT #{most}
                """)
        List<UUID> all(
                @Param("after") UUID after, @Param("overseen") UUID @Nullable [] overseen, @Param("most") int most);

        /** How somebody gets a decision depends on who reads the activity that it stands on, too, and on what was ruled. */
        @Select(
                "SELECT s.id FROM sighting s WHERE s.id > #{after} AND (#{overseen}::uuid[] IS NULL OR s.person = ANY(#{overseen}::uuid[]))"
                        + " AND (EXISTS (SELECT FROM sighting x WHERE x.id = s.id AND "
                        + ChangeCursor.SINCE
                        + ") OR EXISTS (SELECT FROM activity x WHERE x.id = s.item AND x.item = s.item AND s.id = ANY(x.copies) AND "
                        + ChangeCursor.SINCE
                        + ") OR EXISTS (SELECT FROM activity x WHERE x.id <> x.item AND x.item = s.item AND s.id = ANY(x.copies) AND "
                        + ChangeCursor.SINCE
                        + ") OR EXISTS (SELECT FROM ruling x WHERE x.item = s.item AND "
                        + ChangeCursor.SINCE
                        + ")) ORDER BY s.id LIMIT #{most}")
        List<UUID> changed(
                @Param("after") UUID after,
                @Param("since") long since,
                @Param("overseen") UUID @Nullable [] overseen,
                @Param("most") int most);

        @Select(
                "SELECT x.id FROM decision_gone x WHERE x.id > #{after} AND " + ChangeCursor.SINCE
                        + " AND (#{overseen}::uuid[] IS NULL OR x.person = ANY(#{overseen}::uuid[])) AND NOT EXISTS (SELECT FROM sighting s WHERE s.id = x.id) ORDER BY x.id LIMIT #{most}")
        List<UUID> gone(
                @Param("after") UUID after,
                @Param("since") long since,
                @Param("overseen") UUID @Nullable [] overseen,
                @Param("most") int most);
    }

    DecisionExport(Mapped mapper, Decisions decisions) {
        this.mapper = mapper;
        this.decisions = decisions;
    }

    /**
     * The next in order of their ids.
     *
     * @param since an earlier {@link ChangeCursor#current()}; 0 for all
     * @return empty after the last
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Decisions.Shown> next(Viewer viewer, long since, UUID after, int most) {
        UUID[] overseen = viewer.oversight().limit();
        List<UUID> ids = since == 0 ? mapper.all(after, overseen, most) : mapper.changed(after, since, overseen, most);
        Map<UUID, Decisions.Shown> shown = decisions.some(ids, viewer).stream()
                .collect(Collectors.toMap(Decisions.Shown::id, Function.identity()));
        return ids.stream().map(shown::get).filter(s -> s != null).toList();
    }

    /** The next of those that there are no more, by id. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<UUID> gone(Viewer viewer, long since, UUID after, int most) {
        return mapper.gone(after, since, viewer.oversight().limit(), most);
    }
}
