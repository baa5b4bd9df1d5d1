package jandrel.store.people;

import jandrel.core.journal.Entry.Thing;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.RulesLock;
import jandrel.store.kernel.StoreException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Until when people are covered. */
@Component
public class CoverPeriod {
    private final Mapped mapper;
    private final RulesLock rules;
    private final Journal journal;
    private final PeopleListener listener;

    @Mapper
    interface Mapped {
        record Row(String name, @Nullable LocalDate coverUntil) {}

        @Select("SELECT name, cover_until FROM person WHERE id = #{id}")
        Optional<Row> find(@Param("id") UUID id);

        @Update("UPDATE person SET cover_until = #{until} WHERE id = #{id}")
        int end(@Param("id") UUID id, @Param("until") @Nullable LocalDate until);
    }

    CoverPeriod(Mapped mapper, RulesLock rules, Journal journal, PeopleListener listener) {
        this.mapper = mapper;
        this.rules = rules;
        this.journal = journal;
        this.listener = listener;
    }

    /** @param until nothing from this day on is captured; null for no end */
    @Transactional
    public void end(UUID person, @Nullable LocalDate until, String by) {
        rules.change();
        Mapped.Row before = mapper.find(person).orElseThrow(() -> new StoreException("there is no person " + person));
        mapper.end(person, until);
        Thing thing = new Thing("person", person.toString(), before.name());
        journal.add(by, "set the end of cover of", thing, text(before.coverUntil()), text(until));
        listener.changed(List.of(person));
    }

    private static @Nullable String text(@Nullable LocalDate day) {
        return day == null ? null : day.toString();
    }
}
