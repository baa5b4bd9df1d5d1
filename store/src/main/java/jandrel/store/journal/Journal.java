package jandrel.store.journal;

import jandrel.core.journal.Canonical;
import jandrel.core.journal.Entry;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.LockOrder;
import jandrel.store.kernel.News;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** The journal: every change that people make and every run of the service that did something, chained by hash. */
@Component
public class Journal {
    private static final int PAGE = 1_000;
    private final Mapped mapper;

    /**
     * Empty members do not filter.
     *
     * @param byPeople leaves out what the service did by itself
     */
    public record Filter(String who, String kind, String thing, Instant from, Instant until, boolean byPeople) {}

    /**
     * How far the chain holds.
     *
     * @param entries how many were looked at
     * @param broken the number of the first entry that does not fit; 0 when all do
     * @param why what does not fit; empty when all does
     * @param head the hash of the last entry looked at, to be kept elsewhere and compared later
     */
    public record Verified(long entries, long broken, String why, String head) {}

    /** An entry with the hash that the database has for it. */
    public record Kept(Entry entry, String hash) {}

    @Mapper
    interface Mapped {
        record Last(long number, String hash) {}

        record Row(
                long number,
                Instant at,
                String who,
                String what,
                String kind,
                String thing,
                String name,
                @Nullable String before,
                @Nullable String after,
                String previous,
                String hash) {}

        @Select("SELECT clock_timestamp() FROM (SELECT pg_advisory_xact_lock(73610922)) AS locked")
        Instant lock();

        @Select(News.ANNOUNCE)
        long announce(@Param("words") String words);

        @Select("SELECT number, hash FROM journal ORDER BY number DESC LIMIT 1")
        Optional<Last> last();

        @Insert("""
                INSERT INTO journal SELECT n, #{at}, #{who}, what, kind, thing, name, before_, after_, previous, hash
                FROM unnest(#{numbers}::bigint[], #{what}::text[], #{kinds}::text[], #{things}::text[], #{names}::text[],
                    #{before}::text[], #{after}::text[], #{previous}::text[], #{hashes}::text[])
                    AS e (n, what, kind, thing, name, before_, after_, previous, hash)
                """)
        int add(
                @Param("at") Instant at,
                @Param("who") String who,
                @Param("numbers") String[] numbers,
                @Param("what") String[] what,
                @Param("kinds") String[] kinds,
                @Param("things") String[] things,
                @Param("names") String[] names,
                @Param("before") @Nullable String[] before,
                @Param("after") @Nullable String[] after,
                @Param("previous") String[] previous,
                @Param("hashes") String[] hashes);

        String COLUMNS = """
                SELECT number, at, who, what, kind, thing, name, before_ AS before, after_ AS after, previous, hash FROM journal
                """;

        String WHERE = """
                 WHERE (#{f.who} = '' OR who = #{f.who}) AND (NOT #{f.byPeople} OR who <> 'service') AND (#{f.kind} = '' OR kind = #{f.kind})
                   AND (#{f.thing} = '' OR thing = #{f.thing})
                   AND at >= #{f.from}::timestamptz AND at < #{f.until}::timestamptz
                """;

        @Select(COLUMNS + WHERE + " AND number < #{before} ORDER BY number DESC LIMIT #{limit}")
        List<Row> page(@Param("f") Filter filter, @Param("before") long before, @Param("limit") int limit);

        @Select("SELECT count(*) FROM journal" + WHERE)
        long count(@Param("f") Filter filter);

        @Select(COLUMNS + " WHERE number > #{after} ORDER BY number LIMIT #{limit}")
        List<Row> following(@Param("after") long after, @Param("limit") int limit);
    }

    Journal(Mapped mapper) {
        this.mapper = mapper;
    }

    /**
     * Appends an entry at the end of the caller's transaction: it stands if and only if the change does.
     *
     * @param before how it was, as maps, lists, texts, whole numbers and truth values; null when it was not there
     * @param after how it is; null when it is gone
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void add(String who, String what, Entry.Thing thing, @Nullable Object before, @Nullable Object after) {
        add(who, List.of(new Change(what, thing, before, after)));
    }

    /** What happened to one thing; see {@link #add(String, String, Entry.Thing, Object, Object)}. */
    public record Change(
            String what,
            Entry.Thing thing,
            @Nullable Object before,
            @Nullable Object after) {}

