package jandrel.store.triage;

import jandrel.core.decide.Reopened;
import jandrel.core.journal.Entry.Thing;
import jandrel.core.timeline.ActivityMerge;
import jandrel.store.capture.RecordMapper;
import jandrel.store.capture.Recorder;
import jandrel.store.directory.RecordRef;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Reopener;
import jandrel.store.kernel.RulesLock;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
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
    private final Reopener reopened;
    private final RecordMapper records;
    private final RulesLock rules;
    private final Journal journal;

    @Mapper
    interface Mapped {
        @Insert("""
                INSERT INTO pin (item, record, kind, by_name, owners) VALUES (#{item}, #{t.id}, #{t.kind}, #{by}, #{owners})
                ON CONFLICT (item, record) DO UPDATE SET by_name = excluded.by_name, at = now(),
                    owners = ARRAY(SELECT unnest(pin.owners || excluded.owners) EXCEPT SELECT NULL)
                """)
        int pin(
                @Param("item") UUID item,
                @Param("t") RecordRef target,
                @Param("by") String by,
                @Param("owners") UUID[] owners);

        /** For the copies of these people no more; of old pins, which hold for all, for nobody's. */
        @Delete("""
                WITH kept AS (UPDATE pin SET owners = ARRAY(SELECT unnest(owners) EXCEPT SELECT unnest(#{owners}::uuid[]))
                    WHERE item = #{item} AND record = #{record} AND owners && #{owners}::uuid[]
                        AND NOT owners <@ #{owners}::uuid[] RETURNING item)
                DELETE FROM pin WHERE item = #{item} AND record = #{record} AND owners <@ #{owners}::uuid[]
                """)
        int unpin(@Param("item") UUID item, @Param("record") UUID record, @Param("owners") UUID[] owners);

        /** What names itself alike as an activity, or as a decision, of this id. */
        @Select("""
                SELECT item FROM activity WHERE id = #{id} UNION ALL SELECT item FROM sighting WHERE id = #{id} LIMIT 1
                """)
        Optional<UUID> item(@Param("id") UUID id);

        @Select("""
                SELECT unnest(mine || elsewhere) FROM activity WHERE id = #{id} AND face = 0
                UNION SELECT person FROM sighting WHERE id = #{id}
                """)
        List<UUID> owners(@Param("id") UUID id);
    }

    Pins(Mapped mapper, Reopener reopened, RecordMapper records, RulesLock rules, Journal journal) {
        this.mapper = mapper;
        this.reopened = reopened;
        this.records = records;
        this.rules = rules;
        this.journal = journal;
    }

    /**
     * For the copies that are one item with the one that was chosen.
     *
     * @param id of the activity, or of the decision on something that waits
     * @param by by name, as the trail shows it
     */
    @Transactional
    public void pin(UUID id, RecordRef target, String by) {
        rules.change();
        UUID item = mapper.item(id).orElse(id);
        mapper.pin(item, target, by, owners(id, item));
        reopened.mark(Reopened.pinned(item));
        journal.add(by, "pinned", thing(item), null, target.kind() + " " + target.id());
    }

    @Transactional
    public void unpin(UUID id, UUID record, String by) {
        rules.change();
        UUID item = mapper.item(id).orElse(id);
        mapper.unpin(item, record, owners(id, item));
        reopened.mark(Reopened.pinned(item));
        journal.add(by, "unpinned", thing(item), record.toString(), null);
    }

    /** Of what waits, too, the copies of all who are seen to have the same. */
    private UUID[] owners(UUID id, UUID item) {
        Set<UUID> owners = new TreeSet<>(mapper.owners(id));
        ActivityMerge.together(
                        records.sightings(new UUID[] {item}).stream()
                                .filter(row -> row.facts() != null)
                                .map(row -> Recorder.logged(row, null))
                                .toList(),
                        owners)
                .forEach(owners::add);
        return owners.toArray(UUID[]::new);
    }

    private static Thing thing(UUID item) {
        return new Thing("item", item.toString(), "");
    }
}
