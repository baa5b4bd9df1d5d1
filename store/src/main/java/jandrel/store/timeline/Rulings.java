package jandrel.store.timeline;

import jandrel.core.journal.Entry.Thing;
import jandrel.core.timeline.Ruling;
import jandrel.store.capture.RecordMapper;
import jandrel.store.capture.Recorder;
import jandrel.store.journal.Journal;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Who reads a single item, by the choice of somebody whose source showed it. Each chooses for the copies that they take part in. */
@Component
public class Rulings {
    private final Mapped mapper;
    private final RecordMapper records;
    private final Recorder recorder;
    private final Journal journal;

    @Mapper
    interface Mapped {
        @Select("""
                SELECT EXISTS (SELECT FROM activity WHERE id = #{activity} AND #{person} = ANY(mine || elsewhere))
                """)
        boolean isOwner(@Param("activity") UUID activity, @Param("person") UUID person);

        @Select("SELECT item FROM activity WHERE id = #{activity} AND face = 0")
        Optional<UUID> item(@Param("activity") UUID activity);

        @Insert("""
                INSERT INTO ruling (item, opens, readers, by_person, by_name, readers_named)
                VALUES (#{item}, #{r.opens}, #{readers}, #{person}, #{r.by}, #{r.to})
                ON CONFLICT (item, by_person) DO UPDATE SET opens = excluded.opens, readers = excluded.readers,
                    by_name = excluded.by_name, readers_named = excluded.readers_named, at = now()
                """)
        int put(
                @Param("item") UUID item,
                @Param("r") Ruling ruling,
                @Param("readers") UUID[] readers,
                @Param("person") UUID person);

        /** With its item's decisions written anew as they are, so that who exports what changed hears of it. */
        @Delete("""
                WITH taken_back AS (DELETE FROM ruling WHERE item = #{item} AND by_person = #{person} RETURNING item)
                UPDATE sighting SET item = sighting.item FROM taken_back t WHERE sighting.item = t.item
                """)
        int remove(@Param("item") UUID item, @Param("person") UUID person);
    }

    Rulings(Mapped mapper, RecordMapper records, Recorder recorder, Journal journal) {
        this.mapper = mapper;
        this.records = records;
        this.recorder = recorder;
        this.journal = journal;
    }

    /** Whether this person brought a copy of it. */
    public boolean isOwner(UUID activity, UUID person) {
        return mapper.isOwner(activity, person);
    }

    /** @param ruling null takes back what was ruled */
    @Transactional
    public void rule(UUID activity, @Nullable Ruling ruling, UUID person, String by) {
        UUID item = mapper.item(activity).orElse(activity);
        UUID[] items = {item};
        records.lock(items);
        Optional<RecordMapper.RulingRow> before = records.rulings(items).stream()
                .filter(r -> r.byPerson().equals(person))
                .findFirst();
        if (ruling == null) {
            mapper.remove(item, person);
        } else {
            mapper.put(item, ruling, ruling.readers().toArray(UUID[]::new), person);
        }
        recorder.rebuild(items);
        journal.add(
                by,
                ruling == null ? "took back who reads" : ruling.opens() ? "opened" : "closed",
                new Thing("item", item.toString(), "an item of their own"),
                before.map(r -> described(r.opens(), List.of(r.readers()))).orElse(null),
                ruling == null ? null : described(ruling.opens(), List.copyOf(ruling.readers())));
    }

    private static Map<String, Object> described(boolean opens, List<UUID> readers) {
        Map<String, Object> described = new LinkedHashMap<>();
        described.put("opens", opens);
        described.put("readers", readers.stream().map(UUID::toString).sorted().toList());
        return described;
    }
}
