package jandrel.store.directory;

import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.InParts;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

@Mapper
public interface DirectoryMapper {
    record AccountState(
            UUID id,
            String key,
            String name,
            @Nullable UUID owner,
            @Nullable UUID above,
            String[] domains) implements FileImport.State {
        @Override
        public boolean same(FileImport.State other) {
            return other instanceof AccountState o
                    && name.equals(o.name)
                    && Objects.equals(owner, o.owner)
                    && Objects.equals(above, o.above)
                    && Arrays.equals(domains, o.domains);
        }
    }

    record LeadState(
            UUID id,
            String key,
            String name,
            String company,
            @Nullable UUID owner,
            String[] addresses) implements FileImport.State {
        @Override
        public boolean same(FileImport.State other) {
            return other instanceof LeadState o
                    && List.of(name, company).equals(List.of(o.name, o.company))
                    && Objects.equals(owner, o.owner)
                    && Arrays.equals(addresses, o.addresses);
        }
    }

    record ContactState(
            UUID id,
            String key,
            String name,
            String title,
            @Nullable UUID account,
            @Nullable LocalDate lastActive,
            String[] addresses,
            String[] phones)
            implements FileImport.State {
        @Override
        public boolean same(FileImport.State other) {
            return other instanceof ContactState o
                    && List.of(name, title).equals(List.of(o.name, o.title))
                    && Objects.equals(account, o.account)
                    && Objects.equals(lastActive, o.lastActive)
                    && Arrays.equals(addresses, o.addresses)
                    && Arrays.equals(phones, o.phones);
        }
    }

    record OpportunityState(
            UUID id,
            String key,
            String name,
            @Nullable UUID account,
            String stage,
            String state,
            @Nullable String value,
            String currency,
            @Nullable UUID owner,
            UUID[] contacts)
            implements FileImport.State {
        @Override
        public boolean same(FileImport.State other) {
            return other instanceof OpportunityState o
                    && List.of(name, stage, state, currency).equals(List.of(o.name, o.stage, o.state, o.currency))
                    && Objects.equals(account, o.account)
                    && Objects.equals(value, o.value)
                    && Objects.equals(owner, o.owner)
                    && Arrays.equals(contacts, o.contacts);
        }
    }

    @Select("""
            SELECT a.id, a.key, a.name, a.owner, a.above,
                   ARRAY(SELECT domain FROM account_domain WHERE account = a.id ORDER BY domain COLLATE "C") AS domains
            FROM account a WHERE a.key = ANY(#{keys})
            """)
    List<AccountState> accounts(@Param("keys") String[] keys);

    @Select("""
            SELECT c.id, c.key, c.name, c.title, c.account, c.last_active,
                   ARRAY(SELECT address FROM contact_address WHERE contact = c.id AND NOT by_hand ORDER BY address COLLATE "C") AS addresses,
                   ARRAY(SELECT phone FROM contact_phone WHERE contact = c.id AND NOT by_hand ORDER BY phone COLLATE "C") AS phones
            FROM contact c WHERE c.key = ANY(#{keys})
            """)
    List<ContactState> contacts(@Param("keys") String[] keys);

    @Select("""
            SELECT id, key, name, account, stage, state, trim_scale(value)::text AS value, currency, owner,
                   ARRAY(SELECT contact FROM opportunity_contact WHERE opportunity = o.id ORDER BY contact) AS contacts
            FROM opportunity o WHERE key = ANY(#{keys})
            """)
    List<OpportunityState> opportunities(@Param("keys") String[] keys);

    @Select("""
            SELECT l.id, l.key, l.name, l.company, l.owner,
                   ARRAY(SELECT address FROM lead_address WHERE lead = l.id ORDER BY address COLLATE "C") AS addresses
            FROM lead l WHERE l.key = ANY(#{keys})
            """)
    List<LeadState> leads(@Param("keys") String[] keys);

