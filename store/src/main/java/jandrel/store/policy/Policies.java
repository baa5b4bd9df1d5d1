package jandrel.store.policy;

import jandrel.core.journal.Entry.Thing;
import jandrel.core.policy.Differences;
import jandrel.core.policy.Policy;
import jandrel.store.connections.BackWindow;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.RulesLock;
import jandrel.store.kernel.StaleVersion;
import jandrel.store.kernel.StoreException;
import jandrel.store.people.PeopleListener;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The policies in their order. Every version of each is kept; its newest counts. */
@Component
public class Policies implements BackWindow, PeopleListener {
    private final Mapped mapper;
    private final Cover cover;
    private final RulesLock rules;
    private final Journal journal;

    /** @param enabled an off policy keeps its people, and captures nothing new for them */
    public record Kept(Policy policy, boolean enabled, boolean archived, String changedBy, Instant changedAt) {}

    @Mapper
    interface Mapped {
        record Row(
                UUID id,
                int version,
                boolean enabled,
                boolean archived,
                String rules,
                String changedBy,
                Instant changedAt) {}

        String SELECT = """
                SELECT p.id, v.version, p.enabled, p.archived, v.rules, v.changed_by, v.changed_at
                FROM policy p JOIN policy_version v ON v.policy = p.id
                """;

        @Select(SELECT + " AND v.version = p.version ORDER BY p.archived, p.position, p.id")
        List<Row> all();

        @Select(SELECT + " WHERE p.id = #{id} ORDER BY v.version DESC")
        List<Row> versions(@Param("id") UUID id);

        record Count(UUID policy, long people) {}

        @Select("SELECT policy, count(*) AS people FROM cover WHERE covered GROUP BY policy")
        List<Count> covered();

        @Select("""
                SELECT v.rules FROM cover k JOIN policy_version v ON v.policy = k.policy AND v.version = k.version
                WHERE k.person = #{person}
                """)
        Optional<String> rulesOf(@Param("person") UUID person);

        record Covering(UUID person, String rules) {}

        @Select("""
                SELECT k.person, v.rules FROM cover k JOIN policy_version v ON v.policy = k.policy AND v.version = k.version
                WHERE k.person = ANY(#{people})
                """)
        List<Covering> covering(@Param("people") UUID[] people);

        @Insert("INSERT INTO policy_version VALUES (#{p.id}, #{p.version}, #{rules}, #{by})")
        int addVersion(@Param("p") Policy policy, @Param("rules") String rules, @Param("by") String by);

        @Insert("""
                INSERT INTO policy (id, position, enabled, version)
                SELECT #{id}, coalesce(min(position), 1) - 1, false, 1 FROM policy
                """)
        int add(@Param("id") UUID id);

        @Update("UPDATE policy SET version = #{p.version} WHERE id = #{p.id}")
        int newVersion(@Param("p") Policy policy);

        @Update("UPDATE policy SET enabled = #{on} WHERE id = #{id}")
        int enable(@Param("id") UUID id, @Param("on") boolean on);

        @Update("UPDATE policy SET archived = #{archived} WHERE id = #{id}")
        int archive(@Param("id") UUID id, @Param("archived") boolean archived);

        @Update("UPDATE policy SET position = array_position(#{ids}::uuid[], id) WHERE id = ANY(#{ids})")
        int order(@Param("ids") UUID[] ids);
    }

    Policies(Mapped mapper, Cover cover, RulesLock rules, Journal journal) {
        this.mapper = mapper;
        this.cover = cover;
        this.rules = rules;
        this.journal = journal;
    }

    /** All of them, in order, the archived ones last. */
    public List<Kept> all() {
        return mapper.all().stream().map(Policies::kept).toList();
    }

    /** Those that are not archived, in order. */
    public List<Policy> inOrder() {
        return all().stream().filter(k -> !k.archived()).map(Kept::policy).toList();
    }

    public Optional<Kept> find(UUID id) {
        return all().stream().filter(k -> k.policy().id().equals(id)).findFirst();
    }

    /** Every version, newest first. */
    public List<Kept> versions(UUID id) {
        return mapper.versions(id).stream().map(Policies::kept).toList();
    }

    /** The policy that covers the person, or was the last to; nothing when none has ever had them. */
    public Optional<Policy> of(UUID person) {
        return mapper.rulesOf(person).map(Json::policy);
    }

