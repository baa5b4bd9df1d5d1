package jandrel.store.contacts;

import jandrel.store.connections.Connections;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Function;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

@Mapper
interface CardMapper {
    record Row(
            UUID id,
            int source,
            String href,
            String tag,
            String standing,
            String why,
            @Nullable UUID contact,
            String name,
            @Nullable String details,
            @Nullable String speaks,
            @Nullable String base,
            @Nullable String sending,
            boolean detached,
            boolean madeHere,
            boolean madeContact,
            boolean undone,
            String removal,
            long version) {
        /** Whether somebody is asked what becomes of it, as one side has removed it. */
        boolean isAsked() {
            return removal.equals(REMOVED_HERE) || removal.equals(REMOVED_THERE);
        }
    }

    String REMOVED_HERE = "HERE";
    String REMOVED_THERE = "THERE";

    /** Of what a removal was asked about, and is answered. */
    String TO_REMOVE = "AGREED";

    /** Whether a source is still to be looked at. */
    record Kept(boolean rests, long generation) {}

    @Select(
            "SELECT c.state IN " + Connections.AT_REST
                    + " AS rests, c.generation FROM source o JOIN connection c ON c.id = o.connection WHERE o.id = #{source} FOR SHARE OF c")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    Optional<Kept> keep(@Param("source") int source);

    @Update("UPDATE source SET cursor = #{to} WHERE id = #{source} AND cursor = #{from}")
    int moveCursor(@Param("source") int source, @Param("from") String from, @Param("to") String to);

    String CARD =
            "SELECT id, source, href, tag, standing, why, contact, name, details, speaks, base, sending, detached, made_here, made_contact, undone, removal, version FROM card ";

    @Select(CARD + "WHERE id = #{id}")
    Optional<Row> one(@Param("id") UUID id);

    @Select(CARD + "WHERE id = ANY(#{ids})")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<Row> some(@Param("ids") UUID[] ids);

    @Select(CARD + "WHERE id = #{id} FOR UPDATE")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    Optional<Row> locked(@Param("id") UUID id);

    @Select(CARD + "WHERE source = #{source} AND href = ANY(#{hrefs}) ORDER BY id")
    List<Row> at(@Param("source") int source, @Param("hrefs") String[] hrefs);

    @Select(CARD + "WHERE source = #{source} AND contact = ANY(#{contacts}) AND standing = 'TIED' ORDER BY id")
    List<Row> ofContacts(@Param("source") int source, @Param("contacts") UUID[] contacts);

    @Select("SELECT href FROM card WHERE source = #{source} AND tag <> ''")
    List<String> hrefs(@Param("source") int source);

    @Select("SELECT href FROM card WHERE source = #{source} AND why = 'GROUP' AND tag <> '' ORDER BY href")
    List<String> groups(@Param("source") int source);

    @Select("SELECT groups FROM book WHERE source = #{source}")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    String groupsSeen(@Param("source") int source);

    @Update("UPDATE book SET groups = #{groups} WHERE source = #{source}")
    int sawGroups(@Param("source") int source, @Param("groups") String groups);

    @Select("SELECT href FROM card WHERE source = #{source} AND standing = 'NEW' ORDER BY href LIMIT #{most}")
    List<String> fresh(@Param("source") int source, @Param("most") int most);

    /** How they came about, and a write under way, stays where the base does. */
    @Insert("""
            INSERT INTO card (id, source, href, tag, standing, why, contact, name, details, speaks, base)
            SELECT r.id, #{source}, r.href, r.tag, r.standing, r.why, r.contact, r.name, r.details, r.speaks, r.base
            FROM unnest(#{c.ids}::uuid[], #{c.hrefs}::text[], #{c.tags}::text[], #{c.standings}::text[], #{c.whys}::text[],
                #{c.contacts}::uuid[], #{c.names}::text[], #{c.details}::text[], #{c.speaks}::text[], #{c.bases}::text[])
                r (id, href, tag, standing, why, contact, name, details, speaks, base)
            ON CONFLICT (source, href) DO UPDATE SET tag = excluded.tag, standing = excluded.standing, why = excluded.why,
                contact = excluded.contact, name = excluded.name, details = excluded.details, speaks = excluded.speaks, base = excluded.base,
                sending = CASE WHEN excluded.base IS NULL THEN NULL ELSE card.sending END, detached = false, removal = '',
                version = card.version + 1
            """)
    int upsert(@Param("source") int source, @Param("c") RowColumns columns);

