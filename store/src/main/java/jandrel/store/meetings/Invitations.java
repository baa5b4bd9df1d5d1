package jandrel.store.meetings;

import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.InvitationDiff;
import jandrel.store.kernel.Json;
import jandrel.store.meetings.ManagedMeetings.ManagedMeeting;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What the guests of plans were told, and what they answered. */
@Component
public class Invitations {
    private static final Duration LEASE = Duration.ofMinutes(5);
    private static final int MOST = 20;
    private final Mapped mapper;
    private final ManagedMeetings plans;
    private final Clock clock;

    /** How a guest was told. */
    public enum Way {
        MAIL,
        /** By a calendar server that schedules (RFC 6638). */
        SERVER
    }

    /** @param trouble why it did not reach the guest; empty when it did */
    public record Asked(String guest, Way way, Details details, boolean withdrawn, Instant at, String trouble) {}

    /** @param guest who answers; they must have written it themselves */
    public record Answered(
            String uid, @Nullable Instant recurrence, String guest, Answer answer, int sequence, Instant stamp) {}

    @Mapper
    interface Mapped {
        record Row(String guest, String way, String details, boolean withdrawn, Instant at, String trouble) {}

        record Known(@Nullable Integer since, @Nullable Instant answeredAt) {}

        @Select("""
                UPDATE plan SET tell_at = #{until} WHERE id IN
                    (SELECT id FROM plan WHERE to_tell AND tell_at <= #{now} ORDER BY tell_at LIMIT #{most} FOR UPDATE SKIP LOCKED)
                RETURNING id
                """)
        @org.apache.ibatis.annotations.Options(flushCache = org.apache.ibatis.annotations.Options.FlushCachePolicy.TRUE)
        List<UUID> lease(@Param("now") Instant now, @Param("until") Instant until, @Param("most") int most);

        @Select("SELECT guest, way, details, withdrawn, at, trouble FROM asked WHERE plan = #{plan} ORDER BY guest")
        List<Row> asked(@Param("plan") UUID plan);

        @Insert("""
                INSERT INTO asked (plan, guest, way, details, withdrawn, since, at, trouble)
                VALUES (#{plan}, #{guest}, #{way}, #{details}, #{withdrawn}, #{sequence}, #{at}, #{trouble})
                ON CONFLICT (plan, guest) DO UPDATE SET way = excluded.way, details = excluded.details, withdrawn = excluded.withdrawn,
                    since = CASE WHEN asked.details::jsonb -> 'when' = excluded.details::jsonb -> 'when' AND NOT asked.withdrawn
                        THEN asked.since ELSE excluded.since END,
                    at = excluded.at, trouble = excluded.trouble
                """)
        int told(
                @Param("plan") UUID plan,
                @Param("guest") String guest,
                @Param("way") String way,
                @Param("details") String details,
                @Param("withdrawn") boolean withdrawn,
                @Param("sequence") int sequence,
                @Param("at") Instant at,
                @Param("trouble") String trouble);

        @Update("UPDATE plan SET to_tell = false, tell_failures = 0 WHERE id = #{plan} AND version = #{version}")
        int done(@Param("plan") UUID plan, @Param("version") long version);

        @Update("UPDATE plan SET tell_at = #{at}, tell_failures = tell_failures + #{failed} WHERE id = #{plan}")
        int later(@Param("plan") UUID plan, @Param("at") Instant at, @Param("failed") int failed);

        @Select("SELECT tell_failures FROM plan WHERE id = #{plan}")
        int failures(@Param("plan") UUID plan);

        @Select("""
                SELECT id FROM plan WHERE uid = #{uid} AND owner = #{owner} AND recurrence IS NOT DISTINCT FROM #{recurrence} FOR UPDATE
                """)
        Optional<UUID> plan(
                @Param("uid") String uid,
                @Param("owner") UUID owner,
                @Param("recurrence") @Nullable Instant recurrence);

        @Select("SELECT since, answered_at FROM asked WHERE plan = #{plan} AND guest = #{guest}")
        Optional<Known> known(@Param("plan") UUID plan, @Param("guest") String guest);

