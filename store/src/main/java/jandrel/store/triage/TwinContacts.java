package jandrel.store.triage;

import jandrel.core.contacts.NameKey;
import jandrel.store.kernel.ReadTimeout;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
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

/** Contacts that may be the same person, until somebody merges them or says that they are two. */
@Component
public class TwinContacts {
    /** Of more who share a word of their names at one account, nobody looks through all pairs. */
    private static final int MOST_ALIKE = 100;

    /** Enough to choose the first of, and not more than memory has room for. */
    private static final int MOST_PAIRS = 10_000;

    /** In characters: what a card calls a name may be a book, and nobody compares books. */
    private static final int LONGEST_NAME = 200;

    private static final int AT_A_TIME = 2_000;
    private final Mapped mapper;
    private final KeptApart apart;

    /** @param account where one of them is; empty for none */
    public record Twins(UUID one, String oneName, UUID other, String otherName, String account, String why) {}

    private record Pair(UUID one, UUID other) {
        static Pair of(UUID a, UUID b) {
            // in the order in which PostgreSQL has them
            return a.toString().compareTo(b.toString()) < 0 ? new Pair(a, b) : new Pair(b, a);
        }
    }

    @Mapper
    interface Mapped {
        record Named(UUID id, String name, UUID account, String accountName) {}

        @Arg(column = "id", javaType = UUID.class)
        @Arg(column = "name", javaType = String.class)
        @Arg(column = "account", javaType = UUID.class)
        @Arg(column = "account_name", javaType = String.class)
        @Options(fetchSize = AT_A_TIME)
        @ResultType(Named.class)
        @Select("""
                SELECT c.id, c.name, c.account, a.name AS account_name FROM contact c JOIN account a ON a.id = c.account
                WHERE c.archived_at IS NULL
                  AND (#{of}::uuid IS NULL OR c.account = (SELECT account FROM contact WHERE id = #{of}))
                """)
        void named(@Param("of") @Nullable UUID of, ResultHandler<Named> each);

        /**
         * A number that three have is a switchboard's, and an address that very many have an office's.
         *
         * @return by account and name, the first of them
         */
        @Select("""
                <script>
                WITH shared_address AS (
                    SELECT address FROM contact_address
                    <if test="of != null"> WHERE address IN (SELECT address FROM contact_address WHERE contact = #{of}) </if>
                    GROUP BY address HAVING count(*) BETWEEN 2 AND 10),
                shared_phone AS (
                    SELECT phone FROM contact_phone
                    <if test="of != null"> WHERE phone IN (SELECT phone FROM contact_phone WHERE contact = #{of}) </if>
                    GROUP BY phone HAVING count(*) = 2),
                pair AS (
                    SELECT x.contact AS one, y.contact AS other, 'both have the address ' || address AS why
                    FROM shared_address JOIN contact_address x USING (address) JOIN contact_address y USING (address) WHERE y.contact > x.contact
                    UNION ALL SELECT x.contact, y.contact, 'both have the telephone number ' || phone
                    FROM shared_phone JOIN contact_phone x USING (phone) JOIN contact_phone y USING (phone) WHERE y.contact > x.contact)
                SELECT p.one, c.name AS one_name, p.other, d.name AS other_name, coalesce(a.name, e.name, '') AS account, p.why FROM pair p
                JOIN contact c ON c.id = p.one AND c.archived_at IS NULL JOIN contact d ON d.id = p.other AND d.archived_at IS NULL
                LEFT JOIN account a ON a.id = c.account LEFT JOIN account e ON e.id = d.account
                WHERE NOT EXISTS (SELECT FROM two_people t WHERE t.one = p.one AND t.other = p.other)
                <if test="of != null"> AND #{of} IN (p.one, p.other) </if>
                ORDER BY account, one_name, p.one, p.other LIMIT #{most}
                </script>
                """)
        List<Twins> sharing(@Param("of") @Nullable UUID of, @Param("most") int most);

        record Addressed(UUID contact, String address) {}

        @Select(
                "SELECT contact, min(address) AS address FROM contact_address WHERE contact = ANY(#{contacts}) GROUP BY contact")
        List<Addressed> addresses(@Param("contacts") UUID[] contacts);
    }

    TwinContacts(Mapped mapper, KeptApart apart) {
        this.mapper = mapper;
        this.apart = apart;
    }

    /**
     * Those who share an address, a telephone number, or at one account a name, also one that is written another way or in short.
     *
     * @param of one of each pair; null for all
     * @return by account and name, each pair once
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Twins> all(@Nullable UUID of, int most) {
        Map<Pair, Twins> found = new LinkedHashMap<>();
        mapper.sharing(of, most).forEach(t -> found.putIfAbsent(Pair.of(t.one(), t.other()), t));
        alike(of).forEach(t -> found.putIfAbsent(Pair.of(t.one(), t.other()), t));
        Set<Set<UUID>> two = apart.all("contact", of);
        found.keySet().removeIf(p -> two.contains(Set.of(p.one(), p.other())));
        return found.values().stream()
                .sorted(Comparator.comparing(Twins::account)
                        .thenComparing(Twins::oneName)
                        .thenComparing(t -> t.one() + " " + t.other()))
                .limit(most)
                .toList();
    }

    /** One address of each who has any. */
    public Map<UUID, String> addresses(List<Twins> twins) {
        UUID[] contacts = twins.stream()
                .flatMap(t -> Stream.of(t.one(), t.other()))
                .distinct()
                .toArray(UUID[]::new);
        return mapper.addresses(contacts).stream()
                .collect(Collectors.toMap(Mapped.Addressed::contact, Mapped.Addressed::address));
    }

    private record Word(UUID account, String word) {}

    /** @param inShort whether it has initials */
    private record Keyed(Mapped.Named contact, NameKey key, boolean inShort) {}

    private List<Twins> alike(@Nullable UUID of) {
        Map<Word, List<Keyed>> byWord = new HashMap<>();
        mapper.named(of, r -> {
            Mapped.Named contact = r.getResultObject();
            NameKey key = NameKey.of(contact.name());
            if (key.isWhole() && key.text().length() <= LONGEST_NAME) {
                Keyed keyed = new Keyed(contact, key, key.hasInitials());
                key.wholeWords()
                        .forEach(word -> byWord.computeIfAbsent(
                                        new Word(contact.account(), word), w -> new ArrayList<>(1))
                                .add(keyed));
            }
        });
        List<Twins> alike = new ArrayList<>();
        byWord.values().stream()
                .filter(some -> some.size() > 1 && some.size() <= MOST_ALIKE)
                .forEach(some -> pairs(some, of, alike));
        return alike;
    }

    private static void pairs(List<Keyed> some, @Nullable UUID of, Collection<Twins> alike) {
        for (int i = 0; i < some.size(); i++) {
            for (int j = i + 1; j < some.size() && alike.size() < MOST_PAIRS; j++) {
                Mapped.Named one = some.get(i).contact();
                Mapped.Named other = some.get(j).contact();
                String why =
                        of == null || of.equals(one.id()) || of.equals(other.id()) ? why(some.get(i), some.get(j)) : "";
                if (!why.isEmpty()) {
                    alike.add(new Twins(one.id(), one.name(), other.id(), other.name(), one.accountName(), why));
                }
            }
        }
    }

    private static String why(Keyed one, Keyed other) {
        if (one.key().equals(other.key())) {
            return "the same name at the same account";
        }
        return (one.inShort() || other.inShort()) && one.key().mayBeShortFor(other.key())
                ? "at the same account, and one name may be short for the other"
                : "";
    }
}
