package jandrel.store.connections;

import jandrel.core.decide.Reopened;
import jandrel.store.kernel.Reopener;
import jandrel.store.kernel.RulesLock;
import java.util.Collection;
import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Update;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What people choose for their own sources, and what has to be looked at and decided again for it. */
@Component
public class SourceSettings {
    private final Mapped mapper;
    private final Reopener reopened;
    private final RulesLock rules;

    @Mapper
    interface Mapped {
        @Update("""
                UPDATE source SET chosen = (id = ANY(#{chosen})), own_choice = own_choice OR chosen <> (id = ANY(#{chosen}))
                WHERE connection = #{connection}
                """)
        int choose(@Param("connection") UUID connection, @Param("chosen") Integer[] chosen);

        /** Those that change are read once more, and what they showed is decided again. */
        @Insert("""
                WITH changed AS (
                    UPDATE source SET counts = NOT counts, cursor = ''
                    WHERE connection = #{connection} AND kind = 'folder' AND counts <> (id = ANY(#{counting})) RETURNING id)
                INSERT INTO reconsider SELECT s.id FROM sighting s JOIN changed c ON c.id = s.source ON CONFLICT DO NOTHING
                """)
        int counting(@Param("connection") UUID connection, @Param("counting") Integer[] counting);

        @Update(
                "UPDATE connection SET count_keyword = #{count}, keep_out_keyword = #{keepOut} WHERE id = #{connection}")
        int keywords(
                @Param("connection") UUID connection, @Param("count") String count, @Param("keepOut") String keepOut);

        /** The next look compares all that the folders show with what is known. */
        @Update("""
                UPDATE source SET cursor = regexp_replace(cursor, '^([0-9]+/[0-9]+)/[^/]*/[^/]*', '\\1/-1/0')
                WHERE connection = #{connection} AND kind = 'folder'
                """)
        int compareAll(@Param("connection") UUID connection);

        /** A look under way knows nothing of the change: another comes after it. */
        @Update("UPDATE connection SET generation = generation + 1, look_again = true WHERE id = #{connection}")
        int changed(@Param("connection") UUID connection);
    }

    SourceSettings(Mapped mapper, Reopener reopened, RulesLock rules) {
        this.mapper = mapper;
        this.reopened = reopened;
        this.rules = rules;
    }

    /** Which sources of a connection are looked at. */
    @Transactional
    public void chosen(UUID connection, Collection<Integer> chosen) {
        rules.change();
        mapper.choose(connection, chosen.toArray(Integer[]::new));
        mapper.changed(connection);
    }

    /** In which folders all that is put there counts by hand. */
    @Transactional
    public void counting(UUID connection, Collection<Integer> counting) {
        rules.change();
        mapper.counting(connection, counting.toArray(Integer[]::new));
        mapper.changed(connection);
    }

    /** The keywords by which a message counts or stays out; empty for none. */
    @Transactional
    public void keywords(UUID connection, String count, String keepOut) {
        rules.change();
        mapper.keywords(connection, count, keepOut);
        mapper.compareAll(connection);
        mapper.changed(connection);
    }

    /** A person's calendar began or ceased to be captured, which decides where their meetings come from. */
    @Transactional
    public void calendarChanged(UUID person) {
        rules.change();
        reopened.mark(Reopened.calendar(person));
    }
}
