package jandrel.store.rehearsal;

import jandrel.core.decide.Decision;
import jandrel.core.decide.Reopened;
import jandrel.core.decide.Verdict;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.rehearse.Draft;
import jandrel.core.rehearse.Effects;
import jandrel.core.rehearse.Turn;
import jandrel.core.timeline.ActivityMerge;
import jandrel.core.timeline.Logged;
import jandrel.core.timeline.Ruling;
import jandrel.store.capture.Hands;
import jandrel.store.capture.RecordMapper;
import jandrel.store.capture.Recorder;
import jandrel.store.capture.ReopenedMapper;
import jandrel.store.capture.Standings;
import jandrel.store.directory.Company;
import jandrel.store.directory.Slices;
import jandrel.store.kernel.Async;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.RulesLock;
import jandrel.store.policy.Cover;
import java.sql.Connection;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BooleanSupplier;
import java.util.function.Predicate;
import java.util.function.Supplier;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.datasource.ConnectionHolder;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Tells what a change of the rules would do to all that is known, without doing it: the same look-ups and the same decision as
 * capture, with the draft laid over them. Each batch is read from one snapshot, and nothing is fetched from a server while one is
 * open. It stops nobody, and writes nothing but a list of its own.
 */
@Component
public class Rehearsing {
    private static final int BATCH = 1_000;
    private final TouchedMapper mapper;
    private final ReopenedMapper reopened;
    private final Recorder recorder;
    private final RecordMapper records;
    private final Cover cover;
    private final Company company;
    private final Standings standings;
    private final RulesLock rules;
    private final Slices slices;
    private final DataSource dataSource;
    private final TransactionTemplate snapshot;

    /** Fetches what is not kept: asked with positions by source, it answers with items by position; some may be missing. */
    @FunctionalInterface
    public interface Fetch {
        Map<String, Item> items(int source, List<String> positions);
    }

    /** Is told how far it is. */
    @FunctionalInterface
    public interface Progress {
        void at(long done, long total);
    }

    Rehearsing(
            TouchedMapper mapper,
            ReopenedMapper reopened,
            Recorder recorder,
            RecordMapper records,
            Cover cover,
            Company company,
            Standings standings,
            RulesLock rules,
            Slices slices,
            DataSource dataSource,
            PlatformTransactionManager transactions) {
        this.dataSource = dataSource;
        snapshot = new TransactionTemplate(transactions);
        snapshot.setIsolationLevel(TransactionDefinition.ISOLATION_REPEATABLE_READ);
        this.mapper = mapper;
        this.reopened = reopened;
        this.recorder = recorder;
        this.records = records;
        this.cover = cover;
        this.company = company;
        this.standings = standings;
        this.rules = rules;
        this.slices = slices;
    }

    /** How many changes of the rules there have been. */
    public long generation() {
        return rules.generation();
    }

    /** Whether the rules are still as they were; nobody changes them from here on until the caller's transaction ends. */
    @Transactional(propagation = Propagation.MANDATORY)
    public boolean stillAt(long generation) {
        rules.alone();
        return rules.generation() == generation;
    }

    /**
     * @param readable whether the asker may read all that an item was and would be
     * @param stop asked between batches; when it says so, what was added up so far comes back
     * @return what would become of everything that the draft touches
     */
    public Effects rehearse(
            Draft draft, Fetch fetch, Progress progress, BooleanSupplier stop, Predicate<Turn> readable) {
        // the list of what is touched lasts as long as the connection, so all of it goes over one
        Connection connection = DataSourceUtils.getConnection(dataSource);
        TransactionSynchronizationManager.bindResource(dataSource, new ConnectionHolder(connection));
        try {
            return rehearsed(draft, fetch, progress, stop, readable);
        } finally {
            try {
                snapshot.executeWithoutResult(t -> mapper.end());
            } finally {
                TransactionSynchronizationManager.unbindResource(dataSource);
                DataSourceUtils.releaseConnection(connection, dataSource);
            }
        }
    }

    private Effects rehearsed(
            Draft draft, Fetch fetch, Progress progress, BooleanSupplier stop, Predicate<Turn> readable) {
        Reading reading = Objects.requireNonNull(snapshot.execute(t -> begun(draft, fetch)));
        long total = reading.total;
        Effects effects = new Effects(readable);
        boolean told = false;
        progress.at(0, total);
        // one batch is decided beside while the next one is read
        Supplier<Effects> deciding = () -> effects;
        for (long done = 0; done < total && !stop.getAsBoolean(); done += BATCH) {
            boolean withoutTrails = told;
            Batch batch = reading.batch(done, withoutTrails);
            told = deciding.get().hasExamples();
            deciding = Async.made(() -> {
                batch.turns(withoutTrails).forEach(effects::add);
                return effects;
            });
            progress.at(Math.min(total, done + BATCH), total);
        }
        return deciding.get();
    }

