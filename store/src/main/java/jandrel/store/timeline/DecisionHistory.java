package jandrel.store.timeline;

import jandrel.core.decide.Rule;
import jandrel.core.decide.Sentences;
import jandrel.core.decide.Verdict;
import jandrel.core.visibility.Visibility;
import jandrel.store.kernel.ReadTimeout;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What a decision was before it was made again. */
@Component
public class DecisionHistory {
    private static final int MOST = 100;
    private final Mapped mapper;

    /**
     * @param why by which rule, in short; empty for those who do not read the item in full
     * @param policy what its person's policy was called then; empty for none
     * @param version of it; 0 for none
     */
    public record Change(Instant at, Verdict before, Verdict after, String why, String policy, int version) {}

    @Mapper
    interface Mapped {
        record Row(
                Instant at,
                String before,
                String after,
                Rule rule,
                @Nullable String policy,
                @Nullable Integer version) {}

        @Select("""
                SELECT c.at, c.before, c.after, c.rule, v.rules::jsonb ->> 'name' AS policy, c.version
                FROM decision_change c LEFT JOIN policy_version v ON v.policy = c.policy AND v.version = c.version
                WHERE c.sighting = #{decision} ORDER BY c.at DESC, c.id DESC LIMIT #{most}
                """)
        List<Row> changes(@Param("decision") UUID decision, @Param("most") int most);
    }

    DecisionHistory(Mapped mapper) {
        this.mapper = mapper;
    }

    /**
     * The last ones, newest first.
     *
     * @param decision as a viewer gets it
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Change> of(Decisions.Shown decision) {
        boolean tells = decision.visibility() == Visibility.FULL;
        return mapper.changes(decision.id(), MOST).stream()
                .map(r -> new Change(
                        r.at(),
                        Verdict.called(r.before()),
                        Verdict.called(r.after()),
                        tells ? Sentences.heading(r.rule()) : "",
                        r.policy() == null ? "" : r.policy(),
                        r.version() == null ? 0 : r.version()))
                .toList();
    }
}
