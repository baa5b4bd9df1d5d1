package jandrel.store.meetings;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;

/** How calendars and what was made or changed here stand with each other. */
@Mapper
public interface InStep {
    /**
     * A calendar.
     *
     * @param due when it is looked at next
     * @param read what the last sync run that brought something read, and so on; null where there was none yet
     * @param alike how many stand alike on both sides, {@code pendingSync} how many are yet to be settled, {@code stuck} how many of those
     *     could not be
     * @param conflicts of the last ninety days
     */
    record Calendar(
            int source,
            String label,
            String colour,
            UUID connection,
            UUID person,
            String personName,
            String state,
            @Nullable Instant lastRun,
            @Nullable Instant due,
            @Nullable Integer read,
            @Nullable Integer gone,
            @Nullable Integer sent,
            @Nullable Integer received,
            @Nullable Integer merged,
            @Nullable Integer refused,
            boolean outgoing,
            boolean held,
            long alike,
            long pendingSync,
            long stuck,
            long conflicts) {}

    @Select("""
            SELECT o.id AS source, o.label, o.colour, c.id AS connection, c.person, p.name AS person_name, c.state, c.last_run, c.due,
                   r.read, r.gone, r.sent, r.received, r.merged, r.refused, row_number() OVER (PARTITION BY c.person ORDER BY o.outgoing DESC, o.id) = 1 AS outgoing, o.held_count > 0 AS held, coalesce(n.alike, 0) AS alike, coalesce(n.pending, 0) AS pending_sync, coalesce(n.stuck, 0) AS stuck,
                   coalesce(k.conflicts, 0) AS conflicts
            FROM source o JOIN connection c ON c.id = o.connection JOIN server e ON e.id = c.server JOIN person p ON p.id = c.person
            LEFT JOIN calendar_run r ON r.source = o.id
            LEFT JOIN (SELECT p.source, count(*) FILTER (WHERE x.id IS NULL) AS alike, count(x.id) AS pending,
                         count(x.id) FILTER (WHERE x.trouble <> '') AS stuck
                       FROM managed_meeting p LEFT JOIN outbox x ON x.kind = 'CALENDAR' AND x.subject = p.id
                       WHERE NOT p.detached GROUP BY p.source) n ON n.source = o.id
            LEFT JOIN (SELECT l.source, count(*) AS conflicts FROM conflict f JOIN managed_meeting l ON l.id = f.meeting
                       WHERE f.at > now() - interval '90 days' GROUP BY 1) k ON k.source = o.id
            WHERE e.kind = 'caldav' AND o.chosen AND c.state <> 'disconnected' AND (#{overseen}::uuid[] IS NULL OR c.person = ANY(#{overseen}::uuid[]))
            ORDER BY p.name, o.label, o.id
            """)
    List<Calendar> calendars(@Param("overseen") UUID @Nullable [] overseen);

    /** How many of each sort somebody made that stand in no calendar, lie ahead, and never went out. */
    record Here(UUID person, String personName, String sort, long count) {}

    @Select("""
            SELECT p.id AS person, p.name AS person_name, l.template::jsonb ->> 'sort' AS sort, count(*) AS count
            FROM managed_meeting l JOIN person p ON p.id = l.owner
            WHERE NOT l.out AND NOT l.detached AND l.details IS NOT NULL AND (#{overseen}::uuid[] IS NULL OR p.id = ANY(#{overseen}::uuid[]))
              AND (l.details::jsonb #>> '{when,ends}')::timestamptz > #{now}
            GROUP BY 1, 2, 3 ORDER BY 2, 3
            """)
    List<Here> here(@Param("overseen") UUID @Nullable [] overseen, @Param("now") Instant now);
}
