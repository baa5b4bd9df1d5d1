package jandrel.store.directory;

import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** What people change in the directory by hand. */
@Mapper
interface AmendingMapper {
    /** @return those that the contact did not have */
    @Select("""
            INSERT INTO contact_address (address, contact, by_hand) SELECT a, #{contact}, true FROM unnest(#{addresses}::text[]) a
            ON CONFLICT DO NOTHING RETURNING address
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    List<String> giveAddresses(@Param("contact") UUID contact, @Param("addresses") String[] addresses);

    @Delete("DELETE FROM contact_address WHERE contact = #{contact} AND address = ANY(#{addresses}) AND by_hand")
    int takeAddresses(@Param("contact") UUID contact, @Param("addresses") String[] addresses);

    record Part(UUID opportunity, UUID contact) {}

    /** @return the parts that nobody had before */
    @Select("""
            INSERT INTO opportunity_contact SELECT * FROM unnest(#{opportunities}::uuid[], #{contacts}::uuid[]) ON CONFLICT DO NOTHING
            RETURNING opportunity, contact
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    List<Part> takePart(@Param("opportunities") UUID[] opportunities, @Param("contacts") UUID[] contacts);

    @Delete("""
            DELETE FROM opportunity_contact p USING unnest(#{opportunities}::uuid[], #{contacts}::uuid[]) gone(opportunity, contact)
            WHERE p.opportunity = gone.opportunity AND p.contact = gone.contact
            """)
    int leave(@Param("opportunities") UUID[] opportunities, @Param("contacts") UUID[] contacts);

    /** All of a contact, as a text that {@link #restore} understands. */
    @Select("""
            SELECT jsonb_build_object('contact', to_jsonb(c),
                'addresses', (SELECT coalesce(jsonb_agg(to_jsonb(a)), '[]') FROM contact_address a WHERE a.contact = c.id),
                'phones', (SELECT coalesce(jsonb_agg(to_jsonb(f)), '[]') FROM contact_phone f WHERE f.contact = c.id),
                'stays', (SELECT coalesce(jsonb_agg(to_jsonb(s)), '[]') FROM contact_stay s WHERE s.contact = c.id),
                'parts', (SELECT coalesce(jsonb_agg(to_jsonb(p)), '[]') FROM opportunity_contact p WHERE p.contact = c.id),
                'details', (SELECT to_jsonb(d) FROM contact_details d WHERE d.contact = c.id),
                'cards', (SELECT coalesce(jsonb_agg(d.id), '[]') FROM card d WHERE d.contact = c.id),
                'pins', (SELECT coalesce(jsonb_agg(to_jsonb(n)), '[]') FROM pin n WHERE n.record = c.id))::text
            FROM contact c WHERE c.id = #{contact}
            """)
    String written(@Param("contact") UUID contact);

    @Insert("""
            WITH stay AS (
                INSERT INTO contact_stay SELECT #{stays}, account, until FROM contact_stay WHERE contact = #{goes}
                ON CONFLICT DO NOTHING),
            part AS (
                INSERT INTO opportunity_contact SELECT opportunity, #{stays} FROM opportunity_contact WHERE contact = #{goes}
                ON CONFLICT DO NOTHING),
            phone AS (
                INSERT INTO contact_phone SELECT #{stays}, phone, hash, true FROM contact_phone WHERE contact = #{goes}
                ON CONFLICT DO NOTHING),
            -- what a card agreed on with the one who goes says nothing of the one who stays
            card AS (UPDATE card SET contact = #{stays}, base = NULL, sending = NULL, version = version + 1 WHERE contact = #{goes}),
            old AS (DELETE FROM pin WHERE record = #{goes} RETURNING item, kind, by_name, at)
            INSERT INTO pin (item, record, kind, by_name, at) SELECT item, #{stays}, kind, by_name, at FROM old
            ON CONFLICT DO NOTHING
            """)
    int passOn(@Param("stays") UUID stays, @Param("goes") UUID goes);

    @Insert("""
            WITH before AS (UPDATE merged_contact SET contact = #{stays} WHERE contact = #{goes})
            INSERT INTO merged_contact SELECT key, #{stays} FROM contact WHERE id = #{goes}
            ON CONFLICT (key) DO UPDATE SET contact = excluded.contact
            """)
    int rememberMerged(@Param("stays") UUID stays, @Param("goes") UUID goes);

    /** Their cards, if they have any, are settled anew. */
    @Select("SELECT count(cards_pending(#{contacts}::uuid[]))")
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    long cardsPending(@Param("contacts") UUID[] contacts);

    /** Addresses that the one who stays had of its own stay with it. */
    @Insert("""
            WITH b AS (SELECT #{before}::jsonb AS j),
            c AS (INSERT INTO contact SELECT (jsonb_populate_record(NULL::contact, '{"version": 1, "by_hand": [], "changed_at": "now"}'::jsonb || (j -> 'contact'))).* FROM b RETURNING id, key),
            k AS (DELETE FROM merged_contact WHERE key IN (SELECT key FROM c)),
            mine AS (
                DELETE FROM contact_address a USING b, jsonb_to_recordset(j -> 'addresses') AS x(address text)
                WHERE a.contact = #{stays} AND a.by_hand AND a.address = x.address),
            phones AS (
                DELETE FROM contact_phone f USING b, jsonb_to_recordset(coalesce(j -> 'phones', '[]')) AS x(phone text)
                WHERE f.contact = #{stays} AND f.by_hand AND f.phone = x.phone),
            f AS (INSERT INTO contact_phone
                  SELECT (jsonb_populate_recordset(NULL::contact_phone, coalesce(j -> 'phones', '[]'))).* FROM b),
            d AS (INSERT INTO contact_details
                  SELECT (jsonb_populate_record(NULL::contact_details, j -> 'details')).* FROM b WHERE j -> 'details' <> 'null'),
            w AS (UPDATE card SET contact = c.id, base = NULL, sending = NULL, version = version + 1 FROM c, b
                  WHERE card.contact = #{stays}
                    AND card.id::text IN (SELECT jsonb_array_elements_text(coalesce(j -> 'cards', '[]')))),
            s AS (INSERT INTO contact_stay SELECT (jsonb_populate_recordset(NULL::contact_stay, j -> 'stays')).* FROM b),
            p AS (INSERT INTO opportunity_contact
                  SELECT (jsonb_populate_recordset(NULL::opportunity_contact, j -> 'parts')).* FROM b),
            n AS (INSERT INTO pin SELECT (jsonb_populate_recordset(NULL::pin, j -> 'pins')).* FROM b)
            INSERT INTO contact_address SELECT (jsonb_populate_recordset(NULL::contact_address, j -> 'addresses')).* FROM b
            """)
    int restore(@Param("stays") UUID stays, @Param("before") String before);

    /** Takes records out; what is matched to them is decided again by whoever calls. */
    @Delete("DELETE FROM contact WHERE id = ANY(#{ids})")
    int removeContacts(@Param("ids") UUID[] ids);

    @Delete("DELETE FROM lead WHERE id = ANY(#{ids})")
    int removeLeads(@Param("ids") UUID[] ids);

    @Delete("DELETE FROM opportunity WHERE key = ANY(#{keys})")
    int removeOpportunities(@Param("keys") String[] keys);

    /** The domains and addresses of the accounts that these belong to: what is linked to them may be linked to others now. */
    @Select("""
            WITH a AS (SELECT account FROM opportunity WHERE key = ANY(#{keys}))
            SELECT d.domain FROM account_domain d JOIN a ON a.account = d.account
            UNION SELECT x.address FROM contact c JOIN a ON a.account = c.account JOIN contact_address x ON x.contact = c.id
            """)
    List<String> keysOfOpportunities(@Param("keys") String[] keys);

    /** Those alone that nothing belongs to any more. */
    @Delete("""
            DELETE FROM account a WHERE id = ANY(#{ids}) AND NOT EXISTS (SELECT FROM contact WHERE account = a.id)
              AND NOT EXISTS (SELECT FROM opportunity WHERE account = a.id)
              AND NOT EXISTS (SELECT FROM contact_stay WHERE account = a.id)
              AND NOT EXISTS (SELECT FROM account WHERE above = a.id)
            """)
    int removeAccounts(@Param("ids") UUID[] ids);
}
