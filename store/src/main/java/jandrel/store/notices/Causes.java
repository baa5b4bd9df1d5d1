package jandrel.store.notices;

import jandrel.store.timeline.TimelineMapper;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;

/** What there is to tell somebody of. */
@Mapper
public interface Causes {
    /**
     * A meeting of somebody's that is not over.
     *
     * @param minutes as its maker set its reminder; null for one that nobody changed here
     * @param inCalendar whether it stands in a calendar
     * @param oursToRing whether it is for the policy to say who rings: it was made here, and is exchanged with the calendar
     */
    record Upcoming(
            UUID id,
            Instant begins,
            Instant ends,
            boolean allDay,
            @Nullable Integer minutes,
            boolean inCalendar,
            boolean oursToRing) {}

    String UPCOMING = """
            SELECT a.id, a.at AS begins, a.ends, a.all_day, (m.details::jsonb ->> 'reminder')::int AS minutes,
                   m.id IS NULL OR m.source IS NOT NULL AS in_calendar, coalesce(m.made_here AND NOT m.detached, false) AS ours_to_ring
            FROM activity a
            """;

    String OWN = " managed_meeting m ON m.item = a.item AND m.owner = #{person} AND m.details IS NOT NULL ";

    /**
     * Those that begin soon, the few that began long ago and go on, and the few further ahead that have a reminder of their own.
     *
     * @param until how far ahead everybody's meetings are looked through
     * @param furthest how far those with a reminder of their own are
     */
    @Select(UPCOMING + " LEFT JOIN " + OWN + """
             WHERE a.kind = 'meeting' AND a.at > #{now}::timestamptz - interval '24 hours' AND a.at < #{until}
              AND #{person} = ANY(a.owners) AND
            """ + TimelineMapper.FACE + " UNION ALL " + UPCOMING + " LEFT JOIN " + OWN
            + """
             WHERE a.kind = 'meeting' AND a.at <= #{now}::timestamptz - interval '24 hours' AND a.at > #{now}::timestamptz - interval '60 days'
              AND a.ends - a.at > interval '24 hours' AND a.ends > #{now} AND #{person} = ANY(a.owners) AND
            """ + TimelineMapper.FACE + " UNION ALL " + UPCOMING + " JOIN " + OWN + """
             WHERE a.kind = 'meeting' AND a.at >= #{until} AND a.at < #{furthest} AND (m.details::jsonb ->> 'reminder')::int > 0 AND
            """ + TimelineMapper.FACE
            + " ORDER BY begins, id LIMIT #{most}")
    List<Upcoming> upcoming(
            @Param("person") UUID person,
            @Param("viewer") UUID[] viewer,
            @Param("now") Instant now,
            @Param("until") Instant until,
            @Param("furthest") Instant furthest,
            @Param("most") int most);

    /** A connection that waits for somebody. */
    record Trouble(UUID id, String account, String state, String detail, Instant since) {}

    /** @param person null for everybody's */
    @Select("""
            SELECT id, account, state, detail, coalesce(notified_at, last_run, connected_at) AS since FROM connection
            WHERE state IN ('needs-sign-in', 'refused', 'waiting-for-consent') AND (#{person}::uuid IS NULL OR person = #{person})
            ORDER BY since DESC, id LIMIT #{most}
            """)
    List<Trouble> trouble(@Param("person") @Nullable UUID person, @Param("most") int most);

    /** An address book that waits until its owner has seen what it would bring. */
    record WaitingBook(int source, String label, int creates, int writes, Instant at) {}

    @Select("""
            SELECT b.source, s.label, b.creates, b.writes, b.asked_at AS at
            FROM book b JOIN source s ON s.id = b.source JOIN connection c ON c.id = s.connection
            WHERE b.asked_at IS NOT NULL AND b.creates + b.writes > 0 AND s.chosen AND c.state <> 'disconnected' AND c.person = #{person}
            ORDER BY b.source LIMIT 50
            """)
    List<WaitingBook> waitingBooks(@Param("person") UUID person);

    /** Cards of theirs that fit several contacts: how many, and since when the newest waits. */
    record OpenCard(long count, Instant at) {}

    @Select("""
            SELECT count(*) AS count, max(d.since) AS at FROM card d JOIN source s ON s.id = d.source JOIN connection c ON c.id = s.connection
            WHERE d.standing = 'OPEN' AND c.state <> 'disconnected' AND c.person = #{person} HAVING count(*) > 0
            """)
    Optional<OpenCard> openCards(@Param("person") UUID person);

    /** Contacts and cards that one side removed, where the policy has them say what becomes of the other. */
    @Select("""
            SELECT count(*) AS count, max(d.removal_at) AS at FROM card d JOIN source s ON s.id = d.source JOIN connection c ON c.id = s.connection
            WHERE d.removal IN ('HERE', 'THERE') AND c.state <> 'disconnected' AND c.person = #{person} HAVING count(*) > 0
            """)
    Optional<OpenCard> removedCards(@Param("person") UUID person);

    /** Changes of a calendar or an address book that are held back until somebody lets them pass. */
    record Held(int source, String kind, String label, int count, int known) {}

    @Select("""
            SELECT s.id AS source, s.kind, s.label, s.held_count AS count, s.held_known AS known FROM source s JOIN connection c ON c.id = s.connection
            WHERE s.held_count > 0 AND NOT s.let_pass AND c.state <> 'disconnected' AND c.person = #{person} ORDER BY s.id LIMIT 50
            """)
    List<Held> held(@Param("person") UUID person);

    /** What lost to a change on the other side, and was not brought back. */
    record Lost(UUID id, UUID item, String title, Instant at, String field) {}

    @Select("""
            SELECT f.id, m.item, coalesce(m.details::jsonb ->> 'title', m.template::jsonb ->> 'subject') AS title, f.at,
                   coalesce(f.field, '') AS field
            FROM conflict f JOIN managed_meeting m ON m.id = f.meeting
            WHERE m.owner = #{person} AND f.brought_back_at IS NULL AND f.at > #{after} ORDER BY f.at DESC, f.id LIMIT 50
            """)
    List<Lost> lost(@Param("person") UUID person, @Param("after") Instant after);
}