    @Update("""
            ANALYZE account, account_domain, contact, contact_address, contact_stay, contact_phone,
                lead, lead_address, opportunity, opportunity_contact
            """)
    void analyse();

    @Select("SELECT key, id FROM contact WHERE key = ANY(#{keys})")
    List<FileImport.Ref> contactIds(@Param("keys") String[] keys);

    /** Whether an account is, over however many steps, a part of itself. */
    @Select("""
            WITH RECURSIVE up AS (
                SELECT id, above, 1 AS depth FROM account WHERE id = ANY(#{accounts})
                UNION ALL SELECT u.id, a.above, u.depth + 1 FROM up u JOIN account a ON a.id = u.above WHERE u.depth < 50)
            SELECT a.key FROM up u JOIN account a ON a.id = u.id WHERE u.above = u.id OR u.depth >= 50 LIMIT 1
            """)
    java.util.Optional<String> partOfItself(@Param("accounts") UUID[] accounts);

    @Select("SELECT key, id FROM person WHERE key = ANY(#{keys})")
    List<FileImport.Ref> personIds(@Param("keys") String[] keys);

    @Select("SELECT key, id FROM account WHERE key = ANY(#{keys})")
    List<FileImport.Ref> accountIds(@Param("keys") String[] keys);

    @Select("""
            SELECT ad.domain AS what, a.key FROM account_domain ad JOIN account a ON a.id = ad.account
            WHERE ad.domain = ANY(#{domains})
            """)
    List<FileImport.Taken> domainOwners(@Param("domains") String[] domains);

    /** The domains of accounts and of their parts, and the addresses of who is or was their contact. */
    @Select("""
            WITH RECURSIVE a AS (
                SELECT id FROM account WHERE id = ANY(#{accounts})
                UNION SELECT p.id FROM account p JOIN a ON p.above = a.id)
            SELECT domain FROM account_domain WHERE account IN (SELECT id FROM a)
            UNION SELECT ca.address FROM contact c JOIN contact_address ca ON ca.contact = c.id WHERE c.account IN (SELECT id FROM a)
            UNION SELECT ca.address FROM contact_stay s JOIN contact_address ca ON ca.contact = s.contact
                WHERE s.account IN (SELECT id FROM a)
            """)
    List<String> keysOfAccounts(@Param("accounts") UUID[] accounts);

    @Insert({
        "<script>",
        "INSERT INTO account (id, key, name, owner, above) VALUES ",
        "<foreach collection='rows' item='r' separator=','>",
        "(#{r.id}, #{r.key}, #{r.name}, #{r.owner}::uuid, #{r.above}::uuid)</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, owner = excluded.owner, above = excluded.above",
        "</script>"
    })
    int upsertAccounts(@Param("rows") List<AccountState> rows);

    @Insert({
        "<script>",
        "INSERT INTO contact (id, key, name, title, account, last_active) VALUES ",
        "<foreach collection='rows' item='r' separator=','>",
        "(#{r.id}, #{r.key}, #{r.name}, #{r.title}, #{r.account}::uuid, #{r.lastActive}::date)</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, title = excluded.title, account = excluded.account,",
        "last_active = excluded.last_active",
        "</script>"
    })
    int upsertContacts(@Param("rows") List<ContactState> rows);

    @Insert({
        "<script>",
        "INSERT INTO opportunity (id, key, name, account, stage, state, value, currency, owner) VALUES ",
        "<foreach collection='rows' item='r' separator=','>",
        "(#{r.id}, #{r.key}, #{r.name}, #{r.account}::uuid, #{r.stage}, #{r.state}, #{r.value}::numeric, #{r.currency},",
        "#{r.owner}::uuid)</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, account = excluded.account, stage = excluded.stage,",
        "state = excluded.state, value = excluded.value, currency = excluded.currency, owner = excluded.owner",
        "</script>"
    })
    int upsertOpportunities(@Param("rows") List<OpportunityState> rows);

