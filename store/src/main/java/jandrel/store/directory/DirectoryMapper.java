package jandrel.store.directory;

import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.InParts;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Set;
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
    /** The domains of accounts and of their parts, and the addresses of who is or was their contact. */
    String KEYS_OF_ACCOUNTS = """
            WITH RECURSIVE a AS (
                SELECT id FROM account WHERE id = ANY(#{accounts})
                UNION SELECT p.id FROM account p JOIN a ON p.above = a.id)
            SELECT domain FROM account_domain WHERE account IN (SELECT id FROM a)
            UNION SELECT ca.address FROM contact c JOIN contact_address ca ON ca.contact = c.id WHERE c.account IN (SELECT id FROM a)
            UNION SELECT ca.address FROM contact_stay s JOIN contact_address ca ON ca.contact = s.contact
                WHERE s.account IN (SELECT id FROM a)
            """;

    /** @param byHand the columns that somebody set here */
    record AccountState(
            UUID id,
            String key,
            String name,
            @Nullable UUID owner,
            @Nullable UUID above,
            String[] domains,
            String[] byHand)
            implements DirectoryState<AccountState> {
        @Override
        public boolean same(FileImport.State other) {
            return other instanceof AccountState o
                    && name.equals(o.name)
                    && Objects.equals(owner, o.owner)
                    && Objects.equals(above, o.above)
                    && Arrays.equals(domains, o.domains)
                    && Arrays.equals(byHand, o.byHand);
        }

        @Override
        public AccountState keeping(AccountState was, Set<String> keep) {
            return new AccountState(
                    id,
                    key,
                    keep.contains("name") ? was.name : name,
                    keep.contains("owner") ? was.owner : owner,
                    keep.contains("part_of") ? was.above : above,
                    keep.contains("domains") ? was.domains : domains,
                    byHand);
        }

        @Override
        public AccountState marked(String[] marks) {
            return new AccountState(id, key, name, owner, above, domains, marks);
        }
    }

    record LeadState(
            UUID id,
            String key,
            String name,
            String company,
            @Nullable UUID owner,
            String[] addresses,
            String[] byHand) implements DirectoryState<LeadState> {
        @Override
        public boolean same(FileImport.State other) {
            return other instanceof LeadState o
                    && List.of(name, company).equals(List.of(o.name, o.company))
                    && Objects.equals(owner, o.owner)
                    && Arrays.equals(addresses, o.addresses)
                    && Arrays.equals(byHand, o.byHand);
        }

        @Override
        public LeadState keeping(LeadState was, Set<String> keep) {
            return new LeadState(
                    id,
                    key,
                    keep.contains("name") ? was.name : name,
                    keep.contains("company") ? was.company : company,
                    keep.contains("owner") ? was.owner : owner,
                    keep.contains("addresses") ? was.addresses : addresses,
                    byHand);
        }

        @Override
        public LeadState marked(String[] marks) {
            return new LeadState(id, key, name, company, owner, addresses, marks);
        }
    }

    /**
     * @param addresses but for those that somebody gave the contact here
     * @param phones but for those, too
     * @param own what is in the fields that the company made for itself; see {@link OwnValues}
     */
    record ContactState(
            UUID id,
            String key,
            String name,
            String title,
            @Nullable UUID account,
            @Nullable LocalDate lastActive,
            String[] addresses,
            String[] phones,
            String[] byHand,
            String own)
            implements DirectoryState<ContactState> {
        @Override
        public boolean same(FileImport.State other) {
            return other instanceof ContactState o
                    && decidesAs(o)
                    && Arrays.equals(byHand, o.byHand)
                    && own.equals(o.own);
        }

        /** Nothing is decided by the company's own fields, nor by who set what. */
        @Override
        public boolean decidesAs(ContactState o) {
            return List.of(name, title).equals(List.of(o.name, o.title))
                    && Objects.equals(account, o.account)
                    && Objects.equals(lastActive, o.lastActive)
                    && Arrays.equals(addresses, o.addresses)
                    && Arrays.equals(phones, o.phones);
        }

        @Override
        public ContactState keeping(ContactState was, Set<String> keep) {
            return new ContactState(
                    id,
                    key,
                    keep.contains("name") ? was.name : name,
                    keep.contains("title") ? was.title : title,
                    keep.contains("account") ? was.account : account,
                    keep.contains("last_active") ? was.lastActive : lastActive,
                    keep.contains("addresses") ? was.addresses : addresses,
                    keep.contains("phones") ? was.phones : phones,
                    byHand,
                    OwnValues.keeping(own, was.own, keep));
        }

        @Override
        public ContactState marked(String[] marks) {
            return new ContactState(id, key, name, title, account, lastActive, addresses, phones, marks, own);
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
            String period,
            String channel,
            @Nullable UUID owner,
            UUID[] contacts,
            String[] byHand)
            implements DirectoryState<OpportunityState> {
        @Override
        public boolean same(FileImport.State other) {
            return other instanceof OpportunityState o
                    && List.of(name, stage, state, currency, period, channel)
                            .equals(List.of(o.name, o.stage, o.state, o.currency, o.period, o.channel))
                    && Objects.equals(account, o.account)
                    && Objects.equals(value, o.value)
                    && Objects.equals(owner, o.owner)
                    && Arrays.equals(contacts, o.contacts)
                    && Arrays.equals(byHand, o.byHand);
        }

        @Override
        public OpportunityState keeping(OpportunityState was, Set<String> keep) {
            return new OpportunityState(
                    id,
                    key,
                    keep.contains("name") ? was.name : name,
                    keep.contains("account") ? was.account : account,
                    keep.contains("stage") ? was.stage : stage,
                    keep.contains("state") ? was.state : state,
                    keep.contains("value") ? was.value : value,
                    keep.contains("currency") ? was.currency : currency,
                    keep.contains("period") ? was.period : period,
                    keep.contains("channel") ? was.channel : channel,
                    keep.contains("owner") ? was.owner : owner,
                    keep.contains("contacts") ? was.contacts : contacts,
                    byHand);
        }

        @Override
        public OpportunityState marked(String[] marks) {
            return new OpportunityState(
                    id, key, name, account, stage, state, value, currency, period, channel, owner, contacts, marks);
        }
    }

    /** Records as their imports read them, with what narrows them to come. */
    String ACCOUNTS = """
            SELECT a.id, a.key, a.name, a.owner, a.above,
                   ARRAY(SELECT domain FROM account_domain WHERE account = a.id ORDER BY domain COLLATE "C") AS domains, a.by_hand
            FROM account a WHERE\s""";

    String CONTACTS = """
            SELECT c.id, c.key, c.name, c.title, c.account, c.last_active,
                   ARRAY(SELECT address FROM contact_address WHERE contact = c.id AND NOT by_hand ORDER BY address COLLATE "C") AS addresses,
                   ARRAY(SELECT phone FROM contact_phone WHERE contact = c.id AND NOT by_hand ORDER BY phone COLLATE "C") AS phones,
                   c.by_hand, c.own::text AS own
            FROM contact c WHERE\s""";

    String OPPORTUNITIES = """
            SELECT id, key, name, account, stage, state, trim_scale(value)::text AS value, currency, period, channel, owner,
                   ARRAY(SELECT contact FROM opportunity_contact WHERE opportunity = o.id ORDER BY contact) AS contacts, by_hand
            FROM opportunity o WHERE\s""";

    String LEADS = """
            SELECT l.id, l.key, l.name, l.company, l.owner,
                   ARRAY(SELECT address FROM lead_address WHERE lead = l.id ORDER BY address COLLATE "C") AS addresses, l.by_hand
            FROM lead l WHERE\s""";

    @Select(ACCOUNTS + "a.key = ANY(#{keys})")
    List<AccountState> accounts(@Param("keys") String[] keys);

    @Select(CONTACTS + "c.key = ANY(#{keys})")
    List<ContactState> contacts(@Param("keys") String[] keys);

    @Select(OPPORTUNITIES + "key = ANY(#{keys})")
    List<OpportunityState> opportunities(@Param("keys") String[] keys);

    @Select(LEADS + "l.key = ANY(#{keys})")
    List<LeadState> leads(@Param("keys") String[] keys);

    @Update("""
            ANALYZE account, account_domain, contact, contact_address, contact_stay, contact_phone,
                lead, lead_address, opportunity, opportunity_contact
            """)
    void analyse();

    @Select("SELECT key, id FROM contact WHERE key = ANY(#{keys})")
    List<FileImport.Ref> contactIds(@Param("keys") String[] keys);

    /** Whom files mean by these: of a contact who became a part of another, that one. */
    @Select("""
            SELECT key, id FROM contact WHERE key = ANY(#{keys}) UNION ALL SELECT key, contact FROM merged_contact WHERE key = ANY(#{keys})
            """)
    List<FileImport.Ref> contactsNamed(@Param("keys") String[] keys);

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

    /** Whom files mean by these: of an account that became a part of another, that one. */
    @Select("""
            SELECT key, id FROM account WHERE key = ANY(#{keys}) UNION ALL SELECT key, account FROM merged_account WHERE key = ANY(#{keys})
            """)
    List<FileImport.Ref> accountsNamed(@Param("keys") String[] keys);

    @Select("""
            SELECT ad.domain AS what, a.key FROM account_domain ad JOIN account a ON a.id = ad.account
            WHERE ad.domain = ANY(#{domains})
            """)
    List<FileImport.Held> domainOwners(@Param("domains") String[] domains);

    @Select(KEYS_OF_ACCOUNTS)
    List<String> keysOfAccounts(@Param("accounts") UUID[] accounts);

    @Insert({
        "<script>",
        "INSERT INTO account (id, key, name, owner, above, by_hand) VALUES ",
        "<foreach collection='rows' item='r' separator=','>",
        "(#{r.id}, #{r.key}, #{r.name}, #{r.owner}::uuid, #{r.above}::uuid, #{r.byHand})</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, owner = excluded.owner, above = excluded.above, by_hand = excluded.by_hand,",
        "version = account.version + 1, changed_at = now()",
        "</script>"
    })
    int upsertAccounts(@Param("rows") List<AccountState> rows);

    /**
     * Contacts column by column, as many at once as there are.
     *
     * @param accounts, lastActive null where there is none
     * @param byHand with spaces between, as no column has one in its name
     */
    record ContactColumns(
            UUID[] ids,
            String[] keys,
            String[] names,
            String[] titles,
            UUID[] accounts,
            String[] lastActive,
            String[] byHand,
            String[] own) {
        static ContactColumns of(List<ContactState> rows) {
            return new ContactColumns(
                    rows.stream().map(ContactState::id).toArray(UUID[]::new),
                    rows.stream().map(ContactState::key).toArray(String[]::new),
                    rows.stream().map(ContactState::name).toArray(String[]::new),
                    rows.stream().map(ContactState::title).toArray(String[]::new),
                    rows.stream().map(ContactState::account).toArray(UUID[]::new),
                    rows.stream()
                            .map(r -> r.lastActive() == null
                                    ? null
                                    : r.lastActive().toString())
                            .toArray(String[]::new),
                    rows.stream().map(r -> String.join(" ", r.byHand())).toArray(String[]::new),
                    rows.stream().map(ContactState::own).toArray(String[]::new));
        }
    }

    @Insert("""
            INSERT INTO contact (id, key, name, title, account, last_active, by_hand, own)
            SELECT id, key, name, title, account, last_active::date, string_to_array(by_hand, ' '), own::jsonb
            FROM unnest(#{c.ids}::uuid[], #{c.keys}::text[], #{c.names}::text[], #{c.titles}::text[], #{c.accounts}::uuid[],
                #{c.lastActive}::text[], #{c.byHand}::text[], #{c.own}::text[])
                r (id, key, name, title, account, last_active, by_hand, own)
            ON CONFLICT (key) DO UPDATE SET name = excluded.name, title = excluded.title, account = excluded.account,
                last_active = excluded.last_active, by_hand = excluded.by_hand, own = excluded.own,
                version = contact.version + 1, changed_at = now()
            """)
    int upsertContacts(@Param("c") ContactColumns columns);

    @Insert({
        "<script>",
        "INSERT INTO opportunity (id, key, name, account, stage, state, value, currency, period, channel, owner, by_hand) VALUES ",
        "<foreach collection='rows' item='r' separator=','>",
        "(#{r.id}, #{r.key}, #{r.name}, #{r.account}::uuid, #{r.stage}, #{r.state}, #{r.value}::numeric, #{r.currency}, #{r.period}, #{r.channel},",
        "#{r.owner}::uuid, #{r.byHand})</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, account = excluded.account, stage = excluded.stage,",
        "state = excluded.state, value = excluded.value, currency = excluded.currency, period = excluded.period,",
        "channel = excluded.channel, owner = excluded.owner, by_hand = excluded.by_hand,",
        "version = opportunity.version + 1, changed_at = now()",
        "</script>"
    })
    int upsertOpportunities(@Param("rows") List<OpportunityState> rows);

    @Insert({
        "<script>",
        "INSERT INTO lead (id, key, name, company, owner, by_hand) VALUES ",
        "<foreach collection='rows' item='r' separator=','>",
        "(#{r.id}, #{r.key}, #{r.name}, #{r.company}, #{r.owner}::uuid, #{r.byHand})</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, company = excluded.company, owner = excluded.owner, by_hand = excluded.by_hand,",
        "version = lead.version + 1, changed_at = now()",
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
    List<String> mergedContacts(@Param("keys") String[] keys);

    @Select("SELECT key FROM merged_account WHERE key = ANY(#{keys})")
    List<String> mergedAccounts(@Param("keys") String[] keys);

    @Select("SELECT key FROM merged_lead WHERE key = ANY(#{keys})")
    List<String> mergedLeads(@Param("keys") String[] keys);

    @Select("SELECT address FROM contact_address WHERE contact = ANY(#{contacts})")
    List<String> addressesOf(@Param("contacts") UUID[] contacts);

    default void writeAccounts(List<AccountState> rows) {
        InParts.of(rows, this::upsertAccounts);
    }

    default void writeContacts(List<ContactState> rows) {
        InParts.of(rows, part -> upsertContacts(ContactColumns.of(part)));
    }

    default void writeOpportunities(List<OpportunityState> rows) {
        InParts.of(rows, this::upsertOpportunities);
    }

    /** But for those that somebody gave them here. */
    @Delete("DELETE FROM contact_address WHERE contact = ANY(#{ids}) AND NOT by_hand")
    int clearContactAddresses(@Param("ids") UUID[] ids);

    /** Takes all away but these. */
    @Delete("""
            DELETE FROM contact_address a WHERE contact = ANY(#{contacts})
              AND NOT EXISTS (SELECT FROM unnest(#{texts}::text[], #{ids}::uuid[]) w (text, id) WHERE w.id = a.contact AND w.text = a.address)
            """)
    int keepContactAddresses(
            @Param("contacts") UUID[] contacts, @Param("texts") String[] texts, @Param("ids") UUID[] ids);

    /** What is new of these, no file takes away. */
    @Insert("""
            INSERT INTO contact_address (address, contact, by_hand) SELECT t, i, true FROM unnest(#{texts}::text[], #{ids}::uuid[]) w (t, i)
            ON CONFLICT DO NOTHING
            """)
    int giveContactAddresses(@Param("texts") String[] texts, @Param("ids") UUID[] ids);

    /** Takes all away but these. */
    @Delete("""
            DELETE FROM contact_phone a WHERE contact = ANY(#{contacts})
              AND NOT EXISTS (SELECT FROM unnest(#{texts}::text[], #{ids}::uuid[]) w (text, id) WHERE w.id = a.contact AND w.text = a.phone)
            """)
    int keepPhones(@Param("contacts") UUID[] contacts, @Param("texts") String[] texts, @Param("ids") UUID[] ids);

    /** What is new of these, no file takes away. */
    @Insert("""
            INSERT INTO contact_phone (phone, hash, contact, by_hand)
            SELECT p, h, c, true FROM unnest(#{phones}::text[], #{hashes}::uuid[], #{contacts}::uuid[]) w (p, h, c) ON CONFLICT DO NOTHING
            """)
    int givePhones(
            @Param("phones") String[] phones, @Param("hashes") UUID[] hashes, @Param("contacts") UUID[] contacts);

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
