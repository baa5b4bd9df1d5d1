package jandrel.store.directory;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Two contacts that are one person. */
@Mapper
interface ContactMergeRows extends MergeRows {
    @Override
    @Select("""
            SELECT jsonb_build_object('contact', to_jsonb(c),
                'addresses', (SELECT coalesce(jsonb_agg(to_jsonb(a)), '[]') FROM contact_address a WHERE a.contact = c.id),
                'phones', (SELECT coalesce(jsonb_agg(to_jsonb(f)), '[]') FROM contact_phone f WHERE f.contact = c.id),
                'stays', (SELECT coalesce(jsonb_agg(to_jsonb(s)), '[]') FROM contact_stay s WHERE s.contact = c.id),
                'parts', (SELECT coalesce(jsonb_agg(to_jsonb(p)), '[]') FROM opportunity_contact p WHERE p.contact = c.id),
                'details', (SELECT to_jsonb(d) FROM contact_details d WHERE d.contact = c.id),
                'cards', (SELECT coalesce(jsonb_agg(d.id), '[]') FROM card d WHERE d.contact = c.id),
                'merged', (SELECT coalesce(jsonb_agg(m.key), '[]') FROM merged_contact m WHERE m.contact = c.id),
                'had', jsonb_build_object(
                    'own', (SELECT s.own FROM contact s WHERE s.id = #{stays}),
                    'addresses', (SELECT coalesce(jsonb_agg(a.address), '[]') FROM contact_address a WHERE a.contact = #{stays}),
                    'phones', (SELECT coalesce(jsonb_agg(f.phone), '[]') FROM contact_phone f WHERE f.contact = #{stays}),
                    'stays', (SELECT coalesce(jsonb_agg(s.until), '[]') FROM contact_stay s WHERE s.contact = #{stays}),
                    'parts', (SELECT coalesce(jsonb_agg(p.opportunity), '[]') FROM opportunity_contact p WHERE p.contact = #{stays})))::text
            FROM contact c WHERE c.id = #{goes}
            """)
    String written(@Param("stays") UUID stays, @Param("goes") UUID goes);

    @Override
    @Insert("""
            WITH address AS (
                INSERT INTO contact_address (address, contact, by_hand)
                SELECT address, #{stays}, true FROM contact_address WHERE contact = #{goes} ON CONFLICT DO NOTHING),
            stay AS (
                INSERT INTO contact_stay SELECT #{stays}, account, until FROM contact_stay WHERE contact = #{goes}
                ON CONFLICT DO NOTHING),
            part AS (
                INSERT INTO opportunity_contact SELECT opportunity, #{stays} FROM opportunity_contact WHERE contact = #{goes}
                ON CONFLICT DO NOTHING),
            -- in what the company made for itself, what stays goes before what comes
            own AS (
                UPDATE contact s SET own = g.own || s.own, version = s.version + 1, changed_at = now() FROM contact g
                WHERE s.id = #{stays} AND g.id = #{goes} AND s.own <> g.own || s.own)
            INSERT INTO contact_phone SELECT #{stays}, phone, hash, true FROM contact_phone WHERE contact = #{goes}
            ON CONFLICT DO NOTHING
            """)
    int passOn(@Param("stays") UUID stays, @Param("goes") UUID goes);

    /** What a card agreed on with the one who goes says nothing of the one who stays. */
    @Override
    @Insert("""
            WITH card AS (UPDATE card SET contact = #{stays}, base = NULL, sending = NULL, version = version + 1 WHERE contact = #{goes}),
            before AS (UPDATE merged_contact SET contact = #{stays} WHERE contact = #{goes})
            INSERT INTO merged_contact SELECT key, #{stays}, id FROM contact WHERE id = #{goes}
            ON CONFLICT (key) DO UPDATE SET contact = excluded.contact, was = excluded.was
            """)
    int remember(@Param("stays") UUID stays, @Param("goes") UUID goes);

    @Override
    @Delete("DELETE FROM contact WHERE id = #{goes}")
    int remove(@Param("goes") UUID goes);

