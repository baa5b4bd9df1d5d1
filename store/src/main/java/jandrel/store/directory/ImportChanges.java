package jandrel.store.directory;

import jandrel.core.directory.RecordKind;
import jandrel.store.directory.DirectoryMapper.AccountState;
import jandrel.store.directory.DirectoryMapper.ContactState;
import jandrel.store.directory.DirectoryMapper.LeadState;
import jandrel.store.directory.DirectoryMapper.OpportunityState;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** What files from elsewhere changed. */
@Mapper
interface ImportChanges {
    String TAKEN =
            "SELECT id, kind, name, by_name AS \"by\", at, added, updated, undone_at, coalesce(undone_by, '') AS undone_by FROM import_taken ";

    String KEEP = "INSERT INTO import_change (import, record, was, version, before)"
            + " SELECT #{import}, s.id, x.version, x.version + 1, to_jsonb(s) FROM (";

    String BEFORE = " FROM import_change i, jsonb_to_record(i.before) AS r ";

    String THESE = " WHERE i.import = #{import} AND i.record = ANY(#{records})";

    @Insert("INSERT INTO import_taken (id, kind, name, by_name, at) VALUES (#{id}, #{kind}, #{name}, #{by}, #{at})")
    int begin(
            @Param("id") UUID id,
            @Param("kind") RecordKind kind,
            @Param("name") String name,
            @Param("by") String by,
            @Param("at") Instant at);

    @Select(TAKEN + "WHERE at > #{since} ORDER BY at DESC, id LIMIT #{most}")
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    List<ImportTaken> newest(@Param("since") Instant since, @Param("most") int most);

    /** Nobody else undoes it until this transaction ends. */
    @Select(TAKEN + "WHERE id = #{id} FOR UPDATE")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    Optional<ImportTaken> locked(@Param("id") UUID id);

    @Update("UPDATE import_taken SET undone_at = #{now}, undone_by = #{by} WHERE id = #{id}")
    int undone(@Param("id") UUID id, @Param("now") Instant now, @Param("by") String by);

    /** What they hold is not kept for longer than it can be undone. */
    @Delete("DELETE FROM import_taken WHERE at < #{before}")
    int forget(@Param("before") Instant before);

    /**
     * What the file brings.
     *
     * @param ids of those that come with it
     * @param updated how many others it changes
     */
    @Update(
            "UPDATE import_taken SET came = #{ids}, added = cardinality(#{ids}::uuid[]), updated = #{updated} WHERE id = #{import}")
    int came(@Param("import") UUID file, @Param("ids") UUID[] ids, @Param("updated") int updated);

    @Insert(KEEP + DirectoryMapper.ACCOUNTS + "a.id = ANY(#{ids})) s JOIN account x ON x.id = s.id")
    int keepAccounts(@Param("import") UUID file, @Param("ids") UUID[] ids);

    @Insert(KEEP + DirectoryMapper.CONTACTS + "c.id = ANY(#{ids})) s JOIN contact x ON x.id = s.id")
    int keepContacts(@Param("import") UUID file, @Param("ids") UUID[] ids);

    @Insert(KEEP + DirectoryMapper.OPPORTUNITIES + "id = ANY(#{ids})) s JOIN opportunity x ON x.id = s.id")
    int keepOpportunities(@Param("import") UUID file, @Param("ids") UUID[] ids);

    @Insert(KEEP + DirectoryMapper.LEADS + "l.id = ANY(#{ids})) s JOIN lead x ON x.id = s.id")
    int keepLeads(@Param("import") UUID file, @Param("ids") UUID[] ids);

    /** Where contacts were before the file moves them, beside what else they were. */
    @Update("""
            UPDATE import_change i SET before = before || jsonb_build_object('stays', s.stays)
            FROM (SELECT contact, jsonb_agg(until) AS stays FROM contact_stay WHERE contact = ANY(#{ids}) GROUP BY contact) s
            WHERE i.import = #{import} AND i.record = s.contact
            """)
    int keepStays(@Param("import") UUID file, @Param("ids") UUID[] ids);

    @Select("""
            SELECT record FROM import_change WHERE import = #{import} UNION SELECT unnest(came) FROM import_taken WHERE id = #{import}
            """)
    List<UUID> records(@Param("import") UUID file);

    /**
     * One that a file changed, as it is now.
     *
     * @param added whether it came with the file
     * @param key empty where it is not there any more
     * @param name empty where it is not known any more
     * @param now which version it is; null if it is not there any more
     */
    record Changed(
            UUID record,
            boolean added,
            long version,
            String key,
            String name,
            @Nullable Long now) {}

