package jandrel.store.directory;

import jandrel.core.directory.Exclusion;
import jandrel.store.capture.RecordMapper;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;

/** The one query for all that the directory says about a batch's addresses. */
@Mapper
public interface SliceMapper {
    record Row(
            String what,
            String key,
            @Nullable UUID id,
            String name,
            @Nullable UUID account,
            @Nullable UUID owner,
            @Nullable String sorting,
            @Nullable LocalDate lastActive,
            @Nullable Instant madeAt) {}

    record ExclusionRow(
            UUID id,
            String kind,
            String key,
            String reason,
            @Nullable UUID policy,
            @Nullable UUID person,
            @Nullable LocalDate lastDay) {
        public Exclusion exclusion() {
            return new Exclusion(
                    id,
                    Exclusion.Kind.valueOf(kind),
                    key,
                    reason,
                    policy == null && person == null && lastDay == null
                            ? Exclusion.Limits.NONE
                            : new Exclusion.Limits(policy, person, lastDay));
        }
    }

    /** Those that can cover something with these keys: by a key, and all that are not looked up by one. */
    @Select("""
            SELECT id, kind, key, reason, policy, person, last_day FROM exclusion WHERE key = ANY(#{keys})
            UNION ALL SELECT id, kind, key, reason, policy, person, last_day FROM exclusion e
                WHERE kind = 'ADDRESS' AND '@' || split_part(key, '@', 2) IN (SELECT domain FROM dotless_domain)
                  AND '@' || split_part(key, '@', 2) = ANY(#{keys}) AND key <> ALL(#{keys})
            UNION ALL SELECT id, kind, key, reason, policy, person, last_day FROM exclusion
                WHERE kind NOT IN ('ADDRESS', 'DOMAIN', 'DOMAIN_ALONE') AND key <> ALL(#{keys})
            """)
    List<ExclusionRow> exclusions(@Param("keys") String[] keys);

    /**
     * The accounts concerned come last, each with the one above it, whatever they are concerned by. Told column by column, as
     * {@link RecordMapper#sightings}.
     */
    @Arg(column = "what", javaType = String.class)
    @Arg(column = "key", javaType = String.class)
    @Arg(column = "id", javaType = UUID.class)
    @Arg(column = "name", javaType = String.class)
    @Arg(column = "account", javaType = UUID.class)
    @Arg(column = "owner", javaType = UUID.class)
    @Arg(column = "sorting", javaType = String.class)
    @Arg(column = "last_active", javaType = LocalDate.class)
    @Arg(column = "made_at", javaType = Instant.class)
    @Select("""
            WITH RECURSIVE said AS MATERIALIZED (SELECT unnest(#{keys}::text[]) AS key),
            u AS MATERIALIZED (SELECT DISTINCT undotted(regexp_replace(s.key, '[+][^@]*@', '@')) AS plain
                  FROM said s JOIN dotless_domain d ON d.domain = '@' || split_part(s.key, '@', 2) WHERE s.key NOT LIKE '@%'),
            k AS MATERIALIZED (SELECT key FROM said
                  UNION SELECT x.address FROM u JOIN contact_address x ON undotted(x.address) = u.plain
                  UNION SELECT x.address FROM u JOIN lead_address x ON undotted(x.address) = u.plain
                  UNION SELECT x.address FROM u JOIN person_address x ON undotted(x.address) = u.plain),
            c AS (SELECT ca.address AS key, c.id, c.name, c.account, c.key AS sorting, c.last_active, c.made_at
                  FROM k JOIN contact_address ca ON ca.address = k.key JOIN contact c ON c.id = ca.contact),
            s AS (SELECT DISTINCT y.contact, y.account, y.until FROM c JOIN contact_stay y ON y.contact = c.id),
            d AS (SELECT ad.domain AS key, ad.account AS id FROM k JOIN account_domain ad ON ad.domain = k.key),
            own AS (SELECT account AS id FROM c UNION SELECT id FROM d UNION SELECT account FROM s),
            a AS (SELECT x.id, x.name, x.owner, x.above FROM account x JOIN own ON own.id = x.id
                  UNION SELECT x.id, x.name, x.owner, x.above FROM a JOIN account x ON x.id = a.above)
            SELECT 'contact' AS what, key, id, name, account, NULL::uuid AS owner, sorting, last_active, made_at FROM c
            UNION ALL SELECT 'stay', '', contact, '', account, NULL, NULL, until, NULL FROM s
            UNION ALL SELECT 'domain', key, id, '', NULL, NULL, NULL, NULL, NULL FROM d
            UNION ALL SELECT 'account', '', id, name, above, owner, NULL, NULL, NULL FROM a
            UNION ALL SELECT 'open', '', o.id, o.name, o.account, o.owner,
                    (SELECT string_agg(p.contact::text, ' ') FROM opportunity_contact p WHERE p.opportunity = o.id), NULL, NULL
                FROM opportunity o WHERE o.state = 'OPEN' AND o.account IN (SELECT id FROM own)
            UNION ALL SELECT 'lead', la.address, l.id, l.name, NULL, l.owner, l.key, NULL, NULL
                FROM k JOIN lead_address la ON la.address = k.key JOIN lead l ON l.id = la.lead
            UNION ALL SELECT 'person', pa.address, p.id, p.name, NULL, NULL, NULL, NULL, NULL
                FROM k JOIN person_address pa ON pa.address = k.key JOIN person p ON p.id = pa.person
            UNION ALL SELECT 'own', o.domain, NULL, '', NULL, NULL, NULL, NULL, NULL FROM k JOIN own_domain o ON o.domain = k.key
            UNION ALL SELECT 'free', f.domain, NULL, '', NULL, NULL, NULL, NULL, NULL
                FROM k JOIN free_mail_domain f ON f.domain = k.key
            UNION ALL SELECT 'dotless', f.domain, NULL, '', NULL, NULL, NULL, NULL, NULL
                FROM k JOIN dotless_domain f ON f.domain = k.key
            """)
    List<Row> slice(@Param("keys") String[] keys);

    record PinRow(UUID item, UUID record, String kind, String name, String byName, UUID[] owners) {}

    /** What somebody tied to these items; records that have gone are passed over. */
    @Select("""
            SELECT p.item, p.record, p.kind, coalesce(c.name, l.name, a.name, o.name) AS name, p.by_name, p.owners
            FROM pin p LEFT JOIN contact c ON c.id = p.record LEFT JOIN lead l ON l.id = p.record
            LEFT JOIN account a ON a.id = p.record LEFT JOIN opportunity o ON o.id = p.record
            WHERE p.item = ANY(#{items}) AND coalesce(c.name, l.name, a.name, o.name) IS NOT NULL ORDER BY p.kind, p.record
            """)
    List<PinRow> pins(@Param("items") UUID[] items);
}
