package jandrel.store.measures;

import jandrel.core.measures.TouchHistory;
import jandrel.core.measures.TouchHistory.How;
import jandrel.core.measures.TouchHistory.Touch;
import jandrel.core.visibility.Readers;
import jandrel.store.timeline.Timelines;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.ResultMap;
import org.apache.ibatis.annotations.ResultType;
import org.apache.ibatis.annotations.Results;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.session.ResultHandler;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;

/** When every account was last touched, in memory; see {@link SnapshotKeeper}. Each node keeps its own. */
@Component
class TouchKeeper implements SnapshotKeeper.Reading<TouchKeeper.Kept, Instant> {
    /** Of more accounts than these, to read all anew costs less. */
    private static final int MOST_CHANGES = 5_000;

    /** What is so recent, or ahead, is kept touch by touch: clocks of nodes differ, and time goes on. */
    private static final Duration RECENT = Duration.ofHours(1);

    /** After which what was recent is not any more, and all is read anew. */
    private static final Duration LONGEST = Duration.ofDays(1);

    private final Mapped mapper;
    private final SnapshotKeeper<Kept, Instant> kept;
    private Instant since = Instant.MIN;

    /**
     * @param owners of the accounts that are in the lists, each its own; empty for nobody
     * @param many accounts with copies that say different things: which of them a viewer gets is asked for each
     */
    record Kept(TouchHistory history, Map<UUID, Optional<UUID>> owners, Set<UUID> many) {}

    @Mapper
    interface Mapped {
        record Row(UUID account, How how, UUID @Nullable [] readers, Instant at, boolean many) {}

        String TOUCHES = """
                SELECT l.record AS account, CASE WHEN a.kind = 'mail' THEN CASE WHEN a.authors = '{}' THEN 'THEIRS' ELSE 'OURS' END
                    WHEN a.facts::jsonb ->> 'state' = 'CANCELLED' THEN 'CANCELLED' ELSE 'MET' END AS how, a.readers, max(l.at) AS at,
                    bool_or(a.faces > 1) AS many
                FROM link l JOIN activity a ON a.id = l.activity WHERE l.kind = 'account' AND NOT l.blind
                """;

        record Owned(UUID id, @Nullable UUID owner) {}

        String ACCOUNTS = "SELECT id, owner FROM account WHERE archived_at IS NULL";

        /** Column by column, as touches. */
        @Arg(column = "id", javaType = UUID.class)
        @Arg(column = "owner", javaType = UUID.class)
        @Results(id = "owned")
        @ResultType(Owned.class)
        @Options(fetchSize = SellingMapper.AT_A_TIME)
        @Select(ACCOUNTS)
        void accounts(ResultHandler<Owned> each);

        @ResultMap("owned")
        @Options(fetchSize = SellingMapper.AT_A_TIME)
        @Select(ACCOUNTS + " AND id = ANY(#{accounts})")
        void someAccounts(@Param("accounts") UUID[] accounts, ResultHandler<Owned> each);

        String GROUPED = " GROUP BY 1, 2, 3, CASE WHEN l.at > #{since} THEN l.at END";

        @Arg(column = "account", javaType = UUID.class)
        @Arg(column = "how", javaType = How.class)
        @Arg(column = "readers", javaType = UUID[].class)
        @Arg(column = "at", javaType = Instant.class)
        @Arg(column = "many", javaType = boolean.class)
        @Results(id = "touch")
        @ResultType(Row.class)
        @Options(fetchSize = SellingMapper.AT_A_TIME)
        @Select(TOUCHES + GROUPED)
        void all(@Param("since") Instant since, ResultHandler<Row> each);

        @ResultMap("touch")
        @Options(fetchSize = SellingMapper.AT_A_TIME)
        @Select(TOUCHES + " AND l.record = ANY(#{accounts})" + GROUPED)
        void some(@Param("since") Instant since, @Param("accounts") UUID[] accounts, ResultHandler<Row> each);
    }

    TouchKeeper(Mapped mapper, ChangeMapper changes, PlatformTransactionManager transactions) {
        this.mapper = mapper;
        kept = new SnapshotKeeper<>(changes, transactions, MOST_CHANGES, "account");
    }

    /**
     * All that was committed before this was asked.
     *
     * @param now the moment that is asked about
     * @param then what is read besides, at the same moment
     */
    <R> R current(Instant now, Function<Kept, R> then) {
        return kept.current(() -> since(now), this, (all, as) -> then.apply(all));
    }

    private Instant since(Instant now) {
        if (now.isBefore(since) || now.minus(LONGEST).isAfter(since)) {
            since = now.minus(RECENT);
        }
        return since;
    }

    @Override
    public Kept all(Instant since) {
        Reading reading = new Reading();
        mapper.all(since, r -> reading.add(r.getResultObject()));
        Map<UUID, Optional<UUID>> owners = new HashMap<>();
        mapper.accounts(r -> own(owners, r.getResultObject()));
        return new Kept(TouchHistory.NONE.with(Set.of(), reading.touches), owners, reading.many);
    }

    @Override
    public Kept changed(Kept before, Instant since, Function<String, Set<UUID>> changed) {
        Set<UUID> accounts = changed.apply("account");
        UUID[] ids = accounts.toArray(UUID[]::new);
        Reading reading = new Reading();
        mapper.some(since, ids, r -> reading.add(r.getResultObject()));
        Map<UUID, Optional<UUID>> owners = new HashMap<>(before.owners());
        owners.keySet().removeAll(accounts);
        mapper.someAccounts(ids, r -> own(owners, r.getResultObject()));
        Set<UUID> many = new HashSet<>(before.many());
        many.removeAll(accounts);
        many.addAll(reading.many);
        return new Kept(before.history().with(accounts, reading.touches), owners, many);
    }

    private static void own(Map<UUID, Optional<UUID>> owners, Mapped.Owned account) {
        owners.put(account.id(), Optional.ofNullable(account.owner()));
    }

    /** Takes rows as they come; what is often the same is kept once. */
    private static final class Reading {
        private final Map<UUID, List<Touch>> touches = new HashMap<>();
        private final Set<UUID> many = new HashSet<>();
        private final Map<Readers, Readers> once = new HashMap<>();

        void add(Mapped.Row row) {
            if (row.many()) {
                many.add(row.account());
            }
            Readers readers = Timelines.readers(row.readers());
            Readers known = once.putIfAbsent(readers, readers);
            touches.computeIfAbsent(row.account(), a -> new ArrayList<>())
                    .add(new Touch(row.how(), row.at(), known == null ? readers : known));
        }
    }
}
