package jandrel.store.timeline;

import jandrel.core.journal.Entry.Thing;
import jandrel.core.timeline.ResultWords;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.RulesLock;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.stream.IntStream;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The company's own results of meetings, and what was said of each meeting. */
@Component
public class MeetingResults {
    private final Mapped mapper;
    private final Journal journal;
    private final RulesLock rules;

    /** @param name empty where it took back what was said before */
    public record Said(String name, String by, Instant at) {}

    @Mapper
    interface Mapped {
        record Row(String name, String[] words) {}

        @Select("SELECT name, words FROM result ORDER BY position")
        List<Row> all();

        @Delete("DELETE FROM result")
        int clear();

        @Insert("INSERT INTO result (position, name, words) VALUES (#{position}, #{name}, #{words})")
        int add(@Param("position") int position, @Param("name") String name, @Param("words") String[] words);

        @Insert("""
                INSERT INTO meeting_result (item, owners, name, by_name)
                SELECT a.item, a.mine || a.elsewhere, #{name}, #{by} FROM activity a WHERE a.id = #{id} AND a.face = 0
                    AND #{name} IS DISTINCT FROM """ + TimelineMapper.RESULT)
        int say(@Param("id") UUID activity, @Param("name") String name, @Param("by") String by);

        @Select("""
                SELECT r.name, r.by_name AS by, r.at FROM activity a JOIN meeting_result r ON r.item = a.item
                WHERE a.id = #{id} AND a.face = 0 AND (r.owners = '{}' OR r.owners && (a.mine || a.elsewhere)) ORDER BY r.id DESC
                """)
        List<Said> said(@Param("id") UUID activity);
    }

    MeetingResults(Mapped mapper, Journal journal, RulesLock rules) {
        this.mapper = mapper;
        this.journal = journal;
        this.rules = rules;
    }

    /** In the company's order. */
    public List<ResultWords> all() {
        return mapper.all().stream()
                .map(r -> new ResultWords(r.name(), List.of(r.words())))
                .toList();
    }

    /** Takes the list as it shall be; what was said of meetings stays as it was said. */
    @Transactional
    public void change(List<ResultWords> results, String by) {
        rules.alone();
        List<String> before = described(all());
        List<String> after = described(results);
        if (before.equals(after)) {
            return;
        }
        mapper.clear();
        IntStream.range(0, results.size())
                .forEach(i -> mapper.add(
                        i, results.get(i).name(), results.get(i).words().toArray(String[]::new)));
        journal.add(by, "changed", new Thing("company", "results", "results of meetings"), before, after);
    }

    private static List<String> described(List<ResultWords> results) {
        return results.stream()
                .map(r -> r.words().isEmpty() ? r.name() : r.name() + "=" + String.join("|", r.words()))
                .toList();
    }

    /** Says what came of a meeting; an empty name takes back what was said. What was said before is kept. */
    @Transactional
    public void say(UUID item, String name, String by) {
        mapper.say(item, name, by);
    }

    /** The newest first. */
    public List<Said> said(UUID item) {
        return mapper.said(item);
    }

    /** By its name, however it is written. */
    public java.util.Optional<String> called(String name) {
        return all().stream()
                .map(ResultWords::name)
                .filter(n -> n.equalsIgnoreCase(name))
                .findFirst();
    }
}
