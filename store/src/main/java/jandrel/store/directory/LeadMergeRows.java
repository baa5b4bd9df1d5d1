package jandrel.store.directory;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Two leads that are one person. */
@Mapper
interface LeadMergeRows extends MergeRows {
    @Override
    @Select("""
            SELECT jsonb_build_object('lead', to_jsonb(l),
                'addresses', (SELECT coalesce(jsonb_agg(a.address), '[]') FROM lead_address a WHERE a.lead = l.id),
                'had', (SELECT coalesce(jsonb_agg(a.address), '[]') FROM lead_address a WHERE a.lead = #{stays}),
                'merged', (SELECT coalesce(jsonb_agg(m.key), '[]') FROM merged_lead m WHERE m.lead = l.id),
                'marked_in', (SELECT s.version + 1 FROM lead s WHERE s.id = #{stays} AND NOT 'addresses' = ANY(s.by_hand)))::text
            FROM lead l WHERE l.id = #{goes}
            """)
    String written(@Param("stays") UUID stays, @Param("goes") UUID goes);

    @Override
    @Insert("""
            WITH given AS (
                INSERT INTO lead_address SELECT address, #{stays} FROM lead_address WHERE lead = #{goes} ON CONFLICT DO NOTHING
                RETURNING address)
            UPDATE lead SET version = version + 1, changed_at = now(),
                by_hand = CASE WHEN EXISTS (SELECT FROM given) AND NOT 'addresses' = ANY(by_hand)
                    THEN by_hand || '{addresses}' ELSE by_hand END
            WHERE id = #{stays}
            """)
    int passOn(@Param("stays") UUID stays, @Param("goes") UUID goes);

    @Override
    @Insert("""
            WITH before AS (UPDATE merged_lead SET lead = #{stays} WHERE lead = #{goes})
            INSERT INTO merged_lead SELECT key, #{stays}, id FROM lead WHERE id = #{goes}
            """)
    int remember(@Param("stays") UUID stays, @Param("goes") UUID goes);

    @Override
    @Delete("DELETE FROM lead WHERE id = #{goes}")
    int remove(@Param("goes") UUID goes);

    @Override
    @Insert("""
            WITH b AS (SELECT #{before}::jsonb AS j),
            l AS (INSERT INTO lead SELECT (jsonb_populate_record(NULL::lead, j -> 'lead')).* FROM b RETURNING id, key),
            k AS (DELETE FROM merged_lead WHERE key IN (SELECT key FROM l)),
            m AS (UPDATE merged_lead SET lead = l.id FROM l, b WHERE merged_lead.lead = #{stays}
                  AND merged_lead.key IN (SELECT jsonb_array_elements_text(j -> 'merged'))),
            a AS (DELETE FROM lead_address USING b WHERE lead = #{stays} AND address IN (
                  SELECT jsonb_array_elements_text(j -> 'addresses') EXCEPT SELECT jsonb_array_elements_text(j -> 'had'))),
            s AS (UPDATE lead SET version = version + 1, changed_at = now(), by_hand = CASE
                      WHEN version = (j ->> 'marked_in')::bigint THEN array_remove(by_hand, 'addresses') ELSE by_hand END
                  FROM b WHERE id = #{stays})
            INSERT INTO lead_address SELECT jsonb_array_elements_text(j -> 'addresses'), l.id FROM b, l
            """)
    int restore(@Param("stays") UUID stays, @Param("before") String before);

    @Override
    @Select("SELECT lead FROM merged_lead WHERE key = #{before}::jsonb -> 'lead' ->> 'key'")
    Optional<UUID> meant(@Param("before") String before);

    @Override
    @Select("SELECT address FROM lead_address WHERE lead = ANY(#{records})")
    List<String> keysOf(@Param("records") UUID[] records);
}