    /** Rows of one source, by their columns: one statement whatever their number. */
    record RowColumns(
            UUID[] ids,
            @Nullable String[] hrefs,
            @Nullable String[] tags,
            @Nullable String[] standings,
            @Nullable String[] whys,
            @Nullable UUID[] contacts,
            @Nullable String[] names,
            @Nullable String[] details,
            @Nullable String[] speaks,
            @Nullable String[] bases) {
        static RowColumns of(List<Row> rows) {
            return new RowColumns(
                    rows.stream().map(Row::id).toArray(UUID[]::new),
                    texts(rows, Row::href),
                    texts(rows, Row::tag),
                    texts(rows, Row::standing),
                    texts(rows, Row::why),
                    rows.stream().map(Row::contact).toArray(UUID[]::new),
                    texts(rows, Row::name),
                    texts(rows, Row::details),
                    texts(rows, Row::speaks),
                    texts(rows, Row::base));
        }

        private static @Nullable String[] texts(List<Row> rows, Function<Row, @Nullable String> of) {
            @Nullable String[] texts = new String[rows.size()];
            for (int n = 0; n < texts.length; n++) {
                texts[n] = of.apply(rows.get(n));
            }
            return texts;
        }
    }

    /** Of one source. */
    default void put(int source, List<Row> rows) {
        if (!rows.isEmpty()) {
            upsert(source, RowColumns.of(rows));
        }
    }

    /** Whatever is new at a card is looked at in the usual way: nobody is asked any more. */
    String ASKS_NO_MORE = "removal = CASE WHEN removal IN ('HERE', 'THERE') THEN '' ELSE removal END";

    @Update("UPDATE card SET tag = #{tag}, " + ASKS_NO_MORE + " WHERE id = #{id}")
    int tagged(@Param("id") UUID id, @Param("tag") String tag);

    @Update("UPDATE card SET href = #{href}, tag = #{tag}, " + ASKS_NO_MORE + " WHERE id = #{id}")
    int moved(@Param("id") UUID id, @Param("href") String href, @Param("tag") String tag);

    @Update("UPDATE card SET tag = '', " + ASKS_NO_MORE
            + " WHERE source = #{source} AND href = ANY(#{hrefs}) AND standing = 'TIED'")
    int gone(@Param("source") int source, @Param("hrefs") String[] hrefs);

    /** Nothing is kept of them but that something here was replaced by one, which somebody may bring back. */
    String REPLACED =
            "EXISTS (SELECT FROM card_conflict f WHERE f.card = card.id AND NOT f.here_won AND f.brought_back_at IS NULL)";

    @Update(
            "UPDATE card SET tag = '', standing = 'GONE', why = '', contact = NULL, name = '', details = NULL, speaks = NULL"
                    + " WHERE source = #{source} AND href = ANY(#{hrefs}) AND standing <> 'TIED' AND " + REPLACED)
    int reduced(@Param("source") int source, @Param("hrefs") String[] hrefs);

    @Delete("DELETE FROM card WHERE source = #{source} AND href = ANY(#{hrefs}) AND standing <> 'TIED' AND NOT "
            + REPLACED)
    int forget(@Param("source") int source, @Param("hrefs") String[] hrefs);

