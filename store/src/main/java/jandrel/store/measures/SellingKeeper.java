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
import jandrel.store.measures.SellingMapper.Changed;
import jandrel.store.measures.SellingMapper.Met;
import jandrel.store.measures.SellingMapper.Moment;
import jandrel.store.measures.SellingMapper.Was;
import jandrel.store.timeline.MeetingResults;
import jandrel.store.timeline.Timelines;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.locks.ReentrantLock;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * All meetings with accounts and all opportunities through time, in memory: read once, then with every question what changed since the one
 * before. Each node keeps its own.
 */
@Component
public class SellingKeeper {
    /** To read all of it may take longer than one question. */
    private static final int SECONDS = 180;

    /** For so long what changed is certain to be written down; see {@link #FORGOTTEN}. */
    private static final Duration CERTAIN = Duration.ofHours(12);

    /** After which what was written down of changes may be forgotten. */
    public static final Duration FORGOTTEN = Duration.ofDays(1);

    /** Of more than these, to read all anew costs less. */
    private static final int MOST_CHANGES = 50_000;

    private final SellingMapper mapper;
    private final StageList lists;
    private final MeetingResults results;
    private final TransactionTemplate snapshot;
    private final ReentrantLock turn = new ReentrantLock(true);
    private @Nullable State state;

    /** All as of one moment. */
    public record Kept(SellingHistory history, TeamHistory teams, List<String> stages) {}

    /** @param lists what else opportunities and meetings are read by */
    private record State(SellingHistory history, Moment moment, Lists lists) {
        boolean isOf(Moment now, Lists lists) {
            // numbers that went back are those of another database, such as one that was restored
            return lists.equals(this.lists)
                    && now.at().isBefore(moment.at().plus(CERTAIN))
                    && now.oldest() >= moment.oldest();
        }
    }

    private record Lists(List<StageList.Stage> stages, List<ResultWords> results) {
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
            SellingMapper mapper, StageList lists, MeetingResults results, PlatformTransactionManager transactions) {
        this.mapper = mapper;
        this.lists = lists;
        this.results = results;
        snapshot = new TransactionTemplate(transactions);
        snapshot.setReadOnly(true);
        snapshot.setTimeout(SECONDS);
        snapshot.setIsolationLevel(TransactionDefinition.ISOLATION_REPEATABLE_READ);
        snapshot.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    }

    /** All that was committed before this was asked. */
    public Kept current() {
        turn.lock();
        try {
            return Objects.requireNonNull(snapshot.execute(t -> read()));
        } finally {
            turn.unlock();
        }
    }

    /** What was written down of changes is of no use for ever. */
    public void forget(Instant before) {
        mapper.forget(before);
    }

    private Kept read() {
        Moment now = mapper.now();
        Lists as = new Lists(lists.stages(), results.all());
        State before = state;
        SellingHistory history = before == null || !before.isOf(now, as) ? all(as) : changed(before);
        state = new State(history, now, as);
        return new Kept(
                history,
                new TeamHistory(mapper.teams()),
                as.stages().stream().map(StageList.Stage::name).toList());
    }

    private SellingHistory all(Lists as) {
        Reading reading = new Reading(as);
        mapper.allMet(as.hasWords(), r -> reading.add(r.getResultObject()));
        mapper.allHistory(r -> reading.add(r.getResultObject()));
        return SellingHistory.NONE.with(Set.of(), reading.met, Set.of(), reading.deals());
    }

    private SellingHistory changed(State before) {
        List<Changed> changes = mapper.changed(before.moment().snapshot(), MOST_CHANGES + 1);
        if (changes.isEmpty()) {
            return before.history();
        }
        if (changes.size() > MOST_CHANGES) {
            return all(before.lists());
        }
        Reading reading = new Reading(before.lists());
        Set<UUID> items = ids(changes, "meeting");
        Set<UUID> opportunities = ids(changes, "opportunity");
        if (!items.isEmpty()) {
            mapper.met(items.toArray(UUID[]::new), before.lists().hasWords(), r -> reading.add(r.getResultObject()));
        }
        if (!opportunities.isEmpty()) {
            mapper.history(opportunities.toArray(UUID[]::new), r -> reading.add(r.getResultObject()));
        }
        return before.history().with(items, reading.met, opportunities, reading.deals());
    }

    private static Set<UUID> ids(List<Changed> changes, String kind) {
        return changes.stream()
                .filter(c -> c.kind().equals(kind))
                .map(Changed::id)
                .collect(Collectors.toSet());
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
