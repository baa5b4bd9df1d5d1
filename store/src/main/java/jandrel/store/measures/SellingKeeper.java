package jandrel.store.measures;

import jandrel.core.item.MeetingItem;
import jandrel.core.measures.Deal;
import jandrel.core.measures.Deal.Change;
import jandrel.core.measures.Deal.Means;
import jandrel.core.measures.Deal.Worth;
import jandrel.core.measures.MetAccount;
import jandrel.core.measures.SellingHistory;
import jandrel.core.measures.TeamHistory;
import jandrel.core.timeline.ResultWords;
import jandrel.core.visibility.FaceChoice;
import jandrel.store.kernel.Json;
import jandrel.store.measures.SellingMapper.Met;
import jandrel.store.measures.SellingMapper.Was;
import jandrel.store.timeline.MeetingResults;
import jandrel.store.timeline.Timelines;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;

/**
 * All meetings with accounts and all opportunities through time, in memory: read once, then with every question what changed since the one
 * before. Each node keeps its own.
 */
@Component
public class SellingKeeper implements SnapshotKeeper.Reading<SellingHistory, SellingKeeper.Lists> {
    /** Of more than these, to read all anew costs less. */
    private static final int MOST_CHANGES = 50_000;

    private final SellingMapper mapper;
    private final ChangeMapper changes;
    private final StageList lists;
    private final MeetingResults results;
    private final SnapshotKeeper<SellingHistory, Lists> kept;

    /** All as of one moment. */
    public record Kept(SellingHistory history, TeamHistory teams, List<String> stages) {}

    record Lists(List<StageList.Stage> stages, List<ResultWords> results) {
        /** Whether a title could say what came of a meeting. */
        boolean hasWords() {
            return results.stream().anyMatch(r -> !r.words().isEmpty());
        }

        Map<String, Means> means() {
            return stages.stream()
                    .collect(Collectors.toMap(
                            StageList.Stage::name, s -> Means.valueOf(s.means().toUpperCase(Locale.ROOT))));
        }
    }

    SellingKeeper(
            SellingMapper mapper,
            ChangeMapper changes,
            StageList lists,
            MeetingResults results,
            PlatformTransactionManager transactions) {
        this.mapper = mapper;
        this.changes = changes;
        this.lists = lists;
        this.results = results;
        kept = new SnapshotKeeper<>(changes, transactions, MOST_CHANGES, "meeting", "opportunity");
    }

    /** What was written down of changes is of no use for ever. */
    public void forget(Instant now) {
        changes.forget(now.minus(SnapshotKeeper.FORGOTTEN));
    }

    /** All that was committed before this was asked. */
    public Kept current() {
        return kept.current(
                () -> new Lists(lists.stages(), results.all()),
                this,
                (history, as) -> new Kept(
                        history,
                        new TeamHistory(mapper.teams()),
                        as.stages().stream().map(StageList.Stage::name).toList()));
    }

    @Override
    public SellingHistory all(Lists as) {
        Reading reading = new Reading(as);
        mapper.allMet(as.hasWords(), r -> reading.add(r.getResultObject()));
        mapper.allHistory(r -> reading.add(r.getResultObject()));
        return SellingHistory.NONE.with(Set.of(), reading.met, Set.of(), reading.deals());
    }

    @Override
    public SellingHistory changed(SellingHistory before, Lists as, Function<String, Set<UUID>> changed) {
        Reading reading = new Reading(as);
        Set<UUID> items = changed.apply("meeting");
        Set<UUID> opportunities = changed.apply("opportunity");
        if (!items.isEmpty()) {
            mapper.met(items.toArray(UUID[]::new), as.hasWords(), r -> reading.add(r.getResultObject()));
        }
        if (!opportunities.isEmpty()) {
            mapper.history(opportunities.toArray(UUID[]::new), r -> reading.add(r.getResultObject()));
        }
        return before.with(items, reading.met, opportunities, reading.deals());
    }

    /** Takes rows as they come; what is often the same is kept once. */
    private static final class Reading {
        private final Lists as;
        private final Map<String, Means> means;
        private final List<MetAccount> met = new ArrayList<>();
        private final Map<UUID, List<Change>> changes = new HashMap<>();
        private final Map<Object, Object> once = new HashMap<>();

        Reading(Lists as) {
            this.as = as;
            means = as.means();
        }

        @SuppressWarnings("unchecked") // equal values are of one type
        private <T> T once(T value) {
            Object known = once.putIfAbsent(value, value);
            return known == null ? value : (T) known;
        }

        private @Nullable UUID onceOrNull(@Nullable UUID id) {
            return id == null ? null : once(id);
        }

        void add(Met m) {
            met.add(new MetAccount(
                    once(m.item()),
                    once(m.meeting()),
                    once(m.account()),
                    Set.of(m.opportunities()),
                    m.begins(),
                    m.ends(),
                    once(new MetAccount.Signs(m.cancelled(), m.declined(), m.missed(), m.outcome())),
                    once(Timelines.readers(m.readers())),
                    face(m),
                    onceOrNull(m.owner()),
                    once(result(m))));
        }

        private static @Nullable FaceChoice face(Met m) {
            UUID[] mine = m.mine();
            UUID[] elsewhere = m.elsewhere();
            return mine == null || elsewhere == null
                    ? null
                    : new FaceChoice(
                            m.face(),
                            Set.copyOf(List.of(mine)),
                            Set.copyOf(List.of(elsewhere)),
                            Timelines.readers(m.rivals()));
        }

        private String result(Met m) {
            if (m.result() != null) {
                return m.result();
            }
            return m.facts() == null ? "" : ResultWords.of(as.results(), (MeetingItem) Json.item("meeting", m.facts()));
        }

        void add(Was was) {
            changes.computeIfAbsent(was.opportunity(), o -> new ArrayList<>())
                    .add(new Change(
                            was.at(),
                            once(was.stage()),
                            // what an opportunity itself says counts before what its stage means
                            was.state().equals("OPEN")
                                    ? means.getOrDefault(was.stage(), Means.OPEN)
                                    : Means.valueOf(was.state()),
                            once(new Worth(was.value(), was.currency(), was.period())),
                            onceOrNull(was.owner()),
                            once(was.account()),
                            once(was.channel())));
        }

        List<Deal> deals() {
            return changes.entrySet().stream()
                    .map(e -> new Deal(e.getKey(), e.getValue()))
                    .toList();
        }
    }
}
