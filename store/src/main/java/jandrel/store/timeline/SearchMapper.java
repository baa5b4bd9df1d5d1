package jandrel.store.timeline;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** Reads and fills the index of what was written. */
@Mapper
public interface SearchMapper {
    /** @param month since 1970, the first is 1 */
    record Part(int month, String language) {}

    /** What the forms of a word have in common in a language. */
    record Stem(String language, String word, String stem) {}

    /** @param text what it says itself */
    record Said(UUID id, String subject, String language, String text, int attachments) {}

    record ToIndex(UUID item, UUID content, String text) {}

    @Select("""
            SELECT month, language FROM search_part UNION SELECT q, 'x' FROM generate_series(
                (SELECT search_month(min(at)) FROM activity WHERE content IS NULL),
                (SELECT search_month(max(at)) FROM activity WHERE content IS NULL)) q
            """)
    List<Part> parts();

    @Select("""
            SELECT l AS language, w AS word, search_stem(l, w) AS stem FROM unnest(#{languages}::text[]) l, unnest(#{words}::text[]) w
            """)
    List<Stem> stems(@Param("languages") String[] languages, @Param("words") String[] words);

    /** What the index names: texts, and activities without one. */
    String NAMED = """
            (
                SELECT b.item, b.content, b.at, NULL::uuid AS id, 0 AS face FROM body b
                WHERE b.language IS NOT NULL AND b.at >= #{from} AND b.at <= #{beforeAt}::timestamptz
                  AND search_words(b.month, b.language, b.head, left(b.text, b.said), b.attachments) @@ #{q.indexed}::tsquery
                UNION ALL
                SELECT a.item, NULL, a.at, a.id, a.face FROM activity a
                WHERE a.content IS NULL AND a.at >= #{from} AND a.at <= #{beforeAt}::timestamptz
                  AND search_words(search_month(a.at), 'x', search_head(a.subject, a.people), '', '[]') @@ #{q.indexed}::tsquery
            )
            """;

    /** The activities of what is named. */
    String ACTIVITIES = """
            JOIN LATERAL (
                SELECT * FROM activity a WHERE c.id IS NULL AND a.id = c.item AND a.item = a.id AND a.content = c.content
                UNION ALL SELECT * FROM activity a WHERE c.id IS NULL AND a.item = c.item AND a.id <> a.item AND a.content = c.content
                UNION ALL SELECT * FROM activity a WHERE a.id = c.id AND a.face = c.face) a ON true
            LEFT JOIN body b ON b.item = c.item AND b.content = c.content
            """;

    /** The words of a text under the subject and participants of one activity that has it. */
    String OWN = """
            search_words(coalesce(b.month, search_month(a.at)), coalesce(b.language, 'x'), search_head(a.subject, a.people),
                coalesce(left(b.text, b.said), ''), coalesce(b.attachments, '[]'))""";

    /** Only what the viewer reads in full is found, by what that one says: who shares a text may have another subject. */
    String READ =
            " a.at >= #{from} AND a.at < #{until} AND #{finds} AND (a.readers IS NULL OR a.readers && #{viewer}::uuid[]) AND "
                    + TimelineMapper.FACE
                    + " AND (b.item IS NULL OR b.head = search_head(a.subject, a.people) OR " + OWN
                    + " @@ #{q.indexed}::tsquery)"
                    + " AND (#{q.without} = '' OR NOT " + OWN + " @@ #{q.without}::tsquery)";

    String IS = "::text[]) p WHERE (left(p, 1) = '-') = ";

    /** Whether one of some parts has this name or address; ends within two parentheses. */
    String PARTY = "EXISTS (SELECT FROM jsonb_array_elements(a.facts::jsonb -> 'parties') x WHERE"
            + " search_fold(concat_ws(' ', x ->> 'name', x ->> 'address')) LIKE substr(p, 2) AND x ->> 'part' IN (";

    String GUESTS = "'TO', 'CC', 'ATTENDEE', 'ACCEPTED', 'TENTATIVE', 'DECLINED', 'DELEGATED', 'GROUP'";

    String HOSTS = "'FROM', 'SENDER', 'ORGANISER'";

    String NARROWED = " AND NOT EXISTS (SELECT FROM unnest(#{q.phrases}" + IS + """
            (search_fold(a.subject) LIKE substr(p, 2) OR search_fold(a.people) LIKE substr(p, 2)
                OR coalesce(search_fold(left(b.text, b.said)) LIKE substr(p, 2)
                    OR search_fold(search_names(b.attachments)) LIKE substr(p, 2), false)))
            """
            + " AND NOT EXISTS (SELECT FROM unnest(#{q.from}" + IS + PARTY + HOSTS + ")))"
            + " AND NOT EXISTS (SELECT FROM unnest(#{q.to}" + IS + PARTY + GUESTS + ")))"
            + " AND NOT EXISTS (SELECT FROM unnest(#{q.with}" + IS + PARTY + HOSTS + ", " + GUESTS
            + ", 'REPLY_TO', 'ROOM')))"
            + " AND NOT EXISTS (SELECT FROM unnest(#{q.of}" + IS + """
            EXISTS (SELECT FROM person x WHERE x.id = ANY(a.owners) AND search_fold(x.name) LIKE substr(p, 2)))
              AND NOT EXISTS (SELECT FROM unnest(#{q.in}""" + IS + """
            EXISTS (SELECT FROM link l JOIN (SELECT id, name FROM account UNION ALL SELECT id, name FROM contact
                UNION ALL SELECT id, name FROM lead UNION ALL SELECT id, name FROM opportunity) r ON r.id = l.record
                WHERE l.activity = a.id AND (NOT l.blind OR a.authors && #{viewer}::uuid[]) AND search_fold(r.name) LIKE substr(p, 2)))
              AND (#{q.attached} = '' OR (coalesce(b.attachments, '[]') <> '[]') = (#{q.attached} = 'yes'))
            """;