    private Reading begun(Draft draft, Fetch fetch) {
        mapper.begin();
        Map<Cover.Move, List<UUID>> moves = draft.policies().map(cover::moves).orElse(Map.of());
        Map<UUID, Cover.Move> moved = new HashMap<>();
        moves.forEach((move, people) -> people.forEach(p -> moved.put(p, move)));
        touch(draft, moves);
        mapper.numbered();
        return new Reading(draft, moved, fetch, mapper.number(), mapper.fetchesAny(), mapper.ruled());
    }

    private void touch(Draft draft, Map<Cover.Move, List<UUID>> moves) {
        reopened.touch(Reopened.excluded(draft.exclusions()));
        reopened.touch(Reopened.included(draft.included()));
        if (draft.own().isPresent() || draft.freeMail().isPresent()) {
            reopened.touch(company.reopenedBy(
                    draft.own().orElseGet(() -> Set.copyOf(company.ownDomains())),
                    draft.freeMail().orElseGet(() -> Set.copyOf(company.freeMail()))));
        }
        moves.forEach(
                (move, people) -> reopened.touch(Reopened.moved(move.before(), move.after(), Set.copyOf(people))));
    }

    /** Reads batch after batch; what is the same for all of them is read once. */
    private final class Reading {
        private final Draft draft;
        private final Map<UUID, Cover.Move> moved;
        private final Fetch fetch;
        private final long total;
        private final boolean fetchesAny;
        private final Set<UUID> ruled;
        private final Map<Integer, Standings.Standing> known = new ConcurrentHashMap<>();

        Reading(
                Draft draft,
                Map<UUID, Cover.Move> moved,
                Fetch fetch,
                long total,
                boolean fetchesAny,
                Set<UUID> ruled) {
            this.total = total;
            this.draft = draft;
            this.moved = moved;
            this.fetch = fetch;
            this.fetchesAny = fetchesAny;
            this.ruled = ruled;
        }

        Batch batch(long from, boolean withoutTrails) {
            Map<UUID, Item> fetched = fetchesAny ? fetched(from) : Map.of();
            return Objects.requireNonNull(snapshot.execute(t -> batch(from, withoutTrails, fetched)));
        }

        private Batch batch(long from, boolean withoutTrails, Map<UUID, Item> fetched) {
            List<RecordMapper.Stored> rows = mapper.sightings(from, BATCH, withoutTrails);
            Map<UUID, List<RecordMapper.Stored>> byItem = new HashMap<>();
            Set<String> keys = new HashSet<>();
            Set<Integer> sources = new HashSet<>();
            for (RecordMapper.Stored row : rows) {
                byItem.computeIfAbsent(row.item(), i -> new ArrayList<>(1)).add(row);
                if (row.keys() != null) {
                    keys.addAll(List.of(row.keys()));
                }
                sources.add(row.source());
            }
            fetched.values().forEach(item -> keys.addAll(item.keys()));
            sources.removeAll(known.keySet());
            if (!sources.isEmpty()) {
                // as they are, but for the people whom the draft would move
                known.putAll(standings.of(sources, moved));
            }
            UUID[] byHand = byItem.keySet().stream().filter(ruled::contains).toArray(UUID[]::new);
            return new Batch(
                    byItem,
                    fetched,
                    slices.ofKeys(keys, draft, byItem.keySet(), id -> identity(byItem.getOrDefault(id, List.of()))),
                    known,
                    byHand.length == 0 ? Map.of() : recorder.rulings(byHand),
                    contents(byItem));
        }

        /** By sighting: what is fetched for the purpose, and not kept. No transaction waits for a server meanwhile. */
        private Map<UUID, Item> fetched(long from) {
            List<TouchedMapper.Wanted> rows =
                    Objects.requireNonNull(snapshot.execute(t -> mapper.fetches(from, BATCH)));
            Map<Integer, Map<String, UUID>> wanted = new HashMap<>();
            for (TouchedMapper.Wanted row : rows) {
                wanted.computeIfAbsent(row.source(), s -> new HashMap<>()).put(row.position(), row.id());
            }
            Map<UUID, Item> fetched = new HashMap<>();
            wanted.forEach((source, positions) -> fetch.items(source, List.copyOf(positions.keySet()))
                    .forEach((position, item) -> {
                        UUID id = positions.get(position);
                        if (id != null) {
                            fetched.put(id, item);
                        }
                    }));
            return fetched;
        }

