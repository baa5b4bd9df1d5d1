package jandrel.store;

import jandrel.core.directory.Exclusion;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What is never captured. A change takes what it touches off the timelines, or has it fetched and decided once more. */
@Component
public class Exclusions {
    private final Mapped mapper;
    private final IntakeMapper intake;
    private final Rules rules;

    /** @param items how many items it keeps out */
    public record Listed(UUID id, String key, String reason, String addedBy, Instant addedAt, long items) {}

    @Mapper
    interface Mapped {
        @Select("""
                SELECT e.id, e.key, e.reason, e.added_by, e.added_at,
                       (SELECT count(DISTINCT s.item) FROM sighting s WHERE s.exclusion = e.id) AS items
                FROM exclusion e ORDER BY e.added_at DESC, e.key
                """)
        List<Listed> all();

        @Insert("""
                INSERT INTO exclusion (id, key, reason, added_by) VALUES (#{e.id}, #{e.key}, #{e.reason}, #{by})
                ON CONFLICT (key) DO NOTHING
                """)
        int add(@Param("e") Exclusion exclusion, @Param("by") String by);

        @Select("SELECT id, key, reason FROM exclusion WHERE id = #{id}")
        Optional<Exclusion> find(@Param("id") UUID id);

        @Delete("DELETE FROM exclusion WHERE id = #{id}")
        int remove(@Param("id") UUID id);
    }

    Exclusions(Mapped mapper, IntakeMapper intake, Rules rules) {
        this.mapper = mapper;
        this.intake = intake;
        this.rules = rules;
    }

    public List<Listed> all() {
        return mapper.all();
    }

    /** @return the keys that were not there before */
    @Transactional
    public List<String> add(List<Exclusion> wanted, String by) {
        rules.change();
        List<String> added = new ArrayList<>();
        for (Exclusion exclusion : wanted) {
            if (mapper.add(exclusion, by) == 1) {
                added.add(exclusion.key());
            }
        }
        if (!added.isEmpty()) {
            intake.reconsider(added.toArray(String[]::new));
        }
        return added;
    }

    /** @return the one removed, or nothing if there is none of that id */
    @Transactional
    public Optional<Exclusion> remove(UUID id) {
        rules.change();
        Optional<Exclusion> found = mapper.find(id);
        if (found.isPresent()) {
            mapper.remove(id);
            intake.refetchExcluded(id);
        }
        return found;
    }
}
