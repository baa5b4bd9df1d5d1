package jandrel.store;

import jandrel.core.directory.Exclusion;
import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;

/** The one query for all that the directory says about a batch's addresses. */
@Mapper
interface SliceMapper {
    record Row(
            String what,
            String key,
            @Nullable UUID id,
            String name,
            @Nullable UUID account,
            @Nullable String accountName,
            @Nullable UUID accountOwner,
            @Nullable String sorting,
            @Nullable LocalDate lastActive) {}

    record ExclusionRow(
            UUID id,
            String kind,
            String key,
            String reason,
            @Nullable UUID policy,
            @Nullable UUID person,
            @Nullable LocalDate lastDay) {
        Exclusion exclusion() {
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
            UNION ALL SELECT id, kind, key, reason, policy, person, last_day FROM exclusion
                WHERE kind NOT IN ('ADDRESS', 'DOMAIN', 'DOMAIN_ALONE') AND key <> ALL(#{keys})
            """)
    List<ExclusionRow> exclusions(@Param("keys") String[] keys);

    @Select("""
            WITH k AS MATERIALIZED (SELECT unnest(#{keys}::text[]) AS key),
            c AS (SELECT ca.address AS key, c.id, c.name, a.id AS account, a.name AS account_name, a.owner, c.key AS sorting,
                         c.last_active
                  FROM k JOIN contact_address ca ON ca.address = k.key JOIN contact c ON c.id = ca.contact
                  LEFT JOIN account a ON a.id = c.account),
            d AS (SELECT ad.domain AS key, a.id, a.name, a.owner
                  FROM k JOIN account_domain ad ON ad.domain = k.key JOIN account a ON a.id = ad.account)
            SELECT 'contact' AS what, key, id, name, account, account_name, owner AS account_owner, sorting, last_active FROM c
            UNION ALL SELECT 'domain', key, id, name, NULL, NULL, owner, NULL, NULL FROM d
            UNION ALL SELECT 'open', '', o.id, o.name, o.account, NULL, NULL, NULL, NULL FROM opportunity o
                WHERE o.state = 'OPEN' AND o.account IN (SELECT account FROM c UNION SELECT id FROM d)
            UNION ALL SELECT 'person', pa.address, p.id, p.name, NULL, NULL, NULL, NULL, NULL
                FROM k JOIN person_address pa ON pa.address = k.key JOIN person p ON p.id = pa.person
            UNION ALL SELECT 'own', o.domain, NULL, '', NULL, NULL, NULL, NULL, NULL FROM k JOIN own_domain o ON o.domain = k.key
            UNION ALL SELECT 'free', f.domain, NULL, '', NULL, NULL, NULL, NULL, NULL
                FROM k JOIN free_mail_domain f ON f.domain = k.key
            """)
    List<Row> slice(@Param("keys") String[] keys);
}
