package jandrel.store.timeline;

import jandrel.core.visibility.Oversight;
import jandrel.store.kernel.ReadTimeout;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What was decided under each policy that is on, by the numbers that are kept. */
@Component
public class PolicyTallies {
    private final Mapped mapper;

    /**
     * @param version by which all of it is decided; what was captured under one before was decided again by it
     * @param people who are covered by it
     */
    public record PolicyTally(
            UUID policy,
            String name,
            int version,
            Instant changedAt,
            String changedBy,
            long people,
            long logged,
            long waiting,
            long leftOut,
            long unreadable) {}

    @Mapper
    interface Mapped {
        @Select("""
                SELECT p.id AS policy, v.rules::jsonb ->> 'name' AS name, v.version, v.changed_at, v.changed_by,
                    count(DISTINCT k.person) AS people,
                    coalesce(sum(t.n) FILTER (WHERE t.verdict = 'logged'), 0) AS logged,
                    coalesce(sum(t.n) FILTER (WHERE t.verdict = 'waiting'), 0) AS waiting,
                    coalesce(sum(t.n) FILTER (WHERE t.verdict = 'left-out'), 0) AS left_out,
                    coalesce(sum(t.n) FILTER (WHERE t.verdict = 'unreadable'), 0) AS unreadable
                FROM policy p JOIN policy_version v ON v.policy = p.id AND v.version = p.version
                LEFT JOIN cover k ON k.policy = p.id AND k.covered AND (#{overseen}::uuid[] IS NULL OR k.person = ANY(#{overseen}::uuid[]))
                LEFT JOIN connection c ON c.person = k.person LEFT JOIN source o ON o.connection = c.id
                LEFT JOIN tally t ON t.source = o.id
                WHERE p.enabled AND NOT p.archived
                GROUP BY p.id, p.position, v.rules, v.version, v.changed_at, v.changed_by ORDER BY p.position
                """)
        List<PolicyTally> all(@Param("overseen") UUID @Nullable [] overseen);
    }

    PolicyTallies(Mapped mapper) {
        this.mapper = mapper;
    }

    /** In the order in which they apply. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<PolicyTally> all(Oversight oversight) {
        return mapper.all(oversight.limit());
    }
}
