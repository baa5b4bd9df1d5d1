package jandrel.store.directory;

import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
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