    @Override
    public Map<UUID, Integer> daysBack(Collection<UUID> people) {
        return of(people).entrySet().stream()
                .collect(Collectors.toMap(
                        Map.Entry::getKey, e -> e.getValue().scope().backDays()));
    }

    /** The same for many people at once, by person. */
    public Map<UUID, Policy> of(Collection<UUID> people) {
        Map<String, Policy> read = new HashMap<>();
        return mapper.covering(people.toArray(UUID[]::new)).stream()
                .collect(Collectors.toMap(Mapped.Covering::person, c -> read.computeIfAbsent(c.rules(), Json::policy)));
    }

    /** How many people each covers. */
    public Map<UUID, Long> covered() {
        Map<UUID, Long> counts = new HashMap<>();
        mapper.covered().forEach(c -> counts.put(c.policy(), c.people()));
        return counts;
    }

    private static Kept kept(Mapped.Row r) {
        return new Kept(Json.policy(r.rules()), r.enabled(), r.archived(), r.changedBy(), r.changedAt());
    }

    /** Adds one before all others, switched off. */
    @Transactional
    public Policy add(Policy wanted, String by) {
        rules.change();
        Policy first = wanted.named(UUID.randomUUID(), 1, wanted.name());
        mapper.add(first.id());
        mapper.addVersion(first, Json.write(first), by);
        journal.add(by, "added", thing(first), null, sentences(first));
        cover.anew(inOrder());
        return first;
    }

    /**
     * Makes a new version, and has what it covers decided again under it.
     *
     * @param wanted its version must be the one that it was made from
     * @throws StaleVersion if somebody else has changed the policy since
     */
    @Transactional
    public Policy change(Policy wanted, String by) {
        return change(wanted, by, "changed");
    }

    private Policy change(Policy wanted, String by, String what) {
        rules.change();
        Policy before = known(wanted.id());
        if (before.version() != wanted.version()) {
            throw new StaleVersion();
        }
        Policy after = wanted.named(wanted.id(), before.version() + 1, wanted.name());
        List<String> differences = Differences.between(before, after, ZoneOffset.UTC);
        if (differences.isEmpty()) {
            return before;
        }
        mapper.addVersion(after, Json.write(after), by);
        mapper.newVersion(after);
        journal.add(by, what, thing(after), sentences(before), sentences(after));
        cover.anew(inOrder());
        return after;
    }

    /** Makes an earlier version the newest again. */
    @Transactional
    public Policy back(UUID id, int version, String by) {
        Policy then = versions(id).stream()
                .map(Kept::policy)
                .filter(p -> p.version() == version)
                .findFirst()
                .orElseThrow(() -> new StoreException("policy " + id + " has no version " + version));
        return change(then.named(id, known(id).version(), then.name()), by, "went back to version " + version);
    }

    @Transactional
    public void enable(UUID id, boolean on, String by) {
        rules.change();
        mapper.enable(id, on);
        journal.add(by, on ? "switched on" : "switched off", thing(known(id)), !on, on);
        cover.anew(inOrder());
    }

    @Transactional
    public void archive(UUID id, boolean archived, String by) {
        rules.change();
        mapper.archive(id, archived);
        journal.add(by, archived ? "archived" : "took out of the archive", thing(known(id)), !archived, archived);
        cover.anew(inOrder());
    }

    /** @param ids all that are not archived */
    @Transactional
    public void order(List<UUID> ids, String by) {
        rules.change();
        List<String> before = names();
        mapper.order(ids.toArray(UUID[]::new));
        journal.add(by, "ordered", new Thing("policies", "order", "the order of policies"), before, names());
        cover.anew(inOrder());
    }

    private List<String> names() {
        return new ArrayList<>(inOrder().stream().map(Policy::name).toList());
    }

    private Policy known(UUID id) {
        return find(id).map(Kept::policy).orElseThrow(() -> new StoreException("there is no policy " + id));
    }

    private static Thing thing(Policy policy) {
        return new Thing("policy", policy.id().toString(), policy.name());
    }

    private static List<String> sentences(Policy policy) {
        return Differences.sentences(policy, ZoneOffset.UTC);
    }

    @Override
    public void changed(Collection<UUID> people) {
        cover.changed(people, inOrder());
    }
}
