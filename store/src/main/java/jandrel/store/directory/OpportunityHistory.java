package jandrel.store.directory;

import jandrel.core.directory.DirectoryRows.OpportunityWas;
import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import jandrel.core.journal.Entry.Thing;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Author;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.RulesLock;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** How opportunities were, and since when. What changes here is written down by the database itself; this adds what was before. */
@Component
public class OpportunityHistory {
    private static final int AT_ONCE = 1_000;
    private final Mapped mapper;
    private final DirectoryMapper directory;
    private final Journal journal;
    private final RulesLock rules;

    /**
     * How an opportunity was from a moment on.
     *
     * @param origin {@code change}, {@code file}, {@code upgrade} or {@code removed}
     * @param owner by name; empty for nobody
     * @param account by name
     */
    public record Was(
            Instant at,
            String by,
            String origin,
            String stage,
            String state,
            @Nullable BigDecimal value,
            String currency,
            String period,
            String owner,
            String account,
            String channel) {}

    /** @param known those that stood there already, to the letter */
    public record Added(int added, int known) {}

    @Mapper
    interface Mapped {
        record Line(
                UUID opportunity,
                Instant at,
                String stage,
                String state,
                @Nullable String value,
                String currency,
                String period,
                @Nullable UUID owner,
                UUID account,
                String channel) {}

        record Deal(String key, UUID id, UUID account) {}

        @Select("SELECT key, id, account FROM opportunity WHERE key = ANY(#{keys})")
        List<Deal> deals(@Param("keys") String[] keys);

        @Select("""
                SELECT opportunity, at, stage, state, trim_scale(value)::text AS value, currency, period, owner, account, channel
                FROM opportunity_history WHERE opportunity = ANY(#{ids}) AND origin = 'file'
                """)
        List<Line> fromFiles(@Param("ids") UUID[] ids);

        @Insert({
            "<script>",
            "INSERT INTO opportunity_history (opportunity, at, by_name, origin, stage, state, value, currency, period, owner, account, channel)",
            "VALUES <foreach collection='lines' item='l' separator=','>",
            "(#{l.opportunity}, #{l.at}, #{by}, 'file', #{l.stage}, #{l.state}, #{l.value}::numeric, #{l.currency}, #{l.period},",
            "#{l.owner}::uuid, #{l.account}, #{l.channel})</foreach>",
            "</script>"
        })
        int add(@Param("lines") List<Line> lines, @Param("by") String by);

        @Select("""
                SELECT h.at, h.by_name AS by, h.origin, h.stage, h.state, trim_scale(h.value) AS value, h.currency, h.period,
                    coalesce(p.name, '') AS owner, coalesce(a.name, '') AS account, h.channel
                FROM opportunity_history h LEFT JOIN person p ON p.id = h.owner LEFT JOIN account a ON a.id = h.account
                WHERE h.opportunity = #{id} ORDER BY h.at DESC, h.id DESC LIMIT #{most}
                """)
        List<Was> of(@Param("id") UUID id, @Param("most") int most);
    }

    OpportunityHistory(Mapped mapper, DirectoryMapper directory, Journal journal, RulesLock rules) {
        this.rules = rules;
        this.journal = journal;
        this.mapper = mapper;
        this.directory = directory;
    }

    /** The newest first. */
    public List<Was> of(UUID opportunity, int most) {
        return mapper.of(opportunity, most);
    }

    /**
     * All of them, or none. One that stands there to the letter is known.
     *
     * @param now what is still to come was not
     */
    @Transactional(rollbackFor = ImportRejected.class)
    public Added add(List<OpportunityWas> rows, Instant now) throws ImportRejected {
        rules.alone();
        Map<String, Mapped.Deal> deals = new HashMap<>();
        mapper.deals(FileImport.keys(rows, OpportunityWas::opportunity)).forEach(d -> deals.put(d.key(), d));
        Map<String, UUID> people = FileImport.refs(directory.personIds(FileImport.keys(rows, OpportunityWas::owner)));
        Map<List<Object>, Mapped.Line> known = new HashMap<>();
        mapper.fromFiles(deals.values().stream().map(Mapped.Deal::id).toArray(UUID[]::new))
                .forEach(l -> known.put(List.of(l.opportunity(), l.at()), l));
        List<ImportProblem> problems = new ArrayList<>();
        List<Mapped.Line> fresh = new ArrayList<>();
        Set<List<Object>> seen = new HashSet<>();
        int same = 0;
        for (OpportunityWas row : rows) {
            Mapped.Deal deal = deals.get(row.opportunity());
            UUID owner = people.get(row.owner());
            if (deal == null) {
                problems.add(problem(
                        row,
                        "opportunity",
                        "there is no opportunity with the key “" + row.opportunity() + "”; import it first"));
            } else if (owner == null && !row.owner().isEmpty()) {
                problems.add(problem(
                        row, "owner", "there is no person with the key “" + row.owner() + "”; import it first"));
            } else if (row.at().isAfter(now)) {
                problems.add(problem(row, "at", "it is still to come; a history ends today"));
            } else if (!seen.add(List.of(deal.id(), row.at()))) {
                problems.add(problem(row, "at", "an earlier line says how it was at that moment"));
            } else {
                Mapped.Line line = line(row, deal, owner);
                Mapped.Line was = known.get(List.of(deal.id(), row.at()));
                if (was == null) {
                    fresh.add(line);
                } else if (was.equals(line)) {
                    same++;
                } else {
                    problems.add(problem(
                            row,
                            "at",
                            "another file said otherwise of that moment, and what was said is never changed"));
                }
            }
        }
        if (!problems.isEmpty()) {
            throw new ImportRejected(problems);
        }
        for (int from = 0; from < fresh.size(); from += AT_ONCE) {
            mapper.add(fresh.subList(from, Math.min(fresh.size(), from + AT_ONCE)), Author.now());
        }
        if (!fresh.isEmpty()) {
            Thing what = new Thing("directory", "opportunity-history", "history of opportunities");
            journal.add(Author.now(), "imported", what, null, Map.of("added", fresh.size()));
        }
        return new Added(fresh.size(), same);
    }

    private static ImportProblem problem(OpportunityWas row, String column, String reason) {
        return new ImportProblem(row.line(), column, reason);
    }

    private static Mapped.Line line(OpportunityWas row, Mapped.Deal deal, @Nullable UUID owner) {
        return new Mapped.Line(
                deal.id(),
                row.at(),
                row.stage(),
                row.state().name(),
                row.value() == null ? null : row.value().stripTrailingZeros().toPlainString(),
                row.currency(),
                row.period().word(),
                owner,
                deal.account(),
                row.channel());
    }
}
