package jandrel.store.timeline;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;

@Mapper
public interface TimelineMapper {
    record ActivityRow(
            UUID id,
            String kind,
            Instant at,
            Instant sorted,
            @Nullable Instant ends,
            boolean allDay,
            String facts,
            UUID @Nullable [] readers,
            UUID[] owners,
            UUID[] brought,
            UUID[] authors,
            String trail,
            @Nullable String evidence) {}

    /**
     * The one face of an activity a that a viewer gets: of the copy that they brought, else the first that they read, else the first.
     * Wants the parameter {@code viewer}: all that stands for them among readers, of which the person alone can have brought a copy.
     */
    String FACE = """
            (a.faces = 1 OR a.mine && #{viewer}::uuid[] OR NOT a.elsewhere && #{viewer}::uuid[] AND CASE WHEN a.face = 0
                THEN a.readers IS NULL OR a.readers && #{viewer}::uuid[] OR NOT (a.rivals IS NULL OR a.rivals && #{viewer}::uuid[])
                ELSE (a.readers IS NULL OR a.readers && #{viewer}::uuid[]) AND NOT (a.rivals IS NULL OR a.rivals && #{viewer}::uuid[]) END)
            """;

    /** Of a meeting a: how somebody said it went, the newest of what its reader gets; null for nobody. */
    String OUTCOME = """
            (SELECT t.state FROM meeting_outcome t WHERE t.item = a.item AND (t.owners = '{}' OR t.owners && (a.mine || a.elsewhere))
                ORDER BY t.at DESC LIMIT 1)
            """;

    /** Likewise what somebody said came of it. */
    String RESULT = """
            (SELECT r.name FROM meeting_result r WHERE r.item = a.item AND (r.owners = '{}' OR r.owners && (a.mine || a.elsewhere))
                ORDER BY r.id DESC LIMIT 1)
            """;

    String COLUMNS =
            "a.ends, a.all_day, a.facts, a.readers, a.owners, a.mine || a.elsewhere AS brought, a.authors, a.trail";

    record PreviewRow(UUID id, String text, String attachments) {}

    record BodyRow(String state, String text, String html, String attachments) {}

    record LinkRow(String kind, UUID record, String name, String evidence) {}

    record Name(UUID id, String name) {}

    @Select("""
            SELECT a.id, a.kind, a.at, l.at AS sorted, """ + COLUMNS + """
            , l.evidence FROM (SELECT l.at, l.activity, l.evidence FROM link l WHERE l.record = #{record}
                  AND (l.at, l.activity) < (#{beforeAt}::timestamptz, #{beforeId}::uuid)
                  AND (NOT l.blind OR EXISTS (SELECT FROM activity a WHERE a.id = l.activity AND a.authors && #{viewer}::uuid[]))
                  ORDER BY l.at DESC, l.activity DESC LIMIT #{limit}) l
            JOIN activity a ON a.id = l.activity AND """ + FACE + " ORDER BY l.at DESC, a.id DESC")
    List<ActivityRow> page(
            @Param("record") UUID record,
            @Param("viewer") UUID[] viewer,
            @Param("beforeAt") Instant beforeAt,
            @Param("beforeId") UUID beforeId,
            @Param("limit") int limit);

    String FILTERED = """
            FROM link l JOIN activity a ON a.id = l.activity AND """ + FACE + """
            WHERE l.record = #{record} AND l.at >= #{f.from} AND l.at < #{f.until}
              AND (NOT l.blind OR a.authors && #{viewer}::uuid[])
              AND (#{f.kind} = '' OR a.kind = #{f.kind}) AND (#{f.evidence} = '' OR l.evidence = #{f.evidence})
              AND (#{f.person}::uuid IS NULL OR #{f.person} = ANY(a.owners))
              AND (NOT #{f.readsContent} OR #{finds} AND a.readers IS NULL OR a.readers && #{viewer}::uuid[])
              AND (#{f.sort} = '' OR a.kind = 'meeting' AND coalesce(a.facts::jsonb ->> 'sort', 'MEETING') = #{f.sort})
              AND (#{f.direction} = '' OR a.kind = 'mail' AND (a.authors <> '{}') = (#{f.direction} = 'out'))
              AND (#{f.whoPattern} = '' OR a.people ILIKE #{f.whoPattern})
              AND (NOT #{f.attached} OR EXISTS (SELECT FROM body b
                   WHERE b.item = a.item AND b.content = a.content AND b.attachments <> '[]'))
            """;