        /** By copy, what names its text: of items with several copies, whose texts tell their faces apart. */
        private Map<UUID, UUID> contents(Map<UUID, List<RecordMapper.Stored>> byItem) {
            UUID[] several = byItem.entrySet().stream()
                    .filter(e -> e.getValue().size() > 1
                            && e.getValue().stream()
                                            .map(RecordMapper.Stored::facts)
                                            .distinct()
                                            .count()
                                    > 1)
                    .map(Map.Entry::getKey)
                    .toArray(UUID[]::new);
            Map<UUID, UUID> contents = new HashMap<>();
            if (several.length > 0) {
                for (RecordMapper.FaceRow face : records.faces(several)) {
                    if (face.content() != null) {
                        for (UUID copy : face.copies()) {
                            contents.put(copy, face.content());
                        }
                    }
                }
            }
            return contents;
        }
    }

    private static String identity(List<RecordMapper.Stored> rows) {
        return rows.stream()
                .filter(row -> row.facts() != null)
                .map(row -> Json.item(row.kind(), row.facts()).identity())
                .findFirst()
                .orElse("");
    }

    /** All that deciding a batch needs: from here on no database is asked. */
    private static final class Batch {
        private final Map<UUID, List<RecordMapper.Stored>> byItem;
        private final Map<UUID, Item> fetched;
        private final DirectorySlice slice;
        private final Map<Integer, Standings.Standing> standings;
        private final Map<UUID, Map<UUID, Ruling>> rulings;
        private final Map<UUID, UUID> contents;

        Batch(
                Map<UUID, List<RecordMapper.Stored>> byItem,
                Map<UUID, Item> fetched,
                DirectorySlice slice,
                Map<Integer, Standings.Standing> standings,
                Map<UUID, Map<UUID, Ruling>> rulings,
                Map<UUID, UUID> contents) {
            this.contents = contents;
            this.byItem = byItem;
            this.fetched = fetched;
            this.slice = slice;
            this.standings = standings;
            this.rulings = rulings;
        }

        /** @param withoutTrails whether there are examples enough, so that the trails as they are need not be read */
        List<Turn> turns(boolean withoutTrails) {
            List<Turn> turns = new ArrayList<>(byItem.size());
            byItem.forEach((item, rows) -> turns.add(turn(item, rows, withoutTrails)));
            return turns;
        }

        private Turn turn(UUID item, List<RecordMapper.Stored> rows, boolean withoutTrail) {
            List<Logged> before = new ArrayList<>(rows.size());
            List<Logged> after = new ArrayList<>(rows.size());
            List<Turn.Side> sides = new ArrayList<>(rows.size());
            for (RecordMapper.Stored row : rows) {
                Item fact = row.facts() == null ? fetched.get(row.id()) : Json.item(row.kind(), row.facts());
                Decision was = Recorder.decision(row, withoutTrail);
                Standings.Standing standing = standings.get(row.source());
                Decision is = fact == null || standing == null
                        ? was
                        : standing.decide(fact, row.gone(), Hands.of(row.hand()), slice);
                sides.add(new Turn.Side(row.id(), row.person(), was, is));
                UUID content = fact == null || rows.size() == 1 ? null : content(row, fact, rows);
                add(row, fact, content, was, before);
                add(row, fact, content, is, after);
            }
            RecordMapper.Stored any = rows.get(0);
            Map<UUID, Ruling> chosen = rulings.getOrDefault(item, Map.of());
            return new Turn(
                    item,
                    any.kind(),
                    any.at(),
                    sides,
                    ActivityMerge.combine(item, before, chosen),
                    ActivityMerge.combine(item, after, chosen));
        }

        /** Of a copy whose text is not kept: that of another which says the same. */
        private @Nullable UUID content(RecordMapper.Stored row, Item fact, List<RecordMapper.Stored> rows) {
            UUID own = contents.get(row.id());
            if (own != null || contents.isEmpty()) {
                return own;
            }
            for (RecordMapper.Stored other : rows) {
                UUID content = contents.get(other.id());
                String facts = other.facts();
                if (content != null
                        && facts != null
                        && sketch(Json.item(other.kind(), facts)).equals(sketch(fact))) {
                    return content;
                }
            }
            return null;
        }

        private static String sketch(Item item) {
            return item instanceof MailItem mail ? mail.sketch() : "";
        }

        private static void add(
                RecordMapper.Stored row,
                @Nullable Item fact,
                @Nullable UUID content,
                Decision decision,
                List<Logged> into) {
            if (decision.verdict() == Verdict.LOGGED && fact != null) {
                into.add(new Logged(row.id(), row.person(), fact, content, decision));
            }
        }
    }
}
