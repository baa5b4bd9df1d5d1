package jandrel.store.contacts;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;

/** How address books and contacts stand with each other. */
@Mapper
public interface BookStands {
    /**
     * An address book.
     *
     * @param alike cards that are in step, {@code pending} yet to be settled, {@code stuck} of those that could not be
     * @param apart cards that one side let go of
     * @param fresh of somebody who is no contact, {@code open} for a person to settle, {@code privately} marked as private
     * @param creates contacts that would be made, and {@code writes} cards that would be written, once somebody approves it
     * @param asked of which one side removed what the other keeps, until somebody says what becomes of it
     * @param made contacts and cards that came of it
     */
    record Book(
            int source,
            String label,
            UUID connection,
            UUID person,
            String personName,
            String account,
            String state,
            boolean chosen,
            @Nullable Instant lastRun,
            boolean outgoing,
            int heldCount,
            int heldKnown,
            long alike,
            long pending,
            long stuck,
            long apart,
            long fresh,
            long open,
            long asked,
            long privately,
            long leftOut,
            long unreadable,
            @Nullable Instant askedAt,
            int creates,
            int writes,
            long made) {}

    @Select("""
            SELECT o.id AS source, o.label, c.id AS connection, c.person, p.name AS person_name, c.account, c.state, o.chosen, c.last_run,
                row_number() OVER (PARTITION BY c.person ORDER BY o.chosen DESC, o.outgoing DESC, o.id) = 1 AS outgoing,
                o.held_count, o.held_known, coalesce(n.alike, 0) AS alike, coalesce(n.pending, 0) AS pending, coalesce(n.stuck, 0) AS stuck,
                coalesce(n.apart, 0) AS apart, coalesce(n.fresh, 0) AS fresh, coalesce(n.open, 0) AS open, coalesce(n.asked, 0) AS asked,
                coalesce(n.privately, 0) AS privately, coalesce(n.left_out, 0) AS left_out, coalesce(n.unreadable, 0) AS unreadable,
                b.asked_at, coalesce(b.creates, 0) AS creates, coalesce(b.writes, 0) AS writes, coalesce(n.made, 0) AS made
            FROM source o JOIN connection c ON c.id = o.connection JOIN person p ON p.id = c.person LEFT JOIN book b ON b.source = o.id
            LEFT JOIN (SELECT d.source, count(*) FILTER (WHERE d.standing = 'TIED' AND NOT d.detached AND d.removal = '' AND x.id IS NULL) AS alike,
                    count(*) FILTER (WHERE d.standing = 'TIED' AND x.id IS NOT NULL) AS pending,
                    count(*) FILTER (WHERE d.standing = 'TIED' AND x.trouble <> '') AS stuck, count(*) FILTER (WHERE d.detached) AS apart,
                    count(*) FILTER (WHERE d.standing = 'NEW') AS fresh, count(*) FILTER (WHERE d.standing = 'OPEN') AS open,
                    count(*) FILTER (WHERE d.removal IN ('HERE', 'THERE')) AS asked,
                    count(*) FILTER (WHERE d.why IN ('PRIVATE', 'PRIVATE_CATEGORY')) AS privately,
                    count(*) FILTER (WHERE d.standing = 'LEFT_OUT' AND d.why NOT IN ('PRIVATE', 'PRIVATE_CATEGORY')) AS left_out,
                    count(*) FILTER (WHERE d.standing = 'UNREADABLE') AS unreadable,
                    count(*) FILTER (WHERE d.standing = 'TIED' AND (d.made_contact OR d.made_here AND d.tag <> '')) AS made
                FROM card d LEFT JOIN outbox x ON x.kind = 'CARD' AND x.subject = d.id GROUP BY d.source) n ON n.source = o.id
            WHERE o.kind = 'book' AND c.state <> 'disconnected' AND (#{overseen}::uuid[] IS NULL OR c.person = ANY(#{overseen}::uuid[]))
            ORDER BY p.name, o.label, o.id
            """)
    List<Book> books(@Param("overseen") UUID @Nullable [] overseen);

    /** Why cards of a book were left out, or are not exchanged, and how many. */
    record WhyCount(String standing, String why, long count) {}

    @Select(
            "SELECT standing, why, count(*) AS count FROM card WHERE source = #{source} AND standing <> 'GONE' GROUP BY 1, 2 ORDER BY 1, 2")
    List<WhyCount> whys(@Param("source") int source);

