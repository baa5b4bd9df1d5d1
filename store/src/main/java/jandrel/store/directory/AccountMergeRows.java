package jandrel.store.directory;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Two accounts that are one customer: contacts, opportunities, domains and parts go over. */
@Mapper
interface AccountMergeRows extends MergeRows {
    @Override
    @Select("""
            SELECT jsonb_build_object('account', to_jsonb(a),
                'domains', (SELECT coalesce(jsonb_agg(d.domain), '[]') FROM account_domain d WHERE d.account = a.id),
                'contacts', (SELECT coalesce(jsonb_agg(c.id), '[]') FROM contact c WHERE c.account = a.id),
                'stays', (SELECT coalesce(jsonb_agg(to_jsonb(s)), '[]') FROM contact_stay s WHERE s.account = a.id),
                'opportunities', (SELECT coalesce(jsonb_agg(o.id), '[]') FROM opportunity o WHERE o.account = a.id),
                'parts', (SELECT coalesce(jsonb_agg(p.id), '[]') FROM account p WHERE p.above = a.id),
                'merged', (SELECT coalesce(jsonb_agg(m.key), '[]') FROM merged_account m WHERE m.account = a.id),
                'marked_in', (SELECT s.version + 1 FROM account s WHERE s.id = #{stays} AND NOT 'domains' = ANY(s.by_hand)))::text
            FROM account a WHERE a.id = #{goes}
            """)
    String written(@Param("stays") UUID stays, @Param("goes") UUID goes);

    /** A part of the one that goes which the other is itself under goes up by one, so that nothing becomes a part of itself. */
    @Override
    @Insert("""
            WITH RECURSIVE up(id, above) AS (
                SELECT id, above FROM account WHERE id = #{stays}
                UNION SELECT a.id, a.above FROM account a JOIN up ON a.id = up.above),
            d AS (UPDATE account_domain SET account = #{stays} WHERE account = #{goes} RETURNING domain),
            c AS (UPDATE contact SET account = #{stays}, version = version + 1, changed_at = now() WHERE account = #{goes}),
            s AS (UPDATE contact_stay SET account = #{stays} WHERE account = #{goes}),
            o AS (
                UPDATE opportunity SET account = #{stays}, version = version + 1, changed_at = now() WHERE account = #{goes})
            UPDATE account SET version = version + 1, changed_at = now(),
                above = CASE WHEN above IS DISTINCT FROM #{goes} THEN above
                    WHEN id IN (SELECT id FROM up) THEN (SELECT above FROM account WHERE id = #{goes}) ELSE #{stays}::uuid END,
                by_hand = CASE WHEN id = #{stays} AND EXISTS (SELECT FROM d) AND NOT 'domains' = ANY(by_hand)
                    THEN by_hand || '{domains}' ELSE by_hand END
            WHERE id = #{stays} OR above = #{goes}
            """)
    int passOn(@Param("stays") UUID stays, @Param("goes") UUID goes);

    @Override
    @Insert("""
            WITH before AS (UPDATE merged_account SET account = #{stays} WHERE account = #{goes})
            INSERT INTO merged_account SELECT key, id, #{stays} FROM account WHERE id = #{goes}
            """)
    int remember(@Param("stays") UUID stays, @Param("goes") UUID goes);

    @Override
    @Delete("DELETE FROM account WHERE id = #{goes}")
    int remove(@Param("goes") UUID goes);

    /** What was moved elsewhere meanwhile stays there. */
    @Override
    @Insert("""
            WITH b AS (SELECT j, account_now((j -> 'account' ->> 'above')::uuid) AS higher FROM (SELECT #{before}::jsonb) x (j)),
            a AS (INSERT INTO account
                  SELECT (jsonb_populate_record(NULL::account, (j -> 'account')
                      || jsonb_build_object('above', higher))).* FROM b RETURNING id, key),
            k AS (DELETE FROM merged_account WHERE key IN (SELECT key FROM a)),
            m AS (UPDATE merged_account SET account = a.id FROM a, b WHERE merged_account.account = #{stays}
                  AND merged_account.key IN (SELECT jsonb_array_elements_text(j -> 'merged'))),
            d AS (UPDATE account_domain SET account = a.id FROM a, b WHERE account_domain.account = #{stays}
                  AND account_domain.domain IN (SELECT jsonb_array_elements_text(j -> 'domains'))),
            -- they went with the one that stayed
            lost AS (INSERT INTO account_domain SELECT x.domain, a.id FROM a, b, jsonb_array_elements_text(j -> 'domains') x(domain)
                  WHERE NOT EXISTS (SELECT FROM account WHERE id = #{stays}) ON CONFLICT DO NOTHING),
            c AS (UPDATE contact SET account = a.id, version = version + 1, changed_at = now() FROM a, b
                  WHERE contact.account = #{stays} AND contact.id::text IN (SELECT jsonb_array_elements_text(j -> 'contacts'))),
            s AS (UPDATE contact_stay SET account = a.id FROM a, b, jsonb_populate_recordset(NULL::contact_stay, j -> 'stays') x
                  WHERE contact_stay.account = #{stays} AND contact_stay.contact = x.contact AND contact_stay.until = x.until),
            o AS (UPDATE opportunity SET account = a.id, version = version + 1, changed_at = now() FROM a, b
                  WHERE opportunity.account = #{stays} AND opportunity.id::text IN (SELECT jsonb_array_elements_text(j -> 'opportunities')))
            UPDATE account SET version = version + 1, changed_at = now(),
                above = CASE WHEN j -> 'parts' @> to_jsonb(account.id::text) AND (above = #{stays} OR above IS NOT DISTINCT FROM higher)
                    THEN a.id ELSE above END,
                by_hand = CASE WHEN account.id = #{stays} AND version = (j ->> 'marked_in')::bigint
                    THEN array_remove(by_hand, 'domains') ELSE by_hand END
            FROM a, b WHERE account.id = #{stays} OR j -> 'parts' @> to_jsonb(account.id::text)
            """)
    int restore(@Param("stays") UUID stays, @Param("before") String before);

    /** The account that a merge took away. */
    @Select("SELECT (#{before}::jsonb -> 'account' ->> 'id')::uuid")
    UUID went(@Param("before") String before);

    @Override
    @Select("SELECT account FROM merged_account WHERE key = #{before}::jsonb -> 'account' ->> 'key'")
    Optional<UUID> meant(@Param("before") String before);

    @Override
    @Select(DirectoryMapper.KEYS_OF_ACCOUNTS)
    List<String> keysOf(@Param("accounts") UUID[] records);
}
