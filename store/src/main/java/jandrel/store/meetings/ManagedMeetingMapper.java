package jandrel.store.meetings;

import jandrel.store.connections.Connections;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

@Mapper
interface ManagedMeetingMapper {
    record Row(
            UUID id,
            UUID item,
            String uid,
            @Nullable Instant recurrence,
            UUID owner,
            boolean madeHere,
            String madeBy,
            Instant madeAt,
            boolean out,
            String template,
            @Nullable String details,
            int sequence,
            Instant stamp,
            Instant changedAt,
            String changedBy,
            @Nullable String base,
            @Nullable String sending,
            boolean detached,
            long version,
            @Nullable Integer source,
            String href,
            boolean pendingSync,
            String trouble,
            boolean asks) {}

    /** How a source shows an item. */
    record Shown(int source, String position, String facts) {}

    record ConflictRow(
            UUID id,
            UUID meeting,
            Instant at,
            @Nullable String field,
            boolean hereWon,
            String here,
            String calendar,
            @Nullable String lost,
            @Nullable String broughtBackBy,
            @Nullable Instant broughtBackAt) {}

    /** Whether its calendar has yet to be written, or read, stands in the outbox. */
    String MEETING = """
            SELECT p.*, x.id IS NOT NULL AS pending_sync, coalesce(x.trouble, '') AS trouble
            FROM managed_meeting p LEFT JOIN outbox x ON x.kind = 'CALENDAR' AND x.subject = p.id
            """;

    @Insert("""
            INSERT INTO managed_meeting (id, item, uid, recurrence, owner, made_here, made_by, made_at, out, template, details, sequence, stamp,
                changed_at, changed_by, base, source, href, asks)
            VALUES (#{p.id}, #{p.item}, #{p.uid}, #{p.recurrence}, #{p.owner}, #{p.madeHere}, #{p.madeBy}, #{p.madeAt}, #{p.out},
                #{p.template}, #{p.details}, #{p.sequence}, #{p.stamp}, #{p.changedAt}, #{p.changedBy}, #{p.base}, #{p.source},
                #{p.href}, #{p.asks}) ON CONFLICT (item, owner) DO NOTHING
            """)
    int add(@Param("p") Row plan);

    @Select(MEETING + "WHERE p.id = #{id}")
    Optional<Row> one(@Param("id") UUID id);

    @Select(MEETING + "WHERE p.id = ANY(#{ids})")
    List<Row> some(@Param("ids") UUID[] ids);

    @Select(MEETING + "WHERE p.item = #{item} AND p.owner = #{owner}")
    Optional<Row> of(@Param("item") UUID item, @Param("owner") UUID owner);

    /** Of somebody who brought a copy of this activity, its organiser first: others may have plans that name themselves alike. */
    @Select(MEETING + """
            JOIN activity a ON p.item = a.item AND p.owner = ANY(a.mine || a.elsewhere)
            WHERE a.id = #{activity} AND a.face = 0 ORDER BY p.owner = ANY(a.authors) DESC, p.made_at, p.id LIMIT 1
            """)
    Optional<Row> ofActivity(@Param("activity") UUID activity);

    @Select(MEETING + "WHERE p.uid = #{uid} AND p.owner = #{owner} AND p.recurrence IS NOT DISTINCT FROM #{recurrence}")
    Optional<Row> named(
            @Param("owner") UUID owner, @Param("uid") String uid, @Param("recurrence") @Nullable Instant recurrence);

    /** Locked until the transaction ends. */
    @Select(MEETING + "WHERE p.id = #{id} FOR UPDATE OF p")
    Optional<Row> lock(@Param("id") UUID id);

    @Update("""
            UPDATE managed_meeting SET details = #{details}, sequence = #{sequence}, stamp = #{at}, changed_at = #{at}, changed_by = #{by},
                version = version + 1 WHERE id = #{id}
            """)
    int change(
            @Param("id") UUID id,
            @Param("details") @Nullable String details,
            @Param("sequence") int sequence,
            @Param("at") Instant at,
            @Param("by") String by);

    @Update("""
            UPDATE managed_meeting SET details = #{details}, stamp = #{stamp}, changed_at = #{now}, version = version + 1
                WHERE id = #{id}
            """)
    int answered(
            @Param("id") UUID id,
            @Param("details") String details,
            @Param("stamp") Instant stamp,
            @Param("now") Instant now);

