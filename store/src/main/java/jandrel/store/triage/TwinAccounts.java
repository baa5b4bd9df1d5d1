package jandrel.store.triage;

import jandrel.core.directory.CompanyKey;
import jandrel.store.kernel.ReadTimeout;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.ResultType;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.session.ResultHandler;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Accounts that may be the same customer, until somebody merges them or says that they are two. */
@Component
public class TwinAccounts {
    /** Of more that have one name, nobody looks through all pairs. */
    private static final int MOST_ALIKE = 20;

    private static final int AT_A_TIME = 2_000;
    private final Mapped mapper;

    /** @param domain one of its domains, without the @; empty for none */
    public record Named(
            UUID id, String name, String domain, @Nullable UUID above) {}

    public record Twins(Named one, Named other, String why) {}

    @Mapper
    interface Mapped {
        record Apart(UUID one, UUID other) {}

        @Arg(column = "id", javaType = UUID.class)
        @Arg(column = "name", javaType = String.class)
        @Arg(column = "domain", javaType = String.class)
        @Arg(column = "above", javaType = UUID.class)
        @Options(fetchSize = AT_A_TIME)
        @ResultType(Named.class)
        @Select("""
                SELECT a.id, a.name, coalesce((SELECT min(substr(d.domain, 2)) FROM account_domain d WHERE d.account = a.id), '') AS domain,
                       a.above
                FROM account a WHERE a.archived_at IS NULL
                """)
        void named(ResultHandler<Named> each);

        @Select("SELECT one, other FROM two_accounts")
        List<Apart> apart();

        @Insert("""
                INSERT INTO two_accounts (one, other, by_login) VALUES (least(#{one}::uuid, #{other}), greatest(#{one}::uuid, #{other}), #{by})
                ON CONFLICT DO NOTHING
                """)
        int keepApart(@Param("one") UUID one, @Param("other") UUID other, @Param("by") String by);

        @Delete(
                "DELETE FROM two_accounts WHERE one = least(#{one}::uuid, #{other}) AND other = greatest(#{one}::uuid, #{other})")
        int forget(@Param("one") UUID one, @Param("other") UUID other);
    }

    TwinAccounts(Mapped mapper) {
        this.mapper = mapper;
    }

    /**
     * Those that have one name, but for their legal forms, and of which none is a part of the other.
     *
     * @param of one of each pair; null for all
     * @return by name, each pair once
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Twins> all(@Nullable UUID of, int most) {
        Map<CompanyKey, List<Named>> byName = new HashMap<>();
        mapper.named(r -> {
            Named account = r.getResultObject();
            CompanyKey key = CompanyKey.of(account.name());
            if (!key.isEmpty()) {
                byName.computeIfAbsent(key, k -> new ArrayList<>(1)).add(account);
            }
        });
        Set<Set<UUID>> apart = new HashSet<>();
        mapper.apart().forEach(a -> apart.add(Set.of(a.one(), a.other())));
        List<Twins> found = new ArrayList<>();
        byName.values().stream()
                .filter(some -> some.size() > 1 && some.size() <= MOST_ALIKE)
                .forEach(some -> pairs(some, of, apart, found));
        return found.stream()
                .sorted(Comparator.comparing((Twins t) -> t.one().name())
                        .thenComparing(t -> t.one().id() + " " + t.other().id()))
                .limit(most)
                .toList();
    }

    private static void pairs(List<Named> some, @Nullable UUID of, Set<Set<UUID>> apart, List<Twins> found) {
        for (int i = 0; i < some.size(); i++) {
            for (int j = i + 1; j < some.size(); j++) {
                Named one = some.get(i);
                Named other = some.get(j);
                boolean asked = of == null || of.equals(one.id()) || of.equals(other.id());
                boolean part = one.id().equals(other.above()) || other.id().equals(one.above());
                if (asked && !part && !apart.contains(Set.of(one.id(), other.id()))) {
                    String why =
                            one.name().equals(other.name()) ? "the same name" : "names that differ in their form alone";
                    found.add(new Twins(one, other, why));
                }
            }
        }
    }

    /** Says that these are two customers; they are not found any more. */
    @Transactional
    public void keepApart(UUID one, UUID other, String by) {
        mapper.keepApart(one, other, by);
    }

    /** Takes that back. */
    @Transactional
    public void forget(UUID one, UUID other) {
        mapper.forget(one, other);
    }
}