    @Select("SELECT a.id, a.kind, a.at, l.at AS sorted, " + COLUMNS + ", l.evidence " + FILTERED + """
              AND (l.at, l.activity) < (#{beforeAt}::timestamptz, #{beforeId}::uuid)
            ORDER BY l.at DESC, l.activity DESC LIMIT #{limit}
            """)
    List<ActivityRow> filtered(
            @Param("record") UUID record,
            @Param("f") TimelineFilter filter,
            @Param("finds") boolean finds,
            @Param("viewer") UUID[] viewer,
            @Param("beforeAt") Instant beforeAt,
            @Param("beforeId") UUID beforeId,
            @Param("limit") int limit);

    /** The nearest first. */
    @Select("SELECT a.id, a.kind, a.at, l.at AS sorted, " + COLUMNS + ", l.evidence " + FILTERED
            + " ORDER BY l.at, l.activity LIMIT #{limit}")
    List<ActivityRow> nearest(
            @Param("record") UUID record,
            @Param("f") TimelineFilter filter,
            @Param("finds") boolean finds,
            @Param("viewer") UUID[] viewer,
            @Param("limit") int limit);

    @Select("SELECT count(*) " + FILTERED)
    long filteredCount(
            @Param("record") UUID record,
            @Param("f") TimelineFilter filter,
            @Param("finds") boolean finds,
            @Param("viewer") UUID[] viewer);

    /** By the index alone. */
    @Select(
            "SELECT count(*) FROM link l WHERE l.record = #{record} AND NOT l.blind AND l.at >= #{from} AND l.at < #{until}")
    long linkCount(@Param("record") UUID record, @Param("from") Instant from, @Param("until") Instant until);

    /** Mondays, UTC, of all weeks in which something is. */
    @Select("""
            SELECT date_trunc('week', l.at, 'UTC') AS begins, count(*) FILTER (WHERE a.kind = 'mail') AS mail,
                   count(*) FILTER (WHERE a.kind <> 'mail') AS meetings
            FROM link l JOIN activity a ON a.id = l.activity AND a.face = 0 WHERE l.record = #{record} AND NOT l.blind
            GROUP BY 1 ORDER BY 1
            """)
    List<TimelineWeek> weeks(@Param("record") UUID record);

    /** The beginning of what each says. */
    @Select("""
            SELECT a.id, left(b.text, 1500) AS text, b.attachments FROM activity a
            JOIN body b ON b.item = a.item AND b.content = a.content
            WHERE a.id = ANY(#{ids}) AND (b.text <> '' OR b.attachments <> '[]') AND """ + FACE + " ORDER BY a.face DESC")
    List<PreviewRow> previews(@Param("ids") UUID[] ids, @Param("viewer") UUID[] viewer);

    record SaidRow(UUID id, String text, String html, String attachments) {}

    @Select(
            "SELECT a.id, b.text, b.html, b.attachments FROM activity a JOIN body b ON b.item = a.item AND b.content = a.content"
                    + " WHERE a.id = ANY(#{ids}) AND " + FACE + " ORDER BY a.face DESC")
    List<SaidRow> contents(@Param("ids") UUID[] ids, @Param("viewer") UUID[] viewer);

    /** Mail on the timelines of the same records, around the same time. */
    @Select("SELECT DISTINCT a.id, a.kind, a.at, a.at AS sorted, " + COLUMNS + """
            , NULL AS evidence
            FROM link mine JOIN link l ON l.record = mine.record AND l.at BETWEEN mine.at - interval '120 days' AND mine.at + interval '120 days'
            JOIN activity a ON a.id = l.activity AND a.kind = 'mail'
            WHERE mine.activity = #{id} AND mine.kind IN ('contact', 'lead', 'account') AND NOT mine.blind AND NOT l.blind AND
            """ + FACE
            + " ORDER BY a.at DESC LIMIT #{most}")
    List<ActivityRow> around(@Param("id") UUID id, @Param("viewer") UUID[] viewer, @Param("most") int most);

