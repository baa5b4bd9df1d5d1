package jandrel.store.directory;

import jandrel.core.directory.OwnField;
import jandrel.core.directory.OwnFields;
import jandrel.core.journal.Entry.Thing;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.RulesLock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.IntStream;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * The fields of contacts that the company made for itself. One that is taken off the list is shown nowhere any more; what was in it is kept,
 * and is there again when a field of the same key and kind is.
 */
@Component
public class OwnFieldList {
    private final Mapped mapper;
    private final Journal journal;
    private final RulesLock rules;

    /** Why a list cannot be as somebody wants it: by place in the list, counted from 0. */
    public static final class DoesNotFit extends Exception {
        private static final long serialVersionUID = 1;
        private final transient Map<Integer, Misfit> reasons;

        DoesNotFit(Map<Integer, Misfit> reasons) {
            super("fields do not fit what is in them");
            this.reasons = Map.copyOf(reasons);
        }

        public Map<Integer, Misfit> reasons() {
            return reasons;
        }
    }

    /** @param of what of the field does not fit: {@code kind} or {@code choices} */
    public record Misfit(String of, String why) {}

    @Mapper
    interface Mapped {
        record Row(String key, String name, String kind, String[] choices) {}

        record Used(String key, long contacts) {}

        String ROWS = "SELECT key, name, kind, choices FROM own_field WHERE position IS ";

        @Select(ROWS + "NOT NULL ORDER BY position")
        @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
        List<Row> fields();

        @Select(ROWS + "NULL")
        List<Row> removed();

        @Update("UPDATE own_field SET position = NULL")
        int removeAll();

        @Insert("""
                INSERT INTO own_field (key, name, kind, choices, position) VALUES (#{f.key}, #{f.name}, #{f.kind}, #{f.choices}, #{position})
                ON CONFLICT (key) DO UPDATE SET name = excluded.name, kind = excluded.kind, choices = excluded.choices,
                    position = excluded.position
                """)
        int put(@Param("f") Row field, @Param("position") int position);

        @Select(
                "SELECT e.key, count(*) AS contacts FROM contact c, jsonb_object_keys(c.own) e(key) WHERE c.own <> '{}' GROUP BY e.key")
        List<Used> used();

        @Select("SELECT DISTINCT c.own ->> #{key} FROM contact c WHERE c.own <> '{}' AND c.own ->> #{key} IS NOT NULL")
        Set<String> values(@Param("key") String key);
    }

    OwnFieldList(Mapped mapper, Journal journal, RulesLock rules) {
        this.mapper = mapper;
        this.journal = journal;
        this.rules = rules;
    }

    public OwnFields fields() {
        return new OwnFields(mapper.fields().stream().map(OwnFieldList::field).toList());
    }

    /** In how many contacts there is something, by a field's key; without those where there is nothing. */
    public Map<String, Long> used() {
        Map<String, Long> used = new HashMap<>();
        mapper.used().forEach(u -> used.put(u.key(), u.contacts()));
        return used;
    }

    private static OwnField field(Mapped.Row row) {
        return new OwnField(row.key(), row.name(), OwnField.Kind.valueOf(row.kind()), List.of(row.choices()));
    }

    /**
     * Takes the list as it shall be.
     *
     * @throws DoesNotFit where a kind, or the choices, would not be those of what is in a field
     */
    @Transactional(rollbackFor = DoesNotFit.class)
    public void change(List<OwnField> wanted, String by) throws DoesNotFit {
        rules.alone();
        List<OwnField> before = fields().all();
        if (before.equals(wanted)) {
            return;
        }
        Map<String, OwnField> known = new HashMap<>();
        mapper.removed().forEach(row -> known.put(row.key(), field(row)));
        before.forEach(f -> known.put(f.key(), f));
        Map<String, Long> used = used();
        Map<Integer, Misfit> reasons = new TreeMap<>();
        for (int i = 0; i < wanted.size(); i++) {
            OwnField now = wanted.get(i);
            OwnField was = known.get(now.key());
            long contacts = used.getOrDefault(now.key(), 0L);
            if (was != null && contacts > 0) {
                int place = i;
                misfit(was, now, contacts).ifPresent(reason -> reasons.put(place, reason));
            }
        }
        if (!reasons.isEmpty()) {
            throw new DoesNotFit(reasons);
        }
        mapper.removeAll();
        IntStream.range(0, wanted.size()).forEach(i -> mapper.put(row(wanted.get(i)), i));
        journal.add(by, "changed", new Thing("company", "fields", "fields of contacts"), told(before), told(wanted));
    }

    private Optional<Misfit> misfit(OwnField was, OwnField now, long contacts) {
        if (was.kind() != now.kind()) {
            String in = contacts + (contacts == 1 ? " contact" : " contacts");
            return Optional.of(new Misfit(
                    "kind", "it holds a " + was.kind().word() + " in " + in + ": keep that kind, or use another key"));
        }
        Set<String> gone = new HashSet<>(was.choices());
        now.choices().forEach(gone::remove);
        if (gone.isEmpty()) {
            return Optional.empty();
        }
        List<String> missing = mapper.values(now.key()).stream()
                .filter(gone::contains)
                .sorted()
                .toList();
        return missing.isEmpty()
                ? Optional.empty()
                : Optional.of(new Misfit(
                        "choices", "contacts have " + String.join(", ", missing) + " in it: give them another first"));
    }

    private static Mapped.Row row(OwnField f) {
        return new Mapped.Row(f.key(), f.name(), f.kind().name(), f.choices().toArray(String[]::new));
    }

    private static List<Map<String, Object>> told(List<OwnField> fields) {
        List<Map<String, Object>> told = new ArrayList<>();
        for (OwnField f : fields) {
            Map<String, Object> one = new LinkedHashMap<>();
            one.put("key", f.key());
            one.put("name", f.name());
            one.put("kind", f.kind().word());
            if (!f.choices().isEmpty()) {
                one.put("choices", f.choices());
            }
            told.add(one);
        }
        return told;
    }
}