        @Update("UPDATE asked SET answered_at = #{at} WHERE plan = #{plan} AND guest = #{guest}")
        int answered(@Param("plan") UUID plan, @Param("guest") String guest, @Param("at") Instant at);
    }

    Invitations(Mapped mapper, ManagedMeetings plans, Clock clock) {
        this.mapper = mapper;
        this.plans = plans;
        this.clock = clock;
    }

    /** Plans of which somebody has yet to be told something: this node's for a while, then anybody's again. */
    @Transactional
    public List<ManagedMeeting> lease() {
        Instant now = clock.instant();
        return mapper.lease(now, now.plus(LEASE), MOST).stream()
                .flatMap(id -> plans.one(id).stream())
                .toList();
    }

    /** What each guest was told last; those whom it did not reach are among them. */
    public List<Asked> asked(UUID plan) {
        return mapper.asked(plan).stream()
                .map(r -> new Asked(
                        r.guest(), Way.valueOf(r.way()), Json.details(r.details()), r.withdrawn(), r.at(), r.trouble()))
                .toList();
    }

    /** What {@link InvitationDiff} goes by. */
    public Map<String, InvitationDiff.Told> told(UUID plan) {
        Map<String, InvitationDiff.Told> told = new TreeMap<>();
        asked(plan).forEach(a -> told.put(a.guest(), new InvitationDiff.Told(a.details(), a.withdrawn())));
        return told;
    }

    /** @param trouble why it will never reach the guest; empty when it was sent */
    @Transactional
    public void tell(ManagedMeeting plan, InvitationDiff.Letter letter, Way way, String trouble) {
        mapper.told(
                plan.id(),
                letter.guest(),
                way.name(),
                Json.write(letter.details()),
                letter.sort() == InvitationDiff.Sort.WITHDRAWN,
                plan.sequence(),
                clock.instant(),
                trouble);
    }

    /** All are told what this version of the plan says; a later one is looked at again. */
    @Transactional
    public void done(ManagedMeeting plan) {
        if (mapper.done(plan.id(), plan.version()) == 0) {
            mapper.later(plan.id(), clock.instant(), 0);
        }
    }

    /** Could not be done now. @param failed whether that was a failure, after which it is left alone longer each time */
    @Transactional
    public void later(ManagedMeeting plan, boolean failed) {
        int failures = mapper.failures(plan.id());
        Duration wait = failed ? Duration.ofSeconds(30L << Math.min(failures, 7)) : Duration.ofSeconds(5);
        mapper.later(plan.id(), clock.instant().plus(wait), failed ? 1 : 0);
    }

    /**
     * Whether an answer is to what a calendar program asked, of a meeting that was made there: to the time that it has now. To one that
     * was moved here since, an answer must be to that move.
     */
    private static boolean asksElsewhere(ManagedMeeting plan, Answered answered) {
        if (plan.madeHere() || plan.details() == null) {
            return false;
        }
        boolean moved = !plan.details().when().begins().equals(plan.template().at())
                || !plan.details().when().ends().equals(plan.template().ends());
        return answered.sequence() >= (moved ? plan.sequence() : plan.template().sequence());
    }

    /**
     * Takes a guest's answer. One to an earlier time of the meeting, one that was overtaken by a later one, and one of somebody who was
     * not asked changes nothing.
     *
     * @param owner in whose mailbox it came
     * @return whether it changed anything
     */
    @Transactional
    public boolean take(UUID owner, Answered answered) {
        Optional<UUID> found = mapper.plan(answered.uid(), owner, answered.recurrence());
        ManagedMeeting plan = found.flatMap(plans::one).orElse(null);
        if (plan == null || plan.details() == null || !plan.details().guests().contains(answered.guest())) {
            return false;
        }
        Mapped.Known known = mapper.known(plan.id(), answered.guest()).orElseGet(() -> new Mapped.Known(null, null));
        boolean stale = known.since() == null ? !asksElsewhere(plan, answered) : answered.sequence() < known.since();
        boolean overtaken = known.answeredAt() != null && !answered.stamp().isAfter(known.answeredAt());
        if (stale || overtaken) {
            return false;
        }
        mapper.answered(plan.id(), answered.guest(), answered.stamp());
        return plans.answered(plan.id(), answered.guest(), answered.answer());
    }
}