    @Select("SELECT a.id, a.kind, a.at, a.at AS sorted, " + COLUMNS
            + ", NULL AS evidence FROM activity a WHERE a.id = #{id} AND " + FACE + " ORDER BY a.face LIMIT 1")
    Optional<ActivityRow> activity(@Param("id") UUID id, @Param("viewer") UUID[] viewer);

    @Select("SELECT a.text AS state, coalesce(b.text, '') AS text, coalesce(b.html, '') AS html,"
            + " coalesce(b.attachments, '[]') AS attachments FROM activity a"
            + " LEFT JOIN body b ON b.item = a.item AND b.content = a.content WHERE a.id = #{id} AND " + FACE
            + " ORDER BY a.face LIMIT 1")
    Optional<BodyRow> body(@Param("id") UUID id, @Param("viewer") UUID[] viewer);

    @Select("SELECT address FROM person_address WHERE person = #{person}")
    List<String> addresses(@Param("person") UUID person);

    @Select("""
            SELECT l.kind, l.record, coalesce(c.name, d.name, a.name, o.name, '') AS name, l.evidence FROM link l
            LEFT JOIN contact c ON l.kind = 'contact' AND c.id = l.record
            LEFT JOIN lead d ON l.kind = 'lead' AND d.id = l.record
            LEFT JOIN account a ON l.kind = 'account' AND a.id = l.record
            LEFT JOIN opportunity o ON l.kind = 'opportunity' AND o.id = l.record
            WHERE l.activity = #{id} AND (#{blind} OR NOT l.blind) ORDER BY l.kind, name
            """)
    List<LinkRow> links(@Param("id") UUID id, @Param("blind") boolean blind);

    @Select("SELECT id, name FROM person WHERE id = ANY(#{ids}) ORDER BY name")
    List<Name> names(@Param("ids") UUID[] ids);

    String RECORDS = """
            SELECT 'contact' AS kind, c.id, c.key, c.name,
                   concat_ws(', ', nullif(c.title, ''), 'made by ' || nullif(c.made_by, '')) AS detail, c.account, ca.name AS account_name,
                   NULL AS owner, NULL AS stage, NULL AS state, NULL::numeric AS value, NULL AS currency,
                   ARRAY(SELECT address FROM contact_address WHERE contact = c.id ORDER BY address) AS addresses,
                   ARRAY(SELECT phone FROM contact_phone WHERE contact = c.id ORDER BY phone) AS phones, ca.owner AS owner_id,
                   c.archived_at IS NOT NULL AS archived
            FROM contact c LEFT JOIN account ca ON ca.id = c.account
            UNION ALL SELECT 'account', a.id, a.key, a.name, coalesce('made by ' || nullif(a.made_by, ''), ''), a.above, aa.name, p.name, NULL, NULL, NULL, NULL,
                   ARRAY(SELECT substr(domain, 2) FROM account_domain WHERE account = a.id ORDER BY domain), ARRAY[]::text[], a.owner,
                   a.archived_at IS NOT NULL
            FROM account a LEFT JOIN person p ON p.id = a.owner LEFT JOIN account aa ON aa.id = a.above
            UNION ALL SELECT 'lead', d.id, d.key, d.name,
                   concat_ws(', ', nullif(d.company, ''), 'made by ' || nullif(d.made_by, '')), NULL, NULL, p.name, NULL, NULL, NULL, NULL,
                   ARRAY(SELECT address FROM lead_address WHERE lead = d.id ORDER BY address), ARRAY[]::text[], d.owner,
                   d.archived_at IS NOT NULL
            FROM lead d LEFT JOIN person p ON p.id = d.owner
            UNION ALL SELECT 'opportunity', o.id, o.key, o.name, coalesce('made by ' || nullif(o.made_by, ''), ''), o.account, oa.name, p.name, o.stage, lower(o.state),
                   trim_scale(o.value), o.currency, ARRAY[]::text[], ARRAY[]::text[], o.owner, o.archived_at IS NOT NULL
            FROM opportunity o JOIN account oa ON oa.id = o.account LEFT JOIN person p ON p.id = o.owner
            """;

    String ACTIVITIES = "(SELECT count(*) FROM link l WHERE l.record = r.id AND NOT l.blind)";