    /** Appends an entry for each, in one write. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void add(String who, List<Change> changes) {
        if (!changes.isEmpty()) {
            Pending.here(this).add(who, changes);
        }
    }

    /** What a transaction adds, written at its very end: whoever holds the journal waits for nobody. */
    private static final class Pending implements TransactionSynchronization {
        private final Journal journal;
        private final Map<String, List<Change>> added = new LinkedHashMap<>();

        private Pending(Journal journal) {
            this.journal = journal;
        }

        static Pending here(Journal journal) {
            for (TransactionSynchronization known : TransactionSynchronizationManager.getSynchronizations()) {
                if (known instanceof Pending pending) {
                    return pending;
                }
            }
            Pending pending = new Pending(journal);
            TransactionSynchronizationManager.registerSynchronization(pending);
            return pending;
        }

        void add(String who, List<Change> changes) {
            added.computeIfAbsent(who, w -> new ArrayList<>()).addAll(changes);
        }

        @Override
        public void beforeCommit(boolean readOnly) {
            added.forEach(journal::write);
        }
    }

    private void write(String who, List<Change> changes) {
        LockOrder.journal();
        Instant at = mapper.lock();
        Optional<Mapped.Last> last = mapper.last();
        long number = last.map(Mapped.Last::number).orElse(0L);
        String previous = last.map(Mapped.Last::hash).orElse(Entry.START);
        List<Entry> entries = new ArrayList<>(changes.size());
        List<String> hashes = new ArrayList<>(changes.size());
        for (Change c : changes) {
            Entry entry = new Entry(++number, at, who, c.what(), c.thing(), c.before(), c.after(), previous);
            previous = entry.hash();
            entries.add(entry);
            hashes.add(previous);
        }
        mapper.add(
                at,
                who,
                texts(entries, e -> String.valueOf(e.number())),
                texts(entries, Entry::what),
                texts(entries, e -> e.thing().kind()),
                texts(entries, e -> e.thing().id()),
                texts(entries, e -> e.thing().name()),
                texts(entries, e -> text(e.before())),
                texts(entries, e -> text(e.after())),
                texts(entries, Entry::previous),
                hashes.toArray(String[]::new));
        mapper.announce(News.kinds(entries.stream().map(e -> e.thing().kind()).collect(Collectors.toSet())));
    }

    private static @Nullable String[] texts(List<Entry> entries, Function<Entry, @Nullable String> of) {
        return entries.stream().map(of).toArray(String[]::new);
    }

    private static @Nullable String text(@Nullable Object value) {
        return value == null ? null : Canonical.json(value);
    }

    /** Newest first. */
    public List<Kept> page(Filter filter, long before, int limit) {
        return mapper.page(filter, before, limit).stream().map(Journal::kept).toList();
    }

    public long count(Filter filter) {
        return mapper.count(filter);
    }

    /** Hands over every entry, oldest first. */
    public void each(Consumer<Kept> to) {
        long after = 0;
        List<Mapped.Row> rows = mapper.following(after, PAGE);
        while (!rows.isEmpty()) {
            rows.stream().map(Journal::kept).forEach(to);
            after = rows.get(rows.size() - 1).number();
            rows = mapper.following(after, PAGE);
        }
    }

    /** Computes every hash anew and follows the chain. */
    public Verified verify() {
        Chain chain = new Chain();
        each(chain::follow);
        return chain.result();
    }

    private static Kept kept(Mapped.Row r) {
        Entry.Thing thing = new Entry.Thing(r.kind(), r.thing(), r.name());
        return new Kept(
                new Entry(
                        r.number(),
                        r.at(),
                        r.who(),
                        r.what(),
                        thing,
                        r.before() == null ? null : Json.any(r.before()),
                        r.after() == null ? null : Json.any(r.after()),
                        r.previous()),
                r.hash());
    }

    private static final class Chain {
        private long entries;
        private long broken;
        private String why = "";
        private String head = Entry.START;

        void follow(Kept kept) {
            Entry entry = kept.entry();
            entries++;
            if (broken == 0) {
                if (entry.number() != entries) {
                    fails(entries, "entry " + entries + " is missing");
                } else if (!entry.previous().equals(head)) {
                    fails(entry.number(), "it does not follow the entry before it");
                } else if (!entry.hash().equals(kept.hash())) {
                    fails(entry.number(), "what it says is not what was written");
                }
            }
            head = kept.hash();
        }

        private void fails(long number, String reason) {
            broken = number;
            why = reason;
        }

        Verified result() {
            return new Verified(entries, broken, why, head);
        }
    }
}
