package jandrel.store.meetings;

import jandrel.core.item.MeetingItem;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.timeline.TimelineMapper;
import jandrel.store.timeline.Timelines;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
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
     * @param records on whose timelines; empty for any
     */
    public record Wanted(Instant from, Instant until, List<UUID> people, List<UUID> records) {
        public Wanted {
            people = List.copyOf(people);
            records = List.copyOf(records);
        }
    }

    /**
     * @param facts only for whom reads it in full
     * @param key what its copies name themselves by
     * @param authors whose own meeting it is, among those who brought what the viewer gets
     * @param outcome {@code held} or {@code missed} where somebody said so; else empty
     * @param marks rules that mark it, such as {@code CANCELLED_MARKED}
     * @param account the name of an account that it is about; empty for none, and in an outline
     * @param source the calendar that shows it, for the first of its owners; null for none
     * @param said what somebody said came of it, empty where that was taken back; null where nobody did, and in an outline
     * @param takesTime whether its owners have time for nothing else meanwhile; whoever sees that it is there may know
     */
    public record Meeting(
            UUID id,
            Instant begins,
            Instant ends,
            boolean allDay,
            Visibility visibility,
            UUID key,
            List<UUID> owners,
            List<UUID> authors,
            @Nullable MeetingItem facts,
            String outcome,
            List<String> marks,
            String account,
            @Nullable Integer source,
            boolean takesTime,
            @Nullable String said) {}

    /** @param by whoever moved it, by name */
    public record Moved(Instant at, Instant wasBegins, Instant wasEnds, Instant begins, Instant ends, String by) {}

    /** When somebody has time for nothing else, whatever it is and wherever it stands. */
    public record Busy(UUID person, Instant begins, Instant ends) {}

    /** Told by somebody. */
    public record Outcome(String state, String by) {}

    @Mapper
    interface Mapped {
        record Row(
                UUID id,
                Instant at,
                Instant ends,
                boolean allDay,
                @Nullable String facts,
                UUID @Nullable [] readers,
                UUID item,
                UUID[] owners,
                UUID[] authors,
                UUID[] brought,
                String trail,
                @Nullable String outcome,
                @Nullable String account,
                @Nullable Integer source,
                @Nullable String said) {}

        record Day(UUID id, LocalDate day, long count) {}

        /** Most are one person's, whom a hashed look-up finds; two arrays are compared only where there are several. */
        String WHOSE = """
                 AND (cardinality(#{people}::uuid[]) = 0 OR a.owners[1] = ANY(#{people}::uuid[])
                      OR cardinality(a.owners) > 1 AND a.owners && #{people}::uuid[])
                 AND (cardinality(#{records}::uuid[]) = 0
                      OR EXISTS (SELECT FROM link l WHERE l.record = ANY(#{records}::uuid[]) AND l.activity = a.id
                          AND (a.faces > 1 OR l.at = a.at)))
                """;

        /**
         * Those that a span touches: the many short ones by when they begin, the few long ones by an index of their own, and those that
         * say different things to different people.
         */
        String TOUCHED = """
                SELECT a.id, a.at, a.all_day FROM activity a WHERE a.kind = 'meeting' AND a.faces = 1 AND a.at < #{w.until}
                 AND a.at > #{w.from}::timestamptz - interval '24 hours' AND a.ends >= #{w.from}
                """ + WHOSE + """
                UNION ALL SELECT a.id, a.at, a.all_day FROM activity a WHERE a.kind = 'meeting' AND a.faces = 1
                 AND a.at <= #{w.from}::timestamptz - interval '24 hours' AND a.at > #{w.from}::timestamptz - interval '60 days'
                 AND a.ends - a.at > interval '24 hours' AND a.ends >= #{w.from}
                """ + WHOSE + """
                UNION ALL SELECT a.id, a.at, a.all_day FROM activity a WHERE a.kind = 'meeting' AND a.faces > 1 AND a.at < #{w.until}
                 AND a.at > #{w.from}::timestamptz - interval '60 days' AND a.ends >= #{w.from} AND
                """ + TimelineMapper.FACE + WHOSE;

        String COLUMNS = """
                SELECT a.id, a.at, a.ends, a.all_day, a.facts, a.readers, a.item, a.owners, a.authors, a.mine || a.elsewhere AS brought, a.trail,
                """ + TimelineMapper.OUTCOME + """
                 AS outcome,
                       (SELECT min(c.name) FROM link l JOIN account c ON c.id = l.record
                           WHERE l.activity = a.id AND l.evidence <> 'PART') AS account,
                       (SELECT min(s.source) FROM sighting s WHERE s.item = a.item AND s.person = a.owners[1] AND NOT s.gone) AS source,
                """ + TimelineMapper.RESULT + " AS said FROM activity a ";

        /** The first of each day, and how many that has; what all of them say is asked for afterwards, for these alone. */
        @Select("""
                SELECT id, day, count FROM (
                    SELECT id, day, row_number() OVER (PARTITION BY day ORDER BY at, id) AS n, count(*) OVER (PARTITION BY day) AS count
                    FROM (SELECT id, at, greatest((#{w.from}::timestamptz AT TIME ZONE #{zone})::date,
                              CASE WHEN all_day THEN (at AT TIME ZONE 'UTC')::date ELSE (at AT TIME ZONE #{zone})::date END) AS day
                          FROM (
                """ + TOUCHED + """
                          ) touched) each) every WHERE n <= #{most} ORDER BY day, n
                """)
        List<Day> days(
                @Param("w") Wanted wanted,
                @Param("people") UUID[] people,
                @Param("records") UUID[] records,
                @Param("viewer") UUID[] viewer,
                @Param("zone") String zone,
                @Param("most") int most);

        @Select(COLUMNS + " WHERE a.id = ANY(#{ids}) AND a.kind = 'meeting' AND " + TimelineMapper.FACE
                + " ORDER BY a.at, a.id")
        List<Row> some(@Param("ids") UUID[] ids, @Param("viewer") UUID[] viewer);

        @Select(COLUMNS + " WHERE a.id IN (SELECT id FROM (" + TOUCHED + ") t ORDER BY at, id LIMIT #{most}) AND "
                + TimelineMapper.FACE + " ORDER BY a.at, a.id")
        List<Row> between(
                @Param("w") Wanted wanted,
                @Param("people") UUID[] people,
                @Param("records") UUID[] records,
                @Param("viewer") UUID[] viewer,
                @Param("most") int most);

        @Select("""
                SELECT person, at AS begins, busy_until AS ends FROM sighting WHERE person = ANY(#{people}) AND busy_until > #{from}
                  AND at < #{until} AND at > #{from}::timestamptz - interval '60 days' ORDER BY at LIMIT #{most}
                """)
        List<Busy> busy(
                @Param("people") UUID[] people,
                @Param("from") Instant from,
                @Param("until") Instant until,
                @Param("most") int most);

        @Select("""
                SELECT m.at, m.was_begins, m.was_ends, m.begins, m.ends, m.by_name AS by FROM activity a JOIN moved m ON m.item = a.item
                WHERE a.id = #{id} AND a.face = 0 AND (m.owners = '{}' OR m.owners && (a.mine || a.elsewhere)) ORDER BY m.at
                """)
        List<Moved> moved(@Param("id") UUID activity);

        @Select("""
                SELECT t.state, t.by_name AS by FROM activity a JOIN meeting_outcome t ON t.item = a.item
                WHERE a.id = #{id} AND a.face = 0 AND (t.owners = '{}' OR t.owners && (a.mine || a.elsewhere)) ORDER BY t.at DESC LIMIT 1
                """)
        Optional<Outcome> outcome(@Param("id") UUID activity);

        @Insert("""
                INSERT INTO meeting_outcome (item, owners, state, by_name)
                SELECT a.item, a.mine || a.elsewhere, #{state}, #{by} FROM activity a WHERE a.id = #{id} AND a.face = 0
                """)
        int tell(@Param("id") UUID activity, @Param("state") String state, @Param("by") String by);

        @Delete("""
                DELETE FROM meeting_outcome t USING activity a WHERE a.id = #{id} AND a.face = 0 AND t.item = a.item
                    AND (t.owners = '{}' OR t.owners && (a.mine || a.elsewhere))
                """)
        int untell(@Param("id") UUID activity);
    }

    Meetings(Mapped mapper) {
        this.mapper = mapper;
    }

    private static UUID[] ids(List<UUID> ids) {
        return ids.toArray(UUID[]::new);
    }

    /** When these people are busy, by all meetings that their calendars show, those that stand on no timeline among them. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Busy> busy(Wanted wanted, int most) {
        return mapper.busy(ids(wanted.people()), wanted.from(), wanted.until(), most);
    }

    /** In order of their beginning. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Meeting> between(Wanted wanted, Viewer viewer, int most) {
        return mapper.between(wanted, ids(wanted.people()), ids(wanted.records()), Timelines.ids(viewer), most).stream()
                .map(row -> meeting(row, viewer))
                .filter(m -> m.visibility() != Visibility.HIDDEN)
                .toList();
    }

    /** One meeting, as far as the viewer gets it; nothing when it stands on no timeline, or is none. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Optional<Meeting> one(UUID item, Viewer viewer) {
        return mapper.some(new UUID[] {item}, Timelines.ids(viewer)).stream()
                .map(row -> meeting(row, viewer))
                .filter(m -> m.visibility() != Visibility.HIDDEN)
                .findFirst();
    }

    /**
     * The first meetings of each day, and how many there are in all; a day without any is not among them.
     *
     * @param count by day, in the zone given
     */
    public record Days(List<Meeting> meetings, Map<LocalDate, Long> count) {}

    /** @param zone whose days they are */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Days days(Wanted wanted, Viewer viewer, ZoneId zone, int perDay) {
        List<Mapped.Day> days = mapper.days(
                wanted, ids(wanted.people()), ids(wanted.records()), Timelines.ids(viewer), inSql(zone), perDay);
        Map<LocalDate, Long> count = new TreeMap<>();
        days.forEach(d -> count.put(d.day(), d.count()));
        List<Meeting> meetings =
                mapper.some(days.stream().map(Mapped.Day::id).toArray(UUID[]::new), Timelines.ids(viewer)).stream()
                        .map(row -> meeting(row, viewer))
                        .filter(m -> m.visibility() != Visibility.HIDDEN)
                        .toList();
        return new Days(meetings, count);
    }

    /** An offset counts westwards to PostgreSQL (POSIX.1, TZ) and eastwards to everybody else. */
    private static String inSql(ZoneId zone) {
        return zone.normalized() instanceof ZoneOffset offset
                ? "<o>"
                        + ZoneOffset.ofTotalSeconds(-offset.getTotalSeconds())
                                .getId()
                                .replace("Z", "+00:00")
                : zone.getId();
    }

    private static Meeting meeting(Mapped.Row row, Viewer viewer) {
        Readers readers = Timelines.readers(row.readers());
        Visibility visibility = Visibility.of(viewer, readers);
        boolean full = visibility == Visibility.FULL;
        MeetingItem facts = row.facts() == null ? null : (MeetingItem) Json.item("meeting", row.facts());
        return new Meeting(
                row.id(),
                row.at(),
                row.ends(),
                row.allDay(),
                visibility,
                row.item(),
                Timelines.whose(row.owners(), row.brought(), viewer),
                List.of(row.authors()),
                full ? facts : null,
                row.outcome() == null ? "" : row.outcome(),
                full
                        ? Json.trail(row.trail()).stream()
                                .map(r -> r.rule().name())
                                .toList()
                        : List.of(),
                full && row.account() != null ? row.account() : "",
                row.source(),
                facts == null || facts.takesTime(),
                full ? row.said() : null);
    }

    public List<Moved> moved(UUID item) {
        return mapper.moved(item);
    }

    public Optional<Outcome> outcome(UUID item) {
        return mapper.outcome(item);
    }

    /** Says how a meeting went; an empty state takes that back. */
    @Transactional
    public void noteOutcome(UUID item, String state, String by) {
        mapper.untell(item);
        if (!state.isEmpty()) {
            mapper.tell(item, state.toLowerCase(Locale.ROOT), by);
        }
    }
}