    @Insert({
        "<script>",
        "INSERT INTO lead (id, key, name, company, owner) VALUES ",
        "<foreach collection='rows' item='r' separator=','>",
        "(#{r.id}, #{r.key}, #{r.name}, #{r.company}, #{r.owner}::uuid)</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, company = excluded.company, owner = excluded.owner",
        "</script>"
    })
    int upsertLeads(@Param("rows") List<LeadState> rows);

    default void writeLeads(List<LeadState> rows) {
        InParts.of(rows, this::upsertLeads);
    }

    @Delete("DELETE FROM lead_address WHERE lead = ANY(#{ids})")
    int clearLeadAddresses(@Param("ids") UUID[] ids);

    @Insert("INSERT INTO lead_address SELECT * FROM unnest(#{texts}, #{ids})")
    int addLeadAddresses(@Param("texts") String[] texts, @Param("ids") UUID[] ids);

    @Insert("""
            INSERT INTO contact_stay SELECT * FROM unnest(#{contacts}::uuid[], #{accounts}::uuid[], #{until}::date[])
            ON CONFLICT (contact, until) DO UPDATE SET account = excluded.account
            """)
    int addStays(
            @Param("contacts") UUID[] contacts, @Param("accounts") UUID[] accounts, @Param("until") String[] until);

    @Delete("DELETE FROM opportunity_contact WHERE opportunity = ANY(#{ids})")
    int clearParts(@Param("ids") UUID[] ids);

    @Insert("INSERT INTO opportunity_contact SELECT * FROM unnest(#{opportunities}::uuid[], #{contacts}::uuid[])")
    int addParts(@Param("opportunities") UUID[] opportunities, @Param("contacts") UUID[] contacts);

    @Select("SELECT key FROM merged_contact WHERE key = ANY(#{keys})")
    List<String> merged(@Param("keys") String[] keys);

    @Select("SELECT address FROM contact_address WHERE contact = ANY(#{contacts})")
    List<String> addressesOf(@Param("contacts") UUID[] contacts);

    default void writeAccounts(List<AccountState> rows) {
        InParts.of(rows, this::upsertAccounts);
    }

    default void writeContacts(List<ContactState> rows) {
        InParts.of(rows, this::upsertContacts);
    }

    default void writeOpportunities(List<OpportunityState> rows) {
        InParts.of(rows, this::upsertOpportunities);
    }

    /** But for those that somebody gave them here. */
    @Delete("DELETE FROM contact_address WHERE contact = ANY(#{ids}) AND NOT by_hand")
    int clearContactAddresses(@Param("ids") UUID[] ids);

    @Delete("DELETE FROM contact_phone WHERE contact = ANY(#{ids}) AND NOT by_hand")
    int clearPhones(@Param("ids") UUID[] ids);

    @Insert("""
            INSERT INTO contact_phone (phone, hash, contact) SELECT * FROM unnest(#{phones}, #{hashes}::uuid[], #{contacts}::uuid[])
            ON CONFLICT (contact, phone) DO UPDATE SET by_hand = false
            """)
    int addPhones(@Param("phones") String[] phones, @Param("hashes") UUID[] hashes, @Param("contacts") UUID[] contacts);

    @Delete("DELETE FROM account_domain WHERE account = ANY(#{ids})")
    int clearDomains(@Param("ids") UUID[] ids);

    @Insert("""
            INSERT INTO contact_address (address, contact) SELECT * FROM unnest(#{texts}, #{ids})
            ON CONFLICT (address, contact) DO UPDATE SET by_hand = false
            """)
    int addContactAddresses(@Param("texts") String[] texts, @Param("ids") UUID[] ids);

    @Insert("INSERT INTO account_domain SELECT * FROM unnest(#{texts}, #{ids})")
    int addDomains(@Param("texts") String[] texts, @Param("ids") UUID[] ids);
}