    String LAST_TOUCH = "(SELECT max(at) FROM link l WHERE l.record = r.id AND NOT l.blind AND l.at <= #{now})";

    String NEXT_MEETING = """
            (SELECT min(l.at) FROM link l JOIN activity a ON a.id = l.activity AND a.face = 0
             WHERE l.record = r.id AND NOT l.blind AND l.at > #{now} AND a.kind = 'meeting'
               AND a.facts::jsonb ->> 'state' IS DISTINCT FROM 'CANCELLED')
            """;

    String KNOWN =
            "SELECT r.kind, r.id, r.key, r.name, r.detail, r.account, r.account_name, r.owner, r.stage, r.state, r.value,"
                    + " r.currency, r.addresses, r.phones, r.archived, " + ACTIVITIES + " AS activities, " + LAST_TOUCH
                    + " AS last_touch, " + NEXT_MEETING + " AS next_meeting FROM ";

    /** What is not asked for is not looked up. */
    String WANTED = "(" + RECORDS + """
            ) r WHERE NOT r.archived AND (#{f.kind} = '' OR kind = #{f.kind}) AND (#{f.name} = '' OR name ILIKE #{f.pattern})
              AND (#{f.owner}::uuid IS NULL OR owner_id = #{f.owner})
              AND CASE #{t.word} WHEN '' THEN true WHEN 'never' THEN """ + LAST_TOUCH + " IS NULL ELSE " + LAST_TOUCH + """
                   > #{t.after}::timestamptz AND """ + LAST_TOUCH + """
                   <= #{t.until}::timestamptz END
              AND (NOT #{f.nothingNext} OR """
            + NEXT_MEETING + " IS NULL)";

    /** What an order does not ask for is not looked up. */
    String ORDER = " ORDER BY CASE #{sort} WHEN 'touch' THEN " + LAST_TOUCH
            + " END DESC NULLS LAST, CASE #{sort} WHEN 'next' THEN "
            + NEXT_MEETING + " END NULLS LAST, CASE #{sort} WHEN 'activity' THEN " + ACTIVITIES + """
             END DESC, lower(name) LIKE lower(#{f.start}) DESC, lower(name), kind, id
            """;

    @Select(KNOWN + "(SELECT * FROM " + WANTED + ORDER + " LIMIT #{limit} OFFSET #{offset}) r" + ORDER)
    List<KnownRecord> records(
            @Param("f") RecordFilter filter,
            @Param("t") RecordFilter.Touched touched,
            @Param("sort") String sort,
            @Param("now") Instant now,
            @Param("offset") int offset,
            @Param("limit") int limit);

    @Select("SELECT count(*) FROM " + WANTED)
    long recordCount(
            @Param("f") RecordFilter filter, @Param("t") RecordFilter.Touched touched, @Param("now") Instant now);

    /** @param touch the index of the bucket of its last touch, from 1; null for never */
    record TouchRow(@Nullable Integer touch, long records, long nothingNext) {}

    /** @param bounds after which each bucket's touches are, from the earliest to the latest */
    @Select("SELECT width_bucket(last, #{bounds}::text[]::timestamptz[]) AS touch, count(*) AS records,"
            + " count(*) FILTER (WHERE next IS NULL) AS nothing_next FROM (SELECT " + LAST_TOUCH + " AS last, "
            + NEXT_MEETING
            + " AS next FROM (" + RECORDS + ") r WHERE NOT r.archived AND kind = #{kind}) t GROUP BY 1")
    List<TouchRow> touches(@Param("kind") String kind, @Param("bounds") String[] bounds, @Param("now") Instant now);

    @Select("""
            SELECT EXISTS (SELECT FROM account WHERE id = #{id}) OR EXISTS (SELECT FROM contact WHERE id = #{id})
                OR EXISTS (SELECT FROM lead WHERE id = #{id}) OR EXISTS (SELECT FROM opportunity WHERE id = #{id})
            """)
    boolean isRecord(@Param("id") UUID id);

    @Select(KNOWN + "(" + RECORDS + ") r WHERE id = #{id}")
    Optional<KnownRecord> record(@Param("id") UUID id, @Param("now") Instant now);
}
