package jandrel.store.capture;

import jandrel.store.connections.Connections;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.ResultMap;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

@Mapper
public interface IntakeMapper {
    @Select("SELECT * FROM sighting WHERE id = ANY(#{ids})")
    @ResultMap("jandrel.store.capture.RecordMapper.stored")
    List<RecordMapper.Stored> known(@Param("ids") UUID[] ids);

    @Update("UPDATE source SET last_item = #{at} WHERE id = #{source} AND (last_item IS NULL OR last_item < #{at})")
    int noteLastMail(@Param("source") int source, @Param("at") Instant at);

    /**
     * @param rests whether a source's connection is at rest
     * @param generation how often what is captured from it has changed
     * @param rules how often the rules have
     */
    record Kept(boolean rests, long generation, long rules) {}

    /**
     * So that the source does not go while something is taken from it.
     *
     * @return nothing when it has gone
     */
    @Select(
            "SELECT c.state IN " + Connections.AT_REST
                    + " AS rests, c.generation, (SELECT generation FROM rules_state) AS rules FROM source s JOIN connection c ON c.id = s.connection WHERE s.id = #{source} FOR KEY SHARE OF s")
    java.util.Optional<Kept> keep(@Param("source") int source);

    /** A source as deciding needs it; no rules when none has ever had its person. */
    public record Standing(
            int source,
            UUID person,
            Instant since,
            Instant connectedDay,
            String team,
            java.time.@Nullable LocalDate coverUntil,
            String sharing,
            @Nullable String rules,
            String counts,
            boolean calendar) {}

    @Select("""
            SELECT s.id AS source, c.person, c.since, date_trunc('day', c.connected_at) AS connected_day, p.team, p.cover_until, p.sharing, v.rules,
                   CASE WHEN s.counts THEN (SELECT kind FROM server WHERE id = c.server) ELSE '' END AS counts,
                   EXISTS (SELECT FROM connection d JOIN server e ON e.id = d.server
                       WHERE d.person = c.person AND e.kind = 'caldav' AND d.state <> 'disconnected') AS calendar
            FROM source s JOIN connection c ON c.id = s.connection JOIN person p ON p.id = c.person
            LEFT JOIN cover k ON k.person = p.id
            LEFT JOIN policy_version v ON v.policy = k.policy AND v.version = k.version WHERE s.id = ANY(#{sources})
            """)
    List<Standing> standings(@Param("sources") Integer[] sources);

    @Select("""
            DELETE FROM reconsider WHERE sighting IN (SELECT sighting FROM reconsider LIMIT #{most} FOR UPDATE SKIP LOCKED)
            RETURNING sighting
            """)
    @org.apache.ibatis.annotations.Options(flushCache = org.apache.ibatis.annotations.Options.FlushCachePolicy.TRUE)
    List<UUID> takeSome(@Param("most") int most);

    /** Asked twice in one transaction, before and after something is marked. */
    @Select("SELECT count(*) FROM reconsider")
    @org.apache.ibatis.annotations.Options(flushCache = org.apache.ibatis.annotations.Options.FlushCachePolicy.TRUE)
    long toReconsider();

    @Select("SELECT DISTINCT item FROM sighting WHERE id = ANY(#{ids})")
    List<UUID> items(@Param("ids") UUID[] ids);

    @Select("SELECT * FROM sighting WHERE id = ANY(#{ids}) AND facts IS NOT NULL")
    @ResultMap("jandrel.store.capture.RecordMapper.stored")
    List<RecordMapper.Stored> stored(@Param("ids") UUID[] ids);

    @Select("SELECT position FROM sighting WHERE source = #{source} AND refetch ORDER BY position LIMIT #{most}")
    List<String> toRefetch(@Param("source") int source, @Param("most") int most);

    @Select("SELECT count(*) FROM sighting WHERE refetch")
    long allToRefetch();

    @Update("UPDATE sighting SET refetch = false WHERE id = ANY(#{ids})")
    int notToRefetch(@Param("ids") UUID[] ids);