    @Update("""
            UPDATE managed_meeting SET details = #{details}, base = #{base}, sending = NULL, detached = #{detached}, version = version + 1,
                changed_by = CASE WHEN details IS DISTINCT FROM #{details} THEN '' ELSE changed_by END
                WHERE id = #{id} AND version = #{version}
            """)
    int agree(
            @Param("id") UUID id,
            @Param("version") long version,
            @Param("details") @Nullable String details,
            @Param("base") @Nullable String base,
            @Param("detached") boolean detached);

    @Update("UPDATE managed_meeting SET sequence = #{sequence}, stamp = #{stamp} WHERE id = #{id}")
    int stamped(@Param("id") UUID id, @Param("sequence") int sequence, @Param("stamp") Instant stamp);

    @Update("UPDATE managed_meeting SET base = #{base}, sending = #{sending} WHERE id = #{id}")
    int sending(@Param("id") UUID id, @Param("base") @Nullable String base, @Param("sending") @Nullable String sending);

    @Insert("""
            INSERT INTO conflict (id, meeting, field, here_won, here, calendar, lost)
            VALUES (#{id}, #{meeting}, #{field}, #{hereWon}, #{here}, #{calendar}, #{lost}) ON CONFLICT DO NOTHING
            """)
    int conflict(
            @Param("id") UUID id,
            @Param("meeting") UUID meeting,
            @Param("field") @Nullable String field,
            @Param("hereWon") boolean hereWon,
            @Param("here") String here,
            @Param("calendar") String calendar,
            @Param("lost") @Nullable String lost);

    @Select(
            "SELECT * FROM conflict WHERE (#{meeting}::uuid IS NULL OR meeting = #{meeting}) ORDER BY at DESC LIMIT #{most}")
    List<ConflictRow> conflicts(@Param("meeting") @Nullable UUID meeting, @Param("most") int most);

    @Select("SELECT * FROM conflict WHERE id = #{id}")
    Optional<ConflictRow> aConflict(@Param("id") UUID id);

    @Update(
            "UPDATE conflict SET brought_back_by = #{by}, brought_back_at = now() WHERE id = #{id} AND brought_back_at IS NULL")
    int broughtBack(@Param("id") UUID id, @Param("by") String by);

    @Update("UPDATE managed_meeting SET source = #{source}, href = #{href} WHERE id = #{id}")
    int stands(@Param("id") UUID id, @Param("source") int source, @Param("href") String href);

    String OUTGOING = """
            SELECT o.* FROM source o JOIN connection c ON c.id = o.connection JOIN server e ON e.id = c.server
            WHERE e.kind = 'caldav' AND c.person = #{owner} AND o.chosen AND c.state <> 'disconnected'
            ORDER BY o.outgoing DESC, o.id LIMIT 1
            """;

    /** Those of a connection that are to be settled, and those of its owner that are to go out through it. */
    @Select("""
            SELECT p.id FROM outbox x JOIN managed_meeting p ON p.id = x.subject LEFT JOIN source o ON o.id = p.source
            WHERE x.kind = 'CALENDAR' AND NOT p.detached AND p.out AND (o.connection = #{connection} OR p.source IS NULL AND p.owner = #{owner}
                AND #{connection} = (SELECT t.connection FROM (""" + OUTGOING + """
            ) t))
            ORDER BY x.id LIMIT #{most}
            """)
    List<UUID> pendingSync(@Param("connection") UUID connection, @Param("owner") UUID owner, @Param("most") int most);

    @Select(
            "SELECT id FROM managed_meeting WHERE source = #{source} AND NOT detached AND href = ANY(#{hrefs}) ORDER BY id")
    List<UUID> at(@Param("source") int source, @Param("hrefs") String[] hrefs);

    @Select("SELECT id FROM managed_meeting WHERE source = #{source} AND NOT detached ORDER BY id")
    List<UUID> allAt(@Param("source") int source);

    @Select(MEETING + "WHERE p.owner = #{owner} AND p.details IS NOT NULL ORDER BY p.id")
    List<Row> ofOwner(@Param("owner") UUID owner);

