package jandrel.store;

import jandrel.core.journal.Entry.Thing;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What people tie items to by their own choice. The machine never takes one away. */
@Component
public class Pins {
    private final Mapped mapper;
    private final Rules rules;
    private final Journal journal;

    /** A record to pin to. */
    public record Target(String kind, UUID id, String key, String name) {}

    @Mapper
    interface Mapped {
        @Select("""
                SELECT * FROM (
                    SELECT 'contact' AS kind, id, key, name FROM contact UNION ALL SELECT 'lead', id, key, name FROM lead
                    UNION ALL SELECT 'account', id, key, name FROM account
                    UNION ALL SELECT 'opportunity', id, key, name FROM opportunity) r
                WHERE id = #{record}
                """)
        Optional<Target> target(@Param("record") UUID record);

        @Select("""
                SELECT * FROM (
                    SELECT 'contact' AS kind, id, key, name FROM contact UNION ALL SELECT 'lead', id, key, name FROM lead
                    UNION ALL SELECT 'account', id, key, name FROM account
                    UNION ALL SELECT 'opportunity', id, key, name FROM opportunity) r
                WHERE kind = #{kind} AND key = #{key}
                """)
        Optional<Target> byKey(@Param("kind") String kind, @Param("key") String key);

        @Insert("""
                INSERT INTO pin (item, record, kind, by_name) VALUES (#{item}, #{t.id}, #{t.kind}, #{by})
                ON CONFLICT (item, record) DO UPDATE SET by_name = excluded.by_name, at = now()
                """)
        int pin(@Param("item") UUID item, @Param("t") Target target, @Param("by") String by);

        @Delete("DELETE FROM pin WHERE item = #{item} AND record = #{record}")
        int unpin(@Param("item") UUID item, @Param("record") UUID record);

        @Insert("""
                INSERT INTO reconsider SELECT id FROM sighting WHERE item = #{item} AND facts IS NOT NULL ON CONFLICT DO NOTHING
                """)
        int reconsider(@Param("item") UUID item);
    }

    Pins(Mapped mapper, Rules rules, Journal journal) {
        this.mapper = mapper;
        this.rules = rules;
        this.journal = journal;
    }

    public Optional<Target> target(UUID record) {
        return mapper.target(record);
    }

    /** @param key of its file, or as it was made with */
    public Optional<Target> target(String kind, String key) {
        return mapper.byKey(kind, key);
    }

    /** @param by by name, as the trail shows it */
    @Transactional
    public void pin(UUID item, Target target, String by) {
        rules.change();
        mapper.pin(item, target, by);
        mapper.reconsider(item);
        journal.add(by, "pinned", thing(item), null, target.kind() + " " + target.id());
    }

    @Transactional
    public void unpin(UUID item, UUID record, String by) {
        rules.change();
        if (mapper.unpin(item, record) > 0) {
            mapper.reconsider(item);
            journal.add(by, "unpinned", thing(item), record.toString(), null);
        }
    }

    private static Thing thing(UUID item) {
        return new Thing("item", item.toString(), "");
    }
}
