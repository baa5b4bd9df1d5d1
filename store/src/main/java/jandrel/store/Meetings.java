package jandrel.store;

import jandrel.core.item.MeetingItem;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Meetings as a calendar shows them. */
@Component
public class Meetings {
    private final Mapped mapper;

    /**
     * Which meetings.
     *
     * @param people whose; empty for everybody's
     * @param record on whose timeline; null for any
     */
    public record Wanted(
            Instant from,
            Instant until,
            List<UUID> people,
            @Nullable UUID record) {
        public Wanted {
            people = List.copyOf(people);
        }
    }

    /**
     * @param facts only for whom reads it in full
     * @param told {@code held} or {@code missed} where somebody said so; else empty
     * @param marks rules that mark it, such as {@code CANCELLED_MARKED}
     * @param account the name of an account that it is about; empty for none, and in an outline
     * @param source the calendar that shows it, for the first of its owners; null for none
     */
    public record Meeting(
            UUID id,
            Instant begins,
            Instant ends,
            boolean allDay,
            Visibility visibility,
            List<UUID> owners,
            @Nullable MeetingItem facts,
            String told,
            List<String> marks,
            String account,
            @Nullable Integer source) {}

    /** @param by whoever moved it, by name */
    public record Moved(Instant at, Instant wasBegins, Instant wasEnds, Instant begins, Instant ends, String by) {}

    /** Told by somebody. */
    public record Told(String state, String by) {}

    @Mapper
    interface Mapped {
        record Row(
                UUID id,
                Instant at,
                Instant ends,
                boolean allDay,
                @Nullable String facts,
                UUID @Nullable [] readers,
                UUID[] owners,
                String trail,
                @Nullable String told,
                @Nullable String account,
                @Nullable Integer source) {}

        /** A meeting of many days began long before; none that lasts more than sixty is looked for. */
        @Select("""
                SELECT a.id, a.at, a.ends, a.all_day, a.facts, a.readers, a.owners, a.trail,
                       (SELECT state FROM told t WHERE t.item = a.id) AS told,
                       (SELECT min(c.name) FROM link l JOIN account c ON c.id = l.record
                           WHERE l.activity = a.id AND l.evidence <> 'PART') AS account,
                       (SELECT min(s.source) FROM sighting s WHERE s.item = a.id AND s.person = a.owners[1] AND NOT s.gone) AS source
                FROM activity a
                WHERE a.kind = 'meeting' AND a.at < #{w.until} AND a.at > #{w.from}::timestamptz - interval '60 days'
                  AND a.ends >= #{w.from}
                  AND (cardinality(#{people}::uuid[]) = 0 OR a.owners && #{people}::uuid[])
                  AND (#{w.record}::uuid IS NULL
                       OR EXISTS (SELECT FROM link l WHERE l.record = #{w.record} AND l.at = a.at AND l.activity = a.id))
                ORDER BY a.at, a.id LIMIT #{most}
                """)
        List<Row> between(@Param("w") Wanted wanted, @Param("people") UUID[] people, @Param("most") int most);

        @Select(
                "SELECT at, was_begins, was_ends, begins, ends, by_name AS by FROM moved WHERE item = #{item} ORDER BY at")
        List<Moved> moved(@Param("item") UUID item);

        @Select("SELECT state, by_name AS by FROM told WHERE item = #{item}")
        Optional<Told> told(@Param("item") UUID item);

        @Insert("""
                INSERT INTO told (item, state, by_name) VALUES (#{item}, #{state}, #{by})
                ON CONFLICT (item) DO UPDATE SET state = excluded.state, by_name = excluded.by_name, at = now()
                """)
        int tell(@Param("item") UUID item, @Param("state") String state, @Param("by") String by);

        @Delete("DELETE FROM told WHERE item = #{item}")
        int untell(@Param("item") UUID item);
    }

    Meetings(Mapped mapper) {
        this.mapper = mapper;
    }

    /** In order of their beginning. */
    @Transactional(readOnly = true)
    public List<Meeting> between(Wanted wanted, Viewer viewer, int most) {
        return mapper.between(wanted, wanted.people().toArray(UUID[]::new), most).stream()
                .map(row -> meeting(row, viewer))
                .filter(m -> m.visibility() != Visibility.HIDDEN)
                .toList();
    }

    private static Meeting meeting(Mapped.Row row, Viewer viewer) {
        Readers readers = Timelines.readers(row.readers());
        Visibility visibility = Visibility.of(viewer, readers);
        boolean full = visibility == Visibility.FULL;
        return new Meeting(
                row.id(),
                row.at(),
                row.ends(),
                row.allDay(),
                visibility,
                Arrays.asList(row.owners()),
                full && row.facts() != null ? (MeetingItem) Json.item("meeting", row.facts()) : null,
                row.told() == null ? "" : row.told(),
                full
                        ? Json.trail(row.trail()).stream()
                                .map(r -> r.rule().name())
                                .toList()
                        : List.of(),
                full && row.account() != null ? row.account() : "",
                row.source());
    }

    public List<Moved> moved(UUID item) {
        return mapper.moved(item);
    }

    public Optional<Told> told(UUID item) {
        return mapper.told(item);
    }

    /** Says how a meeting went; an empty state takes that back. */
    @Transactional
    public void tell(UUID item, String state, String by) {
        if (state.isEmpty()) {
            mapper.untell(item);
        } else {
            mapper.tell(item, state.toLowerCase(Locale.ROOT), by);
        }
    }
}