    @Select("""
            SELECT i.record, i.before IS NULL AS added, i.version, coalesce(x.key, '') AS key,
                coalesce(x.name, i.before ->> 'name', '') AS name, x.version AS now FROM (
                SELECT record, version, before FROM import_change WHERE import = #{import}
                UNION ALL SELECT c, 1, NULL FROM import_taken t, unnest(t.came) c WHERE t.id = #{import}
                    AND NOT EXISTS (SELECT FROM import_change o WHERE o.import = t.id AND o.record = c)) i
            LEFT JOIN ${kind.word} x ON x.id = i.record ORDER BY name, i.record
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<Changed> changed(@Param("kind") RecordKind kind, @Param("import") UUID file);

    @Select(
            "SELECT r.id, r.key, r.name, (SELECT p.id FROM person p WHERE p.id = r.owner) AS owner, account_now(r.above) AS above, r.domains, r.by_hand"
                    + BEFORE + "(id uuid, key text, name text, owner uuid, above uuid, domains text[], by_hand text[])"
                    + THESE)
    List<AccountState> accountsBefore(@Param("import") UUID file, @Param("records") UUID[] records);

    @Select(
            "SELECT r.id, r.key, r.name, r.title, account_now(r.account) AS account, r.last_active, r.addresses, r.phones, r.by_hand, r.own"
                    + BEFORE
                    + "(id uuid, key text, name text, title text, account uuid, last_active date, addresses text[], phones text[], by_hand text[], own text)"
                    + THESE)
    List<ContactState> contactsBefore(@Param("import") UUID file, @Param("records") UUID[] records);

    @Select(
            "SELECT r.id, r.key, r.name, account_now(r.account) AS account, r.stage, r.state, r.value, r.currency, r.period, r.channel,"
                    + " (SELECT p.id FROM person p WHERE p.id = r.owner) AS owner,"
                    + " ARRAY(SELECT DISTINCT contact_now(c) FROM unnest(r.contacts) c WHERE contact_now(c) IS NOT NULL ORDER BY 1) AS contacts, r.by_hand"
                    + BEFORE
                    + "(id uuid, key text, name text, account uuid, stage text, state text, value text, currency text, period text, channel text,"
                    + " owner uuid, contacts uuid[], by_hand text[])" + THESE)
    List<OpportunityState> opportunitiesBefore(@Param("import") UUID file, @Param("records") UUID[] records);

    @Select(
            "SELECT r.id, r.key, r.name, r.company, (SELECT p.id FROM person p WHERE p.id = r.owner) AS owner, r.addresses, r.by_hand"
                    + BEFORE
                    + "(id uuid, key text, name text, company text, owner uuid, addresses text[], by_hand text[])"
                    + THESE)
    List<LeadState> leadsBefore(@Param("import") UUID file, @Param("records") UUID[] records);

    /**
     * Accounts of which a domain is another's by now.
     *
     * @param undone those that do not stay as they are
     */
    @Select("""
            SELECT DISTINCT i.record FROM import_change i, jsonb_array_elements_text(i.before -> 'domains') d
            JOIN account_domain t ON t.domain = d WHERE i.import = #{import} AND i.record = ANY(#{records}) AND t.account <> ALL(#{undone})
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<UUID> withoutDomains(
            @Param("import") UUID file, @Param("records") UUID[] records, @Param("undone") UUID[] undone);

    /** What the file said of where contacts were until then. */
    @Delete("""
            DELETE FROM contact_stay s USING import_change i
            WHERE i.import = #{import} AND i.record = ANY(#{records}) AND s.contact = i.record
              AND s.account = account_now((i.before ->> 'account')::uuid) AND NOT coalesce(i.before -> 'stays' @> to_jsonb(s.until), false)
            """)
    int removeStays(@Param("import") UUID file, @Param("records") UUID[] records);

    /**
     * Those of them that something else belongs to by now, by somebody's doing.
     *
     * @param undone those that do not stay as they are
     */
    @Select("""
            SELECT record FROM pin WHERE record = ANY(#{records})
            UNION SELECT contact FROM opportunity_contact WHERE contact = ANY(#{records})
            UNION SELECT contact FROM contact_address WHERE contact = ANY(#{records}) AND by_hand
            UNION SELECT contact FROM contact_phone WHERE contact = ANY(#{records}) AND by_hand
            UNION SELECT contact FROM merged_contact WHERE contact = ANY(#{records})
            UNION SELECT lead FROM merged_lead WHERE lead = ANY(#{records})
            UNION SELECT account FROM merged_account WHERE account = ANY(#{records})
            UNION SELECT account FROM contact WHERE account = ANY(#{records})
            UNION SELECT account FROM opportunity WHERE account = ANY(#{records})
            UNION SELECT account FROM contact_stay WHERE account = ANY(#{records})
            UNION SELECT above FROM account WHERE above = ANY(#{records}) AND id <> ALL(#{undone})
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<UUID> used(@Param("records") UUID[] records, @Param("undone") UUID[] undone);

    /** Contacts that stand in address books, or of whom books or people said more. */
    @Select("""
            SELECT contact FROM card WHERE contact = ANY(#{records}) UNION SELECT contact FROM contact_details WHERE contact = ANY(#{records})
            """)
    List<UUID> inBooks(@Param("records") UUID[] records);

    /** Files before this one find these as they left them. */
    @Update("""
            WITH now AS (SELECT u.record, u.was, x.version FROM import_change u JOIN ${kind.word} x ON x.id = u.record
                WHERE u.import = #{import} AND u.record = ANY(#{records})),
            came AS (INSERT INTO import_change (import, record, was, version)
                SELECT t.id, now.record, 0, now.version FROM import_taken t, unnest(t.came) c JOIN now ON now.record = c
                WHERE t.undone_at IS NULL AND now.was = 1 ON CONFLICT DO NOTHING)
            UPDATE import_change o SET version = now.version FROM now
            WHERE o.import IN (SELECT id FROM import_taken WHERE undone_at IS NULL AND id <> #{import})
              AND o.record = now.record AND o.version = now.was
            """)
    int asLeft(@Param("kind") RecordKind kind, @Param("import") UUID file, @Param("records") UUID[] records);

    /** Nothing is a part of these for now: what is restored says anew what it is a part of. */
    @Update("UPDATE account SET above = NULL WHERE above = ANY(#{accounts})")
    int partOfNothing(@Param("accounts") UUID[] accounts);
}
