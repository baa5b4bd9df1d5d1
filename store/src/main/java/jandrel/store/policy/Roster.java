package jandrel.store.policy;

import jandrel.core.journal.Entry.Thing;
import jandrel.core.policy.Policy.Sharing;
import jandrel.store.connections.Connections;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.kernel.RulesLock;
import jandrel.store.kernel.StoreException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Every person of the company: under which policy and why, connected or not, heard from when. */
@Component
public class Roster {
    private final Mapped mapper;
    private final RulesLock rules;
    private final Cover cover;
    private final Policies policies;
    private final Journal journal;

    /**
     * @param policyName null when no policy has ever had the person
     * @param covered whether one has the person now
     * @param enabled whether that policy is switched on
     * @param why what of the audience has the person, or why none has
     * @param states of the person's connections
     * @param lastItem when their newest item took place that is not in the future
     */
    public record Listed(
            UUID id,
            String key,
            String name,
            String team,
            String role,
            String[] addresses,
            @Nullable UUID policy,
            @Nullable String policyName,
            boolean covered,
            boolean enabled,
            String why,
            @Nullable LocalDate coverUntil,
            String sharing,
            String[] states,
            @Nullable Instant lastItem) {}

    @Mapper
    interface Mapped {
        String SELECT = """
                SELECT p.id, p.key, p.name, p.team, p.role,
                       ARRAY(SELECT address FROM person_address WHERE person = p.id ORDER BY address) AS addresses,
                       k.policy, v.rules::jsonb ->> 'name' AS policy_name, coalesce(k.covered, false) AS covered,
                       coalesce(l.enabled, false) AS enabled, coalesce(k.why, 'no policy has this person') AS why,
                       p.cover_until, p.sharing,
                       ARRAY(SELECT\s""" + Connections.STATE + """
                           FROM connection c JOIN server e ON e.id = c.server
                           WHERE c.person = p.id AND e.kind NOT IN ('smtp', 'here') ORDER BY state) AS states,
                       (SELECT max(s.last_item) FROM source s JOIN connection c ON c.id = s.connection WHERE c.person = p.id)
                           AS last_item
                FROM person p LEFT JOIN cover k ON k.person = p.id LEFT JOIN policy l ON l.id = k.policy
                LEFT JOIN policy_version v ON v.policy = k.policy AND v.version = l.version
                """;

        @Select(SELECT + " ORDER BY p.name, p.id")
        List<Listed> all();

        @Select(SELECT + " WHERE p.id = #{id}")
        Optional<Listed> one(@Param("id") UUID id);

        @Update("UPDATE person SET sharing = #{sharing} WHERE id = #{id}")
        int sharing(@Param("id") UUID id, @Param("sharing") String sharing);
    }

    Roster(Mapped mapper, RulesLock rules, Cover cover, Policies policies, Journal journal) {
        this.mapper = mapper;
        this.rules = rules;
        this.cover = cover;
        this.policies = policies;
        this.journal = journal;
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Listed> all() {
        return mapper.all();
    }

    public Optional<Listed> one(UUID id) {
        return mapper.one(id);
    }

    /** How widely the person lets their own items be read; it only ever narrows what the policy says. */
    @Transactional
    public void sharing(UUID id, Sharing sharing, String by) {
        rules.change();
        Listed before = known(id);
        mapper.sharing(id, sharing.name());
        journal.add(by, "chose who reads the items of", thing(before), word(before.sharing()), word(sharing.name()));
        cover.changed(List.of(id), policies.inOrder());
    }

    private static Map<String, String> word(String sharing) {
        return Map.of("sharing", sharing.toLowerCase(java.util.Locale.ROOT).replace('_', '-'));
    }

    private Listed known(UUID id) {
        return mapper.one(id).orElseThrow(() -> new StoreException("there is no person " + id));
    }

    private static Thing thing(Listed person) {
        return new Thing("person", person.id().toString(), person.name());
    }
}