    /** In whose book a contact stands. */
    record Standing(
            int source,
            String label,
            UUID person,
            String personName,
            boolean detached,
            boolean asked,
            boolean madeHere,
            boolean pending) {}

    @Select("""
            SELECT o.id AS source, o.label, c.person, p.name AS person_name, d.detached,
                d.removal IN ('HERE', 'THERE') AS asked, d.made_here, x.id IS NOT NULL AS pending
            FROM card d JOIN source o ON o.id = d.source JOIN connection c ON c.id = o.connection JOIN person p ON p.id = c.person
            LEFT JOIN outbox x ON x.kind = 'CARD' AND x.subject = d.id
            WHERE d.contact = #{contact} AND d.standing = 'TIED' ORDER BY p.name, o.label
            """)
    List<Standing> standing(@Param("contact") UUID contact);

    /** @param contact null for those of all */
    record Conflict(
            UUID id,
            @Nullable UUID contact,
            String contactName,
            UUID person,
            String personName,
            Instant at,
            @Nullable String field,
            boolean hereWon,
            String here,
            String book,
            boolean canComeBack,
            @Nullable String broughtBackBy) {}

    @Select("""
            SELECT f.id, f.contact, coalesce(t.name, '') AS contact_name, c.person, p.name AS person_name, f.at, f.field, f.here_won, f.here, f.book,
                f.lost IS NOT NULL AND f.field IS NOT NULL AND f.brought_back_at IS NULL AND t.id IS NOT NULL AS can_come_back, f.brought_back_by
            FROM card_conflict f JOIN card d ON d.id = f.card JOIN source o ON o.id = d.source JOIN connection c ON c.id = o.connection
            JOIN person p ON p.id = c.person LEFT JOIN contact t ON t.id = f.contact
            WHERE (#{overseen}::uuid[] IS NULL OR c.person = ANY(#{overseen}::uuid[])) AND (#{id}::uuid IS NULL OR f.id = #{id})
            ORDER BY f.at DESC, f.id LIMIT 200
            """)
    List<Conflict> conflicts(@Param("overseen") UUID @Nullable [] overseen, @Param("id") @Nullable UUID id);

    /** Contacts that came by a card and are at no account, with those that they may be at. */
    record NoAccount(UUID id, String name, String organisation, String addresses, long version) {}

    @Select("""
            SELECT c.id, c.name, coalesce(d.details::jsonb ->> 'organisation', '') AS organisation,
                coalesce((SELECT string_agg(x.address, ' ' ORDER BY x.address) FROM contact_address x WHERE x.contact = c.id), '') AS addresses,
                c.version
            FROM contact c LEFT JOIN contact_details d ON d.contact = c.id
            WHERE c.account IS NULL AND c.archived_at IS NULL AND c.key LIKE 'card-%' AND NOT ('account' = ANY(c.by_hand))
              AND (#{overseen}::uuid[] IS NULL OR EXISTS (SELECT FROM card k JOIN source o ON o.id = k.source JOIN connection n ON n.id = o.connection
                  WHERE k.contact = c.id AND n.person = ANY(#{overseen}::uuid[])))
            ORDER BY c.name, c.id LIMIT 200
            """)
    List<NoAccount> noAccount(@Param("overseen") UUID @Nullable [] overseen);

    record Likely(UUID contact, String key, String name, boolean byDomain) {}

    @Select("""
            SELECT DISTINCT ON (w.id, a.id) w.id AS contact, a.key, a.name, d.domain IS NOT NULL AS by_domain
            FROM unnest(#{contacts}::uuid[], #{organisations}::text[]) w (id, organisation)
            LEFT JOIN contact_address x ON x.contact = w.id
            JOIN account a ON a.archived_at IS NULL AND (w.organisation <> '' AND a.name % w.organisation
                OR EXISTS (SELECT FROM account_domain e WHERE e.account = a.id AND e.domain = '@' || split_part(x.address, '@', 2)))
            LEFT JOIN account_domain d ON d.account = a.id AND d.domain = '@' || split_part(x.address, '@', 2)
            ORDER BY w.id, a.id, d.domain NULLS LAST
            """)
    List<Likely> likely(@Param("contacts") UUID[] contacts, @Param("organisations") String[] organisations);
}