    /** Those that are written there from now on, each at a href of its own. */
    @Insert("""
            INSERT INTO card (id, source, href, tag, standing, why, contact, made_here)
            SELECT k.id, #{source}, #{folder} || k.id || '.vcf', '', 'TIED', 'FITS_ONE', k.contact, true
            FROM unnest(#{ids}::uuid[], #{contacts}::uuid[]) k (id, contact)
            """)
    int addOut(
            @Param("source") int source,
            @Param("folder") String folder,
            @Param("ids") UUID[] ids,
            @Param("contacts") UUID[] contacts);

    @Update("""
            UPDATE card SET base = #{base}, sending = #{sending} WHERE id = #{id}
            """)
    int sending(@Param("id") UUID id, @Param("base") @Nullable String base, @Param("sending") @Nullable String sending);

    @Update("""
            UPDATE card SET base = #{base}, sending = NULL, detached = #{detached}, undone = false,
                removal = CASE WHEN removal = 'TAKEN' AND #{detached} THEN removal ELSE '' END, version = version + 1,
                tag = CASE WHEN tag = '' AND #{base}::text IS NOT NULL THEN '?' ELSE tag END
            WHERE id = #{id} AND version = #{version}
            """)
    int agree(
            @Param("id") UUID id,
            @Param("version") long version,
            @Param("base") @Nullable String base,
            @Param("detached") boolean detached);

    /** It is in its book no more, as its contact was removed here. */
    @Update("UPDATE card SET tag = '', removal = 'TAKEN' WHERE id = #{id}")
    int tookOut(@Param("id") UUID id);

    @Delete("DELETE FROM card WHERE id = #{id}")
    int remove(@Param("id") UUID id);

    @Update("""
            UPDATE card SET standing = #{standing}, why = #{why}, contact = #{contact}, base = #{base}, name = '', details = NULL, speaks = NULL,
                made_contact = #{madeContact}, detached = false, removal = '', version = version + 1 WHERE id = #{id}
            """)
    int settled(
            @Param("id") UUID id,
            @Param("standing") String standing,
            @Param("why") String why,
            @Param("contact") @Nullable UUID contact,
            @Param("base") @Nullable String base,
            @Param("madeContact") boolean madeContact);

