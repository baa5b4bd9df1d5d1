package jandrel.store.kernel;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Everything that goes out: written in the transaction that causes it, delivered afterwards, at least once. What is to go out about one
 * thing is one entry, however often the thing changes before it is delivered: an entry's generation says which change it is about, and
 * only delivering the newest removes it. Kind, subject, entry and generation make the idempotency key.
 *
 * <p>What goes by itself is {@linkplain #lease leased}: in order for each target, so that the next entry waits until the one before it is
 * delivered, and one target that takes nothing holds up no other. What goes along with a sync run, which is leased itself, is read with
 * {@link #pending} or by a join.
 */
@Component
public class Outbox {
    private static final Duration LEASE = Duration.ofMinutes(5);
    private static final Duration FIRST_PAUSE = Duration.ofSeconds(3);
    private static final Duration LONGEST_PAUSE = Duration.ofHours(1);
    private static final int LONGEST_TROUBLE = 300;
    private final Mapped mapper;
    private final Clock clock;

    /** What goes out. */
    public enum Kind {
        /** A managed meeting to its owner's calendar; goes along with a sync run. */
        CALENDAR,
        /** A contact to its card in an address book; goes along with a sync run. */
        CARD,
        /** Letters to the guests of a managed meeting. */
        INVITATION,
        /** The keyword of a logged message into its mailbox; goes along with a sync run. */
        KEYWORD,
        /** Mail of the service's own to somebody. */
        NOTICE
    }

    /**
     * @param target what it goes to
     * @param subject what it is about
     * @param payload what is sent, where that does not follow from the subject
     * @param attempts that failed so far
     */
    public record Entry(
            long id, Kind kind, String target, UUID subject, long generation, String payload, int attempts) {
        /** The same for the same effect, however often it is attempted. The id, because a later entry begins at the first generation again. */
        public String idempotencyKey() {
            return kind.name().toLowerCase(java.util.Locale.ROOT) + "-" + subject + "-" + id + "-" + generation;
        }
    }

    /**
     * @param failing how many of them have failed at least once
     * @param oldest since when the oldest waits
     */
    public record Waiting(Kind kind, long count, long failing, Instant oldest) {}

    @Mapper
    interface Mapped {
        /** In the order of what they are about, as everybody takes them. */
        @Insert("""
                INSERT INTO outbox (kind, target, subject, payload, created_at, due_at)
                SELECT #{kind}, #{target}, s, #{payload}, #{now}, #{now}
                FROM (SELECT DISTINCT unnest(#{subjects}::uuid[])) d (s) ORDER BY s
                ON CONFLICT (kind, subject) DO UPDATE SET generation = outbox.generation + 1, target = excluded.target,
                    payload = excluded.payload, due_at = excluded.due_at, attempts = 0, trouble = ''
                """)
        int add(
                @Param("kind") Kind kind,
                @Param("target") String target,
                @Param("subjects") UUID[] subjects,
                @Param("payload") String payload,
                @Param("now") Instant now);

        @Delete("""
                DELETE FROM outbox WHERE id IN (
                    SELECT id FROM outbox WHERE kind = #{kind} AND subject = ANY(#{subjects}) ORDER BY subject FOR UPDATE)
                """)
        int cancel(@Param("kind") Kind kind, @Param("subjects") UUID[] subjects);

        @Select("""
                UPDATE outbox SET leased_until = #{until} WHERE id IN (
                    SELECT o.id FROM outbox o
                    WHERE o.kind = #{kind} AND o.due_at <= #{now} AND (o.leased_until IS NULL OR o.leased_until <= #{now})
                      AND NOT EXISTS (SELECT FROM outbox b WHERE b.kind = o.kind AND b.target = o.target AND b.id < o.id)
                    ORDER BY o.due_at, o.id LIMIT #{most} FOR UPDATE SKIP LOCKED)
                RETURNING id, kind, target, subject, generation, payload, attempts
                """)
        @Options(flushCache = Options.FlushCachePolicy.TRUE)
        List<Entry> lease(
                @Param("kind") Kind kind,
                @Param("now") Instant now,
                @Param("until") Instant until,
                @Param("most") int most);

        @Select("""
                SELECT id, kind, target, subject, generation, payload, attempts FROM outbox
                WHERE kind = #{kind} AND target = #{target} ORDER BY id LIMIT #{most}
                """)
        @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
        List<Entry> pending(@Param("kind") Kind kind, @Param("target") String target, @Param("most") int most);

        @Delete("""
                DELETE FROM outbox WHERE id IN (
                    SELECT o.id FROM outbox o JOIN unnest(#{ids}::bigint[], #{generations}::bigint[]) d (id, generation)
                      ON d.id = o.id AND d.generation = o.generation ORDER BY o.subject FOR UPDATE OF o)
                """)
        int done(@Param("ids") Long[] ids, @Param("generations") Long[] generations);

        /** What has changed since it was leased goes once more. */
        @Update("UPDATE outbox SET leased_until = NULL WHERE id = #{id}")
        int release(@Param("id") long id);

        @Update("""
                UPDATE outbox SET leased_until = NULL, due_at = #{due}, attempts = attempts + 1, trouble = #{trouble}
                WHERE id = #{e.id} AND generation = #{e.generation}
                """)
        int failed(@Param("e") Entry entry, @Param("due") Instant due, @Param("trouble") String trouble);

        @Update("""
                UPDATE outbox SET leased_until = NULL, due_at = #{due} WHERE id = #{e.id} AND generation = #{e.generation}
                """)
        int later(@Param("e") Entry entry, @Param("due") Instant due);

        @Update("""
                UPDATE outbox SET attempts = attempts + 1, trouble = #{trouble} WHERE kind = #{kind} AND subject = #{subject}
                """)
        int trouble(@Param("kind") Kind kind, @Param("subject") UUID subject, @Param("trouble") String trouble);

        @Select("""
                SELECT kind, count(*) AS count, count(*) FILTER (WHERE attempts > 0) AS failing, min(created_at) AS oldest
                FROM outbox GROUP BY kind ORDER BY kind
                """)
        @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
        List<Waiting> waiting();
    }

    Outbox(Mapped mapper, Clock clock) {
        this.mapper = mapper;
        this.clock = clock;
    }

    /** Has something go out; what waits already about the same goes as it is now. */
    @Transactional
    public void add(Kind kind, String target, UUID subject) {
        addAll(kind, target, List.of(subject));
    }

    /** @param payload what is sent */
    @Transactional
    public void add(Kind kind, String target, UUID subject, String payload) {
        mapper.add(kind, target, new UUID[] {subject}, payload, clock.instant());
    }

    @Transactional
    public void addAll(Kind kind, String target, Collection<UUID> subjects) {
        if (!subjects.isEmpty()) {
            mapper.add(kind, target, subjects.toArray(UUID[]::new), "", clock.instant());
        }
    }

    /** There is nothing to go out any more about these. */
    @Transactional
    public void cancel(Kind kind, Collection<UUID> subjects) {
        if (!subjects.isEmpty()) {
            mapper.cancel(kind, subjects.toArray(UUID[]::new));
        }
    }

    /** Takes entries that are due, for a while; whoever took one and vanished has it taken by another afterwards. */
    @Transactional
    public List<Entry> lease(Kind kind, int most) {
        Instant now = clock.instant();
        return mapper.lease(kind, now, now.plus(LEASE), most);
    }

    /** What waits for a target, the oldest first, whether it is due or not. */
    public List<Entry> pending(Kind kind, String target, int most) {
        return mapper.pending(kind, target, most);
    }

    /** It went out. What changed since it was taken goes once more. */
    @Transactional
    public void done(Entry entry) {
        if (mapper.done(new Long[] {entry.id()}, new Long[] {entry.generation()}) == 0) {
            mapper.release(entry.id());
        }
    }

    @Transactional
    public void allDone(Collection<Entry> entries) {
        if (!entries.isEmpty()) {
            mapper.done(
                    entries.stream().map(Entry::id).toArray(Long[]::new),
                    entries.stream().map(Entry::generation).toArray(Long[]::new));
        }
    }

    /** It did not go out, and is tried again after a pause that grows with every attempt. */
    @Transactional
    public void failed(Entry entry, String trouble) {
        mapper.failed(entry, clock.instant().plus(pause(entry.attempts())), cut(trouble));
    }

    /** It cannot go out yet, which is nobody's failure. */
    @Transactional
    public void later(Entry entry, Duration pause) {
        mapper.later(entry, clock.instant().plus(pause));
    }

    /** What goes along with a sync run did not go out; the next run takes it once more. */
    @Transactional
    public void trouble(Kind kind, UUID subject, String trouble) {
        mapper.trouble(kind, subject, cut(trouble));
    }

    public List<Waiting> waiting() {
        return mapper.waiting();
    }

    /** @param attempts that failed before: 3 s, 6 s, 12 s and so on, an hour at most */
    static Duration pause(int attempts) {
        Duration pause = FIRST_PAUSE.multipliedBy(1L << Math.min(attempts, 20));
        return pause.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : pause;
    }

    private static String cut(String trouble) {
        return trouble.length() > LONGEST_TROUBLE ? trouble.substring(0, LONGEST_TROUBLE - 1) + "…" : trouble;
    }
}
