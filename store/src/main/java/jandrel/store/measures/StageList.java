package jandrel.store.measures;

import jandrel.core.journal.Entry.Thing;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.RulesLock;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The company's own stages and channels, in its order. */
@Component
public class StageList {
    private final Mapped mapper;
    private final Journal journal;
    private final RulesLock rules;

    /** @param means {@code open}, {@code agreed}, {@code won} or {@code lost} */
    public record Stage(String name, String means) {}

    @Mapper
    interface Mapped {
        @Select("SELECT name, means FROM stage ORDER BY position")
        List<Stage> stages();

        @Select("SELECT name FROM channel ORDER BY position")
        List<String> channels();

        @Delete("WITH c AS (DELETE FROM channel) DELETE FROM stage")
        int clear();

        @Insert("INSERT INTO stage (position, name, means) VALUES (#{position}, #{s.name}, #{s.means})")
        int addStage(@Param("position") int position, @Param("s") Stage stage);

        @Insert("INSERT INTO channel (position, name) VALUES (#{position}, #{name})")
        int addChannel(@Param("position") int position, @Param("name") String name);
    }

    StageList(Mapped mapper, Journal journal, RulesLock rules) {
        this.rules = rules;
        this.mapper = mapper;
        this.journal = journal;
    }

    public List<Stage> stages() {
        return mapper.stages();
    }

    public List<String> channels() {
        return mapper.channels();
    }

    /** Takes both lists as they shall be. */
    @Transactional
    public void change(List<Stage> stages, List<String> channels, String by) {
        rules.alone();
        Map<String, Object> before = described(mapper.stages(), mapper.channels());
        Map<String, Object> after = described(stages, channels);
        if (before.equals(after)) {
            return;
        }
        mapper.clear();
        IntStream.range(0, stages.size()).forEach(i -> mapper.addStage(i, stages.get(i)));
        IntStream.range(0, channels.size()).forEach(i -> mapper.addChannel(i, channels.get(i)));
        journal.add(by, "changed", new Thing("company", "stages", "stages and channels"), before, after);
    }

    private static Map<String, Object> described(List<Stage> stages, List<String> channels) {
        return Map.of(
                "stages", stages.stream().map(s -> s.name() + "=" + s.means()).toList(), "channels", channels);
    }
}