    @Select("""
            SELECT x.subject FROM outbox x JOIN card c ON c.id = x.subject JOIN source o ON o.id = c.source
            WHERE x.kind = 'CARD' AND o.id = #{source} AND c.standing = 'TIED' AND c.removal NOT IN ('HERE', 'THERE') AND (c.undone OR NOT #{undone})
            ORDER BY x.attempts > 0, x.id LIMIT #{most}
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<UUID> pending(@Param("source") int source, @Param("undone") boolean undone, @Param("most") int most);

    /** One side has it no more: somebody is asked what becomes of the other. */
    @Update("""
            UPDATE card SET removal = #{removal}, removal_at = now(), sending = NULL, version = version + 1 WHERE id = #{id}
            """)
    int removal(@Param("id") UUID id, @Param("removal") String removal);

    /** The two sides let go of each other. */
    @Update("""
            UPDATE card SET base = NULL, sending = NULL, detached = true, removal = '', version = version + 1 WHERE id = #{id}
            """)
    int letGo(@Param("id") UUID id);

    @Select("""
            SELECT d.id, t.id AS contact, d.removal = 'HERE' AS here, coalesce(t.name, d.base::jsonb #>> '{here,name}', '') AS name,
                d.removal_at AS at, c.id AS connection, p.name AS person_name, o.label,
                (SELECT count(*) FROM card k WHERE k.contact = d.contact AND k.id <> d.id AND k.standing = 'TIED' AND NOT k.detached
                    AND k.removal = '') AS elsewhere
            FROM card d JOIN source o ON o.id = d.source JOIN connection c ON c.id = o.connection JOIN person p ON p.id = c.person
            LEFT JOIN contact t ON t.id = d.contact
            WHERE d.removal IN ('HERE', 'THERE') AND c.state <> 'disconnected'
              AND (#{ids}::uuid[] IS NULL OR d.id = ANY(#{ids})) AND (#{person}::uuid IS NULL OR c.person = #{person})
            ORDER BY d.removal_at, d.id LIMIT #{most}
            """)
    List<RemovedContact> removed(
            @Param("ids") UUID @Nullable [] ids, @Param("person") @Nullable UUID person, @Param("most") int most);

    record Open(UUID id, String why, String details, String speaks, UUID connection, String personName, String label) {}

    @Select("""
            SELECT d.id, d.why, d.details, d.speaks, c.id AS connection, p.name AS person_name, o.label
            FROM card d JOIN source o ON o.id = d.source JOIN connection c ON c.id = o.connection JOIN person p ON p.id = c.person
            WHERE d.standing = 'OPEN' AND (#{card}::uuid IS NULL OR d.id = #{card}) AND (#{person}::uuid IS NULL OR c.person = #{person})
            ORDER BY p.name, d.name, d.id LIMIT #{most}
            """)
    List<Open> open(
            @Param("card") @Nullable UUID card, @Param("person") @Nullable UUID person, @Param("most") int most);

    @Select("""
            SELECT c.id, c.name, c.title, coalesce(a.name, '') AS account,
                coalesce((SELECT string_agg(x.address, ' ' ORDER BY x.address) FROM contact_address x WHERE x.contact = c.id), '') AS addresses
            FROM contact c LEFT JOIN account a ON a.id = c.account WHERE c.id = ANY(#{ids}) ORDER BY c.name, c.id
            """)
    List<FittingContact> fits(@Param("ids") UUID[] ids);

    /** Cards of a book that are their owner's own, and wait to be exchanged. */
    @Select("""
            SELECT c.id FROM outbox x JOIN card c ON c.id = x.subject
            WHERE x.kind = 'CARD' AND c.source = #{source} AND c.standing = 'TIED' AND NOT c.made_here
            """)
    List<UUID> pendingOwn(@Param("source") int source);

    // ---- the book ----

    record BookRow(
            int source,
            String rules,
            int granted,
            int creates,
            int writes,
            @Nullable Instant askedAt,
            @Nullable Instant plannedAt) {}

    @Insert("INSERT INTO book (source) VALUES (#{source}) ON CONFLICT DO NOTHING")
    int addBook(@Param("source") int source);

    String BOOK =
            "SELECT source, rules, granted, creates, writes, asked_at, planned_at FROM book WHERE source = #{source}";

    @Select(BOOK)
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    Optional<BookRow> book(@Param("source") int source);

    /** Nobody approves it until this transaction has ended. */
    @Select(BOOK + " FOR UPDATE")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    Optional<BookRow> bookAlone(@Param("source") int source);

    /** Sorted under other rules from now on: all is read once more. */
    @Update("""
            WITH b AS (UPDATE book SET rules = #{rules}, planned_at = NULL WHERE source = #{source})
            UPDATE source SET cursor = '' WHERE id = #{source}
            """)
    int sortAnew(@Param("source") int source, @Param("rules") String rules);

    @Update("""
            UPDATE book SET granted = 0, creates = #{creates}, writes = #{writes}, asked_at = coalesce(asked_at, #{now}) WHERE source = #{source}
            """)
    int asks(
            @Param("source") int source,
            @Param("creates") int creates,
            @Param("writes") int writes,
            @Param("now") Instant now);

    @Update(
            "UPDATE book SET granted = creates + writes, asked_at = NULL, creates = 0, writes = 0, planned_at = NULL WHERE source = #{source}")
    int allow(@Param("source") int source);

    @Update("UPDATE book SET granted = 0 WHERE source = #{source} AND granted > 0")
    int begun(@Param("source") int source);

    @Update("UPDATE book SET granted = 0, asked_at = now() WHERE source = #{source}")
    int disallow(@Param("source") int source);

    /** Which exclusions there are, as a text that another set does not have. */
    @Select(
            "SELECT count(*) || ' ' || coalesce(max(added_at)::text, '') || ' ' || coalesce(min(id::text), '') FROM exclusion")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    String exclusions();

    @Select("SELECT exclusions FROM book WHERE source = #{source}")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    String exclusionsSeen(@Param("source") int source);

    @Update("UPDATE book SET exclusions = #{exclusions} WHERE source = #{source}")
    int sawExclusions(@Param("source") int source, @Param("exclusions") String exclusions);

    /**
     * Cards that an exclusion may have to do with: those that one covers by the contact's address, and those that were left out by one; and
     * those that were left out as their contacts were archived.
     */
    @Select("""
            SELECT d.href FROM card d WHERE d.source = #{source} AND d.tag <> '' AND (d.why IN ('EXCLUDED', 'ARCHIVED')
                OR d.standing = 'TIED' AND NOT d.detached AND EXISTS (SELECT FROM contact_address x JOIN exclusion e
                    ON e.key IN (x.address, '@' || split_part(x.address, '@', 2)) OR e.kind NOT IN ('ADDRESS', 'DOMAIN')
                    OR (e.kind = 'DOMAIN' AND x.address LIKE '%.' || substr(e.key, 2))
                    WHERE x.contact = d.contact))
            ORDER BY d.href
            """)
    List<String> concernedByExclusions(@Param("source") int source);

    @Update("UPDATE book SET planned_at = #{now} WHERE source = #{source}")
    int planned(@Param("source") int source, @Param("now") Instant now);

    /** Cards that are to be taken out of a book, as their contacts are in no list any more and nobody said so for each. */
    @Select("""
            SELECT d.href FROM outbox x JOIN card d ON d.id = x.subject LEFT JOIN contact c ON c.id = d.contact
            WHERE x.kind = 'CARD' AND d.source = #{source} AND d.standing = 'TIED' AND NOT d.detached AND NOT d.undone AND d.removal = ''
              AND d.base IS NOT NULL AND d.tag <> '' AND (c.id IS NULL OR c.archived_at IS NOT NULL)
            ORDER BY d.href
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<String> leaving(@Param("source") int source);

    @Select("SELECT count(*) FROM card WHERE source = #{source} AND standing = 'NEW'")
    int newCount(@Param("source") int source);

    /** Whether any contact is another since then. */
    @Select("SELECT EXISTS (SELECT FROM contact WHERE changed_at > #{since})")
    boolean directoryChangedSince(@Param("since") Instant since);

    /** Who is to be in a book and is in none of its owner's, the last touched first. */
    @Select("""
            SELECT c.id FROM contact c
            LEFT JOIN LATERAL (SELECT max(a.at) AS at FROM link l JOIN activity a ON a.id = l.activity
                WHERE l.record = c.id AND a.at <= #{now}) t ON true
            WHERE c.archived_at IS NULL AND c.name <> ''
              AND NOT EXISTS (SELECT FROM card d JOIN source o ON o.id = d.source JOIN connection n ON n.id = o.connection
                  WHERE d.contact = c.id AND n.person = #{person})
              -- whose card that is, somebody has yet to say
              AND NOT EXISTS (SELECT FROM card d JOIN source o ON o.id = d.source JOIN connection n ON n.id = o.connection
                  WHERE d.standing = 'OPEN' AND n.person = #{person} AND jsonb_exists(d.speaks::jsonb, c.id::text))
              AND NOT EXISTS (SELECT FROM contact_address x JOIN exclusion e
                      ON e.key IN (x.address, '@' || split_part(x.address, '@', 2))
                      OR (e.kind = 'DOMAIN' AND x.address LIKE '%.' || substr(e.key, 2))
                  WHERE x.contact = c.id AND (e.person IS NULL OR e.person = #{person})
                    AND (e.last_day IS NULL OR e.last_day >= current_date))
              AND CASE #{gives}
                  WHEN 'ALL' THEN true WHEN 'CONDITIONS' THEN true
                  WHEN 'OWN_ACCOUNTS' THEN EXISTS (SELECT FROM account u WHERE u.id = c.account AND u.owner = #{person})
                  ELSE EXISTS (SELECT FROM link l JOIN activity a ON a.id = l.activity
                      WHERE l.record = c.id AND a.at BETWEEN #{since} AND #{now} AND #{person} = ANY(a.mine || a.elsewhere)) END
            ORDER BY t.at DESC NULLS LAST, c.name, c.id LIMIT #{most}
            """)
    List<UUID> wantedOut(
            @Param("person") UUID person,
            @Param("gives") String gives,
            @Param("since") Instant since,
            @Param("now") Instant now,
            @Param("most") int most);

    @Select("SELECT count(*) FROM card WHERE source = #{source} AND made_here AND standing = 'TIED' AND NOT detached")
    int outCount(@Param("source") int source);

    /** The book that contacts go to: the one chosen for it, else the first. */
    @Select("""
            SELECT o.id FROM source o JOIN connection c ON c.id = o.connection JOIN server e ON e.id = c.server
            WHERE e.kind = 'carddav' AND c.person = #{person} AND o.chosen AND c.state <> 'disconnected'
            ORDER BY o.outgoing DESC, o.id LIMIT 1
            """)
    Optional<Integer> outgoing(@Param("person") UUID person);

    /** The connection of that book. */
    @Select("""
            SELECT c.id FROM source o JOIN connection c ON c.id = o.connection JOIN server e ON e.id = c.server
            WHERE e.kind = 'carddav' AND c.person = #{person} AND c.state <> 'disconnected'
            ORDER BY o.chosen DESC, o.outgoing DESC, o.id LIMIT 1
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    Optional<UUID> outgoingAt(@Param("person") UUID person);

    @Update("""
            INSERT INTO book (source, made_for) SELECT id, #{name} FROM source WHERE connection = #{connection} AND name = #{href}
            ON CONFLICT (source) DO UPDATE SET made_for = excluded.made_for
            """)
    int madeFor(@Param("connection") UUID connection, @Param("href") String href, @Param("name") String name);

    @Select("""
            SELECT o.name FROM source o JOIN book b ON b.source = o.id
            WHERE o.connection = #{connection} AND b.made_for = #{name} ORDER BY o.id DESC LIMIT 1
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    Optional<String> bookMadeFor(@Param("connection") UUID connection, @Param("name") String name);

    // ---- contacts as they are ----

    record ContactSide(
            UUID id,
            String key,
            String name,
            String title,
            String accountKey,
            String accountName,
            long version,
            Instant changedAt,
            String[] addresses,
            String[] phones,
            @Nullable String details,
            @Nullable String columns,
            String own,
            boolean archived) {}

    String SIDE = """
            SELECT c.id, c.key, c.name, c.title, coalesce(a.key, '') AS account_key, coalesce(a.name, '') AS account_name, c.version,
                c.changed_at,
                ARRAY(SELECT x.address FROM contact_address x WHERE x.contact = c.id ORDER BY x.address COLLATE "C") AS addresses,
                ARRAY(SELECT x.phone FROM contact_phone x WHERE x.contact = c.id ORDER BY x.phone COLLATE "C") AS phones,
                d.details, d.columns, c.own::text AS own, c.archived_at IS NOT NULL AS archived
            FROM contact c LEFT JOIN account a ON a.id = c.account LEFT JOIN contact_details d ON d.contact = c.id
            """;

    @Select(SIDE + "WHERE c.id = #{id}")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    Optional<ContactSide> side(@Param("id") UUID id);

    @Select("""
            SELECT EXISTS (SELECT FROM contact WHERE id = #{id}) OR EXISTS (SELECT FROM account WHERE id = #{id})
                OR EXISTS (SELECT FROM opportunity WHERE id = #{id})
            """)
    boolean canHaveContacts(@Param("id") UUID id);

    /** Of a contact itself, an account's own, or those of an opportunity. */
    @Select(SIDE + """
            WHERE c.archived_at IS NULL AND (c.id = #{record} OR c.account = #{record}
                OR EXISTS (SELECT FROM opportunity_contact o WHERE o.contact = c.id AND o.opportunity = #{record}))
            ORDER BY lower(c.name), c.id LIMIT #{most}
            """)
    List<ContactSide> sidesOf(@Param("record") UUID record, @Param("most") int most);

    @Select(SIDE + "WHERE c.id = ANY(#{ids})")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<ContactSide> sidesById(@Param("ids") UUID[] ids);

    @Select(SIDE + "WHERE c.key = ANY(#{keys})")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<ContactSide> sides(@Param("keys") String[] keys);

    @Select(SIDE + "WHERE c.id = ANY(#{ids}) AND d.contact IS NULL")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<ContactSide> withoutDetails(@Param("ids") UUID[] ids);

    @Insert("""
            INSERT INTO contact_details SELECT * FROM unnest(#{contacts}::uuid[], #{details}::text[], #{columns}::text[])
            ON CONFLICT (contact) DO UPDATE SET details = excluded.details, columns = excluded.columns
            """)
    int details(
            @Param("contacts") UUID[] contacts, @Param("details") String[] details, @Param("columns") String[] columns);

    /** @return of accounts with that name alone, without case */
    @Select(
            "SELECT min(key) FROM account WHERE lower(name) = lower(#{name}) AND archived_at IS NULL HAVING count(*) = 1")
    Optional<String> accountCalled(@Param("name") String name);

    /** The one account that has a domain of these. */
    @Select("""
            SELECT min(a.key) FROM account a WHERE a.id IN (SELECT d.account FROM account_domain d WHERE d.domain = ANY(#{domains})
                AND d.domain NOT IN (SELECT domain FROM free_mail_domain)) HAVING count(*) = 1
            """)
    Optional<String> accountOfDomains(@Param("domains") String[] domains);

    /** Whether an account is called so, or nearly so: whether it is that one, a person says. */
    @Select("SELECT EXISTS (SELECT FROM account WHERE lower(name) = lower(#{name}) OR name % #{name})")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    boolean isLikeAnAccount(@Param("name") String name);

    /** Those of these that are nobody's yet. */
    @Select("""
            SELECT d FROM unnest(#{domains}::text[]) d WHERE NOT EXISTS (SELECT FROM account_domain x WHERE x.domain = d)
                AND NOT EXISTS (SELECT FROM free_mail_domain x WHERE x.domain = d) AND NOT EXISTS (SELECT FROM own_domain x WHERE x.domain = d)
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<String> freeDomains(@Param("domains") String[] domains);

    @Update("UPDATE account SET made_by = #{by} WHERE key = ANY(#{keys})")
    int accountsMadeBy(@Param("keys") String[] keys, @Param("by") String by);

    /** The accounts that were made with these contacts, and that nobody has touched since. */
    @Select("""
            SELECT DISTINCT a.key FROM contact c JOIN account a ON a.id = c.account
            WHERE c.id = ANY(#{contacts}) AND a.key LIKE 'card-%' AND a.version = 1 AND a.archived_at IS NULL
            """)
    List<String> accountsMadeFor(@Param("contacts") UUID[] contacts);

    @Update("UPDATE contact SET made_by = #{by} WHERE key = ANY(#{keys})")
    int madeBy(@Param("keys") String[] keys, @Param("by") String by);

    // ---- whom a batch may be about ----

    record Candidate(
            String key, UUID id, String name, @Nullable UUID account, boolean archived) {}

    @Select("SELECT id FROM contact WHERE id = ANY(#{ids}) AND archived_at IS NULL")
    List<UUID> there(@Param("ids") UUID[] ids);

    @Select("SELECT id FROM contact WHERE id = ANY(#{ids}) AND archived_at IS NOT NULL")
    List<UUID> archived(@Param("ids") UUID[] ids);

    @Select("""
            SELECT p.phone AS key, c.id, c.name, c.account, c.archived_at IS NOT NULL AS archived FROM contact_phone p JOIN contact c ON c.id = p.contact
            WHERE p.phone = ANY(#{phones}) ORDER BY c.id
            """)
    List<Candidate> byPhone(@Param("phones") String[] phones);

    @Select("""
            SELECT '' AS key, c.id, c.name, c.account, c.archived_at IS NOT NULL AS archived FROM contact c WHERE c.account = ANY(#{accounts}) ORDER BY c.id LIMIT 20000
            """)
    List<Candidate> atAccounts(@Param("accounts") UUID[] accounts);

    record Called(String key, UUID id) {}

    @Select("SELECT lower(name) AS key, id FROM account WHERE lower(name) = ANY(#{names}) ORDER BY id")
    List<Called> accountsCalled(@Param("names") String[] names);

    // ---- conflicts ----

    @Insert("""
            INSERT INTO card_conflict (id, card, contact, field, here_won, here, book, lost)
            VALUES (#{id}, #{card}, #{contact}, #{field}, #{hereWon}, #{here}, #{book}, #{lost}) ON CONFLICT DO NOTHING
            """)
    int conflict(
            @Param("id") UUID id,
            @Param("card") UUID card,
            @Param("contact") @Nullable UUID contact,
            @Param("field") @Nullable String field,
            @Param("hereWon") boolean hereWon,
            @Param("here") String here,
            @Param("book") String book,
            @Param("lost") @Nullable String lost);

    record ConflictRow(
            UUID id,
            @Nullable UUID contact,
            @Nullable String field,
            @Nullable String lost) {}

    @Select(
            "SELECT id, contact, field, lost FROM card_conflict WHERE id = #{id} AND brought_back_at IS NULL FOR UPDATE")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    Optional<ConflictRow> aConflict(@Param("id") UUID id);

    @Update("UPDATE card_conflict SET brought_back_by = #{by}, brought_back_at = now() WHERE id = #{id}")
    int broughtBack(@Param("id") UUID id, @Param("by") String by);

    /** What is kept beside the directory's columns changed alone. */
    @Update("UPDATE contact SET changed_at = now(), version = version + 1 WHERE id = #{contact}")
    int touched(@Param("contact") UUID contact);

    // ---- taking back ----

    @Select(
            CARD
                    + "WHERE source = #{source} AND (made_here AND tag <> '' OR made_contact) AND standing = 'TIED' ORDER BY id")
    List<Row> made(@Param("source") int source);

    /** The keys of those that nobody but books changed, and that nothing but them is about. */
    @Select("""
            SELECT c.key FROM contact c WHERE c.id = ANY(#{contacts}) AND c.key LIKE 'card-%'
              AND NOT EXISTS (SELECT FROM opportunity_contact o WHERE o.contact = c.id)
              AND NOT EXISTS (SELECT FROM pin p WHERE p.record = c.id)
              AND NOT EXISTS (SELECT FROM card d JOIN card m ON m.contact = d.contact AND m.source <> d.source AND m.standing = 'TIED'
                  WHERE d.contact = c.id AND d.made_contact)
            """)
    List<String> untouched(@Param("contacts") UUID[] contacts);

    @Select("SELECT id FROM contact WHERE key = ANY(#{keys})")
    List<UUID> idsOf(@Param("keys") String[] keys);

    @Update("UPDATE card SET undone = true, removal = '', version = version + 1 WHERE id = ANY(#{ids})")
    int undone(@Param("ids") UUID[] ids);

    record Privately(String[] privateCategories) {}

    @Select("SELECT private_categories FROM connection WHERE id = #{connection}")
    Optional<Privately> privateCategories(@Param("connection") UUID connection);

    @Update(
            "UPDATE connection SET private_categories = #{categories}, generation = generation + 1 WHERE id = #{connection}")
    int keepPrivate(@Param("connection") UUID connection, @Param("categories") String[] categories);
}
