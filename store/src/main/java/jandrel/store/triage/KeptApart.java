package jandrel.store.triage;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Records that look like one and of which somebody said that they are two. */
@Component
public class KeptApart {
    private static final Map<String, String> TABLES = Map.of("contact", "two_people", "account", "two_accounts");
    private final Mapped mapper;

    @Mapper
    interface Mapped {
        record Two(UUID one, UUID other) {}

        @Select("SELECT one, other FROM ${table} WHERE #{of}::uuid IS NULL OR #{of} IN (one, other)")
        List<Two> all(@Param("table") String table, @Param("of") @Nullable UUID of);

        @Insert("""
                INSERT INTO ${table} (one, other, by_login) VALUES (least(#{one}::uuid, #{other}), greatest(#{one}::uuid, #{other}), #{by})
                ON CONFLICT DO NOTHING
                """)
        int put(
                @Param("table") String table,
                @Param("one") UUID one,
                @Param("other") UUID other,
                @Param("by") String by);

        @Delete(
                "DELETE FROM ${table} WHERE one = least(#{one}::uuid, #{other}) AND other = greatest(#{one}::uuid, #{other})")
        int forget(@Param("table") String table, @Param("one") UUID one, @Param("other") UUID other);
    }

    KeptApart(Mapped mapper) {
        this.mapper = mapper;
    }

    /** Whether records of this kind are taken for one, so that there is something to say. */
    public static boolean isOf(String kind) {
        return TABLES.containsKey(kind);
    }

    /** @param of one of each two; null for all */
    Set<Set<UUID>> all(String kind, @Nullable UUID of) {
        return mapper.all(table(kind), of).stream()
                .map(two -> Set.of(two.one(), two.other()))
                .collect(Collectors.toSet());
    }

    /** Says that these are two; they are not found any more. */
    @Transactional
    public void put(String kind, UUID one, UUID other, String by) {
        mapper.put(table(kind), one, other, by);
    }

    /** Takes that back. */
    @Transactional
    public void forget(String kind, UUID one, UUID other) {
        mapper.forget(table(kind), one, other);
    }

    private static String table(String kind) {
        String table = TABLES.get(kind);
        if (table == null) {
            throw new IllegalArgumentException("nobody takes two of a " + kind + " for one");
        }
        return table;
    }
}
