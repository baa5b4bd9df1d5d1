package jandrel.store.triage;

import jandrel.core.directory.CompanyKey;
import jandrel.store.kernel.ReadTimeout;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.apache.ibatis.annotations.Arg;
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
    private final KeptApart apart;

    public record Named(UUID id, String name, @Nullable UUID above) {}

    public record Twins(Named one, Named other, String why) {}

    @Mapper
    interface Mapped {
        @Arg(column = "id", javaType = UUID.class)
        @Arg(column = "name", javaType = String.class)
        @Arg(column = "above", javaType = UUID.class)
        @Options(fetchSize = AT_A_TIME)
        @ResultType(Named.class)
        @Select("SELECT id, name, above FROM account WHERE archived_at IS NULL")
        void named(ResultHandler<Named> each);

        @Select("SELECT EXISTS (SELECT FROM account WHERE id = #{id})")
        boolean has(@Param("id") UUID id);

        record InDomain(UUID account, String domain) {}

        @Select("""
                SELECT account, min(substr(domain, 2)) AS domain FROM account_domain WHERE account = ANY(#{accounts}) GROUP BY account
                """)
        List<InDomain> domains(@Param("accounts") UUID[] accounts);
    }

    TwinAccounts(Mapped mapper, KeptApart apart) {
        this.mapper = mapper;
        this.apart = apart;
    }

    /**
     * Those that have one name, but for their legal forms, and of which none is a part of the other.
     *
     * @param of one of each pair; null for all
     * @return by name, each pair once
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Twins> all(@Nullable UUID of, int most) {
        if (of != null && !mapper.has(of)) {
            return List.of();
        }
        Map<CompanyKey, List<Named>> byName = new HashMap<>();
        mapper.named(r -> {
            Named account = r.getResultObject();
            CompanyKey key = CompanyKey.of(account.name());
            if (!key.isEmpty()) {
                byName.computeIfAbsent(key, k -> new ArrayList<>(1)).add(account);
            }
        });
        Set<Set<UUID>> two = apart.all("account", of);
        List<Twins> found = new ArrayList<>();
        byName.values().stream()
                .filter(some -> some.size() > 1 && some.size() <= MOST_ALIKE)
                .forEach(some -> pairs(some, of, two, found));
        return found.stream()
                .sorted(Comparator.comparing((Twins t) -> t.one().name())
                        .thenComparing(t -> t.one().id() + " " + t.other().id()))
                .limit(most)
                .toList();
    }

    private static void pairs(List<Named> some, @Nullable UUID of, Set<Set<UUID>> two, List<Twins> found) {
        for (int i = 0; i < some.size(); i++) {
            for (int j = i + 1; j < some.size(); j++) {
                Named one = some.get(i);
                Named other = some.get(j);
                boolean asked = of == null || of.equals(one.id()) || of.equals(other.id());
                boolean part = one.id().equals(other.above()) || other.id().equals(one.above());
                if (asked && !part && !two.contains(Set.of(one.id(), other.id()))) {
                    String why =
                            one.name().equals(other.name()) ? "the same name" : "names that differ in their form alone";
                    found.add(new Twins(one, other, why));
                }
            }
        }
    }

    /** One domain of each that has any, without the @. */
    public Map<UUID, String> domains(List<Twins> twins) {
        UUID[] accounts = twins.stream()
                .flatMap(t -> Stream.of(t.one().id(), t.other().id()))
                .distinct()
                .toArray(UUID[]::new);
        return mapper.domains(accounts).stream()
                .collect(Collectors.toMap(Mapped.InDomain::account, Mapped.InDomain::domain));
    }
}