    /** What was made here and never went out, from now on. */
    @Select(MEETING + """
            WHERE p.owner = #{owner} AND NOT p.out AND p.details IS NOT NULL AND NOT p.detached
              AND (p.details::jsonb #>> '{when,ends}')::timestamptz > #{now} ORDER BY p.made_at
            """)
    List<Row> notOut(@Param("owner") UUID owner, @Param("now") Instant now);

    @Update("UPDATE managed_meeting SET out = true WHERE id = ANY(#{ids})")
    int sendOut(@Param("ids") UUID[] ids);

    @Insert("""
            INSERT INTO server (id, name, kind, host, port, sign_in) VALUES (gen_random_uuid(), 'made here', 'here', '', 0, 'here')
            ON CONFLICT (name) DO NOTHING
            """)
    int addServer();

    @Insert("""
            INSERT INTO connection (id, person, server, account, connected_at, since, state)
            SELECT gen_random_uuid(), p.id, s.id, p.key, now(), '1980-01-01', 'capturing' FROM person p, server s
            WHERE p.id = #{person} AND s.kind = 'here' ON CONFLICT (server, account) DO NOTHING
            """)
    int addConnection(@Param("person") UUID person);

    @Insert("""
            INSERT INTO source (connection, kind, name, label, counts)
            SELECT c.id, 'calendar', 'here', 'made here', true FROM connection c JOIN server s ON s.id = c.server
            WHERE s.kind = 'here' AND c.person = #{person} ON CONFLICT (connection, name) DO NOTHING
            """)
    int addSource(@Param("person") UUID person);

    @Select("""
            SELECT o.id FROM source o JOIN connection c ON c.id = o.connection JOIN server s ON s.id = c.server
            WHERE s.kind = 'here' AND c.person = #{person}
            """)
    Optional<Integer> source(@Param("person") UUID person);

    /** A calendar of this person that shows the item now. */
    @Select("""
            SELECT s.source, s.position, s.facts FROM sighting s JOIN source o ON o.id = s.source JOIN connection c ON c.id = o.connection
            JOIN server e ON e.id = c.server
            WHERE s.item = #{item} AND s.person = #{person} AND e.kind = 'caldav' AND NOT s.gone AND s.facts IS NOT NULL
            ORDER BY s.source LIMIT 1
            """)
    Optional<Shown> shown(@Param("item") UUID item, @Param("person") UUID person);

    /** Where what this person makes goes: the calendar that was chosen for it, else the first one. */
    @Select(OUTGOING)
    Optional<Connections.Source> outgoing(@Param("owner") UUID owner);

    @Select("""
            SELECT c.name FROM activity a JOIN link l ON l.activity = a.id JOIN account c ON c.id = l.record
            WHERE (a.id = #{item} AND a.item = #{item} OR a.id <> a.item AND a.item = #{item}) AND a.face = 0
              AND #{owner} = ANY(a.mine || a.elsewhere) AND l.evidence <> 'PART' ORDER BY c.name LIMIT 1
            """)
    Optional<String> accountOf(@Param("item") UUID item, @Param("owner") UUID owner);

    record Named(String address, String name) {}

    @Select("""
            SELECT a.address, c.name FROM contact_address a JOIN contact c ON c.id = a.contact WHERE a.address = ANY(#{addresses})
            UNION ALL SELECT a.address, d.name FROM lead_address a JOIN lead d ON d.id = a.lead WHERE a.address = ANY(#{addresses})
            UNION ALL SELECT a.address, p.name FROM person_address a JOIN person p ON p.id = a.person
            WHERE a.address = ANY(#{addresses})
            """)
    List<Named> names(@Param("addresses") String[] addresses);

    @Insert("""
            INSERT INTO pin (item, record, kind, by_name, owners) SELECT #{item}, #{record}, #{kind}, #{by}, ARRAY[#{owner}::uuid]
            ON CONFLICT DO NOTHING
            """)
    int pin(
            @Param("item") UUID item,
            @Param("owner") UUID owner,
            @Param("record") UUID record,
            @Param("kind") String kind,
            @Param("by") String by);

    @Update("UPDATE managed_meeting SET asks = #{asks} WHERE id = #{meeting}")
    int asks(@Param("meeting") UUID meeting, @Param("asks") boolean asks);
}