    /** @param id of an activity that has no text; else null */
    record Named(
            UUID item,
            @Nullable UUID content,
            Instant at,
            @Nullable UUID id,
            int face) {}

    /** The newest of what the index names: how much of it the viewer gets is seen of these alone. */
    @Select("SELECT item, content, at, id, face FROM " + NAMED + """
             c WHERE (at, item) < (#{beforeAt}::timestamptz, #{beforeItem}::uuid) ORDER BY at DESC, item DESC LIMIT #{limit}
            """)
    List<Named> named(
            @Param("q") SearchTerms terms,
            @Param("from") Instant from,
            @Param("beforeAt") Instant beforeAt,
            @Param("beforeItem") UUID beforeItem,
            @Param("limit") int limit);

    @Select("SELECT a.id, a.kind, a.at, c.at AS sorted, " + TimelineMapper.COLUMNS + ", NULL AS evidence FROM "
            + "unnest(#{items}::uuid[], #{contents}::uuid[], #{times}::text[]::timestamptz[], #{ids}::uuid[], #{faces}::text[]::int[])"
            + " c(item, content, at, id, face) " + ACTIVITIES + " WHERE " + READ + NARROWED + """
              AND (c.at, a.id) < (#{beforeAt}::timestamptz, #{beforeId}::uuid)
            ORDER BY c.at DESC, a.id DESC LIMIT #{limit}
            """)
    List<TimelineMapper.ActivityRow> found(
            @Param("items") UUID[] items,
            @Param("contents") @Nullable UUID[] contents,
            @Param("times") String[] times,
            @Param("ids") @Nullable UUID[] ids,
            @Param("faces") String[] faces,
            @Param("q") SearchTerms terms,
            @Param("finds") boolean finds,
            @Param("viewer") UUID[] viewer,
            @Param("from") Instant from,
            @Param("until") Instant until,
            @Param("beforeAt") Instant beforeAt,
            @Param("beforeId") UUID beforeId,
            @Param("limit") int limit);

    @Select("SELECT count(*) FROM (SELECT FROM " + NAMED + " c " + ACTIVITIES + " WHERE " + READ + NARROWED
            + " LIMIT #{most}) found")
    long count(
            @Param("q") SearchTerms terms,
            @Param("finds") boolean finds,
            @Param("viewer") UUID[] viewer,
            @Param("from") Instant from,
            @Param("until") Instant until,
            @Param("beforeAt") Instant beforeAt,
            @Param("most") int most);

    /** What activities say that the viewer reads in full. */
    @Select("""
            SELECT a.id, a.subject, coalesce(b.language, 'x') AS language, coalesce(left(b.text, b.said), '') AS text,
                jsonb_array_length(coalesce(b.attachments, '[]')::jsonb) AS attachments
            FROM activity a LEFT JOIN body b ON b.item = a.item AND b.content = a.content AND b.language IS NOT NULL
            WHERE a.id = ANY(#{ids}::uuid[]) AND (a.readers IS NULL OR a.readers && #{viewer}::uuid[]) AND
            """ + TimelineMapper.FACE)
    List<Said> said(@Param("ids") UUID[] ids, @Param("viewer") UUID[] viewer);

    /** How much is still to be indexed, up to a number. */
    @Select("SELECT count(*) FROM (SELECT FROM body WHERE language IS NULL LIMIT #{most}) b")
    long toIndexCount(@Param("most") int most);

    @Select(
            "SELECT item, content, left(text, #{most}) AS text FROM body WHERE language IS NULL LIMIT #{limit} FOR UPDATE SKIP LOCKED")
    List<ToIndex> toIndex(@Param("most") int most, @Param("limit") int limit);

    @Update("""
            UPDATE body b SET language = n.language, said = n.said, at = a.at, month = search_month(a.at), head = a.head
            FROM unnest(#{items}::uuid[], #{contents}::uuid[], #{languages}::text[], #{said}::text[]::int[]) n(item, content, language, said),
                LATERAL search_facts(n.item, n.content) a
            WHERE b.item = n.item AND b.content = n.content
            """)
    int index(
            @Param("items") UUID[] items,
            @Param("contents") UUID[] contents,
            @Param("languages") String[] languages,
            @Param("said") String[] said);

    @Insert("""
            INSERT INTO search_part SELECT DISTINCT month, language FROM body
            WHERE item = ANY(#{items}::uuid[]) AND language IS NOT NULL ON CONFLICT DO NOTHING
            """)
    int addParts(@Param("items") UUID[] items);

    /** How many texts were ever added, as the database counts them. */
    @Select("SELECT coalesce(max(n_tup_ins), 0) FROM pg_stat_user_tables WHERE relid = 'body'::regclass")
    long added();

    /** What is in the index, but not yet in its place, makes each search slower. */
    @Select("SELECT gin_clean_pending_list('body_words') + gin_clean_pending_list('activity_words')")
    long tidy();
}
