package jandrel.store.policy;

import jandrel.core.decide.Reopened;
import jandrel.core.directory.Exclusion;
import jandrel.core.journal.Entry.Thing;
import jandrel.store.directory.SliceMapper;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Reopener;
import jandrel.store.kernel.RulesLock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What is never captured. A change takes what it touches off the timelines, or has it fetched and decided once more. */
@Component
public class Exclusions {
    private final Mapped mapper;
    private final Reopener reopened;
    private final RulesLock rules;
    private final Journal journal;

    /** @param items how many items it keeps out */
    public record Listed(
            UUID id,
            String kind,
            String key,
            String reason,
            @Nullable UUID policy,
            @Nullable UUID person,
            @Nullable String personName,
            @Nullable LocalDate lastDay,
            String addedBy,
            Instant addedAt,
            long items) {}

    @Mapper
    interface Mapped {
        @Select("""
                SELECT e.id, e.kind, e.key, e.reason, e.policy, e.person, p.name AS person_name, e.last_day, e.added_by, e.added_at,
                       (SELECT count(DISTINCT s.item) FROM sighting s WHERE s.exclusion = e.id) AS items
                FROM exclusion e LEFT JOIN person p ON p.id = e.person ORDER BY e.added_at DESC, e.key
                """)
        List<Listed> all();

        /** @return the ids of those that were not there before */
        @Select("""
                INSERT INTO exclusion (id, kind, key, reason, policy, person, last_day, added_by)
                SELECT e.*, #{by} FROM unnest(#{ids}::uuid[], #{kinds}::text[], #{keys}::text[], #{reasons}::text[],
                    #{policies}::uuid[], #{people}::uuid[], #{days}::date[]) e
                ON CONFLICT DO NOTHING RETURNING id
                """)
        @Options(flushCache = Options.FlushCachePolicy.TRUE)
        List<UUID> add(
                @Param("ids") UUID[] ids,
                @Param("kinds") String[] kinds,
                @Param("keys") String[] keys,
                @Param("reasons") String[] reasons,
                @Param("policies") @Nullable UUID[] policies,
                @Param("people") @Nullable UUID[] people,
                @Param("days") @Nullable String[] days,
                @Param("by") String by);

        record Known(String kind, String key) {}

        @Select("""
                SELECT kind, key FROM exclusion
                WHERE person IS NULL AND policy IS NOT DISTINCT FROM #{policy}::uuid AND key = ANY(#{keys})
                """)
        List<Known> known(@Param("keys") String[] keys, @Param("policy") @Nullable UUID policy);

        @Select("SELECT id, kind, key, reason, policy, person, last_day FROM exclusion WHERE id = ANY(#{ids})")
        List<SliceMapper.ExclusionRow> find(@Param("ids") UUID[] ids);

        @Delete("DELETE FROM exclusion WHERE id = ANY(#{ids})")
        int remove(@Param("ids") UUID[] ids);
    }

    Exclusions(Mapped mapper, Reopener reopened, RulesLock rules, Journal journal) {
        this.mapper = mapper;
        this.reopened = reopened;
        this.rules = rules;
        this.journal = journal;
    }

    public List<Listed> all() {
        return mapper.all();
    }

    /** @return those that were not there before */
    @Transactional
    public List<Exclusion> add(List<Exclusion> wanted, String by) {
        rules.change();
        Set<UUID> ids = Set.copyOf(mapper.add(
                wanted.stream().map(Exclusion::id).toArray(UUID[]::new),
                wanted.stream().map(e -> e.kind().name()).toArray(String[]::new),
                wanted.stream().map(Exclusion::what).toArray(String[]::new),
                wanted.stream().map(Exclusion::reason).toArray(String[]::new),
                wanted.stream().map(e -> e.limits().policy()).toArray(UUID[]::new),
                wanted.stream().map(e -> e.limits().person()).toArray(UUID[]::new),
                wanted.stream()
                        .map(e -> e.limits().lastDay() == null
                                ? null
                                : e.limits().lastDay().toString())
                        .toArray(String[]::new),
                by));
        List<Exclusion> added =
                wanted.stream().filter(e -> ids.contains(e.id())).toList();
        journal.add(
                by,
                added.stream()
                        .map(e -> new Journal.Change("added", thing(e), null, described(e)))
                        .toList());
        reopened.mark(Reopened.excluded(added));
        return added;
    }

    /** @return those removed; ids of none are passed over */
    @Transactional
    public List<Exclusion> remove(Collection<UUID> ids, String by) {
        rules.change();
        List<Exclusion> found = find(ids);
        if (!found.isEmpty()) {
            mapper.remove(found.stream().map(Exclusion::id).toArray(UUID[]::new));
            reopened.mark(Reopened.included(found.stream().map(Exclusion::id).collect(Collectors.toSet())));
            journal.add(
                    by,
                    found.stream()
                            .map(e -> new Journal.Change("removed", thing(e), described(e), null))
                            .toList());
        }
        return found;
    }

    public List<Exclusion> find(Collection<UUID> ids) {
        return mapper.find(ids.toArray(UUID[]::new)).stream()
                .map(SliceMapper.ExclusionRow::exclusion)
                .toList();
    }

    /** Those of these that are excluded already, for all or for the policy, as kind and key. */
    public Set<String> known(Collection<String> keys, @Nullable UUID policy) {
        return mapper.known(keys.toArray(String[]::new), policy).stream()
                .map(k -> k.kind() + " " + k.key())
                .collect(Collectors.toSet());
    }

    /** What somebody keeps out of their own mail is nobody else's to read, not in the journal either. */
    private static Thing thing(Exclusion e) {
        return new Thing("exclusion", e.id().toString(), e.limits().person() == null ? e.what() : "one of their own");
    }

    private static Map<String, Object> described(Exclusion e) {
        Map<String, Object> described = new LinkedHashMap<>();
        if (e.limits().person() == null) {
            described.put("kind", e.kind().word());
            described.put("what", e.what());
            described.put("reason", e.reason());
        }
        if (e.limits().policy() != null) {
            described.put("policy", e.limits().policy().toString());
        }
        if (e.limits().person() != null) {
            described.put("person", e.limits().person().toString());
        }
        if (e.limits().lastDay() != null) {
            described.put("lastDay", e.limits().lastDay().toString());
        }
        return described;
    }
}