    @Update("""
            UPDATE activity SET text = 'gone' WHERE text = 'wanted' AND copies && #{ids}
            AND (id, face) IN (SELECT a.id, a.face FROM sighting s JOIN activity a ON a.id = s.item OR a.id <> a.item AND a.item = s.item
                WHERE s.id = ANY(#{ids}))
            AND NOT EXISTS (SELECT 1 FROM sighting o WHERE o.id = ANY(activity.copies) AND o.refetch)
            """)
    int textsGone(@Param("ids") UUID[] ids);

    @Select(
            "SELECT position FROM sighting WHERE source = #{source} AND position LIKE #{pattern} AND rule <> 'GONE' AND NOT gone")
    List<String> positions(@Param("source") int source, @Param("pattern") @Nullable String pattern);

    /** The index of positions orders by bytes, in which a dollar follows the hash. */
    @Select("""
            SELECT s.position FROM unnest(#{hrefs}) h JOIN sighting s ON s.source = #{source} AND s.position ~>=~ (h || '#')
                AND s.position ~<~ (h || '$') WHERE s.rule <> 'GONE' AND NOT s.gone
            """)
    List<String> positionsUnder(@Param("source") int source, @Param("hrefs") String[] hrefs);

    @Select("""
            SELECT position FROM sighting WHERE source = #{source} AND position LIKE #{pattern} AND position ~>~ #{after}
              AND rule <> 'GONE' AND NOT gone ORDER BY position USING ~<~ LIMIT #{most}
            """)
    List<String> positionsAfter(
            @Param("source") int source,
            @Param("pattern") String pattern,
            @Param("after") String after,
            @Param("most") int most);

    /** All that is logged in these people's mailboxes has another keyword now, or none. */
    @Insert("""
            INSERT INTO outbox (kind, target, subject)
            SELECT 'KEYWORD', s.source::text, s.id FROM sighting s JOIN source o ON o.id = s.source
            JOIN connection c ON c.id = o.connection
            WHERE c.person = ANY(#{people}) AND s.kind = 'mail' AND s.verdict = 'logged' AND NOT s.gone ORDER BY s.id
            ON CONFLICT (kind, subject) DO UPDATE SET generation = outbox.generation + 1, due_at = now(), attempts = 0, trouble = ''
            """)
    int keywordsAgain(@Param("people") UUID[] people);

    /** Every keyword that any policy ever had. */
    @Select("""
            SELECT DISTINCT rules::jsonb -> 'handling' ->> 'loggedKeyword' FROM policy_version
            WHERE coalesce(rules::jsonb -> 'handling' ->> 'loggedKeyword', '') <> ''
            """)
    List<String> keywordsEver();

    record ChosenRow(String position, String hand) {}

    @Select(
            "SELECT position, hand FROM sighting WHERE source = #{source} AND hand <> '' AND rule <> 'GONE' AND NOT gone")
    List<ChosenRow> chosen(@Param("source") int source);

    record KeywordRow(UUID id, String position, boolean logged, String keyword) {}

    @Select("""
            SELECT s.id, s.position, s.verdict = 'logged' AS logged,
                   coalesce(v.rules::jsonb -> 'handling' ->> 'loggedKeyword', '') AS keyword
            FROM sighting s LEFT JOIN cover k ON k.person = s.person
            LEFT JOIN policy_version v ON v.policy = k.policy AND v.version = k.version WHERE s.id = ANY(#{ids}) AND NOT s.gone
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    List<KeywordRow> keywords(@Param("ids") UUID[] ids);

    @Select("SELECT id FROM sighting WHERE source = #{source} LIMIT #{most}")
    List<UUID> someOf(@Param("source") int source, @Param("most") int most);

    @Delete("""
            WITH s AS (DELETE FROM stranger WHERE sighting = ANY(#{ids})), w AS (DELETE FROM wrote WHERE sighting = ANY(#{ids})),
                 p AS (DELETE FROM stranger_phone WHERE sighting = ANY(#{ids})),
                 o AS (DELETE FROM outbox WHERE kind = 'KEYWORD' AND subject = ANY(#{ids}))
            DELETE FROM sighting WHERE id = ANY(#{ids})
            """)
    int forget(@Param("ids") UUID[] ids);
}