    @Override
    @Insert("""
            WITH b AS (SELECT #{before}::jsonb AS j),
            c AS (INSERT INTO contact
                  SELECT (jsonb_populate_record(NULL::contact, '{"version": 1, "by_hand": [], "changed_at": "now", "own": {}}'::jsonb || (j -> 'contact')
                      || jsonb_build_object('account', account_now((j -> 'contact' ->> 'account')::uuid)))).* FROM b RETURNING id, key),
            k AS (DELETE FROM merged_contact WHERE key IN (SELECT key FROM c)),
            m AS (UPDATE merged_contact SET contact = c.id FROM c, b
                  WHERE merged_contact.contact = #{stays} AND merged_contact.key IN (SELECT jsonb_array_elements_text(coalesce(j -> 'merged', '[]')))),
            mine AS (
                DELETE FROM contact_address a USING b, jsonb_to_recordset(j -> 'addresses') AS x(address text)
                WHERE a.contact = #{stays} AND a.by_hand AND a.address = x.address
                  AND NOT coalesce(j -> 'had' -> 'addresses' @> to_jsonb(a.address), false)),
            own AS (
                UPDATE contact s SET version = s.version + 1, changed_at = now(),
                    own = (SELECT coalesce(jsonb_object_agg(e.key, e.value), '{}') FROM jsonb_each(s.own) e WHERE NOT given_by_merge(e.key, e.value, j))
                FROM b WHERE s.id = #{stays} AND EXISTS (SELECT FROM jsonb_each(s.own) e WHERE given_by_merge(e.key, e.value, j))),
            phones AS (
                DELETE FROM contact_phone f USING b, jsonb_to_recordset(coalesce(j -> 'phones', '[]')) AS x(phone text)
                WHERE f.contact = #{stays} AND f.by_hand AND f.phone = x.phone
                  AND NOT coalesce(j -> 'had' -> 'phones' @> to_jsonb(f.phone), false)),
            -- merges of before say nothing of these two
            stay AS (
                DELETE FROM contact_stay s USING b, jsonb_to_recordset(j -> 'stays') AS x(until date)
                WHERE s.contact = #{stays} AND s.until = x.until AND NOT j -> 'had' -> 'stays' @> to_jsonb(s.until)),
            part AS (
                DELETE FROM opportunity_contact p USING b, jsonb_to_recordset(j -> 'parts') AS x(opportunity uuid)
                WHERE p.contact = #{stays} AND p.opportunity = x.opportunity AND NOT j -> 'had' -> 'parts' @> to_jsonb(p.opportunity)),
            f AS (INSERT INTO contact_phone
                  SELECT (jsonb_populate_recordset(NULL::contact_phone, coalesce(j -> 'phones', '[]'))).* FROM b),
            d AS (INSERT INTO contact_details
                  SELECT (jsonb_populate_record(NULL::contact_details, j -> 'details')).* FROM b WHERE j -> 'details' <> 'null'),
            w AS (UPDATE card SET contact = c.id, base = NULL, sending = NULL, version = version + 1 FROM c, b
                  WHERE card.contact = #{stays}
                    AND card.id::text IN (SELECT jsonb_array_elements_text(coalesce(j -> 'cards', '[]')))),
            s AS (INSERT INTO contact_stay SELECT x.contact, account_now(x.account), x.until
                  FROM b, jsonb_populate_recordset(NULL::contact_stay, j -> 'stays') x WHERE account_now(x.account) IS NOT NULL),
            p AS (INSERT INTO opportunity_contact SELECT x.* FROM b, jsonb_populate_recordset(NULL::opportunity_contact, j -> 'parts') x
                  WHERE EXISTS (SELECT FROM opportunity o WHERE o.id = x.opportunity))
            INSERT INTO contact_address SELECT (jsonb_populate_recordset(NULL::contact_address, j -> 'addresses')).* FROM b
            """)
    int restore(@Param("stays") UUID stays, @Param("before") String before);

    @Override
    @Select("SELECT contact FROM merged_contact WHERE key = #{before}::jsonb -> 'contact' ->> 'key'")
    Optional<UUID> meant(@Param("before") String before);

    @Override
    @Select("SELECT address FROM contact_address WHERE contact = ANY(#{records})")
    List<String> keysOf(@Param("records") UUID[] records);

    /** Their cards, if they have any, are settled anew. */
    @Select("SELECT count(cards_pending(#{contacts}::uuid[]))")
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    long cardsPending(@Param("contacts") UUID[] contacts);
}
